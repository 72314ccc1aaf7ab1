// Elevation tiles that the planner has, as files: SRTM's HGT, and GeoTIFF in WGS 84.
import type { ElevationTile } from '#core/ingest'
import { readHgt } from '#core/ingest'
import type { Position } from '#core/schema'
import { ok, problem, refuse, type Result } from '#core/util'

const MB = 1_000_000
const MOST_MB = 100
const WGS84 = 4326
/** Samples around the way beyond which a GeoTIFF is not read. */
const MOST_SAMPLES = 16_000_000

type Window = readonly [left: number, top: number, right: number, bottom: number]

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
  const [northDeg, westDeg] = [north - stepLatDeg / 2, west + stepLonDeg / 2]
  const columns = places.map(({ lonDeg }) => (lonDeg - westDeg) / stepLonDeg)
  const rows = places.map(({ latDeg }) => (northDeg - latDeg) / stepLatDeg)
  const window: Window = [
    Math.max(0, Math.floor(Math.min(...columns))),
    Math.max(0, Math.floor(Math.min(...rows))),
    Math.min(image.getWidth(), Math.ceil(Math.max(...columns)) + 2),
    Math.min(image.getHeight(), Math.ceil(Math.max(...rows)) + 2),
  ]
  const [width, height] = [window[2] - window[0], window[3] - window[1]]
  if (width < 2 || height < 2 || width * height > MOST_SAMPLES) return null
  const [band] = await image.readRasters({ window: [...window], samples: [0] })
  if (typeof band !== 'object') return null
  const nothing = image.getGDALNoData()
  return {
    northDeg: northDeg - window[1] * stepLatDeg,
    westDeg: westDeg + window[0] * stepLonDeg,
    stepLatDeg,
    stepLonDeg,
    columns: width,
    rows: height,
    heightsM: Float32Array.from(band, (value) => (value === nothing ? NaN : value)),
  }
}

/** One file as a tile. Problems: tile-too-large, before it is read; not-a-tile. */
export async function readTile(file: File, places: readonly Position[]): Promise<Result<ElevationTile>> {
  const text = file.name.slice(-40)
  if (file.size > MOST_MB * MB) return refuse(problem('tile-too-large', '', { text, most: MOST_MB }))
  if (/\.hgt$/i.test(file.name)) return readHgt(file.name, await file.arrayBuffer())
  const tile = await readGeoTiff(file, places).catch(() => null)
  return tile ? ok(tile) : refuse(problem('not-a-tile', '', { text }))
}
