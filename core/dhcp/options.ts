// Question: what does a DHCP option look like on the wire, for each way a device finds its controller?
// Method: each option's value as its RFC lays it out, in hexadecimal octets.
// Source:
// RFC 2132 sections 3.8 (DNS), 8.3 (NTP), 8.4 (vendor option 43);
// RFC 5417 (CAPWAP, 138);
// RFC 8572 section 8 (143).
import { ok, problem, refuse, type Result } from '#core/util'
import { parseIpv4 } from '#core/address'

export type DiscoveryOption = 43 | 138 | 143

const hex = (octets: readonly number[]) => octets.map((o) => o.toString(16).padStart(2, '0')).join('')
const octetsOf = (ip: number) => [ip >>> 24, (ip >>> 16) & 255, (ip >>> 8) & 255, ip & 255]

/**
 * Addresses one after the other, four octets each.
 * Worked: 10.61.0.5 -> 0a3d0005.
 * Errors: those of an address.
 */
export function addressList(addresses: readonly string[], place = ''): Result<string> {
  const octets: number[] = []
  for (const text of addresses) {
    const ip = parseIpv4(text, place)
    if (!ip.ok) return ip
    octets.push(...octetsOf(ip.value))
  }
  return ok(hex(octets))
}

/**
 * Value of a discovery option for a controller. 138 carries its addresses, 143 a list of URIs with a
 * two-octet length before each, 43 one encapsulated sub-option 1 with the address (its meaning is the
 * vendor's; ours is the address).
 * Worked: 143 and 10.61.0.5 -> URI https://10.61.0.5 with length 0011.
 * Errors: those of an address, too-long.
 */
export function discoveryOption(option: DiscoveryOption, controller: string, place = ''): Result<string> {
  const address = addressList([controller], place)
  if (!address.ok || option === 138) return address
  if (option === 43) return ok(`0104${address.value}`)
  const uri = [...`https://${controller}`].map((c) => c.charCodeAt(0))
  return uri.length > 253
    ? refuse(problem('too-long', place, { text: controller }))
    : ok(hex([uri.length >> 8, uri.length & 255, ...uri]))
}
