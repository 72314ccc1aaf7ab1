import { describe, expect, it } from 'vitest'
import { heightAt, profileOf, readHgt, samplesAround, stepsOnWay, tileWithin } from './elevation'

/** A tile of 1201 samples a side whose heights are a function of row and column. */
function tile(heightOf: (row: number, column: number) => number, name = 'N59E010.hgt') {
  const view = new DataView(new ArrayBuffer(1201 * 1201 * 2))
  for (let row = 0; row < 1201; row++)
    for (let column = 0; column < 1201; column++)
      view.setInt16(2 * (row * 1201 + column), heightOf(row, column))
  const read = readHgt(name, view.buffer)
  if (!read.ok) throw new Error('no tile')
  return read.value
}

describe('an elevation tile', () => {
  it('begins north-west and is named by its south-western corner', () => {
    const slope = tile((row, column) => row + column)
    expect(heightAt(slope, { latDeg: 60, lonDeg: 10 })).toBe(0)
    expect(heightAt(slope, { latDeg: 59, lonDeg: 10 })).toBe(1200)
    expect(heightAt(slope, { latDeg: 59, lonDeg: 11 })).toBe(2400)
    const south = tile((row) => row, 'tiles/s01w072.hgt')
    expect(heightAt(south, { latDeg: 0, lonDeg: -72 })).toBe(0)
    expect(heightAt(south, { latDeg: -1, lonDeg: -71 })).toBe(1200)
  })
  it('of a plane is that plane everywhere between its samples', () => {
    const plane = tile((row, column) => 2 * row - column)
    const place = { latDeg: 60 - 100.25 / 1200, lonDeg: 10 + 40.5 / 1200 }
    expect(heightAt(plane, place)).toBeCloseTo(2 * 100.25 - 40.5, 3)
  })
  it('has no height outside, nor beside a sample without one', () => {
    const hole = tile((row, column) => (row === 600 && column === 600 ? -32_768 : 5))
    expect(heightAt(hole, { latDeg: 59.5, lonDeg: 10.5 })).toBeNull()
    expect(heightAt(hole, { latDeg: 59.4, lonDeg: 10.5 })).toBe(5)
    expect(heightAt(hole, { latDeg: 58.999, lonDeg: 10.5 })).toBeNull()
    expect(heightAt(hole, { latDeg: 59.5, lonDeg: 11.001 })).toBeNull()
  })
  it.each([
    ['another size', 'N59E010.hgt', 1200 * 1200 * 2],
    ['another name', 'heights.hgt', 1201 * 1201 * 2],
    ['no place on earth', 'N95E010.hgt', 1201 * 1201 * 2],
  ])('of %s is refused', (_, name, octets) => {
    expect(readHgt(name, new ArrayBuffer(octets))).toMatchObject({
      ok: false,
      problems: [{ code: 'not-a-tile' }],
    })
  })
})

describe('a part of a grid', () => {
  const whole = tile((row, column) => row - column)
  const places = [
    { latDeg: 59.5, lonDeg: 10.25 },
    { latDeg: 59.51, lonDeg: 10.27 },
  ]
  it('has the same heights as the whole', () => {
    const around = samplesAround(whole, places)
    if (!around) throw new Error('no window')
    const { left, top, right, bottom } = around
    const heights = Array.from({ length: bottom - top }, (_, row) =>
      Array.from(
        { length: right - left },
        (__, column) => whole.heightsM[(top + row) * 1201 + left + column] ?? NaN,
      ),
    )
    const part = tileWithin(whole, around, Float32Array.from(heights.flat()))
    expect(part.heightsM.length).toBeLessThan(1000)
    for (const place of places) expect(heightAt(part, place)).toBeCloseTo(heightAt(whole, place) ?? NaN, 6)
  })
  it('is none where the places lie outside, or too much lies between them', () => {
    expect(samplesAround(whole, [{ latDeg: 50, lonDeg: 10 }])).toBeNull()
    const fine = { ...whole, stepLatDeg: 1e-5, stepLonDeg: 1e-5, columns: 100_001, rows: 100_001 }
    expect(samplesAround(fine, [places[0]!, { latDeg: 59.9, lonDeg: 10.9 }])).toBeNull()
  })
  it('is looked at in steps of 30 m, 200 of them at most', () => {
    expect([10, 3400, 50_000].map(stepsOnWay)).toEqual([1, 113, 200])
  })
})

describe('the ground on a way', () => {
  const flat = tile(() => 12)
  const places = [0, 500, 1000].map((atM) => ({ atM, latDeg: 59.5, lonDeg: 10.2 + atM / 100_000 }))
  it('is laid as points of a survey', () => {
    expect(profileOf([flat], places)).toEqual({
      ok: true,
      value: [0, 500, 1000].map((atM) => ({ atM, groundM: 12, obstacleM: 0 })),
    })
  })
  it('is refused where no tile has it, with the distance', () => {
    const beyond = [...places, { atM: 1500, latDeg: 61, lonDeg: 10 }]
    expect(profileOf([flat], beyond)).toMatchObject({
      ok: false,
      problems: [{ code: 'no-height', place: '1500 m' }],
    })
    expect(profileOf([], places)).toMatchObject({ ok: false })
  })
})
