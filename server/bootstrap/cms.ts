import * as asn1 from 'asn1js'

// Conveyed information as RFC 8572 section 3.1 sends it when unsigned: a CMS ContentInfo (RFC 5652 section 3)
// whose content is an OCTET STRING of JSON.
// The type's number is id-ct-sztpConveyedInfoJSON, quoted from memory.
const CONVEYED_JSON = '1.2.840.113549.1.9.16.1.43'

/** DER of the structure, as base64. */
export function wrapConveyed(value: object): string {
  const content = new asn1.OctetString({
    valueHex: new TextEncoder().encode(JSON.stringify(value)).slice().buffer,
  })
  const info = new asn1.Sequence({
    value: [
      new asn1.ObjectIdentifier({ value: CONVEYED_JSON }),
      new asn1.Constructed({ idBlock: { tagClass: 3, tagNumber: 0 }, value: [content] }),
    ],
  })
  return Buffer.from(info.toBER(false)).toString('base64')
}

/** Reads it back, as a device does. Null where it is no such structure. */
export function unwrapConveyed(base64: string): unknown {
  const bytes = Uint8Array.from(Buffer.from(base64, 'base64'))
  const { result, offset } = asn1.fromBER(bytes.buffer)
  if (offset === -1 || !(result instanceof asn1.Sequence)) return null
  const [type, wrapper] = result.valueBlock.value
  if (
    !(type instanceof asn1.ObjectIdentifier) ||
    type.valueBlock.toString() !== CONVEYED_JSON ||
    !(wrapper instanceof asn1.Constructed)
  )
    return null
  const [content] = wrapper.valueBlock.value
  if (!(content instanceof asn1.OctetString)) return null
  try {
    return JSON.parse(new TextDecoder().decode(content.getValue()))
  } catch {
    return null
  }
}
