import fc from 'fast-check'
import ipaddr from 'ipaddr.js'
import { describe, expect, it } from 'vitest'
import {
  contains,
  contains6,
  formatIpv4,
  formatIpv6,
  formatPrefix4,
  ipv4,
  lastOf,
  maskOf,
  networkOf,
  overlaps,
  parseIpv4,
  parseIpv6,
  parseMask,
  parsePrefix4,
  parsePrefix6,
  rangePrefixes,
  spaceOf,
} from '#core/address'

// The independent library is ipaddr.js. It is only asked about valid input: it reads leading zeros as octal.

const word = fc.integer({ min: 0, max: 0xffffffff })
const length = fc.integer({ min: 0, max: 32 })
const text = (value: number) => formatIpv4(ipv4(value))
const other = (value: number) => ipaddr.IPv4.parse(text(value))

describe('addresses agree with ipaddr.js', () => {
  it('in writing and reading', () => {
    fc.assert(
      fc.property(word, (value) => {
        expect(other(value).toString()).toBe(text(value))
        expect(parseIpv4(text(value))).toEqual({ ok: true, value })
        expect(other(value).toByteArray()).toEqual([
          value >>> 24,
          (value >>> 16) & 255,
          (value >>> 8) & 255,
          value & 255,
        ])
      }),
      { numRuns: 2000 },
    )
  })

  it('in network, broadcast address and mask', () => {
    fc.assert(
      fc.property(word, length, (value, bits) => {
        const cidr = `${text(value)}/${bits}`
        expect(formatIpv4(networkOf(ipv4(value), bits))).toBe(
          ipaddr.IPv4.networkAddressFromCIDR(cidr).toString(),
        )
        expect(formatIpv4(lastOf({ base: networkOf(ipv4(value), bits), length: bits }))).toBe(
          ipaddr.IPv4.broadcastAddressFromCIDR(cidr).toString(),
        )
        expect(formatIpv4(maskOf(bits))).toBe(ipaddr.IPv4.subnetMaskFromPrefixLength(bits).toString())
      }),
      { numRuns: 2000 },
    )
  })

  it('in which addresses a prefix holds', () => {
    fc.assert(
      fc.property(word, length, word, fc.integer({ min: -2, max: 2 }), (base, bits, far, near) => {
        const home = { base: networkOf(ipv4(base), bits), length: bits }
        for (const probe of [far, (home.base + near) >>> 0, (lastOf(home) + near) >>> 0]) {
          expect(contains(home, ipv4(probe))).toBe(
            other(probe).match(ipaddr.IPv4.parseCIDR(formatPrefix4(home))),
          )
        }
      }),
      { numRuns: 2000 },
    )
  })

  it('in which text is an address, where it has no leading zero', () => {
    const octet = fc.oneof(
      fc.integer({ min: 0, max: 400 }).map(String),
      fc.constantFrom('', '-1', 'x', '1e1'),
    )
    fc.assert(
      fc.property(fc.array(octet, { minLength: 3, maxLength: 5 }), (parts) => {
        const dotted = parts.join('.')
        expect(parseIpv4(dotted).ok).toBe(ipaddr.IPv4.isValidFourPartDecimal(dotted))
      }),
      { numRuns: 2000 },
    )
  })

  it('in which text is a mask', () => {
    fc.assert(
      fc.property(fc.oneof(word, length.map(maskOf)), (value) => {
        const read = parseMask(text(value))
        expect(read.ok ? read.value : null).toBe(other(value).prefixLengthFromSubnetMask())
      }),
      { numRuns: 2000 },
    )
  })

  it('in the kind of space, for the kinds both know', () => {
    const theirs: Readonly<Record<string, string>> = {
      private: 'private',
      carrierGradeNat: 'shared',
      loopback: 'loopback',
      linkLocal: 'link-local',
      multicast: 'multicast',
    }
    fc.assert(
      fc.property(
        fc.oneof(
          word,
          fc.constantFrom(
            0x0a000000,
            0xac100000,
            0xac1fffff,
            0xac200000,
            0xc0a80000,
            0x64400000,
            0x647fffff,
            0xa9fe0000,
            0xe0000000,
          ),
        ),
        (value) => {
          const kind = theirs[other(value).range()]
          const ours = spaceOf(ipv4(value))
          if (kind) expect(ours).toBe(kind)
          else expect(Object.values(theirs)).not.toContain(ours)
        },
      ),
      { numRuns: 3000 },
    )
  })
})

describe('prefix arithmetic keeps its own promises', () => {
  const prefix = fc
    .tuple(word, length)
    .map(([base, bits]) => ({ base: networkOf(ipv4(base), bits), length: bits }))

  it('two prefixes overlap exactly when one holds the other’s base', () => {
    fc.assert(
      fc.property(prefix, prefix, (first, second) => {
        expect(overlaps(first, second)).toBe(contains(first, second.base) || contains(second, first.base))
        expect(parsePrefix4(formatPrefix4(first))).toEqual({ ok: true, value: first })
      }),
    )
  })

  it('a range is exactly its prefixes', () => {
    fc.assert(
      fc.property(word, fc.integer({ min: 0, max: 5000 }), (from, size) => {
        const to = Math.min(0xffffffff, from + size)
        const parts = rangePrefixes({ from: ipv4(from), to: ipv4(to) })
        let next = from
        for (const part of parts) {
          expect(part.base).toBe(next)
          next = lastOf(part) + 1
        }
        expect(next).toBe(to + 1)
        expect(parts.length).toBeLessThanOrEqual(62)
      }),
    )
  })
})

describe('IPv6 agrees with ipaddr.js', () => {
  const groups = fc.array(fc.oneof(fc.constant(0), fc.integer({ min: 0, max: 0xffff })), {
    minLength: 8,
    maxLength: 8,
  })
  const ipv6 = (text: string) => ipaddr.IPv6.parse(text)
  it('in writing: the text is canonical, and reads back', () => {
    fc.assert(
      fc.property(groups, (parts) => {
        const text = formatIpv6(parts)
        expect(text).toBe(ipv6(text).toRFC5952String())
        expect(ipv6(text).parts).toEqual(parts)
        expect(parseIpv6(text)).toEqual({ ok: true, value: parts })
        expect(
          parseIpv6(
            ipv6(text)
              .parts.map((g) => g.toString(16).padStart(4, '0'))
              .join(':'),
          ),
        ).toEqual({ ok: true, value: parts })
      }),
      { numRuns: 2000 },
    )
  })
  it('in which prefixes hold which addresses', () => {
    fc.assert(
      fc.property(groups, fc.integer({ min: 0, max: 128 }), groups, (base, length, far) => {
        const network = ipv6(
          ipaddr.IPv6.networkAddressFromCIDR(`${formatIpv6(base)}/${length}`).toString(),
        ).parts
        const home = { groups: network, length }
        for (const probe of [far, base, network.map((g, i) => (i === 7 ? g ^ 1 : g))]) {
          expect(contains6(home, { groups: probe, length: 128 })).toBe(
            ipv6(formatIpv6(probe)).match(ipv6(formatIpv6(network)), length),
          )
        }
        expect(parsePrefix6(`${formatIpv6(network)}/${length}`).ok).toBe(true)
      }),
      { numRuns: 2000 },
    )
  })
})
