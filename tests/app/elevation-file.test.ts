import { describe, expect, it } from 'vitest'
import { writeArrayBuffer } from 'geotiff'
import { readTile } from '~/features/bridges/elevation-file'

const PLACES = [
  { latDeg: 57.3, lonDeg: -2.7 },
  { latDeg: 57.5, lonDeg: -2.5 },
]
const NOTHING = -9999

/** A GeoTIFF of 10 by 10 samples of a tenth of a degree whose north-western corner is 58 N, 3 W. */
async function geoTiff(heightOf: (row: number, column: number) => number, code = 4326): Promise<File> {
  const values = Float32Array.from({ length: 100 }, (_, i) => heightOf(Math.floor(i / 10), i % 10))
  const octets = await writeArrayBuffer(values, {
    width: 10,
    height: 10,
    ModelPixelScale: [0.1, 0.1, 0],
    ModelTiepoint: [0, 0, 0, -3, 58, 0],
    GeographicTypeGeoKey: code,
    GTModelTypeGeoKey: 2,
    GTRasterTypeGeoKey: 1,
    GDAL_NODATA: `${NOTHING}`,
  })
  return new File([octets], 'ground.tif')
}

describe('an elevation tile as GeoTIFF', () => {
  it('is read where the way is, each sample at the middle of its square', async () => {
    const read = await readTile(await geoTiff((row, column) => 100 * row + column), PLACES)
    if (!read.ok) throw new Error('no tile')
    const { northDeg, westDeg, columns, heightsM, stepLatDeg } = read.value
    // 57.5 N is the edge between the fifth and the sixth row: the fifth has its middle at 57.55 N.
    expect([northDeg, westDeg, stepLatDeg]).toEqual([57.55, -2.75, 0.1].map((one) => expect.closeTo(one)))
    expect(heightsM[0]).toBe(402)
    expect(heightsM[columns + 1]).toBe(503)
  })
  it('has no height where the file says nothing', async () => {
    const read = await readTile(await geoTiff((row) => (row === 4 ? NOTHING : 7)), PLACES)
    expect(read.ok && [...read.value.heightsM.slice(0, 2)]).toEqual([NaN, NaN])
  })
  it.each([
    ['in another system', async () => geoTiff(() => 1, 4258)],
    ['that is none', async () => new File(['no picture'], 'ground.tif')],
    ['without the way', async () => geoTiff(() => 1)],
  ])('%s is refused', async (what, file) => {
    const places = what === 'without the way' ? [{ latDeg: 10, lonDeg: 10 }] : PLACES
    expect(await readTile(await file(), places)).toMatchObject({
      ok: false,
      problems: [{ code: 'not-a-tile' }],
    })
  })
  it('that is too large is refused before it is read', async () => {
    const file = {
      name: 'ground.tif',
      size: 200_000_000,
      arrayBuffer: () => Promise.reject(new Error('read')),
    }
    expect(await readTile(file as unknown as File, PLACES)).toMatchObject({
      ok: false,
      problems: [{ code: 'tile-too-large', values: { most: 100 } }],
    })
  })
})
