// Question: do the three fields of a device's own page, address, mask and gateway, say what they are there for?
// Method: each is read as what it should be, then as what its neighbour should be. Empty ones are not judged.
// Source: common practice, without a source: a mask in the gateway's field is the usual slip.
import { contains, networkOf, parseIpv4, parseMask } from './ipv4'

export interface AddressFields {
  readonly address: string
  readonly mask: string
  readonly gateway: string
}
/**
 * `swapped`: a mask stands where the gateway belongs, or an address where the mask does; `outside`: the gateway is not
 * in the subnet of the address; `itself`: it is the address.
 */
export type FieldsFault = 'swapped' | 'not-an-address' | 'not-a-mask' | 'outside' | 'itself'

/** A mask of 1 bit or more: 0.0.0.0 is as well no gateway at all. */
const isMask = (text: string): boolean => {
  const length = parseMask(text)
  return length.ok && length.value > 0
}
const isAddress = (text: string): boolean => parseIpv4(text).ok && !isMask(text)

function faultOfEach({ address, mask, gateway }: AddressFields): FieldsFault | null {
  if (isMask(gateway) || isMask(address) || isAddress(mask)) return 'swapped'
  if (mask !== '' && !isMask(mask)) return 'not-a-mask'
  return [address, gateway].some((text) => text !== '' && !isAddress(text)) ? 'not-an-address' : null
}

/** The first thing that is wrong; null where nothing is, or nothing is filled in. */
export function fieldsFault(fields: AddressFields): FieldsFault | null {
  const fault = faultOfEach(fields)
  if (fault) return fault
  const [address, gateway] = [parseIpv4(fields.address), parseIpv4(fields.gateway)]
  // 0.0.0.0: there is none.
  if (!address.ok || !gateway.ok || gateway.value === 0) return null
  if (address.value === gateway.value) return 'itself'
  const length = parseMask(fields.mask)
  if (!length.ok) return null
  const subnet = { base: networkOf(address.value, length.value), length: length.value }
  return contains(subnet, gateway.value) ? null : 'outside'
}
