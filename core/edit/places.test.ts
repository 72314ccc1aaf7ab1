import { describe, expect, it } from 'vitest'
import { readGeoJson } from '#core/ingest'
import { siteGeoJson } from '#core/export'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { blankPlan, withPlaces } from '.'

const at = (latDeg: number, lonDeg: number) => ({ latDeg, lonDeg })

describe('places of a map', () => {
  it('are buildings, and a building of that name gets the position', () => {
    const once = withPlaces(blankPlan('New', '10.0.0.0/16'), [{ name: 'Quay', position: at(57, -2) }])
    const twice = withPlaces(once, [
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
