// Question: which places does a map's file name?
// Method: every point with a name; lines and areas, which say nothing of one place, are passed over.
// Source: GeoJSON, RFC 7946: coordinates are longitude and latitude on WGS 84, in degrees. That a name stands in the
// property `name` is common practice, without a source.
import type { NamedPlace } from '#core/edit'
import { MOST_BUILDINGS, printableLine } from '#core/format'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'

/** As long as the name of a building. */
const MOST_NAME = 80

type Fields = Readonly<Record<string, unknown>>
const isFields = (value: unknown): value is Fields => typeof value === 'object' && value !== null
const fieldsOf = (value: unknown): Fields => (isFields(value) ? value : {})

const featuresOf = (value: unknown): readonly unknown[] | null => {
  const { type, features } = fieldsOf(value)
  if (type === 'Feature') return [value]
  return type === 'FeatureCollection' && Array.isArray(features) ? features : null
}

const isPoint = (feature: unknown): boolean => fieldsOf(fieldsOf(feature)['geometry'])['type'] === 'Point'
const isWithin = (value: unknown, most: number): value is number =>
  typeof value === 'number' && Math.abs(value) <= most

function readPoint(feature: unknown, place: string): Result<NamedPlace> {
  const { coordinates } = fieldsOf(fieldsOf(feature)['geometry'])
  const { name } = fieldsOf(fieldsOf(feature)['properties'])
  const [lonDeg, latDeg] = Array.isArray(coordinates) ? (coordinates as readonly unknown[]) : []
  const text = typeof name === 'string' ? printableLine(name).trim() : ''
  if (text === '' || text.length > MOST_NAME)
    return refuse(problem('no-place-name', place, { most: MOST_NAME }))
  if (!isWithin(lonDeg, 180) || !isWithin(latDeg, 90)) return refuse(problem('not-coordinates', place))
  return ok({ name: text, position: { latDeg, lonDeg } })
}

/**
 * The named points of a GeoJSON object, in its order.
 * All problems are told, by the number of the feature, and nothing is used while there is one.
 * Problems: not-geojson, too-many-places, no-place-name, not-coordinates, name-twice.
 */
export function readGeoJson(value: unknown): Result<readonly NamedPlace[]> {
  const features = featuresOf(value)
  const points = (features ?? []).flatMap((feature, i) =>
    isPoint(feature) ? [{ feature, number: i + 1 }] : [],
  )
  if (points.length === 0) return refuse(problem('not-geojson', ''))
  if (points.length > MOST_BUILDINGS) return refuse(problem('too-many-places', '', { most: MOST_BUILDINGS }))
  const problems: Problem[] = []
  const places = new Map<string, NamedPlace>()
  for (const { feature, number } of points) {
    const place = `feature ${number}`
    const read = readPoint(feature, place)
    if (!read.ok) problems.push(...read.problems)
    else if (places.has(read.value.name))
      problems.push(problem('name-twice', place, { text: read.value.name }))
    else places.set(read.value.name, read.value)
  }
  return problems.length > 0 ? refuse(...problems) : ok([...places.values()])
}
