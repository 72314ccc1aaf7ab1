import { describe, expect, it } from 'vitest'
import { addressList, discoveryOption, erlangB, leaseFor, leaseTimers, offeredLoad, poolFor } from '.'

describe('Erlang B', () => {
  // Published tables of Erlang B (offered load by servers and blocking, as in ITU-T E.501's teletraffic
  // handbooks; from memory).
  it.each([
    [1, 0.01, 0.0101],
    [2, 0.01, 0.153],
    [5, 0.01, 1.36],
    [10, 0.01, 4.46],
    [20, 0.01, 12.0],
    [50, 0.01, 37.9],
    [100, 0.01, 84.1],
    [10, 0.05, 6.22],
    [10, 0.001, 3.09],
    [20, 0.02, 13.2],
  ])('%d servers at %f block carry %f erlang', (servers, blocking, load) => {
    expect(erlangB(load, servers)).toBeCloseTo(blocking, blocking < 0.005 ? 4 : 3)
    expect(erlangB(load * 1.02, servers)).toBeGreaterThan(erlangB(load, servers))
  })
  // First principles: the sum A^k / k! has two terms with one server, three with two.
  it('is the closed form with one and with two servers', () => {
    for (const load of [0.1, 1, 3.7]) {
      expect(erlangB(load, 1)).toBeCloseTo(load / (1 + load), 12)
      expect(erlangB(load, 2)).toBeCloseTo((load * load) / 2 / (1 + load + (load * load) / 2), 12)
    }
  })
  it('is 1 without servers and 0 without load, and stays a share at large sizes', () => {
    expect([erlangB(5, 0), erlangB(0, 5), erlangB(0, 0)]).toEqual([1, 0, 1])
    expect(erlangB(60_000, 65_536)).toBeLessThan(1e-6)
    expect(erlangB(1e6, 10)).toBeCloseTo(1, 4)
  })
  it('the pool for a blocking is the least that keeps it', () => {
    for (const load of [0.5, 10, 160]) {
      const servers = poolFor(load, 0.01)
      expect(erlangB(load, servers)).toBeLessThanOrEqual(0.01)
      expect(erlangB(load, servers - 1)).toBeGreaterThan(0.01)
    }
    expect(poolFor(10, 0.01)).toBe(18)
    expect(poolFor(0, 0.01)).toBe(1)
  })
})

describe('leases', () => {
  it('an address is held for the longer of stay and lease (Little)', () => {
    expect(offeredLoad(20, 3, 8)).toBe(160)
    expect(offeredLoad(20, 8, 3)).toBe(160)
  })
  // RFC 2131 section 4.4.5: T1 is half of the lease, T2 seven eighths.
  it('are renewed at T1 and rebound at T2', () =>
    expect(leaseTimers(28_800)).toEqual({ t1S: 14_400, t2S: 25_200 }))
  it('the longest usual one that fits is proposed, or none', () => {
    expect(leaseFor(60, 3, 501, 0.01)).toBe(14_400)
    expect(leaseFor(60, 3, 1000, 0.01)).toBe(43_200)
    expect(leaseFor(60, 3, 100, 0.01)).toBeNull()
  })
})

describe('options on the wire', () => {
  // RFC 2132 section 3.8 and 8.3: addresses of four octets; RFC 5417 section 2: the same for 138.
  it('lists of addresses', () => {
    expect(addressList(['10.61.0.1', '192.0.2.255'])).toEqual({ ok: true, value: '0a3d0001c00002ff' })
    expect(discoveryOption(138, '10.61.0.5')).toEqual({ ok: true, value: '0a3d0005' })
    expect(addressList(['10.61.0.300'], 'dns').ok).toBe(false)
  })
  // RFC 8572 section 8.3: each URI behind its length in two octets;
  // RFC 2132 section 8.4: code, length, value.
  it('URIs behind their length, and encapsulated sub-options', () => {
    const made = discoveryOption(143, '10.61.0.5')
    if (!made.ok) throw new Error('not made')
    const octets = made.value.match(/../g)?.map((h) => Number.parseInt(h, 16)) ?? []
    expect((octets[0] ?? 0) * 256 + (octets[1] ?? 0)).toBe(octets.length - 2)
    expect(String.fromCharCode(...octets.slice(2))).toBe('https://10.61.0.5')
    expect(discoveryOption(43, '10.61.0.5')).toEqual({ ok: true, value: '01040a3d0005' })
  })
})
