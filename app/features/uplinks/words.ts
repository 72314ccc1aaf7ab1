import {
  availableOverAir,
  jointAvailability,
  minutesWithout,
  SHARED_SHARE,
  sharedRisksOf,
  type AlarmRun,
  type OverAir,
} from '#core/failover'
import { uplinkGroup, uplinkShare, type PlanIndex } from '#core/queries'
import type { Uplink } from '#core/schema'
import { count } from '~/wording/count'

/** What is rarer than once in so many years no plan can promise. */
const BEYOND_YEARS = 10_000

/** How often something happens, of a number a year. Worked: 0.02 -> one in 50 years. */
export function rateWords(perYear: number): string {
  if (perYear === 0) return 'none'
  if (perYear < 1 / BEYOND_YEARS) return `less than once in ${BEYOND_YEARS.toLocaleString('en')} years`
  if (perYear < 0.1) return `one in ${Math.round(1 / perYear).toLocaleString('en')} years`
  if (perYear < 10) return `${Math.round(perYear * 10) / 10} a year`
  return `${Math.round(perYear).toLocaleString('en')} a year`
}

export const secondsWords = (s: number): string => `${Math.round(s * 10) / 10} s`

const wholeWords = (value: number): string => value.toLocaleString('en', { maximumFractionDigits: 0 })

/** What a simulation of probes saw. */
export function alarmWords({ alarms, rounds, meanRounds, halfWidth }: AlarmRun): string {
  return meanRounds === null
    ? `${count(alarms, 'alarm')} in ${wholeWords(rounds)} rounds`
    : `${wholeWords(meanRounds)} ± ${wholeWords(halfWidth ?? 0)} rounds, over ${wholeWords(alarms)} alarms`
}

/** Of the year, %: an uplink's own, with the radio links on its way; null where that is not known. */
function availabilityWithAir(index: PlanIndex, uplink: Uplink): number | null {
  const air = availableOverAir(index, uplink)
  return air ? air.availablePct : uplink.availablePct
}

/** How much of the year neither of two uplinks works; empty where that is not known of both. */
export function jointWords(index: PlanIndex, uplink: Uplink, backup: Uplink): string {
  const [own, other] = [availabilityWithAir(index, uplink), availabilityWithAir(index, backup)]
  if (own === null || other === null) return ''
  const shared = sharedRisksOf(uplink, backup).length > 0
  const pct = jointAvailability(own, other, shared)
  const risk = shared ? `, taking it that ${SHARED_SHARE * 100} % of failures strike what both depend on` : ''
  const over = [uplink, backup].flatMap((one) => availableOverAir(index, one)?.links ?? [])
  const air = over.length > 0 ? ` Radio links on the way are counted in: ${linkNames(over)}.` : ''
  return (
    `One of the two works ${pct.toFixed(4)} % of the year: ${wholeWords(minutesWithout(pct))} min ` +
    `without any${risk}.${air}`
  )
}
const linkNames = (links: OverAir['links']): string =>
  [...new Set(links.map((names) => names.join(' – ')))].join(', ')

/** What part of new flows takes an uplink that shares load; empty where it shares none. */
export function shareWords(uplinks: readonly Uplink[], uplink: Uplink): string {
  if (uplinkGroup(uplinks, uplink).length < 2) return ''
  const turn = uplink.priority === uplinks[0]?.priority ? '' : ' when it is its turn'
  return `, with ${Math.round(uplinkShare(uplinks, uplink))} % of new flows on it${turn}`
}
