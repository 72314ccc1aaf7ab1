// Question: does anything stand in the way of a radio path?
// Method: the straight line between the antennas, bent earth under it, at each surveyed point.
// Source: ITU-R P.530-18, 2.2 (clearance), P.526-15, 4.5.1 (Bullington's construction).
import { earthBulgeM, fresnelRadiusM, K_USUAL, knifeEdgeLossDb } from './propagation'

export interface SurveyedPoint {
  /** From the first end. */
  readonly atM: number
  /** Ground, above the sea or any other height that both ends are measured from. */
  readonly groundM: number
  /** What stands on it: a tree, a roof, a mast of somebody else. */
  readonly obstacleM: number
  /** How much it grows in a year. */
  readonly growsM: number
}

export interface Path {
  readonly lengthM: number
  readonly mhz: number
  /** Heights of the two antennas, from where the ground is measured. */
  readonly antennasM: readonly [number, number]
  readonly points: readonly SurveyedPoint[]
}

export interface Clearance {
  readonly point: SurveyedPoint
  /** Height of the straight line there. */
  readonly lineM: number
  readonly bulgeM: number
  readonly fresnelM: number
  /** Of the radius of the first zone, what is free; below 0 the line itself is cut. */
  readonly share: number
}

/** Between the ends, in order of distance. */
const between = ({ lengthM, points }: Path): SurveyedPoint[] =>
  points.filter(({ atM }) => atM > 0 && atM < lengthM).toSorted((one, other) => one.atM - other.atM)

/** Height of the straight line between the antennas, m. */
export const lineAt = (
  { antennasM: [first, second], lengthM }: Pick<Path, 'antennasM' | 'lengthM'>,
  atM: number,
): number => first + ((second - first) * atM) / lengthM

/** What is free at each point, at an earth of `k` times its radius. */
export function clearances(path: Path, k: number): Clearance[] {
  return between(path).map((point) => {
    const [fromKm, toKm] = [point.atM / 1000, (path.lengthM - point.atM) / 1000]
    const lineM = lineAt(path, point.atM)
    const bulgeM = earthBulgeM(fromKm, toKm, k)
    const fresnelM = fresnelRadiusM(path.mhz, fromKm, toKm)
    const freeM = lineM - bulgeM - point.groundM - point.obstacleM
    return { point, lineM, bulgeM, fresnelM, share: freeM / fresnelM }
  })
}

/** Where least is free; null where nothing was surveyed between the ends. */
export const tightest = (list: readonly Clearance[]): Clearance | null =>
  list.toSorted((one, other) => one.share - other.share)[0] ?? null

/** Share of the first zone that is to be free at usual refraction (P.530-18, 2.2.2). */
export const WANTED_SHARE = 0.6

/** The point at which growth first leaves too little of the zone, and in how many years; null where none ever does. */
export function yearsToClose(path: Path): { readonly point: SurveyedPoint; readonly years: number } | null {
  const closing = clearances(path, K_USUAL).flatMap(({ point, share, fresnelM }) =>
    point.growsM > 0 && share >= WANTED_SHARE
      ? [{ point, years: ((share - WANTED_SHARE) * fresnelM) / point.growsM }]
      : [],
  )
  return closing.toSorted((one, other) => one.years - other.years)[0] ?? null
}

/**
 * How much higher the first antenna alone, or the second alone, has to be for enough of the zone to be free at every
 * point, m; rounded up to tenths, so that it is enough.
 */
export function raisesM(path: Path): readonly [number, number] {
  const lacking = clearances(path, K_USUAL).filter(({ share }) => share < WANTED_SHARE)
  const most = (part: (along: number) => number): number => {
    const raises = lacking.map(
      ({ share, fresnelM, point }) => ((WANTED_SHARE - share) * fresnelM) / part(point.atM / path.lengthM),
    )
    return Math.ceil(10 * Math.max(0, ...raises)) / 10
  }
  return [most((along) => 1 - along), most((along) => along)]
}

/** v of an edge that stands `aboveM` over the line, for which the zone has a radius (P.526-15, equation 26). */
const edgeOf = (aboveM: number, fresnelM: number): number => (Math.SQRT2 * aboveM) / fresnelM

/**
 * Loss by what stands in the way, dB.
 * In sight of each other: the point that reaches furthest into the zone. Else Bullington's edge, where the lines of
 * sight of both ends meet.
 */
export function diffractionLossDb(path: Path, k: number): number {
  const list = clearances(path, k)
  const worst = tightest(list)
  if (!worst) return 0
  if (worst.share >= 0) return knifeEdgeLossDb(edgeOf(-worst.share * worst.fresnelM, worst.fresnelM))
  const [first, second] = path.antennasM
  const tops = list.map(({ point, bulgeM }) => ({
    atM: point.atM,
    topM: point.groundM + point.obstacleM + bulgeM,
  }))
  const rise = Math.max(...tops.map(({ atM, topM }) => (topM - first) / atM))
  const fall = Math.max(...tops.map(({ atM, topM }) => (topM - second) / (path.lengthM - atM)))
  const atM = (second - first + fall * path.lengthM) / (rise + fall)
  const aboveM = first + rise * atM - lineAt(path, atM)
  const fresnelM = fresnelRadiusM(path.mhz, atM / 1000, (path.lengthM - atM) / 1000)
  return knifeEdgeLossDb(edgeOf(aboveM, fresnelM))
}

/** Tilt of the first antenna towards the second, degrees; above the horizon positive. */
export function tiltDeg([own, far]: readonly [number, number], lengthM: number, k: number): number {
  // Over d the ground falls away by d²/2kR: four times what it stands up in the middle.
  const fallM = 4 * earthBulgeM(lengthM / 2000, lengthM / 2000, k)
  return (Math.atan2(far - own - fallM, lengthM) * 180) / Math.PI
}
