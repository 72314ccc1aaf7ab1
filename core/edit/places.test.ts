import { describe, expect, it } from 'vitest'
import { readGeoJson } from '#core/ingest'
import { siteGeoJson } from '#core/export'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { MOST_BUILDINGS } from '#core/format'
import type { Plan } from '#core/schema'
import { blankPlan, withPlaces, type NamedPlace } from '.'

function laid(plan: Plan, places: readonly NamedPlace[]): Plan {
  const result = withPlaces(plan, places)
  if (!result.ok) throw new Error('refused')
  return result.value
}
const at = (latDeg: number, lonDeg: number) => ({ latDeg, lonDeg })

describe('places of a map', () => {
  it('are buildings, and a building of that name gets the position', () => {
    const once = laid(blankPlan('New', '10.0.0.0/16'), [{ name: 'Quay', position: at(57, -2) }])
    const twice = laid(once, [
      { name: 'Quay', position: at(57.5, -2.5) },
      { name: 'Mill', position: at(58, 3) },
    ])
    expect(twice.brief.buildings.map(({ name, position }) => [name, position])).toEqual([
      ['Quay', at(57.5, -2.5)],
      ['Mill', at(58, 3)],
    ])
    expect(twice.brief.buildings[0]?.id).toBe(once.brief.buildings[0]?.id)
    expect(new Set(twice.brief.buildings.map(({ id }) => id)).size).toBe(2)
  })
  it('are refused where a plan has no room for them all', () => {
    const many = (from: number, length: number) =>
      Array.from({ length }, (_, i) => ({ name: `Hut ${from + i}`, position: at(57, 0) }))
    const full = laid(blankPlan('New', '10.0.0.0/16'), many(0, MOST_BUILDINGS))
    expect(full.brief.buildings).toHaveLength(MOST_BUILDINGS)
    expect(withPlaces(full, many(0, 5)).ok).toBe(true)
    expect(withPlaces(full, many(MOST_BUILDINGS, 1))).toMatchObject({
      ok: false,
      problems: [{ code: 'too-many-places', values: { most: MOST_BUILDINGS } }],
    })
  })
  it('that were written are read back, with the radio link between two of them as a line', () => {
    const plan = gullhavenPlan()
    const written: unknown = JSON.parse(siteGeoJson(plan))
    const read = readGeoJson(written)
    const placed = plan.brief.buildings.filter(({ position }) => position !== null)
    expect(placed.length).toBeGreaterThan(1)
    expect(read.ok && read.value).toEqual(placed.map(({ name, position }) => ({ name, position })))
    const { features } = written as { features: { geometry: { type: string; coordinates: number[][] } }[] }
    const lines = features.filter(({ geometry }) => geometry.type === 'LineString')
    expect(lines.length).toBeGreaterThan(0)
    for (const { geometry } of lines)
      for (const [lonDeg, latDeg] of geometry.coordinates)
        expect(placed.map(({ position }) => position)).toContainEqual(at(latDeg ?? 0, lonDeg ?? 0))
  })
})
