// Question: which channel should each radio of a site take?
// Method: radios of a band with what they hear of each other: computed where both hang in a drawn building; by the
// distance of their buildings where that is known; else each is taken to hear the other loudly.
import { freeSpaceLossDb } from '#core/radio'
import type { PlanIndex } from '#core/queries'
import type { Band, BuildingId, Plan, Span } from '#core/schema'
import { channelsOf, overlap } from './channels'
import { costAsSet, planChannels, type ChannelPlan, type ChannelRadio, type Hearing } from './channel-plan'
import { emittersOf, levelAt, obstaclesOf } from './coverage'
import { floorsOf, spotsOf, type Floor, type PlacedSpot } from './floors'
import { apRadios, eirpDbm, limitOf, radioMhz, spanOf, type ApRadio } from './radios'

/** Taken for the level of a radio of which nobody knows where it hangs, dBm. */
const LOUD_DBM = -60

export interface SiteChannels {
  readonly radios: readonly ApRadio[]
  readonly problem: readonly ChannelRadio[]
  readonly hears: Hearing
  /** Of how many nobody knows where they hang. */
  readonly unplaced: number
}

const floorOf = (floors: readonly Floor[], { buildingId, floor }: PlacedSpot): Floor =>
  floors.find((one) => one.buildingId === buildingId && one.floor === floor) ?? {
    buildingId,
    floor,
    rooms: [],
    widthM: 0,
    depthM: 0,
  }

const isEndOf = (span: Span, id: BuildingId): boolean => id === span.a || id === span.b

/** Level at which the second hears the first, dBm. */
function hearing(plan: Plan, floors: readonly Floor[], radios: readonly ApRadio[]): Hearing {
  const spots = spotsOf(plan)
  const between = (first: PlacedSpot, second: PlacedSpot): number | null =>
    plan.brief.spans.find((span) => [first, second].every(({ buildingId }) => isEndOf(span, buildingId)))
      ?.distanceM ?? null
  return (i, j) => {
    const [first, second] = [radios[i], radios[j]]
    const [from, to] = [first, second].map((radio) => radio && spots.get(radio.deviceId))
    if (!first || !from || !to) return LOUD_DBM
    if (from.buildingId !== to.buildingId) {
      const distanceM = between(from, to)
      return distanceM ? eirpDbm(first) - freeSpaceLossDb(radioMhz(first), distanceM / 1000) : LOUD_DBM
    }
    const floor = floorOf(floors, to)
    const [emitter] = emittersOf([first], spots, floor)
    return emitter ? levelAt(obstaclesOf(floor, emitter.mhz), emitter, to) : LOUD_DBM
  }
}

/** Channels that a radio may take in the plan's country; all of its band's where the country says nothing. */
function choicesFor(radio: ApRadio, country: string, isOutdoors: boolean): number[] {
  const all = channelsOf(radio.band, radio.widthMhz)
  const permitted = all.filter((channel) => {
    const trouble = limitOf({ ...radio, channel }, country, isOutdoors)?.trouble
    return trouble === undefined || trouble === null || trouble === 'too-strong'
  })
  return permitted.length > 0 ? permitted : all
}

/** Radios of a band, or those that are meant, with what they hear of each other; null where there are none. */
export function siteChannels(
  index: PlanIndex,
  band: Band,
  isMeant: (radio: ApRadio) => boolean = () => true,
): SiteChannels | null {
  const { plan } = index
  const radios = apRadios(index).filter((radio) => radio.band === band && isMeant(radio))
  if (radios.length === 0) return null
  const spots = spotsOf(plan)
  const problem = radios.map((radio): ChannelRadio => ({
    id: radio.id,
    band,
    widthMhz: radio.widthMhz,
    choices: choicesFor(radio, plan.site.country, spots.get(radio.deviceId)?.outdoors ?? false),
    fixed: null,
    foreign: plan.wifi.foreign.filter(({ deviceId }) => deviceId === radio.deviceId),
  }))
  const levels = hearing(plan, floorsOf(plan), radios)
  // Each pair is asked for many times.
  const known = radios.map((_, i) => radios.map((__, j) => (i === j ? -Infinity : levels(i, j))))
  const hears: Hearing = (i, j) => known[i]?.[j] ?? -Infinity
  return {
    radios,
    problem,
    hears,
    unplaced: radios.filter(({ deviceId }) => !spots.has(deviceId)).length,
  }
}

/** The best channels of a band's radios. */
export const bestChannels = ({ problem, hears }: SiteChannels): ChannelPlan => planChannels(problem, hears)

export interface ChannelConflict {
  /** The two that disturb each other most. */
  readonly loudest: { readonly first: ApRadio; readonly second: ApRadio; readonly dBm: number }
  /** What the best choice changes. */
  readonly moves: readonly { readonly radio: ApRadio; readonly channel: number }[]
}

/** A choice that is better by less than this is not worth a change, dB. */
const WORTH_DB = 1

function loudestPair(radios: readonly ApRadio[], hears: Hearing): ChannelConflict['loudest'] | null {
  const pairs = radios.flatMap((first, i) =>
    radios.slice(i + 1).flatMap((second, k) => {
      const [one, other] = [spanOf(first), spanOf(second)]
      const isShared = one !== null && other !== null && overlap(one, other) > 0
      const dBm = Math.max(hears(i, i + 1 + k), hears(i + 1 + k, i))
      return isShared ? [{ first, second, dBm }] : []
    }),
  )
  return pairs.sort((a, b) => b.dBm - a.dBm)[0] ?? null
}

/**
 * Radios of a band whose channels were typed and of which everybody knows where they hang, where another choice has
 * less disturbance; null where there is none.
 */
export function conflictOf(index: PlanIndex, band: Band): ChannelConflict | null {
  const spots = spotsOf(index.plan)
  const channels = siteChannels(
    index,
    band,
    ({ channel, isTyped, deviceId }) => isTyped && channel !== null && spots.has(deviceId),
  )
  if (!channels) return null
  const { radios, problem, hears } = channels
  const now = costAsSet(
    problem.map((radio, i) => ({ ...radio, fixed: radios[i]?.channel ?? null })),
    hears,
  )
  const loudest = loudestPair(radios, hears)
  // Where nobody disturbs another there is nothing to look for.
  if (!loudest || now < WORTH_DB) return null
  const plan = bestChannels(channels)
  if (now < plan.cost + WORTH_DB) return null
  const moves = radios.flatMap((radio, i) => {
    const channel = plan.channels[i] ?? radio.channel
    return channel === null || channel === radio.channel ? [] : [{ radio, channel }]
  })
  return { loudest, moves }
}
