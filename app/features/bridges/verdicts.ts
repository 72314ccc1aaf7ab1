import {
  budgetFrom,
  fastestAt,
  geometryOf,
  MCS,
  phyMbps,
  sensitivityDbm,
  type Clearance,
  type RadioLink,
} from '#core/radio'
import { dbmWords, percentWords } from './words'

/** Share of the first zone that is to be free at usual refraction (ITU-R P.530-18, 2.2.2). */
const WANTED = 0.6

export interface Verdict {
  readonly key: string
  readonly isFine: boolean
  readonly title: string
  readonly text: string
}
type Computed = NonNullable<RadioLink['path']>

const metres = (value: number): string => `${Math.max(0.1, value).toFixed(1)} m`

/** How much higher one antenna, or the other, has to be for so much more of the zone at a point. */
function raiseWords(
  { path, names }: { path: Computed; names: RadioLink['names'] },
  tight: Clearance,
): string {
  const lacksM = (WANTED - tight.share) * tight.fresnelM
  const along = tight.point.atM / path.lengthM
  return `${names[0]} ${metres(lacksM / (1 - along))} higher, or ${names[1]} ${metres(lacksM / along)}`
}

function zoneVerdict(path: Computed, names: RadioLink['names']): Verdict {
  const { usual, worst } = geometryOf(path)
  const title = 'First Fresnel zone'
  if (!usual || !worst)
    return {
      key: 'zone',
      isFine: false,
      title,
      text: 'Not judged: nothing is surveyed between the ends. Add the highest points on the way.',
    }
  const at = `${percentWords(usual.share)} free at ${usual.point.atM.toLocaleString('en')} m`
  if (usual.share < WANTED)
    return {
      key: 'zone',
      isFine: false,
      title,
      text: `${at}, 60 % is wanted: ${raiseWords({ path, names }, usual)}.`,
    }
  const bent = `with the least refraction ${percentWords(worst.share)}`
  return { key: 'zone', isFine: worst.share >= 0, title, text: `${at}, ${bent}.` }
}

/** What arrives at one end, and what it is enough for. */
function levelVerdict(link: RadioLink, path: Computed, from: 0 | 1): Verdict {
  const budget = budgetFrom(path, from)
  const { marginDb, rainMmPerHour } = link.settings
  const spareDb = budget.rainDbm - sensitivityDbm(MCS[0] as (typeof MCS)[number], path.widthMhz)
  const best = fastestAt(budget.rainDbm, path.widthMhz, marginDb)
  const rate = best
    ? `${best.name}, ${phyMbps(best, path.widthMhz, 1).toFixed(0)} Mb/s on the air for each stream, ` +
      `with ${marginDb} dB to spare`
    : `less than ${marginDb} dB to spare even for the slowest rate (${spareDb.toFixed(1).replace('-', '−')} dB)`
  const rain = rainMmPerHour === null ? 'Rain is not said. ' : ''
  const wet = rainMmPerHour ? `, ${dbmWords(budget.rainDbm)} in rain of ${rainMmPerHour} mm/h` : ''
  return {
    key: `level-${from}`,
    isFine: best !== null && rainMmPerHour !== null,
    title: `At ${link.names[from === 0 ? 1 : 0]}`,
    text: `${dbmWords(budget.clearDbm)}${wet}. ${rain}${best ? 'Enough for ' : ''}${rate}.`,
  }
}

/** What a planner wants to know of a link that can be computed. */
export const verdictsOf = (link: RadioLink, path: Computed): Verdict[] => [
  levelVerdict(link, path, 0),
  levelVerdict(link, path, 1),
  zoneVerdict(path, link.names),
]
