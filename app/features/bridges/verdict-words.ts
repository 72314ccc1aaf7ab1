import {
  availabilityOf,
  budgetFrom,
  fastestAt,
  geometryOf,
  hearing,
  HEAVIEST_PERCENT,
  isNarrower,
  knowsWidth,
  raisesM,
  rateMbps,
  ratesOf,
  spareDb,
  WANTED_SHARE,
  WIDTH_60_MHZ,
  type RadioLink,
  type WireBehind,
} from '#core/radio'
import type { LinkGeneration } from '#core/schema'
import { isTooStrong, linkPermission, REGULATORY_DATE } from '#core/wifi'
import { cautionsOf } from '~/wording/permitted'
import { dbmWords, levelWords, percentWords, rateWords, unratedWords, wireWords } from './words'

export interface Verdict {
  readonly key: string
  readonly isFine: boolean
  readonly title: string
  readonly text: string
}
type Computed = NonNullable<RadioLink['path']>

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
  if (usual.share < WANTED_SHARE) {
    const [first, second] = raisesM(path)
    return {
      key: 'zone',
      isFine: false,
      title,
      text:
        `${at}, ${percentWords(WANTED_SHARE)} is wanted: ` +
        `${names[0]} ${first} m higher, or ${names[1]} ${second} m.`,
    }
  }
  const bent = `with the least refraction ${percentWords(worst.share)}`
  return { key: 'zone', isFine: worst.share >= 0, title, text: `${at}, ${bent}.` }
}

/** What is not known, though a link can be computed without it; empty where all is. */
const caveatsOf = ({ settings }: RadioLink, path: Computed): string =>
  (settings.rainMmPerHour === null ? 'Rain is not said. ' : '') +
  (geometryOf(path).usual === null ? 'Obstacles are not surveyed. ' : '')

/** What its radios speak; while that is not said, what is usual in its channel. */
function spokenBy({ settings: { generation } }: RadioLink, { widthMhz }: Computed): LinkGeneration {
  if (generation !== null && knowsWidth(generation, widthMhz)) return generation
  return widthMhz === WIDTH_60_MHZ ? 'ad' : 'ac'
}

/** What arrives at one end, and what it is enough for. */
function levelVerdict(link: RadioLink, path: Computed, from: 0 | 1): Verdict {
  const budget = budgetFrom(path, from)
  const { marginDb, rainMmPerHour } = link.settings
  const generation = spokenBy(link, path)
  const { widthMhz } = path
  const { ownDbm } = hearing(path, from)
  const best = fastestAt(budget.rainDbm, marginDb, { generation, widthMhz, ownDbm })
  const onAirMbps = best && rateMbps(generation, widthMhz, 1, best)
  const rate = best
    ? `${best.name}, ${onAirMbps?.toFixed(0)} Mb/s on the air for each stream, ` +
      `with ${marginDb} dB to spare`
    : `less than ${marginDb} dB to spare even for the slowest rate (${levelWords(spareDb(path, from).rain)} dB)`
  const caveats = caveatsOf(link, path)
  const wet = rainMmPerHour ? `, ${dbmWords(budget.rainDbm)} in rain of ${rainMmPerHour} mm/h` : ''
  return {
    key: `level-${from}`,
    isFine: best !== null && caveats === '',
    title: `At ${link.names[from === 0 ? 1 : 0]}`,
    text: `${dbmWords(budget.clearDbm)}${wet}. ${caveats}${best ? 'Enough for ' : ''}${rate}.`,
  }
}

/** How both ends stand to the rules of the country; not judged where there are none. */
function ruleVerdict(path: Computed, country: string): Verdict {
  const permission = linkPermission(country, path.mhz, path.widthMhz)
  const eirpDbm = Math.max(budgetFrom(path, 0).eirpDbm, budgetFrom(path, 1).eirpDbm)
  const told = (isFine: boolean, text: string): Verdict => ({ key: 'rule', isFine, title: 'Permitted', text })
  if (permission === null) {
    const why = country === '' ? 'the country is not set' : `country ${country} is not in the data`
    return told(false, `Not judged: ${why}. Check the local rule.`)
  }
  const source = `in ${country} as of ${REGULATORY_DATE}. Check the local rule.`
  if (permission === 'no') return told(false, `No rule covers the whole channel ${source}`)
  const figures = [
    `${levelWords(eirpDbm)} dBm EIRP, ${levelWords(permission.eirpDbm)} at most`,
    ...cautionsOf(permission),
  ]
  return told(!isTooStrong(eirpDbm, permission) && !permission.indoorOnly, `${figures.join(', ')}, ${source}`)
}

/** What it carries; not judged where the radios are not said. */
function rateVerdict(link: RadioLink, path: Computed, wires: readonly (WireBehind | null)[]): Verdict {
  const rates = ratesOf({ ...link, path })
  const told = (isFine: boolean, text: string): Verdict => ({ key: 'rate', isFine, title: 'Carries', text })
  const { neededMbps } = link.settings
  if (!rates) return told(false, `Not computed, ${unratedWords(link)}.`)
  const caveats = caveatsOf(link, path)
  const isEnough = rates.throughputMbps > 0 && rates.throughputMbps >= (neededMbps ?? 0)
  const narrow = wires.some((wire) => wire !== null && isNarrower(wire, rates.throughputMbps))
  const text = rateWords(rates, link.names, neededMbps)
  return told(isEnough && caveats === '' && !narrow, `${caveats}${text} ${wireWords(wires, link.names)}`)
}

const WORTH_TELLING_MIN = 1
/** For how long a year, or a month, it is lost. */
function minutesWords(minutes: number): string {
  if (minutes < WORTH_TELLING_MIN) return 'less than a minute'
  return minutes < 120 ? `about ${Math.round(minutes)} min` : `about ${Math.round(minutes / 60)} h`
}

/** How much of the year it is there; what is lost for longer than the rain it is meant to stand falls is told. */
function availabilityVerdict(link: RadioLink, path: Computed): Verdict[] {
  const found = availabilityOf({ path, settings: link.settings })
  if (!found) return []
  const { rainMinYear, fadingMinMonth, availablePct } = found
  const caveats = caveatsOf(link, path)
  const isFine = caveats === '' && availablePct !== null && availablePct >= 100 - HEAVIEST_PERCENT
  const rain =
    rainMinYear === null ? 'Not judged in rain.' : `Rain takes ${minutesWords(rainMinYear)} a year.`
  const fading = `Bent and reflected rays take ${minutesWords(fadingMinMonth)} of the worst month at most.`
  const whole = availablePct === null ? '' : `${availablePct.toFixed(3)} % of the year. `
  return [{ key: 'availability', isFine, title: 'Availability', text: `${caveats}${whole}${rain} ${fading}` }]
}

/** What a planner wants to know of a link that can be computed; `wires` behind its ends. */
export const verdictsOf = (
  link: RadioLink,
  path: Computed,
  country: string,
  wires: readonly (WireBehind | null)[],
): Verdict[] => [
  levelVerdict(link, path, 0),
  levelVerdict(link, path, 1),
  rateVerdict(link, path, wires),
  ...availabilityVerdict(link, path),
  zoneVerdict(path, link.names),
  ruleVerdict(path, country),
]
