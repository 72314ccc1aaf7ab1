import { describe, expect, it } from 'vitest'
import {
  formatIpv4,
  formatPrefix4,
  gapsIn,
  ipv4,
  largestIn,
  rangesWithout,
  parseIpv4,
  parseMac,
  parsePrefix4,
  segmentsOf,
  spaceOf,
  type Prefix4,
} from '.'

const prefix = (text: string): Prefix4 => {
  const parsed = parsePrefix4(text)
  if (!parsed.ok) throw new Error(text)
  return parsed.value
}
const address = (text: string) => {
  const parsed = parseIpv4(text)
  if (!parsed.ok) throw new Error(text)
  return parsed.value
}

describe('special blocks', () => {
  // RFC 6890 section 2.2.2 (IPv4 special-purpose registry), RFC 1918 section 3, RFC 6598, RFC 5737, RFC 5771:
  // first and last address of each.
  it.each([
    ['10.0.0.0', '10.255.255.255', 'private'],
    ['172.16.0.0', '172.31.255.255', 'private'],
    ['192.168.0.0', '192.168.255.255', 'private'],
    ['100.64.0.0', '100.127.255.255', 'shared'],
    ['127.0.0.0', '127.255.255.255', 'loopback'],
    ['169.254.0.0', '169.254.255.255', 'link-local'],
    ['192.0.2.0', '192.0.2.255', 'documentation'],
    ['198.51.100.0', '198.51.100.255', 'documentation'],
    ['203.0.113.0', '203.0.113.255', 'documentation'],
    ['224.0.0.0', '239.255.255.255', 'multicast'],
    ['240.0.0.0', '255.255.255.255', 'reserved'],
    ['0.0.0.0', '0.255.255.255', 'reserved'],
  ])('%s to %s is %s', (first, last, kind) => {
    expect([spaceOf(address(first)), spaceOf(address(last))]).toEqual([kind, kind])
  })

  it.each([
    '9.255.255.255',
    '11.0.0.0',
    '172.15.255.255',
    '172.32.0.0',
    '192.167.255.255',
    '192.169.0.0',
    '100.63.255.255',
    '100.128.0.0',
    '8.8.8.8',
  ])('%s is public', (text) => {
    expect(spaceOf(address(text))).toBe('public')
  })
})

describe('gaps', () => {
  it('are what no network covers', () => {
    const taken = [
      '10.61.0.0/24',
      '10.61.1.0/24',
      '10.61.2.0/26',
      '10.61.2.64/26',
      '10.61.3.0/24',
      '10.61.4.0/24',
      '10.61.6.0/23',
    ].map(prefix)
    const gaps = gapsIn(prefix('10.61.0.0/20'), taken)
    expect(
      gaps.map((g) => `${formatIpv4(g.from)} ${formatIpv4(g.to)} ${formatPrefix4(largestIn(g))}`),
    ).toEqual([
      '10.61.2.128 10.61.2.255 10.61.2.128/25',
      '10.61.5.0 10.61.5.255 10.61.5.0/24',
      '10.61.8.0 10.61.15.255 10.61.8.0/21',
    ])
  })

  it('do not come from networks elsewhere, nor twice from overlapping ones', () => {
    expect(
      gapsIn(prefix('10.0.0.0/30'), [prefix('10.0.0.0/31'), prefix('10.0.0.0/32'), prefix('10.1.0.0/16')]),
    ).toEqual([{ from: address('10.0.0.2'), to: address('10.0.0.3') }])
    expect(gapsIn(prefix('10.0.0.0/30'), [prefix('10.0.0.0/8')])).toEqual([])
  })
})

describe('segments of a subnet', () => {
  it('name each address once, in order', () => {
    const segments = segmentsOf(prefix('10.0.0.0/28'), {
      gateway: address('10.0.0.1'),
      pool: { from: address('10.0.0.4'), to: address('10.0.0.9') },
      fixed: [
        { ip: address('10.0.0.2'), how: 'static' },
        { ip: address('10.0.0.6'), how: 'reserved' },
        { ip: address('10.9.9.9'), how: 'static' },
      ],
    })
    expect(segments.map((s) => `${s.kind} ${s.from & 255}-${s.to & 255}`)).toEqual([
      'network 0-0',
      'gateway 1-1',
      'static 2-2',
      'free 3-3',
      'pool 4-5',
      'reserved 6-6',
      'pool 7-9',
      'free 10-14',
      'broadcast 15-15',
    ])
  })

  // RFC 3021: a /31 has neither network nor broadcast address.
  it('have no ends in a /31', () => {
    expect(
      segmentsOf(prefix('10.0.0.0/31'), { gateway: address('10.0.0.0'), pool: null, fixed: [] }).map(
        (s) => s.kind,
      ),
    ).toEqual(['gateway', 'free'])
  })

  it('cut a pool that leaves the subnet', () => {
    const segments = segmentsOf(prefix('10.0.0.0/29'), {
      gateway: null,
      pool: { from: address('10.0.0.4'), to: address('10.0.0.99') },
      fixed: [],
    })
    expect(segments.map((s) => `${s.kind} ${s.from & 255}-${s.to & 255}`)).toEqual([
      'network 0-0',
      'free 1-3',
      'pool 4-6',
      'broadcast 7-7',
    ])
  })
})

describe('MAC addresses', () => {
  // RFC 7042 section 2.1.2: 00-00-5E-00-53-00 to FF are for documentation.
  // IEEE 802-2014 clause 8: the I/G and U/L bits.
  it.each(['00-00-5E-00-53-01', '00:00:5e:00:53:01', '00005E005301'])('reads %s', (text) => {
    expect(parseMac(text)).toEqual({ ok: true, value: '00-00-5E-00-53-01' })
  })
  it.each([
    ['01-00-5E-00-53-01', 'multicast-mac'],
    ['02-00-5E-00-53-01', 'local-mac'],
    ['00-00-5E-00-53', 'not-eui48'],
    ['00-00:5E-00-53-01', 'not-eui48'],
    ['00-00-5E-00-53-0G', 'not-eui48'],
  ])('refuses %s: %s', (text, code) => {
    expect(parseMac(text)).toMatchObject({ ok: false, problems: [{ code }] })
  })
})

describe('a range without others', () => {
  const range = (from: number, to: number) => ({ from: ipv4(from), to: ipv4(to) })
  it('is what is left of it, in order, whatever the order of the others', () => {
    expect(rangesWithout(range(1, 9), [range(9, 9), range(3, 4)])).toEqual([range(1, 2), range(5, 8)])
    expect(rangesWithout(range(1, 9), [range(0, 20)])).toEqual([])
    expect(rangesWithout(range(1, 9), [range(20, 30), range(2, 5), range(4, 6)])).toEqual([
      range(1, 1),
      range(7, 9),
    ])
    expect(rangesWithout(range(5, 5), [])).toEqual([range(5, 5)])
  })
})
