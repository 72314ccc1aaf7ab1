// Question: what arrives at the far end of a radio link, and how much is to spare?
// Method: a running balance from the transmitter to the receiver.
// Source: ITU-R P.530-18; the losses by the sources in propagation.ts.
import { exposureM } from './antenna'
import { clearances, diffractionLossDb, tightest, tiltDeg, type Clearance, type Path } from './path-profile'
import {
  freeSpaceLossDb,
  K_USUAL,
  K_WORST,
  oxygenLossDbPerKm,
  rainCoefficients,
  rainLossDbPerKm,
  rainyKm,
} from './propagation'
import type { Polarization } from './propagation'
import { sensitivityDbm, slowestIn } from './rates'

export interface RadioEnd {
  readonly powerDbm: number
  readonly gainDbi: number
  /** Cables and connectors between radio and antenna. */
  readonly feederDb: number
  /** Its receiver's own sensitivity, as `sensitivityDbm` takes it. */
  readonly ownDbm: readonly number[]
}

export interface RadioPath extends Path {
  readonly ends: readonly [RadioEnd, RadioEnd]
  readonly polarization: Polarization
  /** The heaviest rain that is to be stood; 0 for none. */
  readonly rainMmPerHour: number
}

export type StepCode =
  | 'power'
  | 'feeder-out'
  | 'gain-out'
  | 'free-space'
  | 'oxygen'
  | 'diffraction'
  | 'gain-in'
  | 'feeder-in'
  | 'rain'

/** One step of the balance; `levelDbm`: what is there after it. */
export interface BudgetStep {
  readonly code: StepCode
  readonly db: number
  readonly levelDbm: number
}

export interface Budget {
  readonly steps: readonly BudgetStep[]
  readonly eirpDbm: number
  /** In clear weather. */
  readonly clearDbm: number
  /** In the heaviest rain that is to be stood. */
  readonly rainDbm: number
}

function rainDb({ lengthM, mhz, rainMmPerHour, polarization }: RadioPath): number {
  if (rainMmPerHour === 0) return 0
  const { alpha } = rainCoefficients(mhz / 1000, polarization)
  const km = Math.min(lengthM / 1000, rainyKm(lengthM / 1000, mhz, rainMmPerHour, alpha))
  return rainLossDbPerKm(mhz, rainMmPerHour, polarization) * km
}

/** The end that hears what the other one sends. */
export const hearing = (path: RadioPath, from: 0 | 1): RadioEnd => path.ends[from === 0 ? 1 : 0]

/** What is to spare at the far end for its slowest rate in clear weather, and in the heaviest rain, dB. */
export function spareDb(path: RadioPath & { readonly widthMhz: number }, from: 0 | 1) {
  const { clearDbm, rainDbm } = budgetFrom(path, from)
  const leastDbm = sensitivityDbm(slowestIn(path.widthMhz), path.widthMhz, hearing(path, from).ownDbm)
  return { clear: clearDbm - leastDbm, rain: rainDbm - leastDbm }
}

/** From one end (0 or 1) to the other. */
export function budgetFrom(path: RadioPath, from: 0 | 1): Budget {
  const [out, into] = from === 0 ? path.ends : ([path.ends[1], path.ends[0]] as const)
  const changes: readonly (readonly [StepCode, number])[] = [
    ['power', out.powerDbm],
    ['feeder-out', -out.feederDb],
    ['gain-out', out.gainDbi],
    ['free-space', -freeSpaceLossDb(path.mhz, path.lengthM / 1000)],
    ['oxygen', (-oxygenLossDbPerKm(path.mhz) * path.lengthM) / 1000],
    ['diffraction', -diffractionLossDb(path, K_USUAL)],
    ['gain-in', into.gainDbi],
    ['feeder-in', -into.feederDb],
    ['rain', -rainDb(path)],
  ]
  let levelDbm = 0
  const steps = changes.map(([code, db]) => ({ code, db, levelDbm: (levelDbm += db) }))
  const after = (code: StepCode) => steps.find((step) => step.code === code)?.levelDbm ?? 0
  return { steps, eirpDbm: after('gain-out'), clearDbm: after('feeder-in'), rainDbm: after('rain') }
}

export interface Geometry {
  /** Where least of the first zone is free, at usual refraction and at the least; null where nothing was surveyed. */
  readonly usual: Clearance | null
  readonly worst: Clearance | null
  readonly tiltsDeg: readonly [number, number]
  /** Nearest that people may stay in front of each antenna, m. */
  readonly exposuresM: readonly [number, number]
}

export function geometryOf(path: RadioPath): Geometry {
  const [first, second] = path.antennasM
  return {
    usual: tightest(clearances(path, K_USUAL)),
    worst: tightest(clearances(path, K_WORST)),
    tiltsDeg: [
      tiltDeg([first, second], path.lengthM, K_USUAL),
      tiltDeg([second, first], path.lengthM, K_USUAL),
    ],
    exposuresM: [exposureM(budgetFrom(path, 0).eirpDbm), exposureM(budgetFrom(path, 1).eirpDbm)],
  }
}
