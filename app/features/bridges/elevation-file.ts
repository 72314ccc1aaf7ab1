// Elevation tiles that the planner has, as files: SRTM's HGT, and GeoTIFF in WGS 84.
import { readHgt, samplesAround, tileWithin, type ElevationTile } from '#core/ingest'
import type { Position } from '#core/schema'
import { ok, problem, refuse, type Result } from '#core/util'

const MB = 1_000_000
const MOST_MB = 100
const WGS84 = 4326

/** The part of a GeoTIFF that a way needs, and a sample more on each side. */
async function readGeoTiff(file: File, places: readonly Position[]): Promise<ElevationTile | null> {
  const { fromArrayBuffer } = await import('geotiff')
  const image = await (await fromArrayBuffer(await file.arrayBuffer())).getImage()
  const keys = image.getGeoKeys()
  const isProjected = keys?.['ProjectedCSTypeGeoKey'] !== undefined
  if (isProjected || (keys?.['GeographicTypeGeoKey'] ?? WGS84) !== WGS84) return null
  const [west, , , north] = image.getBoundingBox() as [number, number, number, number]
  const [stepLonDeg, stepLat] = image.getResolution() as [number, number]
  const stepLatDeg = Math.abs(stepLat)
  // A sample stands for its square, so that its height is that of the middle.
  const grid = {
    northDeg: north - stepLatDeg / 2,
    westDeg: west + stepLonDeg / 2,
    stepLatDeg,
    stepLonDeg,
    columns: image.getWidth(),
    rows: image.getHeight(),
  }
  const around = samplesAround(grid, places)
  if (!around) return null
  const { left, top, right, bottom } = around
  const [band] = await image.readRasters({ window: [left, top, right, bottom], samples: [0] })
  if (typeof band !== 'object') return null
  const nothing = image.getGDALNoData()
  const heightsM = Float32Array.from(band, (value) => (value === nothing ? NaN : value))
  return tileWithin(grid, around, heightsM)
}

/** One file as a tile. Problems: tile-too-large, before it is read; not-a-tile. */
export async function readTile(file: File, places: readonly Position[]): Promise<Result<ElevationTile>> {
  const text = file.name.slice(-40)
  if (file.size > MOST_MB * MB) return refuse(problem('tile-too-large', '', { text, most: MOST_MB }))
  if (/\.hgt$/i.test(file.name)) return readHgt(file.name, await file.arrayBuffer())
  const tile = await readGeoTiff(file, places).catch(() => null)
  return tile ? ok(tile) : refuse(problem('not-a-tile', '', { text }))
}
