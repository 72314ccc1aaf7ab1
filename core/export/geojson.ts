// Question: where does the site lie, for a map?
// Method: its buildings as points, and the radio links between those whose places are known as lines.
// Source: GeoJSON, RFC 7946: longitude before latitude, on WGS 84.
import { endBuildings } from '#core/brief'
import { indexPlan } from '#core/queries'
import { radioLinks } from '#core/radio'
import type { Plan, Position } from '#core/schema'

const coordinates = ({ lonDeg, latDeg }: Position): readonly number[] => [lonDeg, latDeg]

/** The site as a GeoJSON text; what has no position is not in it. */
export function siteGeoJson(plan: Plan): string {
  const points = plan.brief.buildings.flatMap(({ name, position }) =>
    position
      ? [
          {
            type: 'Feature',
            geometry: { type: 'Point', coordinates: coordinates(position) },
            properties: { name, kind: 'building' },
          },
        ]
      : [],
  )
  const lines = radioLinks(indexPlan(plan)).flatMap(({ link, names, lengthM }) => {
    const [first, second] = endBuildings(plan, link).map((building) => building?.position ?? null)
    if (!first || !second) return []
    const geometry = { type: 'LineString', coordinates: [coordinates(first), coordinates(second)] }
    return [
      { type: 'Feature', geometry, properties: { name: names.join(' to '), kind: 'radio link', lengthM } },
    ]
  })
  return `${JSON.stringify({ type: 'FeatureCollection', features: [...points, ...lines] }, null, 2)}\n`
}
