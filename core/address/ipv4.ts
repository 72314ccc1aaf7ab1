// Question: what does this text mean as an IPv4 address, prefix or range?
// Method: strict dotted-quad parsing to unsigned 32-bit numbers; all bit work ends in >>> 0.
// Source: RFC 791, RFC 4632 (prefixes), RFC 6943 section 3.1.1 (why leading zeros are refused).
import { ok, orNull, problem, refuse, type Result } from '#core/util'

/** An IPv4 address as an unsigned 32-bit number, 0 to 4294967295. */
export type Ipv4 = number & { readonly __brand: 'Ipv4' }

/** A prefix whose host bits are zero. */
export interface Prefix4 {
  readonly base: Ipv4
  /** Prefix length, 0 to 32. */
  readonly length: number
}

/** Addresses from..to, both included. */
export interface Range4 {
  readonly from: Ipv4
  readonly to: Ipv4
}

const QUAD = /^(\d{1,3})\.(\d{1,3})\.(\d{1,3})\.(\d{1,3})$/

/** Makes an address of any number by keeping its low 32 bits. */
export function ipv4(value: number): Ipv4 {
  return (value >>> 0) as Ipv4
}

/**
 * Reads four decimal octets.
 * Gotcha: `010.0.0.1` is refused, since some programs read the leading zero as octal.
 * @param text exactly four groups of 0 to 255, no spaces, no leading zeros
 */
export function parseIpv4(text: string, place = ''): Result<Ipv4> {
  const match = QUAD.exec(text)
  if (!match) return refuse(problem('not-ipv4', place, { text }))
  let value = 0
  for (let i = 1; i <= 4; i++) {
    const group = match[i] ?? ''
    if (group.length > 1 && group.startsWith('0')) return refuse(problem('leading-zero', place, { text }))
    const octet = Number(group)
    if (octet > 255) return refuse(problem('not-ipv4', place, { text }))
    value = value * 256 + octet
  }
  return ok(ipv4(value))
}

export function formatIpv4(address: Ipv4): string {
  return `${address >>> 24}.${(address >>> 16) & 255}.${(address >>> 8) & 255}.${address & 255}`
}

/** Network mask of a prefix length. Worked: 20 -> 255.255.240.0. @param length 0 to 32 */
export function maskOf(length: number): Ipv4 {
  return ipv4(length === 0 ? 0 : 0xffffffff << (32 - length))
}

/** Number of addresses in a prefix, network and broadcast included. Worked: /24 -> 256, /0 -> 4294967296. */
export function sizeOf(length: number): number {
  return 2 ** (32 - length)
}

export function networkOf(address: Ipv4, length: number): Ipv4 {
  return ipv4(address & maskOf(length))
}

/** Last address of the prefix: the directed broadcast address for lengths up to 30. */
export function lastOf(prefix: Prefix4): Ipv4 {
  return ipv4(prefix.base + sizeOf(prefix.length) - 1)
}

/**
 * Reads `address/length`; the host bits must be zero.
 * Errors: not-prefix, bad-length (0 to 32), host-bits (with the prefix that was probably meant).
 */
export function parsePrefix4(text: string, place = ''): Result<Prefix4> {
  const [head, tail, rest] = text.split('/')
  if (head === undefined || tail === undefined || rest !== undefined) {
    return refuse(problem('not-prefix', place, { text }))
  }
  const address = parseIpv4(head, place)
  if (!address.ok) return address
  if (!/^\d{1,2}$/.test(tail) || Number(tail) > 32 || (tail.length > 1 && tail.startsWith('0'))) {
    return refuse(problem('bad-length', place, { text, length: tail }))
  }
  const length = Number(tail)
  const base = networkOf(address.value, length)
  if (base !== address.value) {
    return refuse(problem('host-bits', place, { text, meant: formatPrefix4({ base, length }) }))
  }
  return ok({ base, length })
}

export function formatPrefix4(prefix: Prefix4): string {
  return `${formatIpv4(prefix.base)}/${prefix.length}`
}

/** True where the address lies in the prefix. */
export function contains(prefix: Prefix4, address: Ipv4): boolean {
  return networkOf(address, prefix.length) === prefix.base
}

export function overlaps(first: Prefix4, second: Prefix4): boolean {
  return first.length <= second.length ? contains(first, second.base) : contains(second, first.base)
}

/**
 * First and last address a host may take.
 * Source: RFC 3021 for /31 (both usable); a /32 is its own only host.
 * Worked: 10.61.1.0/24 -> 10.61.1.1 to 10.61.1.254.
 */
export function usable(prefix: Prefix4): Range4 {
  if (prefix.length >= 31) return { from: prefix.base, to: lastOf(prefix) }
  return { from: ipv4(prefix.base + 1), to: ipv4(lastOf(prefix) - 1) }
}

/** Reads a contiguous mask such as 255.255.240.0 to its length. Errors: not-ipv4, not-a-mask. */
export function parseMask(text: string, place = ''): Result<number> {
  const mask = parseIpv4(text, place)
  if (!mask.ok) return mask
  for (let length = 0; length <= 32; length++) if (maskOf(length) === mask.value) return ok(length)
  return refuse(problem('not-a-mask', place, { text }))
}

/** The prefixes of a list of texts that can be read. */
export const readPrefixes4 = (texts: readonly string[]): Prefix4[] =>
  texts.flatMap((text) => orNull(parsePrefix4(text)) ?? [])

/** The range as the fewest aligned prefixes, in order. Worked: 10.0.0.1-10.0.0.4 -> .1/32 .2/31 .4/32. */
export function rangePrefixes(range: Range4): Prefix4[] {
  const out: Prefix4[] = []
  let at: number = range.from
  while (at <= range.to) {
    let length = 32
    while (length > 0 && networkOf(ipv4(at), length - 1) === at && at + sizeOf(length - 1) - 1 <= range.to)
      length--
    out.push({ base: ipv4(at), length })
    at += sizeOf(length)
  }
  return out
}

/**
 * Reads `10.61.2.80-10.61.2.119`, with `-`, an en dash, `..` or ` to ` between the ends.
 * @param home where given, an end may be short: `.80-.119` takes its first octets from there
 * Errors: not-a-pool, pool-reversed, and those of an address.
 */
export function parseRange4(text: string, place = '', home?: Prefix4): Result<Range4> {
  const ends = text.trim().split(/\s*(?:-|–|\.\.| to )\s*/)
  if (ends.length !== 2) return refuse(problem('not-a-pool', place, { text }))
  const whole = (end: string): string => {
    const octets = home && end.startsWith('.') ? end.slice(1).split('.') : []
    return home && octets.length > 0
      ? [
          ...formatIpv4(home.base)
            .split('.')
            .slice(0, 4 - octets.length),
          ...octets,
        ].join('.')
      : end
  }
  const [from, to] = ends.map((end) => parseIpv4(whole(end), place)) as [Result<Ipv4>, Result<Ipv4>]
  if (!from.ok) return from
  if (!to.ok) return to
  return from.value <= to.value
    ? ok({ from: from.value, to: to.value })
    : refuse(problem('pool-reversed', place, { text }))
}

/** An address and the subnet it lies in, as an interface has them. */
export interface Interface4 {
  readonly address: Ipv4
  readonly prefix: Prefix4
}

/**
 * Reads `10.0.0.2/30`: an address with its length.
 * Errors: those of an address, and no-length where no length of 0 to 32 follows it.
 */
export function parseInterface4(text: string): Result<Interface4> {
  const [ip = '', length = '', ...more] = text.split('/')
  const address = parseIpv4(ip)
  if (!address.ok) return address
  if (more.length > 0 || !/^\d{1,2}$/.test(length) || Number(length) > 32)
    return refuse(problem('no-length', '', { text }))
  const prefix = { base: networkOf(address.value, Number(length)), length: Number(length) }
  return ok({ address: address.value, prefix })
}

/** The same; null where it cannot be read. */
export const readInterface4 = (text: string): Interface4 | null => orNull(parseInterface4(text))
