// A place on the earth, as it is typed or pasted from a map.
import { ok, problem, refuse, type Result } from '#core/util'
import type { Building, Position } from '#core/schema'

const DEGREES = String.raw`([-−+]?\d{1,3}(?:\.\d{1,8})?)\s*°?`
const POSITION = new RegExp(String.raw`^${DEGREES}\s*([NS]?)(?:\s*[,;]\s*|\s+)${DEGREES}\s*([EW]?)$`, 'i')

const signed = (text: string, letter: string): number =>
  Number(text.replace('−', '-')) * (/[SW]/i.test(letter) ? -1 : 1)

/** `57.1234, -2.5` or `57.1234 N, 2.5 W`: latitude, then longitude; nothing or a dash for not known. */
export function positionTyped(text: string): Result<Position | null> {
  if (text === '' || text === '—') return ok(null)
  const [, lat = '', northing = '', lon = '', easting = ''] = POSITION.exec(text.trim()) ?? []
  const [latDeg, lonDeg] = [signed(lat, northing), signed(lon, easting)]
  const isWritten = lat !== '' && lon !== ''
  return isWritten && Math.abs(latDeg) <= 90 && Math.abs(lonDeg) <= 180
    ? ok({ latDeg, lonDeg })
    : refuse(problem('not-a-position', '', { text }))
}

export const positionText = (position: Position | null): string =>
  position === null ? '—' : `${position.latDeg}, ${position.lonDeg}`.replaceAll('-', '−')

const METRES = String.raw`([-−+]?\d{1,6}(?:\.\d{1,2})?)`
const ON_GRID = new RegExp(String.raw`^${METRES}(?:\s*[,;]\s*|\s+)${METRES}$`)
const MOST_ON_GRID_M = 200_000

/** `120, -40`: metres to the east and to the north of any one point of the site; nothing or a dash for not known. */
export function gridTyped(text: string): Result<Building['grid']> {
  if (text === '' || text === '—') return ok(null)
  const [, east, north] = ON_GRID.exec(text.trim()) ?? []
  const [eastM, northM] = [east, north].map((part) => Number(part?.replace('−', '-'))) as [number, number]
  return Math.abs(eastM) <= MOST_ON_GRID_M && Math.abs(northM) <= MOST_ON_GRID_M
    ? ok({ eastM, northM })
    : refuse(problem('not-on-grid', '', { text }))
}

export const gridText = (grid: Building['grid']): string =>
  grid === null ? '—' : `${grid.eastM}, ${grid.northM}`.replaceAll('-', '−')
