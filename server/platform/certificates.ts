import * as asn1 from 'asn1js'
import * as pkijs from 'pkijs'

// X.509 certificates (RFC 5280) with keys of the curve P-256.

pkijs.setEngine('node', new pkijs.CryptoEngine({ name: 'node', crypto: globalThis.crypto as Crypto }))
const { subtle } = globalThis.crypto

const CURVE = { name: 'ECDSA', namedCurve: 'P-256' } as const
export const HASH = 'SHA-256'
/** RFC 5280, 4.1.2.4 and 4.2; X.520 for the attributes of a name. */
const OID = {
  commonName: '2.5.4.3',
  serialNumber: '2.5.4.5',
  basicConstraints: '2.5.29.19',
  subjectAltName: '2.5.29.17',
} as const
const YEAR_MS = 365.25 * 24 * 3_600_000
/** Clocks of devices that were never set are behind (practice). */
const BEFORE_MS = YEAR_MS
const AFTER_MS = 20 * YEAR_MS
const DNS_NAME = 2

/** Somebody who signs: a certificate and its key. */
export interface Signer {
  readonly certificate: pkijs.Certificate
  readonly key: CryptoKey
}

export interface Subject {
  /** What it is called; of a device its serial number, as IEEE 802.1AR has it. */
  readonly name: string
  readonly isDevice?: boolean
  /** By which name it is reached; empty for none. */
  readonly host?: string
}

function nameOf({ name, isDevice = false }: Subject): pkijs.RelativeDistinguishedNames {
  const type = isDevice ? OID.serialNumber : OID.commonName
  const value = new asn1.Utf8String({ value: name })
  return new pkijs.RelativeDistinguishedNames({
    typesAndValues: [new pkijs.AttributeTypeAndValue({ type, value })],
  })
}

const extension = (extnID: string, critical: boolean, value: asn1.BaseBlock): pkijs.Extension =>
  new pkijs.Extension({ extnID, critical, extnValue: value.toBER(false) })

/** 64 bits that nobody foresees, positive (RFC 5280, 4.1.2.2). */
function serialNumber(): asn1.Integer {
  const bytes = globalThis.crypto.getRandomValues(new Uint8Array(8))
  bytes[0] = ((bytes[0] ?? 0) & 0x7f) | 1
  return new asn1.Integer({ valueHex: bytes.buffer })
}

export const newKeys = (): Promise<CryptoKeyPair> => subtle.generateKey(CURVE, true, ['sign', 'verify'])

/**
 * A certificate for a key.
 * @param by who signs it; itself, where nobody does
 */
export async function certify(
  subject: Subject,
  keys: CryptoKeyPair,
  by: Signer | null,
): Promise<pkijs.Certificate> {
  const made = new pkijs.Certificate()
  made.version = 2
  made.serialNumber = serialNumber()
  made.subject = nameOf(subject)
  made.issuer = by?.certificate.subject ?? made.subject
  made.notBefore.value = new Date(Date.now() - BEFORE_MS)
  made.notAfter.value = new Date(Date.now() + AFTER_MS)
  await made.subjectPublicKeyInfo.importKey(keys.publicKey)
  const constraints = new pkijs.BasicConstraints({ cA: by === null })
  const { host = '' } = subject
  const names = new pkijs.GeneralNames({ names: [new pkijs.GeneralName({ type: DNS_NAME, value: host })] })
  made.extensions = [
    extension(OID.basicConstraints, true, constraints.toSchema()),
    ...(host === '' ? [] : [extension(OID.subjectAltName, false, names.toSchema())]),
  ]
  await made.sign(by?.key ?? keys.privateKey, HASH)
  return made
}

/** Somebody new who signs for others. */
export async function newAuthority(name: string): Promise<Signer & { readonly keys: CryptoKeyPair }> {
  const keys = await newKeys()
  return { certificate: await certify({ name }, keys, null), key: keys.privateKey, keys }
}

const encoded = (label: string, der: ArrayBuffer): string => {
  const lines =
    Buffer.from(der)
      .toString('base64')
      .match(/.{1,64}/g) ?? []
  return [`-----BEGIN ${label}-----`, ...lines, `-----END ${label}-----`, ''].join('\n')
}

export const derOf = (certificate: pkijs.Certificate): ArrayBuffer => certificate.toSchema(true).toBER(false)

/** RFC 7468. */
export const certificateText = (certificate: pkijs.Certificate): string =>
  encoded('CERTIFICATE', derOf(certificate))
export const keyText = async (key: CryptoKey): Promise<string> =>
  encoded('PRIVATE KEY', await subtle.exportKey('pkcs8', key))

const bytesOf = (text: string): ArrayBuffer => {
  const base64 = text.replaceAll(/-----[^-]+-----|\s/g, '')
  return Uint8Array.from(Buffer.from(base64, 'base64')).buffer
}

/** @throws where it is none */
export const readCertificate = (text: string): pkijs.Certificate => pkijs.Certificate.fromBER(bytesOf(text))

export const readKey = (text: string): Promise<CryptoKey> =>
  subtle.importKey('pkcs8', bytesOf(text), CURVE, true, ['sign'])
