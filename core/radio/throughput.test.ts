import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { burstOf, throughputMbps, WINDOW } from './throughput'

/** Numbers from 0 to 1 that look drawn, the same each time (mulberry32). */
function drawing(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
}

/** The same, event by event: wait for free air, count the drawn slots down one by one, send, hear the answer. */
function simulatedMbps(onAirMbps: number, lengthM: number, bursts: number): number {
  const { bits, slotUs, quietUs, busyUs } = burstOf(onAirMbps, lengthM, 'ac')
  const draw = drawing(20261129)
  let [nowUs, carried] = [0, 0]
  for (let burst = 0; burst < bursts; burst++) {
    nowUs += quietUs
    for (let left = Math.floor(draw() * (WINDOW + 1)); left > 0; left--) nowUs += slotUs
    nowUs += busyUs
    carried += bits
  }
  return carried / nowUs
}

describe('what a radio link carries', () => {
  it.each([
    [65, 0],
    [65, 3400],
    [866.7, 0],
    [866.7, 3400],
    [6.5, 20_000],
    [1201, 100],
  ])(
    '%d Mb/s on the air over %d m: as an event by event simulation has it, within 1 %%',
    (onAirMbps, lengthM) => {
      const computed = throughputMbps(onAirMbps, lengthM, 'ac')
      expect(Math.abs(simulatedMbps(onAirMbps, lengthM, 20_000) / computed - 1)).toBeLessThan(0.01)
    },
  )
  it('at 6.5 Mb/s near by two packets fit into a burst of 4,009 us: worked by hand', () => {
    // 43 us of free air, 67.5 us waited, 40 us of preamble, 3,810.5 us of two frames, 16 us, 32 us acknowledged.
    expect(throughputMbps(6.5, 0, 'ac')).toBeCloseTo((2 * 12_000) / 4008.96, 3)
  })
  it('at 866.7 Mb/s a burst has 64 frames, and each answer comes later over 3.4 km: worked by hand', () => {
    // 43 + 67.5 + 40 + 914.5 + 48 = 1,113 us near by; 79 + 157.5 + 40 + 914.5 + 48 + 22.7 = 1,261.7 us.
    expect(throughputMbps(866.7, 0, 'ac')).toBeCloseTo(768_000 / 1113, 0)
    expect(throughputMbps(866.7, 3400, 'ac')).toBeCloseTo(768_000 / 1261.7, 0)
    // Without the 22.7 us of the way it would be 620.
    expect(Math.abs(throughputMbps(866.7, 3400, 'ac') - 608.7)).toBeLessThan(1)
  })
  it('at 4,620 Mb/s near 60 GHz over 500 m: worked by hand', () => {
    // 27 us of free air, 60 us waited, 2.47 us of preamble, 171.55 us of 64 frames, 3 us, 3.14 us, 3.34 us of way.
    expect(throughputMbps(4620, 500, 'ad')).toBeCloseTo(768_000 / 270.5, 0)
    // At 385 Mb/s 62 frames fit into 2 ms.
    expect(burstOf(385, 0, 'ad').bits).toBe(62 * 12_000)
  })
  it('a slot grows by 3 us for each 900 m that have been begun (802.11, 10.21.6)', () => {
    expect([0, 1, 899, 900, 3400].map((lengthM) => burstOf(65, lengthM, 'ac').slotUs)).toEqual([
      9, 12, 12, 15, 21,
    ])
  })
  it('is less the longer the way, more the faster the radio, and never what is on the air', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 6, max: 3000, noNaN: true }),
        fc.double({ min: 0, max: 100_000, noNaN: true }),
        (onAirMbps, lengthM) => {
          const carried = throughputMbps(onAirMbps, lengthM, 'ac')
          expect(carried).toBeLessThan(onAirMbps)
          expect(carried).toBeGreaterThan(0)
          expect(throughputMbps(onAirMbps, lengthM + 1000, 'ac')).toBeLessThan(carried)
        },
      ),
    )
    expect(throughputMbps(0, 1000, 'ac')).toBe(0)
  })
})
