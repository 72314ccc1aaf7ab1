import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dishGainDbi, exposureM, sectorHeightDeg, sectorLossDb } from './antenna'
import { budgetFrom, geometryOf, spareDb, type RadioPath } from './link-budget'
import { clearances, diffractionLossDb, tiltDeg } from './path-profile'
import {
  earthBulgeM,
  freeSpaceLossDb,
  fresnelRadiusM,
  K_USUAL,
  K_WORST,
  knifeEdgeLossDb,
  oxygenLossDbPerKm,
  rainCoefficients,
  rainLossDbPerKm,
} from './propagation'
import { fastestAt, knowsWidth, rateAt, rateMbps } from './generations'
import { MCS, sensitivityDbm } from './rates'

/** 3.4 km over water, with a radio of 20 dBm and a dish of 23 dBi at each end. */
const WATER: RadioPath = {
  lengthM: 3400,
  mhz: 5600,
  antennasM: [14, 11],
  points: [{ atM: 1700, groundM: 0, obstacleM: 0, growsM: 0 }],
  ends: [
    { powerDbm: 20, gainDbi: 23, feederDb: 1, ownDbm: [] },
    { powerDbm: 20, gainDbi: 23, feederDb: 1, ownDbm: [] },
  ],
  polarization: 'vertical',
  rainMmPerHour: 0,
}

describe('loss on the way', () => {
  it.each([
    [5600, 3.4, 118.04],
    [5800, 8, 125.78],
  ])('in free space at %d MHz over %d km is %d dB (P.525)', (mhz, km, db) => {
    expect(freeSpaceLossDb(mhz, km)).toBeCloseTo(db, 1)
  })
  it('of free space doubles its distance for 6.02 dB', () => {
    expect(freeSpaceLossDb(5600, 6.8) - freeSpaceLossDb(5600, 3.4)).toBeCloseTo(6.0206, 4)
  })
  it.each([
    [0, 6.03],
    [1, 13.93],
    [2.4, 20.54],
  ])('behind an edge of v = %d is %d dB (P.526, from its formula)', (edge, db) => {
    expect(knifeEdgeLossDb(edge)).toBeCloseTo(db, 2)
  })
  it('behind an edge ends where the zone is free (P.526: v = -0.78)', () => {
    expect([knifeEdgeLossDb(-0.78), knifeEdgeLossDb(-3)]).toEqual([0, 0])
    expect(knifeEdgeLossDb(-0.7)).toBeGreaterThan(0)
  })
})

describe('oxygen (P.676)', () => {
  it.each([
    [10, 0.008, 0.001],
    [50, 0.27, 0.03],
    [60, 15, 0.5],
  ])(
    'takes at %d GHz about %d dB in a km (its figure of dry air; 60 GHz by the design, the rest from memory)',
    (ghz, db, within) => {
      expect(Math.abs(oxygenLossDbPerKm(1000 * ghz) - db)).toBeLessThan(within)
    },
  )
  it.each([54, 60, 62, 66])('leaps nowhere: not at %d GHz, where one formula follows another', (ghz) => {
    const [below, above] = [oxygenLossDbPerKm(1000 * ghz - 1), oxygenLossDbPerKm(1000 * ghz + 1)]
    expect(above / below).toBeCloseTo(1, 2)
  })
  it('shortens a link at 60 GHz by all of it, and one at 5,600 MHz by nothing that is seen', () => {
    const lossOf = (mhz: number) =>
      budgetFrom({ ...WATER, mhz, lengthM: 1000 }, 0).steps.find(({ code }) => code === 'oxygen')?.db
    expect([lossOf(60_000), lossOf(5600)]).toEqual([-15, expect.closeTo(-0.007, 3)])
  })
})

describe('rain (P.838-3, table 5)', () => {
  it.each([
    [10, 0.01217, 1.2571, 0.01129, 1.2156],
    [24, 0.1425, 1.0101, null, null],
    [60, 0.8606, 0.7656, null, null],
  ])('at %d GHz has the published coefficients', (ghz, kH, aH, kV, aV) => {
    const [flat, upright] = [rainCoefficients(ghz, 'horizontal'), rainCoefficients(ghz, 'vertical')]
    expect(Math.abs(flat.k / kH - 1)).toBeLessThan(0.001)
    expect(flat.alpha).toBeCloseTo(aH, 3)
    if (kV === null || aV === null) return
    expect(Math.abs(upright.k / kV - 1)).toBeLessThan(0.001)
    expect(upright.alpha).toBeCloseTo(aV, 3)
  })
  it('costs nothing where it does not rain, and more the harder it does', () => {
    expect(rainLossDbPerKm(24_000, 0, 'vertical')).toBe(0)
    expect(rainLossDbPerKm(24_000, 50, 'vertical')).toBeGreaterThan(rainLossDbPerKm(24_000, 20, 'vertical'))
  })
})

describe('the way between two antennas', () => {
  it('has a first zone of 6.78 m and an earth of 0.17 or 0.34 m in the middle of 3.4 km at 5,600 MHz', () => {
    expect(fresnelRadiusM(5600, 1.7, 1.7)).toBeCloseTo(6.78, 2)
    expect(earthBulgeM(1.7, 1.7, K_USUAL)).toBeCloseTo(0.17, 2)
    expect(earthBulgeM(1.7, 1.7, K_WORST)).toBeCloseTo(0.34, 2)
  })
  it('is judged where least is free: line, earth, ground and what stands on it', () => {
    const [middle] = clearances(
      { ...WATER, points: [{ atM: 1700, groundM: 2, obstacleM: 4, growsM: 0 }] },
      K_USUAL,
    )
    expect(middle?.lineM).toBe(12.5)
    // 12.5 - 0.17 - 6 m are free, of 6.78.
    expect(middle?.share).toBeCloseTo((12.5 - 0.17 - 6) / 6.78, 2)
  })
  it('loses nothing with the zone free, 6 dB where an edge touches the line, and more behind it', () => {
    const at = (obstacleM: number) =>
      diffractionLossDb({ ...WATER, points: [{ atM: 1700, groundM: 0, obstacleM, growsM: 0 }] }, K_USUAL)
    const touching = 12.5 - earthBulgeM(1.7, 1.7, K_USUAL)
    expect(at(0)).toBe(0)
    expect(at(touching)).toBeCloseTo(6.03, 2)
    expect(at(touching + 0.001)).toBeCloseTo(6.03, 1)
    expect(at(touching + fresnelRadiusM(5600, 1.7, 1.7) / Math.SQRT2)).toBeCloseTo(13.93, 1)
  })
  it('behind two edges loses as behind the one where their lines of sight meet', () => {
    const low = { atM: 1000, groundM: 0, obstacleM: 30, growsM: 0 }
    const high = { atM: 2400, groundM: 0, obstacleM: 30, growsM: 0 }
    const both = diffractionLossDb({ ...WATER, points: [low, high] }, K_USUAL)
    const each = [low, high].map((point) => diffractionLossDb({ ...WATER, points: [point] }, K_USUAL))
    expect(both).toBeGreaterThan(Math.max(...each))
  })
  it('does not care from which end it is looked at', () => {
    const surveyed = fc.record({
      atM: fc.integer({ min: 1, max: 3399 }),
      groundM: fc.integer({ min: -5, max: 60 }),
      obstacleM: fc.nat(25),
      growsM: fc.constant(0),
    })
    fc.assert(
      fc.property(fc.array(surveyed, { maxLength: 8 }), (points) => {
        const mirrored = points.map((point) => ({ ...point, atM: WATER.lengthM - point.atM }))
        const back: RadioPath = { ...WATER, antennasM: [11, 14], points: mirrored }
        const [there, again] = [{ ...WATER, points }, back].map((path) => diffractionLossDb(path, K_USUAL))
        expect(there).toBeCloseTo(again ?? NaN, 6)
      }),
    )
  })
  it('is aimed down at both ends where the earth falls away, and up at what is higher', () => {
    const [first, second] = geometryOf(WATER).tiltsDeg
    // 3 m over 3.4 km are 0.0506 degrees; the earth falls 0.68 m.
    expect(first).toBeCloseTo((Math.atan2(-3 - 0.68, 3400) * 180) / Math.PI, 3)
    expect(second).toBeCloseTo((Math.atan2(3 - 0.68, 3400) * 180) / Math.PI, 3)
    expect(tiltDeg([10, 10], 50_000, K_USUAL)).toBeLessThan(0)
  })
})

describe('the balance', () => {
  it('adds up from the transmitter to the receiver', () => {
    const budget = budgetFrom(WATER, 0)
    expect(budget.eirpDbm).toBe(42)
    expect(budget.clearDbm).toBeCloseTo(20 - 1 + 23 - 118.04 + 23 - 1, 1)
    expect(budget.rainDbm).toBe(budget.clearDbm)
    expect(budget.steps.reduce((sum, { db }) => sum + db, 0)).toBeCloseTo(budget.rainDbm, 9)
  })
  it('reads -53 dBm behind 8 km and a dish of 30 dBi, as in the field (common practice, without a source)', () => {
    const sector = { powerDbm: 27, gainDbi: 16, feederDb: 0.2, ownDbm: [] }
    const dish = { powerDbm: 27, gainDbi: 30, feederDb: 0, ownDbm: [] }
    const field: RadioPath = { ...WATER, lengthM: 8000, mhz: 5800, ends: [sector, dish], points: [] }
    expect(Math.round(budgetFrom(field, 0).clearDbm)).toBe(-53)
  })
  it('of the way back swaps the ends', () => {
    const uneven: RadioPath = {
      ...WATER,
      ends: [
        { powerDbm: 20, gainDbi: 23, feederDb: 1, ownDbm: [] },
        { powerDbm: 14, gainDbi: 16, feederDb: 0, ownDbm: [] },
      ],
    }
    expect(budgetFrom(uneven, 0).clearDbm - budgetFrom(uneven, 1).clearDbm).toBeCloseTo(6, 9)
    expect(budgetFrom(uneven, 1).eirpDbm).toBe(30)
  })
  it('leaves more to spare where the receiver hears more than the standard asks of it, and only there', () => {
    const [first, second] = WATER.ends
    const better: RadioPath = { ...WATER, ends: [first, { ...second, ownDbm: [-93] }] }
    const gains = ([0, 1] as const).map(
      (from) =>
        spareDb({ ...better, widthMhz: 40 }, from).clear - spareDb({ ...WATER, widthMhz: 40 }, from).clear,
    )
    expect(gains).toEqual([11, 0])
  })
  it('loses to rain no more than the whole way in it', () => {
    const wet: RadioPath = { ...WATER, mhz: 24_000, rainMmPerHour: 60 }
    const { clearDbm, rainDbm } = budgetFrom(wet, 0)
    expect(clearDbm - rainDbm).toBeGreaterThan(5)
    expect(clearDbm - rainDbm).toBeLessThanOrEqual(rainLossDbPerKm(24_000, 60, 'vertical') * 3.4 + 1e-9)
  })
})

describe('antennas', () => {
  it('of 0.65 m at 5.8 GHz gain 29.7 dBi', () => {
    expect(dishGainDbi(0.65, 5800, 0.6)).toBeCloseTo(29.7, 1)
  })
  it.each([
    [36, 0.18],
    [50, 0.89],
  ])('of %d dBm EIRP keep people %d m away (ICNIRP 2020: 10 W/m2)', (eirp, metres) => {
    expect(exposureM(eirp)).toBeCloseTo(metres, 2)
  })
})

describe('rates (IEEE 802.11-2020)', () => {
  const at = (index: number) => MCS[index] as (typeof MCS)[number]
  const of = (index: number, widthMhz: 20 | 80 | 160, streams: number) =>
    rateMbps('ac', widthMhz, streams, at(index))
  it('are those of the published tables', () => {
    expect(of(7, 20, 1)).toBeCloseTo(65, 1)
    // Published with the short guard interval: 3.6 us a symbol, not 4.
    expect(((of(9, 80, 2) ?? 0) * 4) / 3.6).toBeCloseTo(866.7, 1)
    expect(of(0, 20, 1)).toBeCloseTo(6.5, 1)
    expect(of(9, 160, 1)).toBeCloseTo(780, 1)
  })
  it('need 3 dB more for each doubling of the width, and the margin besides', () => {
    const best = (levelDbm: number, marginDb = 0, widthMhz: 20 | 40 = 20, ownDbm: number[] = []) =>
      fastestAt(levelDbm, marginDb, { generation: 'ac', widthMhz, ownDbm })?.index ?? null
    expect([sensitivityDbm(at(7), 20), sensitivityDbm(at(7), 40), sensitivityDbm(at(7), 80)]).toEqual([
      -64, -61, -58,
    ])
    expect([best(-64), best(-64.1), best(-64, 6), best(-83)]).toEqual([7, 6, 4, null])
    // A receiver of its own for the two slowest; the standard's beyond.
    const own = [-93, -90]
    expect([-93, -90, -80, -77].map((level) => best(level, 0, 20, own))).toEqual([0, 1, 1, 2])
    expect([best(-90, 0, 40, own), best(-90.1, 0, 40, own)]).toEqual([0, null])
  })
  // 802.11-2020, table 20-19 and 20-3 (one carrier), from memory: rates and least levels of MCS 1, 4, 8 and 12.
  it.each([
    [1, 385, -68],
    [4, 1155, -64],
    [8, 2310, -61],
    [12, 4620, -53],
  ])('near 60 GHz: MCS %i carries %d Mb/s from %d dBm on', (index, mbps, leastDbm) => {
    const sending = { generation: 'ad', widthMhz: 2160, streams: 1 } as const
    const best = fastestAt(leastDbm, 0, sending)
    expect([best?.index, rateAt(leastDbm, 0, sending)]).toEqual([index, expect.closeTo(mbps, 6)])
    expect(fastestAt(leastDbm - 0.1, 0, sending)?.index ?? 0).toBeLessThan(index)
  })
  it('are known for the widths of a generation alone', () => {
    expect([
      knowsWidth('ad', 2160),
      knowsWidth('ad', 80),
      knowsWidth('be', 2160),
      knowsWidth('n', 40),
    ]).toEqual([true, false, false, true])
  })
})

describe('a sector antenna', () => {
  const sector = { widthDeg: 90, gainDbi: 16 }
  it('has a beam that is the flatter the more it gains (ITU-R F.1336, recommends 3.3, from memory)', () => {
    expect(sectorHeightDeg(sector)).toBeCloseTo(31_000 / (10 ** 1.6 * 90), 6)
    expect(sectorHeightDeg({ widthDeg: 90, gainDbi: 0 })).toBe(180)
  })
  it('sends half the power at half its width, and 25 dB less at most (3GPP TR 36.814, from memory)', () => {
    expect(sectorLossDb(sector, 0, 0)).toBe(0)
    expect(sectorLossDb(sector, 45, 0)).toBeCloseTo(3)
    expect(sectorLossDb(sector, -45, 0)).toBeCloseTo(3)
    expect(sectorLossDb(sector, 0, sectorHeightDeg(sector) / 2)).toBeCloseTo(3)
    expect(sectorLossDb(sector, 0, 90)).toBe(20)
    expect(sectorLossDb(sector, 180, 90)).toBe(25)
  })
})
