// Question: which channels let radios of one band disturb each other least?
// Method: each pair costs what both hear of each other above the noise, times the part of the channel that both take.
// The least sum is found exactly while radios are few (branch and bound); beyond by steps that each lower the sum, with
// a bound below which no choice can go: the exact sums of groups of radios, each by itself.
// Source: -90 dBm as what disturbs nobody any more: common practice, without a source.
import type { ChannelWidth, ForeignNetwork, Band } from '#core/schema'
import { channelSpan, overlap, type Span } from './channels'

/** What is heard below disturbs nobody. */
const QUIET_DBM = -90
/** So many radios are solved exactly. */
export const MOST_EXACT = 14

export interface ChannelRadio {
  readonly id: string
  readonly band: Band
  readonly widthMhz: ChannelWidth
  /** Channels it may take, at least one. */
  readonly choices: readonly number[]
  /** Channel that stays; null for one to be chosen. */
  readonly fixed: number | null
  /** Others of somebody else's that it hears. */
  readonly foreign: readonly Pick<ForeignNetwork, 'band' | 'channel' | 'widthMhz' | 'levelDbm'>[]
}

export interface ChannelPlan {
  /** By radio, in the order given. */
  readonly channels: readonly number[]
  /** What is left of disturbance, dB summed over pairs. */
  readonly cost: number
  /** No choice has less than this; equal to the cost where it is exact. */
  readonly bound: number
}

/** Level at which the second hears the first, dBm. */
export type Hearing = (first: number, second: number) => number

const loudness = (levelDbm: number): number => Math.max(0, levelDbm - QUIET_DBM)

interface Problem {
  readonly choices: readonly (readonly number[])[]
  /** Of a radio by itself, by place in its choices. */
  readonly alone: readonly (readonly number[])[]
  /** Between two radios, by places in their choices; the first has the lower number. */
  readonly between: (first: number, second: number, a: number, b: number) => number
}

function problemOf(radios: readonly ChannelRadio[], hears: Hearing): Problem {
  const choices = radios.map(({ choices: all, fixed }) => (fixed === null ? all : [fixed]))
  const spans = radios.map((radio, i) =>
    (choices[i] ?? []).map((channel) => channelSpan(radio.band, channel, radio.widthMhz)),
  )
  const shared = (first: Span | null | undefined, second: Span | null | undefined): number =>
    first && second ? Math.max(overlap(first, second), overlap(second, first)) : 0
  const alone = radios.map(({ foreign, band }, i) =>
    (spans[i] ?? []).map((span) =>
      foreign
        .filter((other) => other.band === band)
        .reduce((sum, other) => {
          const theirs = channelSpan(other.band, other.channel, other.widthMhz)
          return sum + loudness(other.levelDbm) * shared(span, theirs)
        }, 0),
    ),
  )
  const weights = radios.map((_, i) =>
    radios.map((__, j) => Math.max(loudness(hears(i, j)), loudness(hears(j, i)))),
  )
  return {
    choices,
    alone,
    between: (i, j, a, b) => (weights[i]?.[j] ?? 0) * shared(spans[i]?.[a], spans[j]?.[b]),
  }
}

const costOf = ({ alone, between }: Problem, places: readonly number[]): number =>
  places.reduce(
    (sum, place, i) =>
      sum +
      (alone[i]?.[place] ?? 0) +
      places.slice(i + 1).reduce((inner, other, k) => inner + between(i, i + 1 + k, place, other), 0),
    0,
  )

/** The best places of some radios by themselves, by branch and bound. */
function exactly(problem: Problem, members: readonly number[]): { places: number[]; cost: number } {
  const { choices, alone, between } = problem
  // The least that each radio costs by itself is sure to come yet.
  const least = members.map((i) => Math.min(...(alone[i] ?? [0])))
  const toCome = least.map((_, k) => least.slice(k).reduce((sum, one) => sum + one, 0))
  let best: { places: number[]; cost: number } = { places: [], cost: Infinity }
  const taken: number[] = []
  const step = (depth: number, cost: number): void => {
    if (cost + (toCome[depth] ?? 0) >= best.cost) return
    const member = members[depth]
    if (member === undefined) {
      best = { places: [...taken], cost }
      return
    }
    const costs = (choices[member] ?? []).map((_, place) => {
      const others = taken.reduce((sum, other, k) => sum + between(members[k] ?? 0, member, other, place), 0)
      return { place, added: (alone[member]?.[place] ?? 0) + others }
    })
    for (const { place, added } of costs.sort((a, b) => a.added - b.added)) {
      taken.push(place)
      step(depth + 1, cost + added)
      taken.pop()
    }
  }
  step(0, 0)
  return best
}

/** What a radio costs at a place while all others stay. */
const addedBy = ({ alone, between }: Problem, places: readonly number[], i: number, place: number): number =>
  (alone[i]?.[place] ?? 0) +
  places.reduce((sum, other, j) => {
    if (j === i || other < 0) return sum
    return sum + (j < i ? between(j, i, other, place) : between(i, j, place, other))
  }, 0)

function bestPlace(problem: Problem, places: readonly number[], i: number): number {
  const costs = (problem.choices[i] ?? []).map((_, place) => addedBy(problem, places, i, place))
  const now = places[i] ?? -1
  const cheapest = costs.indexOf(Math.min(...costs))
  return now >= 0 && (costs[now] ?? 0) <= (costs[cheapest] ?? 0) ? now : cheapest
}

/** One radio after another takes its best channel, until none wants another; ends since each step lowers the sum. */
function bySteps(problem: Problem): number[] {
  const places = problem.choices.map(() => -1)
  let isMoving = true
  while (isMoving) {
    isMoving = false
    for (let i = 0; i < places.length; i++) {
      const next = bestPlace(problem, places, i)
      if (next === places[i]) continue
      places[i] = next
      isMoving = true
    }
  }
  return places
}

/** What is left of disturbance with the channels as they are, dB summed over pairs; `fixed` of each is its channel. */
export function costAsSet(radios: readonly ChannelRadio[], hears: Hearing): number {
  return costOf(
    problemOf(radios, hears),
    radios.map(() => 0),
  )
}

const GROUP = 8

export function planChannels(radios: readonly ChannelRadio[], hears: Hearing): ChannelPlan {
  const problem = problemOf(radios, hears)
  const channelsAt = (places: readonly number[]) => places.map((place, i) => problem.choices[i]?.[place] ?? 0)
  const all = radios.map((_, i) => i)
  if (radios.length <= MOST_EXACT) {
    const { places, cost } = exactly(problem, all)
    return { channels: channelsAt(places), cost, bound: cost }
  }
  const places = bySteps(problem)
  let bound = 0
  for (let from = 0; from < all.length; from += GROUP)
    bound += exactly(problem, all.slice(from, from + GROUP)).cost
  return { channels: channelsAt(places), cost: costOf(problem, places), bound }
}

/** Of each channel that a radio could take, the loudest that it would share it with, dBm; null for nobody. */
export function loudestOn(
  radios: readonly ChannelRadio[],
  channels: readonly number[],
  hears: Hearing,
  radio: number,
): readonly (readonly [channel: number, dBm: number | null])[] {
  const own = radios[radio]
  if (!own) return []
  return own.choices.map((channel) => {
    const span = channelSpan(own.band, channel, own.widthMhz)
    const meets = (other: Span | null) => span !== null && other !== null && overlap(span, other) > 0
    const levels = [
      ...radios.flatMap((other, j) =>
        j !== radio && meets(channelSpan(other.band, channels[j] ?? 0, other.widthMhz))
          ? [hears(j, radio)]
          : [],
      ),
      ...own.foreign
        .filter(
          (other) => other.band === own.band && meets(channelSpan(other.band, other.channel, other.widthMhz)),
        )
        .map(({ levelDbm }) => levelDbm),
    ].filter((level) => loudness(level) > 0)
    return [channel, levels.length > 0 ? Math.max(...levels) : null]
  })
}
