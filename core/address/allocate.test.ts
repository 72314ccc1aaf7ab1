import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  allocate,
  bestFit,
  byOctet,
  contains,
  formatPrefix4,
  grown,
  ipv4,
  largestFree,
  lengthFor,
  overlaps,
  parsePrefix4,
  sizeOf,
  snapTo,
  usable,
  type Prefix4,
  type Wanted,
} from '.'

const prefix = (text: string): Prefix4 => {
  const read = parsePrefix4(text)
  if (!read.ok) throw new Error(text)
  return read.value
}

describe('how large a subnet is', () => {
  // RFC 1878 table of subnet sizes, less network, broadcast and gateway address.
  it.each([
    [0, 30],
    [1, 30],
    [2, 29],
    [5, 29],
    [6, 28],
    [13, 28],
    [14, 27],
    [29, 27],
    [30, 26],
    [61, 26],
    [62, 25],
    [125, 25],
    [126, 24],
    [253, 24],
    [254, 23],
    [509, 23],
    [16_777_213, 8],
  ])('%d hosts need a /%d', (hosts, length) => {
    expect(lengthFor(hosts)).toBe(length)
    expect(sizeOf(length) - 3).toBeGreaterThanOrEqual(hosts)
  })
  it('growth is rounded up to whole devices', () => {
    expect([grown(38, 25), grown(100, 10), grown(3, 10), grown(0, 50), grown(180, 0)]).toEqual([
      48, 110, 4, 0, 180,
    ])
  })
})

describe('where a subnet goes', () => {
  const block = prefix('10.61.0.0/20')
  it('the tightest gap, so that the largest stays whole', () => {
    const taken = [prefix('10.61.0.0/24'), prefix('10.61.2.0/23')]
    expect(formatPrefix4(bestFit(block, taken, 26) as Prefix4)).toBe('10.61.1.0/26')
    expect(formatPrefix4(bestFit(block, taken, 23) as Prefix4)).toBe('10.61.4.0/23')
    expect(bestFit(prefix('10.0.0.0/24'), [prefix('10.0.0.0/25'), prefix('10.0.0.128/25')], 30)).toBeNull()
  })
  it('its own third octet where that is free and aligned', () => {
    expect(formatPrefix4(byOctet(block, [], 10, 24) as Prefix4)).toBe('10.61.10.0/24')
    expect(byOctet(block, [prefix('10.61.10.0/25')], 10, 24)).toBeNull()
    expect(byOctet(block, [], 11, 23)).toBeNull()
    expect(byOctet(block, [], 60, 24)).toBeNull()
    expect(byOctet(block, [], 300, 24)).toBeNull()
  })
  it('habit comes before best fit, and nobody sits on another’s number', () => {
    const given = allocate(
      block,
      [],
      [
        { id: 'big', length: 22, octet: null },
        { id: 'ten', length: 24, octet: 1 },
      ],
    )
    expect([...given].map(([id, p]) => [id, p && formatPrefix4(p)])).toEqual([
      ['ten', '10.61.1.0/24'],
      ['big', '10.61.4.0/22'],
    ])
  })
  it('snaps to legal places inside the block', () => {
    expect(formatPrefix4(snapTo(block, ipv4(prefix('10.61.3.0/24').base + 200), 24) as Prefix4)).toBe(
      '10.61.4.0/24',
    )
    expect(formatPrefix4(snapTo(block, 0, 23) as Prefix4)).toBe('10.61.0.0/23')
    expect(formatPrefix4(snapTo(block, 2 ** 32, 23) as Prefix4)).toBe('10.61.14.0/23')
    expect(snapTo(block, block.base, 19)).toBeNull()
  })
})

/** Tries every order and every free aligned place: true where all lengths can be placed. */
function canPlace(block: Prefix4, taken: readonly Prefix4[], lengths: readonly number[]): boolean {
  if (lengths.length === 0) return true
  const [length = 32, ...rest] = lengths
  for (let base = block.base as number; base < block.base + sizeOf(block.length); base += sizeOf(length)) {
    const prefix = { base: ipv4(base), length }
    if (!taken.some((t) => overlaps(t, prefix)) && canPlace(block, [...taken, prefix], rest)) return true
  }
  return false
}

describe('against an exhaustive search, on small blocks', () => {
  const block = prefix('192.0.2.0/27')
  const lengths = fc.array(fc.integer({ min: 28, max: 31 }), { minLength: 1, maxLength: 5 })
  const first = fc.option(
    fc.integer({ min: 0, max: 7 }).map((n): Prefix4 => ({ base: ipv4(block.base + n * 4), length: 30 })),
    { nil: undefined },
  )
  it('places everything exactly where something can', () => {
    fc.assert(
      fc.property(lengths, first, (list, held) => {
        const taken = held ? [held] : []
        const wanted = list.map((length, i): Wanted => ({ id: String(i), length, octet: null }))
        const given = [...allocate(block, taken, wanted).values()]
        expect(given.every((p) => p !== null)).toBe(canPlace(block, taken, list))
        const placed = [...given.filter((p) => p !== null), ...taken]
        placed.forEach((p, i) => placed.slice(i + 1).forEach((q) => expect(overlaps(p, q)).toBe(false)))
        for (const prefix of given)
          if (prefix)
            expect(
              contains(block, prefix.base) &&
                prefix.base % sizeOf(prefix.length) === 0 &&
                usable(prefix).from >= prefix.base,
            ).toBe(true)
      }),
      { numRuns: 300 },
    )
  })
  it('one alone leaves a gap as large as any place of it would', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 28, max: 31 }),
        fc.array(fc.integer({ min: 0, max: 7 }), { maxLength: 4 }),
        (length, at) => {
          const taken = [...new Set(at)].map((n): Prefix4 => ({ base: ipv4(block.base + n * 4), length: 30 }))
          const mine = bestFit(block, taken, length)
          const all = Array.from({ length: 32 / sizeOf(length) }, (_, i): Prefix4 => ({
            base: ipv4(block.base + i * sizeOf(length)),
            length,
          })).filter((p) => !taken.some((t) => overlaps(t, p)))
          expect(mine === null).toBe(all.length === 0)
          const left = (p: Prefix4) => largestFree(block, [...taken, p])?.length ?? 33
          if (mine) expect(left(mine)).toBe(Math.min(...all.map(left)))
        },
      ),
      { numRuns: 200 },
    )
  })
})
