import { endBuildings } from '#core/brief'
import { betweenBuildings } from '#core/geodesy'
import type { Plan } from '#core/schema'
import {
  aimedDbm,
  expectedDbm,
  geometryOf,
  UNKNOWN_BEARINGS_DEG,
  type Aim,
  type RadioLink,
} from '#core/radio'

// A simulated pair of radios: what both read with their antennas as they look.

const ENDS = ['a', 'b'] as const
type EndKey = (typeof ENDS)[number]

/** Below it a radio shows nothing (thermal noise in 20 MHz and a receiver of usual noise). */
const NOISE_FLOOR_DBM = -96
/** Readings of a radio in still air swing by about so much (common practice, without a source). */
const SWING_DB = 0.7

/**
 * Where each end has to look, in true degrees; of buildings without a position the far end stands due north of `a`.
 * Null while the link cannot be computed.
 */
export function wantedAims(plan: Plan, link: RadioLink): Readonly<Record<EndKey, Aim>> | null {
  if (!link.path) return null
  const [there, back] =
    betweenBuildings(...endBuildings(plan, link.link))?.bearingsDeg ?? UNKNOWN_BEARINGS_DEG
  const [up, down] = geometryOf(link.path).tiltsDeg
  return { a: { azimuthDeg: there, tiltDeg: up }, b: { azimuthDeg: back, tiltDeg: down } }
}

/** Whole dBm, as radios show them; null where nothing is heard. @param swing -1 to 1 */
function shown(dBm: number, swing: number): number | null {
  const read = Math.round(dBm + swing * SWING_DB)
  return read > NOISE_FLOOR_DBM ? read : null
}

/** What both ends read; an end that nobody turned looks where it has to. */
export function simulatedLevels(
  plan: Plan,
  link: RadioLink,
  aims: Readonly<Partial<Record<EndKey, Aim>>>,
  swing: () => number,
): Readonly<Record<EndKey, number | null>> | null {
  const wanted = wantedAims(plan, link)
  const { path } = link
  if (!wanted || !path) return null
  const ends = ENDS.map((end, i) => ({
    gainDbi: path.ends[i]?.gainDbi ?? 0,
    wanted: wanted[end],
    aim: aims[end] ?? wanted[end],
  }))
  const at = (end: EndKey) => shown(aimedDbm(expectedDbm(link, end) ?? NOISE_FLOOR_DBM, ends), swing())
  return { a: at('a'), b: at('b') }
}
