import {
  isOtherDistance,
  knowsWidth,
  mostStreams,
  ratesOf,
  type LinkRates,
  type RadioLink,
  type StepCode,
  type Unsaid,
  type WindLoad,
  type WireBehind,
} from '#core/radio'
import type { RadioEndSettings } from '#core/schema'
import { count } from '~/wording/count'

export const STEP_WORDS: Readonly<Record<StepCode, string>> = {
  power: 'Transmitter',
  'feeder-out': 'Its cable',
  'gain-out': 'Its antenna',
  'free-space': 'Free space',
  oxygen: 'Oxygen of the air',
  diffraction: 'Obstacles',
  'gain-in': 'Antenna',
  'feeder-in': 'Cable',
  rain: 'Rain',
}

const UNSAID: Readonly<Record<Unsaid['what'], string>> = {
  distance: 'the distance',
  frequency: 'the frequency',
  width: 'the width of the channel',
  antenna: 'height of the antenna',
  power: 'power',
  gain: 'gain of the antenna',
  feeder: 'loss of the cable',
}

/** What is still to be said, in one sentence; `names` of both ends. */
export function unsaidWords(list: readonly Unsaid[], names: readonly [string, string]): string {
  const parts = list.map((one) =>
    'end' in one ? `${UNSAID[one.what]} at ${names[one.end === 'a' ? 0 : 1]}` : UNSAID[one.what],
  )
  return `Not computed yet. Still to be said: ${parts.join(', ')}.`
}

const km = (lengthM: number): string => `${(lengthM / 1000).toLocaleString('en')} km`
const tenth = (value: number): string => value.toFixed(1).replace('-', '−')
export const dbWords = (value: number): string => `${value > 0 ? '+' : ''}${tenth(value)}`
export const levelWords = tenth
export const dbmWords = (value: number): string => `${tenth(value)} dBm`
export const percentWords = (share: number): string =>
  `${Math.round(100 * share)
    .toString()
    .replace('-', '−')} %`

type Role = NonNullable<RadioEndSettings['role']>
export const ROLE_WORDS: Readonly<Record<Role | 'unknown', string>> = {
  unknown: '—',
  'access-point': 'access point',
  station: 'station',
}
export const roleOf = (words: string): Role | null =>
  (['access-point', 'station'] as const).find((role) => ROLE_WORDS[role] === words) ?? null

const mbpsWords = (mbps: number): string => `${Math.floor(mbps).toLocaleString('en')} Mb/s`
const throughputWords = ({ throughputMbps }: LinkRates): string =>
  throughputMbps === 0 ? 'nothing' : `about ${mbpsWords(throughputMbps)}`
/** Why nothing is told of what a link carries, whose levels are known. */
export function unratedWords({ settings: { generation, streams, widthMhz } }: RadioLink): string {
  if (generation !== null && widthMhz !== null && !knowsWidth(generation, widthMhz))
    return `802.11${generation} knows no channel of ${widthMhz} MHz`
  if (generation !== null && streams !== null && streams > mostStreams(generation))
    return `802.11${generation} sends ${count(mostStreams(generation), 'stream')} at most`
  const unsaid = [...(generation === null ? ['802.11'] : []), ...(streams === null ? ['streams'] : [])]
  return `not said: ${unsaid.join(' and ')}`
}
export function carriesWords(link: RadioLink): string {
  const rates = ratesOf(link)
  if (rates) return throughputWords(rates)
  return link.path === null ? 'not computed yet' : `not computed, ${unratedWords(link)}`
}
/** How fast the wire behind each end is, where that is known; `names` of both ends. */
export function wireWords(wires: readonly (WireBehind | null)[], names: readonly [string, string]): string {
  const known = wires.flatMap((wire, end) => {
    if (!wire) return []
    const limit = wire.byOwnPort ? ', as fast as its own port' : ''
    return [`${mbpsWords(wire.mbps)} at ${names[end]}${limit}`]
  })
  return known.length === 0 ? 'The wires behind it are not known.' : `By wire ${known.join('; ')}.`
}
/** What it carries, and how that comes; `names` of both ends. */
export function rateWords(
  rates: LinkRates,
  names: readonly [string, string],
  neededMbps: number | null,
): string {
  const [from, back] = rates.onAirMbps
  const needed = neededMbps === null ? '' : `; ${mbpsWords(neededMbps)} needed`
  return (
    `${throughputWords(rates)} for both directions together, with the margin kept; on the air ` +
    `${mbpsWords(from)} from ${names[0]}, ${mbpsWords(back)} from ${names[1]}${needed}.`
  )
}

/** What the drawing shows, for whom cannot see it. */
export const pictureWords = (names: readonly [string, string], lengthM: number): string =>
  `Path from ${names[0]} to ${names[1]}, ${km(lengthM)}: ground, straight line and first Fresnel zone. ` +
  'The same figures are in the table of surveyed points.'

export const tiltWords = (degrees: number): string => {
  if (Math.abs(degrees) < 0.05) return 'level'
  return `${Math.abs(degrees).toFixed(1)}° ${degrees > 0 ? 'up' : 'down'}`
}

/** Bearings of both ends, where they are known. */
interface Directions {
  readonly trueDeg: readonly [number, number]
  readonly compassDeg: readonly [number, number] | null
}
const degrees = (value: number): string => `${value.toFixed(1)}°`

/** Where each antenna points: from north over east, as a compass shows it, and from the horizon. */
export function aimWords(
  names: readonly [string, string],
  tiltsDeg: readonly [number, number],
  directions: Directions | null,
): string {
  const ends = ([0, 1] as const).map((end) => {
    const tilt = `${tiltWords(tiltsDeg[end])} from the horizon`
    if (!directions) return `${names[end]} ${tilt}`
    const compass = directions.compassDeg
      ? `, ${degrees(directions.compassDeg[end])} by the compass today`
      : ''
    return `${names[end]} ${degrees(directions.trueDeg[end])} true${compass}, ${tilt}`
  })
  return `${ends.join('; ')}.`
}

/** How hard the wind takes hold of an end; what is not said is not computed. */
export function windWords(load: WindLoad | null): string {
  if (!load) return 'not computed yet: dish and gust'
  const { forceN, momentNm, ballastKg } = load
  const moment = momentNm === null ? '' : `, ${Math.round(momentNm).toLocaleString('en')} N m at the foot`
  const ballast =
    ballastKg === null ? '' : `; stand and ballast ${Math.ceil(ballastKg).toLocaleString('en')} kg or more`
  return `${Math.round(forceN).toLocaleString('en')} N${moment}${ballast}`
}

/** Nothing where what is typed is what the positions say. */
export function distanceWords(typedM: number, betweenM: number): string {
  if (!isOtherDistance(typedM, betweenM)) return ''
  const typed = typedM > 0 ? `${typedM.toLocaleString('en')} m is typed` : 'no distance is typed'
  return `By their positions the ends are ${Math.round(betweenM).toLocaleString('en')} m apart; ${typed}.`
}
