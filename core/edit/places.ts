// Question: what does the plan say once places of a map are known?
// Method: a building of the same name gets the position; a place of another name becomes a building.
import type { Building, BuildingId, Plan, Position } from '#core/schema'
import { freshId } from './propose'

interface NamedPlace {
  readonly name: string
  readonly position: Position
}

/** The plan with the positions of some places. */
export function withPlaces(plan: Plan, places: readonly NamedPlace[]): Plan {
  const known = new Map(places.map((place) => [place.name, place.position]))
  const buildings: Building[] = plan.brief.buildings.map((building) => ({
    ...building,
    position: known.get(building.name) ?? building.position,
  }))
  const names = new Set(buildings.map(({ name }) => name))
  for (const { name, position } of places.filter((place) => !names.has(place.name)))
    buildings.push({ id: freshId(buildings, 'building') as BuildingId, name, position })
  return { ...plan, brief: { ...plan.brief, buildings } }
}
