import { describe, expect, it } from 'vitest'
import {
  contains6,
  formatIpv6,
  formatPrefix6,
  overlaps6,
  parseIpv6,
  parsePrefix6,
  spaceOf6,
  subnet6For,
  uniqueLocal,
  type Prefix6,
} from '.'

const prefix = (text: string): Prefix6 => {
  const read = parsePrefix6(text)
  if (!read.ok) throw new Error(text)
  return read.value
}
const canonical = (text: string) => {
  const read = parseIpv6(text)
  return read.ok ? formatIpv6(read.value) : null
}

describe('text of IPv6 addresses', () => {
  // RFC 5952 section 1 and 4: all these are one address, or show where :: must stand.
  it.each([
    ['2001:db8:0:0:1:0:0:1', '2001:db8::1:0:0:1'],
    ['2001:0db8:0:0:1:0:0:1', '2001:db8::1:0:0:1'],
    ['2001:db8::1:0:0:1', '2001:db8::1:0:0:1'],
    ['2001:db8::0:1:0:0:1', '2001:db8::1:0:0:1'],
    ['2001:DB8:0:0:1::1', '2001:db8::1:0:0:1'],
    ['2001:db8:0:1:1:1:1:1', '2001:db8:0:1:1:1:1:1'],
    ['2001:0:0:1:0:0:0:1', '2001:0:0:1::1'],
    ['::', '::'],
    ['::1', '::1'],
    ['ff02::1', 'ff02::1'],
  ])('%s is %s', (text, expected) => expect(canonical(text)).toBe(expected))
  it.each([
    '',
    ':',
    ':::',
    '1::2::3',
    '2001:db8',
    '1:2:3:4:5:6:7:8:9',
    '12345::',
    'g::',
    '1:2:3:4:5:6:7::8',
    '::ffff:192.0.2.1',
    ' ::1',
  ])('%o is refused', (text) => expect(canonical(text)).toBeNull())
  it('prefixes want a length and no host bits, and say which were meant', () => {
    const wrong = parsePrefix6('fd61:6a11:c0de:10::1/64', 'here')
    expect(!wrong.ok && wrong.problems).toEqual([
      {
        code: 'host-bits6',
        place: 'here',
        values: { text: 'fd61:6a11:c0de:10::1/64', meant: 'fd61:6a11:c0de:10::/64' },
      },
    ])
    for (const text of ['fd00::', 'fd00::/129', 'fd00::/064', 'fd00::/x', 'fd00::/64/1'])
      expect(parsePrefix6(text).ok).toBe(false)
    expect(formatPrefix6(prefix('2001:DB8::/32'))).toBe('2001:db8::/32')
  })
})

describe('prefixes', () => {
  it('hold and overlap each other bit by bit', () => {
    expect(contains6(prefix('fd61:6a11:c0de::/48'), prefix('fd61:6a11:c0de:60::/64'))).toBe(true)
    expect(contains6(prefix('fd61:6a11:c0de:60::/64'), prefix('fd61:6a11:c0de::/48'))).toBe(false)
    expect(overlaps6(prefix('fd61:6a11:c0de:60::/64'), prefix('fd61:6a11:c0de::/48'))).toBe(true)
    expect(overlaps6(prefix('fd61:6a11:c0de:60::/60'), prefix('fd61:6a11:c0de:70::/60'))).toBe(false)
  })
  // RFC 4291 section 2.4, RFC 4193, RFC 3849.
  it.each([
    ['fd00::/8', 'unique-local'],
    ['fe80::/10', 'link-local'],
    ['ff02::/16', 'multicast'],
    ['2001:db8::/32', 'documentation'],
    ['2a00::/12', 'global'],
    ['::1/128', 'loopback'],
    ['4000::/8', 'reserved'],
  ])('%s is %s', (text, kind) => {
    expect(spaceOf6(prefix(text))).toBe(kind)
  })
  it('a VLAN’s /64 shows its number where there is room, and says where there is not', () => {
    expect(subnet6For(prefix('fd61:6a11::/48'), 60)).toEqual(prefix('fd61:6a11:0:60::/64'))
    expect(subnet6For(prefix('fd61:6a11::/48'), 4094)).toEqual(prefix('fd61:6a11:0:4094::/64'))
    expect(subnet6For(prefix('2001:db8:5::/56'), 60)).toEqual(prefix('2001:db8:5:3c::/64'))
    expect(subnet6For(prefix('2001:db8:5::/56'), 300)).toBeNull()
    expect(subnet6For(prefix('2001:db8:5:7::/64'), 1)).toBeNull()
  })
  it('a unique local prefix is fd, forty bits and a /48 (RFC 4193 section 3.1)', () => {
    const made = uniqueLocal([0x61, 0x6a, 0x11, 0xc0, 0xde])
    expect(formatPrefix6(made)).toBe('fd61:6a11:c0de::/48')
    expect(spaceOf6(made)).toBe('unique-local')
  })
})
