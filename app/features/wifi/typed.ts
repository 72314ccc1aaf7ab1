// What is typed into the tables of the Wi-Fi sheet.
import { minuteOf } from '#core/format'
import { ok, problem, refuse, type Result } from '#core/util'
import type { Band, Beam, Outline, SsidSettings, WallKind } from '#core/schema'
import { WALL_WORDS } from './words'

const NUMBER = String.raw`(\d{1,3}(?:\.\d{1,2})?)`
const SIZE = new RegExp(String.raw`^${NUMBER}\s*(?:x|×|by|\*)\s*${NUMBER}$`, 'i')
const PAIR = new RegExp(String.raw`^${NUMBER}\s*[,;]\s*${NUMBER}$`)

/** A usual step of somebody who paces a room, m (common practice, without a source). */
const STEP_M = 0.75
/** `12 x 7`: width and depth in m, 0.5 to 500, or `16 by 9 steps`; nothing or a dash for not drawn. */
export function sizeTyped(text: string): Result<{ widthM: number; depthM: number } | null> {
  if (text === '' || text === '—') return ok(null)
  const [, metres, isPaced] = /^(.*?)(\s*steps)?$/.exec(text.trim()) ?? []
  const [, width, depth] = SIZE.exec(metres ?? '') ?? []
  const unitM = isPaced ? STEP_M : 1
  const [widthM, depthM] = [Number(width) * unitM, Number(depth) * unitM]
  const isFitting = [widthM, depthM].every((metres) => metres >= 0.5 && metres <= 500)
  return isFitting ? ok({ widthM, depthM }) : refuse(problem('not-a-size', '', { text }))
}

/** `4, 2.5`: m from the left and from the top. */
export function placeTyped(text: string): Result<{ xM: number; yM: number }> {
  const [, x, y] = PAIR.exec(text.trim()) ?? []
  return x !== undefined && y !== undefined
    ? ok({ xM: Number(x), yM: Number(y) })
    : refuse(problem('not-a-place', '', { text }))
}

const ALL_AROUND = 'all around'
const DEGREES = String.raw`(-?\d{1,3}(?:\.\d)?)\s*°?`
const BEAM = new RegExp(String.raw`^${DEGREES}\s*[,;]\s*${DEGREES}(?:\s*[,;]\s*${DEGREES})?$`)
/** `90, 70, -10`: azimuth from the drawing's top, width, and tilt upwards, degrees; nothing for all around. */
export function beamTyped(text: string): Result<Beam | null> {
  const typed = text.trim().replaceAll('−', '-')
  if (['', '—', ALL_AROUND].includes(typed.toLowerCase())) return ok(null)
  const [, azimuth, width, tilt = '0'] = BEAM.exec(typed) ?? []
  const beam = { azimuthDeg: Number(azimuth), widthDeg: Number(width), tiltDeg: Number(tilt) }
  const isFitting =
    beam.azimuthDeg >= 0 &&
    beam.azimuthDeg < 360 &&
    beam.widthDeg >= 5 &&
    beam.widthDeg <= 180 &&
    Math.abs(beam.tiltDeg) <= 90
  return isFitting ? ok(beam) : refuse(problem('not-a-beam', '', { text }))
}
export const beamText = (beam: Beam | null): string =>
  beam === null ? ALL_AROUND : `${beam.azimuthDeg}°, ${beam.widthDeg}°, ${beam.tiltDeg}°`.replaceAll('-', '−')

const ALWAYS = 'always'
const HOURS = /^(\d{1,2}:\d{2})\s*(?:-|–|to)\s*(\d{1,2}:\d{2})$/
/** `07:00 to 22:00`; nothing for always. */
export function hoursTyped(text: string): Result<SsidSettings['hours']> {
  if (['', '—', ALWAYS].includes(text.trim().toLowerCase())) return ok(null)
  const [, first = '', last = ''] = HOURS.exec(text.trim()) ?? []
  const [from, to] = [first, last].map((time) => time.padStart(5, '0'))
  if (from === undefined || to === undefined || minuteOf(from) === null || minuteOf(to) === null)
    return refuse(problem('not-hours', '', { text }))
  return from === to ? refuse(problem('not-hours', '', { text })) : ok({ from, to })
}
export const hoursText = (hours: SsidSettings['hours']): string =>
  hours === null ? ALWAYS : `${hours.from} to ${hours.to}`

const SIDES = ['top', 'right', 'bottom', 'left'] as const
const kindOf = (word: string): WallKind | null =>
  (Object.keys(WALL_WORDS) as WallKind[]).find((kind) => WALL_WORDS[kind] === word.toLowerCase()) ?? null

/** One material for all four walls, or four: top, right, bottom, left. */
export function wallsTyped(text: string): Result<Outline['walls']> {
  const words = text.split(/[\s,]+/).filter(Boolean)
  const kinds = words.map(kindOf)
  const four = kinds.length === 1 ? Array.from({ length: 4 }, () => kinds[0] ?? null) : kinds
  const [top, right, bottom, left] = four
  if (four.length === 4 && top && right && bottom && left) return ok({ top, right, bottom, left })
  return refuse(problem('not-walls', '', { text, choices: Object.values(WALL_WORDS).join(', ') }))
}
export function wallsText(walls: Outline['walls']): string {
  const kinds = SIDES.map((side) => WALL_WORDS[walls[side]])
  return new Set(kinds).size === 1 ? (kinds[0] ?? '') : kinds.join(', ')
}

const BANDS: readonly Band[] = ['2.4', '5', '6']
/** Bands between commas, at least one. */
export function bandsTyped(text: string): Result<Band[]> {
  const words = text.split(/[\s,]+/).filter(Boolean)
  const bands = BANDS.filter((band) => words.includes(band))
  return bands.length > 0 && bands.length === new Set(words).size
    ? ok(bands)
    : refuse(problem('not-a-choice', '', { text, choices: BANDS.join(', ') }))
}
