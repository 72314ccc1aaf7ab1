// Question: what kind of address space is this, and what is free in a block?
// Method: the special-purpose registry as data; gaps found by sweeping sorted prefixes.
// Source: RFC 6890 (registry), 1918 (private), 6598 (shared), 3927 (link-local), 5737 (documentation), 1122.
import { by } from '#core/util'
import { contains, ipv4, lastOf, rangePrefixes, type Ipv4, type Prefix4, type Range4 } from './ipv4'

export type SpaceKind =
  'private' | 'shared' | 'link-local' | 'documentation' | 'loopback' | 'multicast' | 'reserved' | 'public'

const at = (octet1: number, octet2: number, octet3: number, octet4: number, length: number): Prefix4 => ({
  base: ipv4(octet1 * 2 ** 24 + octet2 * 2 ** 16 + octet3 * 2 ** 8 + octet4),
  length,
})

const SPECIAL: readonly (readonly [Prefix4, SpaceKind])[] = [
  [at(0, 0, 0, 0, 8), 'reserved'],
  [at(10, 0, 0, 0, 8), 'private'],
  [at(100, 64, 0, 0, 10), 'shared'],
  [at(127, 0, 0, 0, 8), 'loopback'],
  [at(169, 254, 0, 0, 16), 'link-local'],
  [at(172, 16, 0, 0, 12), 'private'],
  [at(192, 0, 0, 0, 24), 'reserved'],
  [at(192, 0, 2, 0, 24), 'documentation'],
  [at(192, 168, 0, 0, 16), 'private'],
  [at(198, 18, 0, 0, 15), 'reserved'],
  [at(198, 51, 100, 0, 24), 'documentation'],
  [at(203, 0, 113, 0, 24), 'documentation'],
  [at(224, 0, 0, 0, 4), 'multicast'],
  [at(240, 0, 0, 0, 4), 'reserved'],
]

/**
 * The registry's kind for an address;
 * `public` where no special block holds it.
 * Worked: 172.32.0.1 -> public.
 */
export function spaceOf(address: Ipv4): SpaceKind {
  return SPECIAL.find(([prefix]) => contains(prefix, address))?.[1] ?? 'public'
}

/**
 * True where an address can be somebody's on the internet; blocks for documentation stand for it in examples.
 */
export const isGlobal = (address: Ipv4): boolean => ['public', 'documentation'].includes(spaceOf(address))

/** Subnets that are so common that callers from elsewhere collide with them (common practice, no source). */
export const CROWDED: readonly Prefix4[] = [
  at(192, 168, 0, 0, 24),
  at(192, 168, 1, 0, 24),
  at(10, 0, 0, 0, 24),
]

/** The stretches of a block that none of the given prefixes covers, in address order. */
export function gapsIn(block: Prefix4, taken: readonly Prefix4[]): Range4[] {
  const gaps: Range4[] = []
  const end = lastOf(block)
  let next: number = block.base
  for (const prefix of [...taken].sort(
    by(
      (p) => p.base,
      (p) => p.length,
    ),
  )) {
    const last = lastOf(prefix)
    if (last < block.base || prefix.base > end) continue
    if (prefix.base > next) gaps.push({ from: ipv4(next), to: ipv4(prefix.base - 1) })
    next = Math.max(next, last + 1)
  }
  if (next <= end) gaps.push({ from: ipv4(next), to: end })
  return gaps
}

/** The largest aligned prefix that fits in a gap; the lowest of equals. */
export function largestIn(gap: Range4): Prefix4 {
  const parts = rangePrefixes(gap)
  return parts.reduce((best, part) => (part.length < best.length ? part : best))
}

/**
 * A range without others: what is left of it, in address order; nothing where they cover it.
 * Worked: .1-.9 without .3-.4 and .9 -> .1-.2, .5-.8.
 */
export function rangesWithout(range: Range4, cuts: readonly Range4[]): Range4[] {
  const out: Range4[] = []
  let next: number = range.from
  for (const cut of [...cuts].sort(by((c) => c.from))) {
    if (cut.to < next || cut.from > range.to) continue
    if (cut.from > next) out.push({ from: ipv4(next), to: ipv4(cut.from - 1) })
    next = Math.max(next, cut.to + 1)
  }
  if (next <= range.to) out.push({ from: ipv4(next), to: range.to })
  return out
}
