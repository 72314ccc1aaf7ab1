import { describe, expect, it } from 'vitest'
import { MOST_BUILDINGS } from '#core/format'
import { readGeoJson } from '.'

const point = (name: unknown, coordinates: unknown) => ({
  type: 'Feature',
  geometry: { type: 'Point', coordinates },
  properties: { name },
})
const collection = (...features: unknown[]) => ({ type: 'FeatureCollection', features })
const problemsOf = (value: unknown) => {
  const read = readGeoJson(value)
  return read.ok ? [] : read.problems.map(({ code, place }) => [code, place])
}

describe('a map’s file', () => {
  it('has longitude before latitude, as in RFC 7946, section 3.1.1 and its example of section 1.5', () => {
    const example = {
      type: 'FeatureCollection',
      features: [
        {
          type: 'Feature',
          geometry: { type: 'Point', coordinates: [102.0, 0.5] },
          properties: { prop0: 'value0', name: 'Quay' },
        },
        {
          type: 'Feature',
          geometry: {
            type: 'LineString',
            coordinates: [
              [102.0, 0.0],
              [103.0, 1.0],
            ],
          },
          properties: { prop0: 'value0', prop1: 0.0 },
        },
      ],
    }
    expect(readGeoJson(example)).toEqual({
      ok: true,
      value: [{ name: 'Quay', position: { latDeg: 0.5, lonDeg: 102 } }],
    })
  })
  it('may be a single feature, may have a height, and its names are one printable line', () => {
    expect(readGeoJson(point(' Ice\nhouse ', [-180, 90, 12]))).toEqual({
      ok: true,
      value: [{ name: 'Ice house', position: { latDeg: 90, lonDeg: -180 } }],
    })
  })
  it('without a named point is none', () => {
    for (const value of [
      null,
      7,
      [],
      {},
      { type: 'Point', coordinates: [1, 2] },
      collection(),
      { type: 'FeatureCollection' },
    ])
      expect(problemsOf(value)).toEqual([['not-geojson', '']])
  })
  it('tells every feature that cannot be read, and uses nothing then', () => {
    const wrong = collection(
      point('A', [1, 2]),
      point('', [1, 2]),
      point('x'.repeat(81), [1, 2]),
      point('B', [1, 90.1]),
      point('C', [180.1, 1]),
      point('D', ['1', 2]),
      point('A', [3, 4]),
      point('E', null),
    )
    expect(problemsOf(wrong)).toEqual([
      ['no-place-name', 'feature 2'],
      ['no-place-name', 'feature 3'],
      ['not-coordinates', 'feature 4'],
      ['not-coordinates', 'feature 5'],
      ['not-coordinates', 'feature 6'],
      ['name-twice', 'feature 7'],
      ['not-coordinates', 'feature 8'],
    ])
  })
  it('of more places than a plan has buildings is refused', () => {
    const many = (count: number) =>
      collection(...Array.from({ length: count }, (_, i) => point(`P${i}`, [i % 180, 1])))
    expect(readGeoJson(many(MOST_BUILDINGS)).ok).toBe(true)
    expect(problemsOf(many(MOST_BUILDINGS + 1))).toEqual([['too-many-places', '']])
  })
})
