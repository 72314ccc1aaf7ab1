// A place on the earth, as it is typed or pasted from a map.
import { ok, problem, refuse, type Result } from '#core/util'
import type { Position } from '#core/schema'

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
