import * as asn1 from 'asn1js'
import * as pkijs from 'pkijs'
import { HASH, type Signer } from './certificates'

// Signed data of the Cryptographic Message Syntax (RFC 5652, 5), with its signer's certificate in it.

const SIGNED_DATA = '1.2.840.113549.1.7.2'
const DATA = '1.2.840.113549.1.7.1'
/** What is signed (RFC 8572, 3.1 and RFC 8366, 6); the numbers are from memory. */
export const CONVEYED_JSON = '1.2.840.113549.1.9.16.1.43'
export const VOUCHER_JSON = '1.2.840.113549.1.9.16.1.40'
/** RFC 5652, 11. */
const CONTENT_TYPE = '1.2.840.113549.1.9.3'
const MESSAGE_DIGEST = '1.2.840.113549.1.9.4'

const base64 = (der: ArrayBuffer): string => Buffer.from(der).toString('base64')

function wrapped(data: pkijs.SignedData): string {
  const info = new pkijs.ContentInfo({ contentType: SIGNED_DATA, content: data.toSchema(true) })
  return base64(info.toSchema().toBER(false))
}

const attribute = (type: string, value: asn1.BaseBlock): pkijs.Attribute =>
  new pkijs.Attribute({ type, values: [value] })

/**
 * Signs JSON.
 * @param type object identifier of what it is
 * @returns base64 of the structure
 */
export async function signJson(type: string, value: object, { certificate, key }: Signer): Promise<string> {
  const content = new TextEncoder().encode(JSON.stringify(value)).slice().buffer
  const digest = await globalThis.crypto.subtle.digest(HASH, content)
  const data = new pkijs.SignedData({
    version: 3,
    encapContentInfo: new pkijs.EncapsulatedContentInfo({
      eContentType: type,
      eContent: new asn1.OctetString({ valueHex: content }),
    }),
    signerInfos: [
      new pkijs.SignerInfo({
        version: 1,
        sid: new pkijs.IssuerAndSerialNumber({
          issuer: certificate.issuer,
          serialNumber: certificate.serialNumber,
        }),
        signedAttrs: new pkijs.SignedAndUnsignedAttributes({
          type: 0,
          attributes: [
            attribute(CONTENT_TYPE, new asn1.ObjectIdentifier({ value: type })),
            attribute(MESSAGE_DIGEST, new asn1.OctetString({ valueHex: digest })),
          ],
        }),
      }),
    ],
    certificates: [certificate],
  })
  await data.sign(key, 0, HASH, content)
  return wrapped(data)
}

/** JSON that nobody signed, as RFC 8572, 3.1 sends it to who trusts the connection. */
export function plainJson(type: string, value: object): string {
  const valueHex = new TextEncoder().encode(JSON.stringify(value)).slice().buffer
  const info = new pkijs.ContentInfo({ contentType: type, content: new asn1.OctetString({ valueHex }) })
  return base64(info.toSchema().toBER(false))
}

/** Certificates alone, with nothing signed: how RFC 8572, 3.2 has an owner show theirs. */
export const certificatesAlone = (certificate: pkijs.Certificate): string =>
  wrapped(
    new pkijs.SignedData({
      version: 1,
      encapContentInfo: new pkijs.EncapsulatedContentInfo({ eContentType: DATA }),
      certificates: [certificate],
    }),
  )

function structure(text: string): pkijs.SignedData | null {
  const { result, offset } = asn1.fromBER(Uint8Array.from(Buffer.from(text, 'base64')).buffer)
  if (offset === -1) return null
  const info = new pkijs.ContentInfo({ schema: result })
  return info.contentType === SIGNED_DATA ? new pkijs.SignedData({ schema: info.content as object }) : null
}

/** Signed JSON, if somebody signed it who is trusted; null otherwise, as for what is no such structure. */
export async function verifiedJson(
  type: string,
  text: string,
  trusted: readonly pkijs.Certificate[],
): Promise<unknown> {
  try {
    const data = structure(text)
    const content = data?.encapContentInfo.eContent
    if (!data || !content || data.encapContentInfo.eContentType !== type) return null
    const isGood = await data.verify({ signer: 0, checkChain: true, trustedCerts: [...trusted] })
    return isGood ? JSON.parse(new TextDecoder().decode(content.getValue())) : null
  } catch {
    return null
  }
}
