// Question: is this a public key, a place to dial, a time of day?
// Method: by the grammar of each.
// Source: RFC 4648 (base64), RFC 3986 section 3.2.2 (IPv6 addresses in brackets), ISO 8601 (24:00).

/**
 * A WireGuard public key is 32 bytes in base64 (RFC 4648): 43 characters, of which the last
 * carries four bits, and one of filling.
 */
export const isPublicKey = (text: string): boolean => /^[A-Za-z0-9+/]{42}[AEIMQUYcgkosw048]=$/.test(text)

/** A host, or an IPv6 address in brackets, and a port: `vpn.site.example:51820`. */
export const isEndpoint = (text: string): boolean =>
  /^(\[[0-9a-fA-F:]+\]|[A-Za-z0-9.-]{1,253}):\d{1,5}$/.test(text) && Number(text.split(':').at(-1)) <= 65_535

/** Minutes of a time of day, `00:00` to `24:00`; null for anything else. */
export function minuteOf(text: string): number | null {
  const [, hour = '', minute = ''] = /^(\d\d):(\d\d)$/.exec(text) ?? []
  const minutes = Number(hour) * 60 + Number(minute)
  return hour !== '' && Number(minute) < 60 && minutes <= 24 * 60 ? minutes : null
}
