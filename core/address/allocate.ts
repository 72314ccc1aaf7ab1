// Question: which subnets of a block should networks of these sizes get?
// Method: largest first; each takes the tightest gap that holds it, at the end that leaves the largest
// aligned rest (best fit); for aligned powers of two that is optimal: whatever can be placed is placed.
// Source:
// RFC 1878 (subnet sizes), RFC 4632 (aligned prefixes); buddy allocation as in Knuth, vol. 1, section 2.5.
import { by } from '#core/util'
import { gapsIn, largestIn } from './space'
import { contains, ipv4, networkOf, overlaps, rangePrefixes, sizeOf, type Prefix4 } from './ipv4'

/** Subnets shorter than this waste a site; longer ones hold no two hosts. */
const SHORTEST = 8
const LONGEST = 30

/**
 * The longest prefix that holds so many hosts, with network, broadcast and gateway address besides.
 * Worked: 61 hosts -> /26 (64 = 61 + 3); 62 hosts -> /25. @param hosts 0 to 16,777,213
 */
export function lengthFor(hosts: number): number {
  for (let length = LONGEST; length > SHORTEST; length--) if (sizeOf(length) - 3 >= hosts) return length
  return SHORTEST
}

/** Hosts wanted today, grown. Worked: 38 grown by 25 % -> 48. @param growthPct 0 or more */
export function grown(count: number, growthPct: number): number {
  // The product is cut to whole billionths: 100 * 1.1 must be 110 hosts and not 111.
  return Math.ceil(Math.round(count * (100 + growthPct) * 1e7) / 1e9)
}

/** Free aligned blocks, smallest first, then lowest. */
function freeBlocks(block: Prefix4, taken: readonly Prefix4[]): Prefix4[] {
  return gapsIn(block, taken)
    .flatMap(rangePrefixes)
    .sort(
      by(
        (p) => -p.length,
        (p) => p.base,
      ),
    )
}

/** The lowest subnet of a length in the tightest free block that holds it; null where none does. */
export function bestFit(block: Prefix4, taken: readonly Prefix4[], length: number): Prefix4 | null {
  const home = freeBlocks(block, taken).find((free) => free.length <= length && contains(block, free.base))
  return home ? { base: home.base, length } : null
}

/**
 * The subnet of a length whose third octet is a number, where it lies in the block and is free; null
 * otherwise.
 */
export function byOctet(
  block: Prefix4,
  taken: readonly Prefix4[],
  octet: number,
  length: number,
): Prefix4 | null {
  if (octet > 255) return null
  const keep = Math.floor(block.base / 65536) * 65536
  const base = ipv4(keep + octet * 256)
  const wanted = { base: networkOf(base, length), length }
  const free =
    wanted.base === base &&
    length >= block.length &&
    contains(block, base) &&
    !taken.some((t) => overlaps(t, wanted))
  return free ? wanted : null
}

export interface Wanted {
  readonly id: string
  readonly length: number
  /** Third octet that habit asks for; null for best fit alone. */
  readonly octet: number | null
}

/**
 * Subnets for all that are wanted, by id; null for each that no longer fits.
 * What is taken stays where it is.
 */
export function allocate(
  block: Prefix4,
  taken: readonly Prefix4[],
  wanted: readonly Wanted[],
): Map<string, Prefix4 | null> {
  const held = [...taken]
  const given = new Map<string, Prefix4 | null>()
  const give = (id: string, prefix: Prefix4 | null) => {
    given.set(id, prefix)
    if (prefix) held.push(prefix)
  }
  // Those with a number of their own come first, or another would sit on it.
  for (const value of wanted) {
    const own = value.octet === null ? null : byOctet(block, held, value.octet, value.length)
    if (own) give(value.id, own)
  }
  for (const value of [...wanted]
    .filter((x) => !given.has(x.id))
    .sort(
      by(
        (x) => x.length,
        (x) => x.id,
      ),
    ))
    give(value.id, bestFit(block, held, value.length))
  return given
}

/** The largest aligned prefix that is still free; null where nothing is. */
export function largestFree(block: Prefix4, taken: readonly Prefix4[]): Prefix4 | null {
  return (
    gapsIn(block, taken)
      .map(largestIn)
      .sort(
        by(
          (p) => p.length,
          (p) => p.base,
        ),
      )[0] ?? null
  )
}

/**
 * Legal subnets next to one that is moved or resized: aligned places of a length, nearest to an address
 * first.
 */
export function snapTo(block: Prefix4, address: number, length: number): Prefix4 | null {
  if (length < block.length || length > 32) return null
  const size = sizeOf(length)
  const most = block.base + sizeOf(block.length) - size
  const base = Math.max(block.base, Math.min(most, Math.round(address / size) * size))
  return { base: ipv4(base), length }
}
