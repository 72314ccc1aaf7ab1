import { describe, expect, it } from 'vitest'
import {
  contains,
  formatIpv4,
  formatPrefix4,
  ipv4,
  lastOf,
  maskOf,
  networkOf,
  overlaps,
  parseIpv4,
  parseMask,
  parsePrefix4,
  parseRange4,
  rangePrefixes,
  sizeOf,
  usable,
  type Prefix4,
  type Range4,
} from '.'

const address = (text: string) => {
  const parsed = parseIpv4(text)
  if (!parsed.ok) throw new Error(text)
  return parsed.value
}
const prefix = (text: string): Prefix4 => {
  const parsed = parsePrefix4(text)
  if (!parsed.ok) throw new Error(text)
  return parsed.value
}
const codes = (result: { readonly ok: boolean; readonly problems?: readonly { readonly code: string }[] }) =>
  result.problems?.map((p) => p.code)

describe('addresses', () => {
  it.each([
    ['0.0.0.0', 0],
    ['10.0.0.1', 0x0a000001],
    ['192.0.2.235', 0xc00002eb],
    ['255.255.255.255', 0xffffffff],
  ])('reads and writes %s', (text, value) => {
    expect(address(text)).toBe(value)
    expect(formatIpv4(ipv4(value))).toBe(text)
  })

  it.each([
    '',
    '10',
    '10.0.0',
    '10.0.0.0.0',
    '256.0.0.1',
    '10.61.2.300',
    '1.2.3.4 ',
    ' 1.2.3.4',
    '1.2.3.-4',
    '0x0a.0.0.1',
    '1.2.3.4/24',
    'a.b.c.d',
    '１.2.3.4',
  ])('refuses "%s"', (text) => {
    expect(codes(parseIpv4(text))).toEqual(['not-ipv4'])
  })

  // RFC 6943 section 3.1.1: "010.0.0.1" is read as octal by some programs, so it means two things.
  it.each(['010.0.0.1', '10.00.0.1', '192.168.01.1'])('refuses the leading zero of %s', (text) => {
    expect(codes(parseIpv4(text))).toEqual(['leading-zero'])
  })

  it('names the place it was given', () => {
    expect(parseIpv4('10.61.2.300', 'row 7, column "gateway"')).toEqual({
      ok: false,
      problems: [{ code: 'not-ipv4', place: 'row 7, column "gateway"', values: { text: '10.61.2.300' } }],
    })
  })
})

describe('prefixes', () => {
  // RFC 1878, the variable length subnet table: mask and number of addresses for each length.
  it.each([
    [1, '128.0.0.0', 2147483648],
    [8, '255.0.0.0', 16777216],
    [12, '255.240.0.0', 1048576],
    [16, '255.255.0.0', 65536],
    [19, '255.255.224.0', 8192],
    [20, '255.255.240.0', 4096],
    [21, '255.255.248.0', 2048],
    [22, '255.255.252.0', 1024],
    [23, '255.255.254.0', 512],
    [24, '255.255.255.0', 256],
    [25, '255.255.255.128', 128],
    [26, '255.255.255.192', 64],
    [27, '255.255.255.224', 32],
    [28, '255.255.255.240', 16],
    [29, '255.255.255.248', 8],
    [30, '255.255.255.252', 4],
    [31, '255.255.255.254', 2],
    [32, '255.255.255.255', 1],
  ])('/%i has mask %s and %i addresses', (length, mask, size) => {
    expect(formatIpv4(maskOf(length))).toBe(mask)
    expect(sizeOf(length)).toBe(size)
    expect(parseMask(mask)).toEqual({ ok: true, value: length })
  })

  it.each([['255.0.255.0'], ['0.255.255.255'], ['255.255.255.1']])('refuses %s as a mask', (text) => {
    expect(codes(parseMask(text))).toEqual(['not-a-mask'])
  })

  it('knows the ends of a subnet', () => {
    expect(formatIpv4(lastOf(prefix('10.61.6.0/23')))).toBe('10.61.7.255')
    expect(formatIpv4(networkOf(address('10.61.7.9'), 23))).toBe('10.61.6.0')
    const hosts = usable(prefix('10.61.1.0/24'))
    expect([formatIpv4(hosts.from), formatIpv4(hosts.to)]).toEqual(['10.61.1.1', '10.61.1.254'])
  })

  // RFC 3021: both addresses of a /31 are hosts.
  it('gives both addresses of a /31 and the one of a /32 to hosts', () => {
    expect(usable(prefix('192.0.2.4/31'))).toEqual({ from: address('192.0.2.4'), to: address('192.0.2.5') })
    expect(usable(prefix('192.0.2.4/32'))).toEqual({ from: address('192.0.2.4'), to: address('192.0.2.4') })
  })

  it.each([
    ['10.0.0.0', 'not-prefix'],
    ['10.0.0.0/', 'bad-length'],
    ['10.0.0.0/33', 'bad-length'],
    ['10.0.0.0/024', 'bad-length'],
    ['10.0.0.0/8/8', 'not-prefix'],
    ['10.0.0.256/8', 'not-ipv4'],
    ['10.0.0.0/-1', 'bad-length'],
  ])('refuses %s: %s', (text, code) => {
    expect(codes(parsePrefix4(text))).toEqual([code])
  })

  it('tells which prefix was meant when host bits are set', () => {
    expect(parsePrefix4('10.61.7.0/23')).toMatchObject({
      ok: false,
      problems: [{ code: 'host-bits', values: { meant: '10.61.6.0/23' } }],
    })
  })

  it('knows what lies in what', () => {
    expect(contains(prefix('10.61.2.64/26'), address('10.61.2.127'))).toBe(true)
    expect(contains(prefix('10.61.2.64/26'), address('10.61.2.128'))).toBe(false)
    expect(contains(prefix('0.0.0.0/0'), address('255.255.255.255'))).toBe(true)
    expect(overlaps(prefix('10.0.0.0/8'), prefix('10.61.0.0/20'))).toBe(true)
    expect(overlaps(prefix('10.61.0.0/20'), prefix('10.61.16.0/22'))).toBe(false)
  })
})

describe('ranges', () => {
  const range = (from: string, to: string): Range4 => ({ from: address(from), to: address(to) })

  it.each([
    '10.61.2.80-10.61.2.119',
    '10.61.2.80 - 10.61.2.119',
    '10.61.2.80–10.61.2.119',
    '10.61.2.80..10.61.2.119',
    '10.61.2.80 to 10.61.2.119',
  ])('reads "%s"', (text) => {
    expect(parseRange4(text)).toEqual({ ok: true, value: range('10.61.2.80', '10.61.2.119') })
  })

  it('completes a short end from its subnet', () => {
    expect(parseRange4('.100-.219', '', prefix('10.61.1.0/24'))).toEqual({
      ok: true,
      value: range('10.61.1.100', '10.61.1.219'),
    })
    expect(parseRange4('.6.10-.7.209', '', prefix('10.61.6.0/23'))).toEqual({
      ok: true,
      value: range('10.61.6.10', '10.61.7.209'),
    })
  })

  it.each([
    ['10.0.0.9', 'not-a-pool'],
    ['10.0.0.9-10.0.0.1', 'pool-reversed'],
    ['10.0.0.9-10.0.0.300', 'not-ipv4'],
    ['.1-.2', 'not-ipv4'],
  ])('refuses %s: %s', (text, code) => {
    expect(codes(parseRange4(text))).toEqual([code])
  })

  it('splits into the fewest aligned prefixes', () => {
    expect(rangePrefixes(range('10.0.0.1', '10.0.0.4')).map(formatPrefix4)).toEqual([
      '10.0.0.1/32',
      '10.0.0.2/31',
      '10.0.0.4/32',
    ])
    expect(rangePrefixes(range('0.0.0.0', '255.255.255.255')).map(formatPrefix4)).toEqual(['0.0.0.0/0'])
  })
})
