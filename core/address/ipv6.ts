// Question: what does this text mean as an IPv6 prefix, and which /64 belongs to which VLAN?
// Method: eight groups read strictly into eight numbers; written as RFC 5952 recommends, so that one prefix
// has one text.
// Source:
// RFC 4291 section 2.2 (text), RFC 5952 section 4 (canonical text), RFC 4193 (unique local), RFC 6177 (/64
// for each link).
import { ok, problem, refuse, type Result } from '#core/util'

/** Eight groups of 16 bits, most significant first. */
export type Groups = readonly number[]

export interface Prefix6 {
  /** Host bits are zero. */
  readonly groups: Groups
  /** Prefix length, 0 to 128. */
  readonly length: number
}

export type SpaceKind6 =
  'unique-local' | 'global' | 'documentation' | 'link-local' | 'multicast' | 'loopback' | 'reserved'

function groupsOf(text: string): number[] | null {
  if (text === '') return []
  const parts = text.split(':')
  const groups = parts.map((part) => (/^[0-9a-f]{1,4}$/i.test(part) ? Number.parseInt(part, 16) : -1))
  return groups.some((g) => g < 0) ? null : groups
}

/**
 * Reads an IPv6 address, with at most one `::`. Dotted IPv4 tails are not part of a plan and are refused.
 * Errors: not-ipv6.
 */
export function parseIpv6(text: string, place = ''): Result<Groups> {
  const wrong = refuse(problem('not-ipv6', place, { text: text.slice(0, 60) }))
  const halves = text.split('::')
  if (halves.length > 2) return wrong
  const head = groupsOf(halves[0] ?? '')
  const tail = halves.length === 2 ? groupsOf(halves[1] ?? '') : []
  if (!head || !tail) return wrong
  const missing = 8 - head.length - tail.length
  if (halves.length === 1 ? missing !== 0 : missing < 1) return wrong
  return ok([...head, ...Array.from({ length: missing }, () => 0), ...tail])
}

/** The longest run of zero groups, of at least two; the first of equals. RFC 5952 section 4.2. */
function longestZeros(groups: Groups): { readonly at: number; readonly size: number } {
  let best = { at: -1, size: 1 }
  for (let at = 0; at < 8; at++) {
    let size = 0
    while (at + size < 8 && groups[at + size] === 0) size++
    if (size > best.size) best = { at, size }
  }
  return best
}

/** Canonical text of RFC 5952. Worked: 2001:db8:0:0:1:0:0:1 -> 2001:db8::1:0:0:1. */
export function formatIpv6(groups: Groups): string {
  const text = (part: Groups) => part.map((g) => g.toString(16)).join(':')
  const { at, size } = longestZeros(groups)
  return at === -1 ? text(groups) : `${text(groups.slice(0, at))}::${text(groups.slice(at + size))}`
}

function masked(groups: Groups, length: number): number[] {
  return groups.map((group, i) => {
    const bits = Math.max(0, Math.min(16, length - 16 * i))
    return (group & (0xffff << (16 - bits)) & 0xffff) >>> 0
  })
}

/**
 * Reads `address/length`; the host bits must be zero.
 * Errors: not-prefix6, not-ipv6, bad-length6, host-bits6.
 */
export function parsePrefix6(text: string, place = ''): Result<Prefix6> {
  const [head, tail, rest] = text.split('/')
  if (head === undefined || tail === undefined || rest !== undefined)
    return refuse(problem('not-prefix6', place, { text: text.slice(0, 60) }))
  const address = parseIpv6(head, place)
  if (!address.ok) return address
  const length = Number(tail)
  if (!/^(0|[1-9]\d{0,2})$/.test(tail) || length > 128) return refuse(problem('bad-length6', place, { text }))
  const groups = masked(address.value, length)
  if (groups.some((g, i) => g !== address.value[i]))
    return refuse(problem('host-bits6', place, { text, meant: formatPrefix6({ groups, length }) }))
  return ok({ groups, length })
}

/** An address with its length, as an interface has it, `2001:db8::1/64`; null where it cannot be read. */
export function readInterface6(text: string): { readonly address: Prefix6; readonly prefix: Prefix6 } | null {
  const [ip = '', length = '', ...more] = text.split('/')
  const groups = parseIpv6(ip)
  if (!groups.ok || more.length > 0 || !/^\d{1,3}$/.test(length) || Number(length) > 128) return null
  return {
    address: { groups: groups.value, length: 128 },
    prefix: { groups: masked(groups.value, Number(length)), length: Number(length) },
  }
}

export function formatPrefix6(prefix: Prefix6): string {
  return `${formatIpv6(prefix.groups)}/${prefix.length}`
}

/** True where the inner prefix lies wholly in the outer one. */
export function contains6(outer: Prefix6, inner: Prefix6): boolean {
  return (
    inner.length >= outer.length && masked(inner.groups, outer.length).every((g, i) => g === outer.groups[i])
  )
}

/** The gateway's own address in a prefix: its first. */
export const routerIpv6 = (prefix: Prefix6): string =>
  formatIpv6([...prefix.groups.slice(0, 7), (prefix.groups[7] ?? 0) + 1])

export function overlaps6(first: Prefix6, second: Prefix6): boolean {
  return first.length <= second.length ? contains6(first, second) : contains6(second, first)
}

const BLOCKS: readonly (readonly [groups: Groups, length: number, kind: SpaceKind6])[] = [
  [[0x2001, 0xdb8, 0, 0, 0, 0, 0, 0], 32, 'documentation'],
  [[0xfc00, 0, 0, 0, 0, 0, 0, 0], 7, 'unique-local'],
  [[0xfe80, 0, 0, 0, 0, 0, 0, 0], 10, 'link-local'],
  [[0xff00, 0, 0, 0, 0, 0, 0, 0], 8, 'multicast'],
  [[0, 0, 0, 0, 0, 0, 0, 1], 128, 'loopback'],
  [[0x2000, 0, 0, 0, 0, 0, 0, 0], 3, 'global'],
]

/** The registry's kind of a prefix. Source: RFC 4291 section 2.4, RFC 4193, RFC 3849 (documentation). */
export function spaceOf6(prefix: Prefix6): SpaceKind6 {
  return BLOCKS.find(([groups, length]) => contains6({ groups, length }, prefix))?.[2] ?? 'reserved'
}

/**
 * The /64 of a VLAN inside a site's prefix: the VLAN number stands in the subnet field, read as people read
 * it.
 * Worked: fd61:6a11::/48 and VLAN 60 -> fd61:6a11:0:60::/64 (its digits, not its value); 2001:db8:5::/56 and
 * 60 -> 2001:db8:5:3c::/64.
 * A /48 has room for the digits of any VLAN number; longer prefixes take the value, and null says it does not
 * fit.
 * @param site prefix of length 16 to 64 @param vlan 1 to 4094
 */
export function subnet6For(site: Prefix6, vlan: number): Prefix6 | null {
  if (site.length < 16 || site.length > 64) return null
  const room = 64 - site.length
  const value = room >= 16 ? Number.parseInt(String(vlan), 16) : vlan
  if (value >= 2 ** room) return null
  const groups = [...site.groups]
  groups[3] = ((groups[3] ?? 0) | value) >>> 0
  return { groups, length: 64 }
}

/**
 * A unique local /48 from 40 random bits.
 * The bits are the caller's;
 * RFC 4193 section 3.2 asks that they be random.
 * @param bits five octets
 */
export function uniqueLocal(bits: readonly number[]): Prefix6 {
  const octet = (i: number) => (bits[i] ?? 0) & 255
  return {
    groups: [
      (0xfd00 | octet(0)) >>> 0,
      ((octet(1) << 8) | octet(2)) >>> 0,
      ((octet(3) << 8) | octet(4)) >>> 0,
      0,
      0,
      0,
      0,
      0,
    ],
    length: 48,
  }
}
