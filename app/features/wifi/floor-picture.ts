// How a floor is drawn: metres to the drawing's units, lines of equal level, and what is dragged.
import { contours } from 'd3-contour'
import type { LevelGrid } from '#core/wifi'
import type { Beam, Outline, Placement } from '#core/schema'

/** Lines of equal level, dBm, from the loudest. */
export const LEVELS_DBM = [-55, -65, -75] as const

const WIDTH = 960
const MOST_HEIGHT = 460
const EDGE = 14

export interface FloorScale {
  readonly width: number
  readonly height: number
  /** Units for a metre. */
  readonly unit: number
  /** Metres from the left, or from the top, as the drawing's units. */
  readonly at: (metres: number) => number
}

/** As large as fits into a width, never above 60 units for a metre. */
export function floorScale(widthM: number, depthM: number, width = WIDTH): FloorScale {
  const [across, down] = [Math.max(widthM, 1), Math.max(depthM, 1)]
  const unit = Math.min((width - 2 * EDGE) / across, (MOST_HEIGHT - 2 * EDGE) / down, 60)
  return {
    width,
    height: down * unit + 2 * EDGE,
    unit,
    at: (metres) => EDGE + metres * unit,
  }
}

export interface LevelLine {
  readonly dBm: number
  /** A path in the drawing's units; empty where the level is nowhere. */
  readonly path: string
}

/** Lower than what any radio hears. */
const NOTHING_DBM = -200
const ring = (points: readonly (readonly number[])[], place: (value: number) => string): string =>
  `M${points.map(([x = 0, y = 0]) => `${place(x)} ${place(y)}`).join('L')}Z`

/** Lines around what has at least so much. */
export function levelLines({ columns, rows, stepM, levelsDbm }: LevelGrid, { at }: FloorScale): LevelLine[] {
  const values = levelsDbm.map((level) => Math.max(NOTHING_DBM, level))
  const place = (squares: number) => at(squares * stepM).toFixed(1)
  const shapes = contours()
    .size([columns, rows])
    .thresholds([...LEVELS_DBM])(values)
  return shapes.map(({ value, coordinates }) => ({
    dBm: value,
    path: coordinates.flatMap((polygon) => polygon.map((points) => ring(points, place))).join(''),
  }))
}

/** A room's size is kept while it is moved; nothing leaves the floor to the left or above. */
export const snapped = (metres: number): number => Math.max(0, Math.round(metres * 2) / 2)

/** Beside what is drawn already, from the left. */
export const nextPlace = (drawn: readonly Outline[]): { xM: number; yM: number } => ({
  xM: drawn.length === 0 ? 0 : Math.max(...drawn.map(({ xM, widthM }) => xM + widthM)),
  yM: 0,
})

/** As long as a beam is drawn, m. */
const BEAM_M = 3
/** Where a beam goes: its axis, and both edges of half the power, from the mark on. */
export function beamPath({ xM, yM }: Pick<Placement, 'xM' | 'yM'>, beam: Beam, { at }: FloorScale): string {
  const ray = (azimuthDeg: number, lengthM: number): string => {
    const turn = (azimuthDeg * Math.PI) / 180
    const [x, y] = [xM + lengthM * Math.sin(turn), yM - lengthM * Math.cos(turn)].map((metres) =>
      at(metres).toFixed(1),
    )
    return `M${at(xM).toFixed(1)} ${at(yM).toFixed(1)}L${x} ${y}`
  }
  const { azimuthDeg, widthDeg } = beam
  return [
    ray(azimuthDeg, BEAM_M),
    ray(azimuthDeg - widthDeg / 2, BEAM_M / 2),
    ray(azimuthDeg + widthDeg / 2, BEAM_M / 2),
  ].join('')
}
