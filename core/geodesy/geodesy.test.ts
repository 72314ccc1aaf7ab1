import type { Building } from '#core/schema'
import { describe, expect, it } from 'vitest'
import { betweenBuildings, compassDeg, declinationDeg, pathBetween, placesBetween } from '.'

const degrees = (whole: number, minutes: number, seconds: number): number =>
  Math.sign(whole) * (Math.abs(whole) + minutes / 60 + seconds / 3600)

describe('the path between two places', () => {
  it('from Flinders Peak to Buninyong is as the Geocentric Datum of Australia’s manual works it out', () => {
    // GDA technical manual, worked example of Vincenty's formulae: 54,972.271 m, 306 52 05.37, back 127 10 25.07
    // (GRS 80, which differs from WGS 84 by less than a tenth of a millimetre).
    const flinders = { latDeg: degrees(-37, 57, 3.7203), lonDeg: degrees(144, 25, 29.5244) }
    const buninyong = { latDeg: degrees(-37, 39, 10.1561), lonDeg: degrees(143, 55, 35.3839) }
    const { lengthM, bearingsDeg } = pathBetween(flinders, buninyong)
    expect(lengthM).toBeCloseTo(54_972.271, 3)
    expect(bearingsDeg[0]).toBeCloseTo(degrees(306, 52, 5.37), 5)
    expect(bearingsDeg[1]).toBeCloseTo(degrees(127, 10, 25.07), 5)
  })
  it('along the equator is the earth’s radius times the angle (WGS 84: 6,378,137 m), eastwards and back', () => {
    const { lengthM, bearingsDeg } = pathBetween({ latDeg: 0, lonDeg: 179.5 }, { latDeg: 0, lonDeg: -179.5 })
    expect(lengthM).toBeCloseTo((6_378_137 * Math.PI) / 180, 3)
    expect(bearingsDeg).toEqual([90, 270])
  })
  it('of one place has no length', () => {
    expect(pathBetween({ latDeg: 10, lonDeg: 20 }, { latDeg: 10, lonDeg: 20 }).lengthM).toBe(0)
  })
})

describe('places between two others', () => {
  it('begin and end at both, and part the way in steps of one length', () => {
    const [first, second] = [
      { latDeg: 59.9, lonDeg: 10.7 },
      { latDeg: 59.95, lonDeg: 10.9 },
    ]
    const { lengthM } = pathBetween(first, second)
    const places = placesBetween(first, second, 4)
    expect(places.map(({ atM }) => atM / lengthM)).toEqual(
      [0, 0.25, 0.5, 0.75, 1].map((one) => expect.closeTo(one)),
    )
    expect(places[0]).toMatchObject({ latDeg: expect.closeTo(59.9, 9), lonDeg: expect.closeTo(10.7, 9) })
    expect(places[4]).toMatchObject({ latDeg: expect.closeTo(59.95, 9), lonDeg: expect.closeTo(10.9, 9) })
    for (const place of places) expect(pathBetween(first, place).lengthM).toBeCloseTo(place.atM, 3)
  })
})

describe('from one building to another', () => {
  const at = (rest: Partial<Building>): Building => ({
    id: 'b' as Building['id'],
    name: 'B',
    position: null,
    grid: null,
    groundM: null,
    ...rest,
  })
  const onGrid = (eastM: number, northM: number) => at({ grid: { eastM, northM } })
  it.each([
    [300, 400, 500, 36.87, 216.87],
    [0, -10, 10, 180, 0],
    [-10, 0, 10, 270, 90],
  ])('%d m to the east and %d to the north are %d m', (eastM, northM, lengthM, there, back) => {
    const found = betweenBuildings(onGrid(50, 50), onGrid(50 + eastM, 50 + northM))
    expect(found?.lengthM).toBeCloseTo(lengthM, 9)
    expect(found?.bearingsDeg.map((one) => Math.round(one * 100) / 100)).toEqual([there, back])
  })
  it('is by positions where both have one, and by nothing where neither is known of both', () => {
    const [first, second] = [
      { latDeg: 59.9, lonDeg: 10.7 },
      { latDeg: 59.95, lonDeg: 10.9 },
    ]
    const placed = { ...onGrid(0, 0), position: first }
    expect(betweenBuildings(placed, { ...onGrid(9, 9), position: second })).toEqual(
      pathBetween(first, second),
    )
    expect(betweenBuildings(placed, onGrid(9, 0))?.lengthM).toBe(9)
    expect(betweenBuildings(placed, at({ position: null }))).toBeNull()
    expect(betweenBuildings(null, placed)).toBeNull()
  })
})

describe('a compass', () => {
  it.each([
    // Test values published with WMM2025, for 2025.0 and 0 km; from memory, and borne out by the library.
    [80, 0, 1.28],
    [0, 120, -0.16],
    [-80, 240, 68.78],
  ])('at %i, %i points %d degrees east of north', (latDeg, lonDeg, expected) => {
    expect(declinationDeg({ latDeg, lonDeg }, Date.UTC(2025, 0, 1))).toBeCloseTo(expected, 2)
  })
  it('shows less where its needle points east, and nothing is said beyond the model’s years', () => {
    expect(compassDeg(10, 15)).toBe(355)
    expect(compassDeg(350, -15)).toBe(5)
    expect(declinationDeg({ latDeg: 50, lonDeg: 0 }, Date.UTC(2031, 0, 1))).toBeNull()
  })
})
