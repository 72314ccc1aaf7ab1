// Question: is this text a MAC address that a device can own?
// Method: six octets, then the group and the local bit of the first.
// Source: IEEE 802-2014 clause 8 (EUI-48, I/G and U/L bits); RFC 7042 section 2.1.2 (documentation MACs).
import { ok, problem, refuse, type Result } from '#core/util'

/**
 * Reads `00-00-5E-00-53-01`, with `-`, `:` or nothing between octets, to the form with hyphens, upper case.
 * Errors: not-eui48; multicast-mac (I/G bit set); local-mac (U/L bit set: not a maker's address).
 */
export function parseMac(text: string, place = ''): Result<string> {
  const digits = text.trim().replaceAll(/[-:]/g, '').toUpperCase()
  const shaped = /^([0-9A-Fa-f]{2}([-:])([0-9A-Fa-f]{2}\2){4}[0-9A-Fa-f]{2}|[0-9A-Fa-f]{12})$/.test(
    text.trim(),
  )
  if (!shaped) return refuse(problem('not-eui48', place, { text }))
  const first = Number.parseInt(digits.slice(0, 2), 16)
  if (first & 1) return refuse(problem('multicast-mac', place, { text }))
  if (first & 2) return refuse(problem('local-mac', place, { text }))
  return ok(digits.match(/../g)?.join('-') ?? '')
}
