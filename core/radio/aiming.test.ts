import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  aimedDbm,
  beamWidthDeg,
  besselJ1,
  betweenDeg,
  envelopeDbi,
  judgePeak,
  offAxisLossDb,
  sideLobeDeg,
} from './aiming'
import { dishGainDbi } from './antenna'

/** 0.65 m at 5.8 GHz. */
const DISH_DBI = dishGainDbi(0.65, 5800, 0.6)

describe('the pattern of a dish', () => {
  it('J1 as in the tables of Abramowitz and Stegun, 9.1', () => {
    expect(besselJ1(0)).toBe(0)
    expect(besselJ1(1)).toBeCloseTo(0.4400505857, 6)
    expect(besselJ1(3)).toBeCloseTo(0.3390589585, 6)
    expect(besselJ1(5)).toBeCloseTo(-0.3275791376, 6)
    expect(besselJ1(3.8317059702)).toBeCloseTo(0, 6)
  })

  it('0.65 m at 5.8 GHz: 29.7 dBi and a beam of some 5.6 degrees', () => {
    expect(DISH_DBI).toBeCloseTo(29.7, 1)
    expect(beamWidthDeg(DISH_DBI)).toBeCloseTo(5.6, 1)
  })

  it('the first side lobe of an even round aperture: 17.6 dB down, some 1.4 beam widths off', () => {
    const at = sideLobeDeg(DISH_DBI) ?? 0
    expect(at / beamWidthDeg(DISH_DBI)).toBeGreaterThan(1.3)
    expect(at / beamWidthDeg(DISH_DBI)).toBeLessThan(1.45)
    expect(offAxisLossDb(DISH_DBI, at)).toBeCloseTo(17.57, 1)
    // It is a peak: to both sides of it less comes through.
    expect(offAxisLossDb(DISH_DBI, at - 1)).toBeGreaterThan(offAxisLossDb(DISH_DBI, at))
    expect(offAxisLossDb(DISH_DBI, at + 1)).toBeGreaterThan(offAxisLossDb(DISH_DBI, at))
  })

  it('an antenna smaller than its lobe’s angle has none in front of it', () => {
    expect(sideLobeDeg(8)).toBeNull()
  })

  it('loses nothing on its axis, and is nowhere above the envelope for planning', () => {
    expect(offAxisLossDb(DISH_DBI, 0)).toBe(0)
    fc.assert(
      fc.property(
        fc.double({ min: 12, max: 40, noNaN: true }),
        fc.double({ min: 0, max: 180, noNaN: true }),
        (gain, off) => {
          const loss = offAxisLossDb(gain, off)
          expect(loss).toBeGreaterThanOrEqual(0)
          expect(gain - loss).toBeLessThanOrEqual(envelopeDbi(gain, off) + 1e-9)
        },
      ),
    )
  })

  it('the envelope of F.699 goes from one part to the next without a step up of more than 1.5 dB', () => {
    for (const gain of [20, 25, 30, 35])
      for (let off = 0.05; off < 179; off += 0.05)
        expect(envelopeDbi(gain, off + 0.05) - envelopeDbi(gain, off)).toBeLessThan(1.5)
  })
})

describe('where antennas look', () => {
  it('angles between directions, over north and over the zenith', () => {
    expect(betweenDeg({ azimuthDeg: 358, tiltDeg: 0 }, { azimuthDeg: 3, tiltDeg: 0 })).toBeCloseTo(5, 9)
    expect(betweenDeg({ azimuthDeg: 10, tiltDeg: 2 }, { azimuthDeg: 10, tiltDeg: -1 })).toBeCloseTo(3, 9)
    expect(betweenDeg({ azimuthDeg: 0, tiltDeg: 90 }, { azimuthDeg: 77, tiltDeg: 90 })).toBeCloseTo(0, 5)
  })

  it('what both ends lose adds up', () => {
    const wanted = { azimuthDeg: 120, tiltDeg: 0 }
    const aside = { azimuthDeg: 123, tiltDeg: 0 }
    const well = { gainDbi: DISH_DBI, wanted, aim: wanted }
    const off = { gainDbi: DISH_DBI, wanted, aim: aside }
    expect(aimedDbm(-54, [well, well])).toBe(-54)
    const oneDb = -54 - aimedDbm(-54, [off, well])
    expect(oneDb).toBeCloseTo(offAxisLossDb(DISH_DBI, 3), 9)
    expect(-54 - aimedDbm(-54, [off, off])).toBeCloseTo(2 * oneDb, 9)
  })

  it('within 6 dB as computed; nearer to an edge than to a lobe: something in the way; beyond: a side lobe', () => {
    expect(judgePeak(-60, -54, 6)).toEqual({ kind: 'as-computed', missingDb: 6 })
    expect(judgePeak(-61, -54, 6).kind).toBe('obstructed')
    expect(judgePeak(-65.8, -54, 6).kind).toBe('obstructed')
    expect(judgePeak(-65.9, -54, 6).kind).toBe('side-lobe')
    expect(judgePeak(-72, -54, 6).kind).toBe('side-lobe')
    expect(judgePeak(-50, -54, 6).kind).toBe('as-computed')
  })
})
