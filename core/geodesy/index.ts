// Question: how far are two places from each other, in which direction, and what does a compass show there?
// Method: the geodesic on the WGS 84 ellipsoid; the World Magnetic Model of the day that is asked for. Apart from
// `radio`, so that a browser loads the model's coefficients only where somebody aims.
// Source: Karney, Algorithms for geodesics, J. Geodesy 87 (2013); the World Magnetic Model 2025 (NOAA and BGS).
import geodesic from 'geographiclib-geodesic'
import geomagnetism from 'geomagnetism'
import type { Building, Position } from '#core/schema'

export interface PathOnEarth {
  readonly lengthM: number
  /** From north over east, 0 to 360 degrees: at the first place, and at the second looking back. */
  readonly bearingsDeg: readonly [number, number]
}

const around = (degrees: number): number => ((degrees % 360) + 360) % 360

export function pathBetween(first: Position, second: Position): PathOnEarth {
  const found = geodesic.Geodesic.WGS84.Inverse(first.latDeg, first.lonDeg, second.latDeg, second.lonDeg)
  return {
    lengthM: found.s12 ?? 0,
    bearingsDeg: [around(found.azi1 ?? 0), around((found.azi2 ?? 0) + 180)],
  }
}

/**
 * From one building to another: on the earth where both have a position, else on the site's grid, whose north is taken
 * for true. Null where neither is known of both.
 */
export function betweenBuildings(first: Building | null, second: Building | null): PathOnEarth | null {
  if (first?.position && second?.position) return pathBetween(first.position, second.position)
  if (!first?.grid || !second?.grid) return null
  const [eastM, northM] = [second.grid.eastM - first.grid.eastM, second.grid.northM - first.grid.northM]
  const bearing = around((Math.atan2(eastM, northM) * 180) / Math.PI)
  return { lengthM: Math.hypot(eastM, northM), bearingsDeg: [bearing, around(bearing + 180)] }
}

/** Places on the geodesic from the first to the second, both ends among them, so many steps apart, 1 or more. */
export function placesBetween(
  first: Position,
  second: Position,
  steps: number,
): (Position & { readonly atM: number })[] {
  const line = geodesic.Geodesic.WGS84.InverseLine(first.latDeg, first.lonDeg, second.latDeg, second.lonDeg)
  return Array.from({ length: steps + 1 }, (_, i) => {
    const atM = (line.s13 * i) / steps
    const { lat2 = 0, lon2 = 0 } = line.Position(atM)
    return { atM, latDeg: lat2, lonDeg: lon2 }
  })
}

/**
 * How far a compass needle points east of north, degrees, on the ground; null where no model covers the day.
 * @param atMs the day, in ms since 1970
 */
export function declinationDeg({ latDeg, lonDeg }: Position, atMs: number): number | null {
  const day = new Date(atMs)
  const model = geomagnetism.model(day, { allowOutOfBoundsModel: true })
  if (day < model.start_date || day > model.end_date) return null
  return model.point([latDeg, lonDeg, 0]).decl
}

/** What a compass shows for a bearing, 0 to 360 degrees. */
export const compassDeg = (bearingDeg: number, declination: number): number =>
  around(bearingDeg - declination)
