// Question: what does the plan say once places of a map are known?
// Method: a building of the same name gets the position; a place of another name becomes a building.
import { MOST_BUILDINGS } from '#core/format'
import type { Building, BuildingId, Plan, Position } from '#core/schema'
import { ok, problem, refuse, type Result } from '#core/util'
import { BLANK_PLACE } from './blanks'
import { freshId } from './propose'

export interface NamedPlace {
  readonly name: string
  readonly position: Position
}

/** The plan with the positions of some places. Problem: too-many-places, where a plan has no room for them. */
export function withPlaces(plan: Plan, places: readonly NamedPlace[]): Result<Plan> {
  const known = new Map(places.map((place) => [place.name, place.position]))
  const buildings: Building[] = plan.brief.buildings.map((building) => ({
    ...building,
    position: known.get(building.name) ?? building.position,
  }))
  const names = new Set(buildings.map(({ name }) => name))
  for (const { name, position } of places.filter((place) => !names.has(place.name)))
    buildings.push({ id: freshId(buildings, 'building') as BuildingId, name, ...BLANK_PLACE, position })
  return buildings.length > MOST_BUILDINGS
    ? refuse(problem('too-many-places', '', { most: MOST_BUILDINGS }))
    : ok({ ...plan, brief: { ...plan.brief, buildings } })
}
