// Question: how high is the ground on the way of a radio link, as an elevation tile has it?
// Method: heights on a grid of latitudes and longitudes, between four samples by their distances.
// Source: NASA, The SRTM Collection User Guide (HGT: 16 bits, most significant octet first, rows from the north, named
// by the south-western corner, -32768 for no height); WGS 84 positions.
import type { Position } from '#core/schema'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import type { ProfileRow } from './profile-list'

/** Heights above the sea; the first sample lies north-west, rows run southwards. */
export interface ElevationTile {
  readonly northDeg: number
  readonly westDeg: number
  /** From one sample to the next, above 0. */
  readonly stepLatDeg: number
  readonly stepLonDeg: number
  readonly columns: number
  readonly rows: number
  /** Row by row, m; NaN where there is none. */
  readonly heightsM: Float32Array
}

const SIDES = [1201, 3601]
const NO_HEIGHT = -32_768
const NAME = /(?:^|[\\/])([ns])(\d{2})([ew])(\d{3})\.hgt$/i

/** Problems: not-a-tile. */
export function readHgt(name: string, octets: ArrayBuffer): Result<ElevationTile> {
  const [, northOrSouth, lat, eastOrWest, lon] = NAME.exec(name) ?? []
  const side = SIDES.find((one) => one * one * 2 === octets.byteLength)
  const [southDeg, westDeg] = [
    Number(lat) * (northOrSouth?.toLowerCase() === 's' ? -1 : 1),
    Number(lon) * (eastOrWest?.toLowerCase() === 'w' ? -1 : 1),
  ]
  const isPlace = southDeg >= -90 && southDeg < 90 && westDeg >= -180 && westDeg < 180
  if (side === undefined || !isPlace) return refuse(problem('not-a-tile', '', { text: name.slice(-40) }))
  const view = new DataView(octets)
  const heightsM = Float32Array.from({ length: side * side }, (_, i) => {
    const height = view.getInt16(2 * i)
    return height === NO_HEIGHT ? NaN : height
  })
  const step = 1 / (side - 1)
  return ok({
    northDeg: southDeg + 1,
    westDeg,
    stepLatDeg: step,
    stepLonDeg: step,
    columns: side,
    rows: side,
    heightsM,
  })
}

/** Between the four samples around a place, m; null outside, or where one of them has no height. */
export function heightAt(tile: ElevationTile, { latDeg, lonDeg }: Position): number | null {
  const row = (tile.northDeg - latDeg) / tile.stepLatDeg
  const column = (lonDeg - tile.westDeg) / tile.stepLonDeg
  if (row < 0 || column < 0 || row > tile.rows - 1 || column > tile.columns - 1) return null
  const [top, left] = [
    Math.min(Math.floor(row), tile.rows - 2),
    Math.min(Math.floor(column), tile.columns - 2),
  ]
  const at = (down: number, right: number): number =>
    tile.heightsM[(top + down) * tile.columns + left + right] ?? NaN
  const [south, east] = [row - top, column - left]
  const north = at(0, 0) * (1 - east) + at(0, 1) * east
  const below = at(1, 0) * (1 - east) + at(1, 1) * east
  const height = north * (1 - south) + below * south
  return Number.isNaN(height) ? null : height
}

/** The samples of a grid that lie around some places, and one more on each side; the last of each is not included. */
export interface SampleWindow {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}
/** Samples beyond which a tile is not read. */
const MOST_SAMPLES = 16_000_000
/** Null where the places lie outside, or too much lies between them. */
export function samplesAround(
  grid: Omit<ElevationTile, 'heightsM'>,
  places: readonly Position[],
): SampleWindow | null {
  const columns = places.map(({ lonDeg }) => (lonDeg - grid.westDeg) / grid.stepLonDeg)
  const rows = places.map(({ latDeg }) => (grid.northDeg - latDeg) / grid.stepLatDeg)
  const left = Math.max(0, Math.floor(Math.min(...columns)))
  const top = Math.max(0, Math.floor(Math.min(...rows)))
  const right = Math.min(grid.columns, Math.ceil(Math.max(...columns)) + 2)
  const bottom = Math.min(grid.rows, Math.ceil(Math.max(...rows)) + 2)
  const [width, height] = [right - left, bottom - top]
  return width < 2 || height < 2 || width * height > MOST_SAMPLES ? null : { left, top, right, bottom }
}
/** The part of a grid that a window shows; `heightsM` of that part, row by row. */
export const tileWithin = (
  grid: Omit<ElevationTile, 'heightsM'>,
  { left, top, right, bottom }: SampleWindow,
  heightsM: Float32Array,
): ElevationTile => ({
  ...grid,
  northDeg: grid.northDeg - top * grid.stepLatDeg,
  westDeg: grid.westDeg + left * grid.stepLonDeg,
  columns: right - left,
  rows: bottom - top,
  heightsM,
})

/** Heights between samples some 30 m apart say nothing finer. */
const STEP_M = 30
const MOST_STEPS = 200
/** How many steps a way is looked at in. */
export const stepsOnWay = (lengthM: number): number =>
  Math.max(1, Math.min(MOST_STEPS, Math.round(lengthM / STEP_M)))

export interface PlaceOnWay extends Position {
  readonly atM: number
}

/** The ground under each place, by the first tile that has it. Problems: no-height, with the distance. */
export function profileOf(
  tiles: readonly ElevationTile[],
  places: readonly PlaceOnWay[],
): Result<readonly ProfileRow[]> {
  const problems: Problem[] = []
  const rows = places.flatMap((place): ProfileRow[] => {
    const height = tiles.map((tile) => heightAt(tile, place)).find((one) => one !== null)
    if (height === undefined || height === null) {
      problems.push(problem('no-height', `${Math.round(place.atM)} m`))
      return []
    }
    return [{ atM: Math.round(place.atM), groundM: Math.round(height * 10) / 10, obstacleM: 0 }]
  })
  return problems.length > 0 ? refuse(...problems) : ok(rows)
}
