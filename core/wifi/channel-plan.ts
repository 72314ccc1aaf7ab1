// Question: which channels let radios of one band disturb each other least?
// Method: each pair costs what both hear of each other above the noise, times the part of the channel that both take.
// The least sum is found exactly while radios are few (branch and bound); beyond by steps that each lower the sum, with
// a bound below which no choice can go: the exact sums of groups of radios, each by itself.
// Source: -90 dBm as what disturbs nobody any more: common practice, without a source.
import type { ChannelWidth, ForeignNetwork, Band } from '#core/schema'
import { channelSpan, overlap, type Span } from './channels'
import type { Hearing } from './hearing'

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

const loudness = (levelDbm: number): number => Math.max(0, levelDbm - QUIET_DBM)

interface Problem {
  readonly choices: readonly (readonly number[])[]
  /** Of a radio by itself, by place in its choices. */
  readonly alone: readonly (readonly number[])[]
  /** Whether a channel overlaps none of the other choices. */
  readonly isApart: (channel: number) => boolean
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
  const all = new Map(
    spans.flatMap((own, i) => own.map((span, place) => [choices[i]?.[place] ?? 0, span] as const)),
  )
  const isApart = (channel: number): boolean =>
    [...all].every(([other, span]) => other === channel || shared(all.get(channel), span) === 0)
  return {
    choices,
    alone,
    isApart,
    between: (i, j, place, there) => {
      const part = shared(spans[i]?.[place], spans[j]?.[there])
      return part === 0 ? 0 : part * Math.max(loudness(hears(i, j)), loudness(hears(j, i)))
    },
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

interface Choice {
  readonly places: readonly number[]
  readonly cost: number
}
/** Steps of a search, after which it is given up: a second at most, on radios that all hear each other alike. */
const MOST_STEPS = 150_000

/**
 * Channels that can stand for each other while nobody has either: alike for every radio, and apart from all others.
 * By channel, a text that such channels have in common.
 */
function kindsOf({ choices, alone, isApart }: Problem): ReadonlyMap<number, string> {
  const channels = [...new Set(choices.flat())]
  const costs = (channel: number) =>
    choices.map((own, i) => alone[i]?.[own.indexOf(channel)] ?? 'none').join(' ')
  return new Map(
    channels.map((channel) => [channel, isApart(channel) ? costs(channel) : `only ${channel}`] as const),
  )
}

/** How one doll is looked for: by the best of those within it, and what is known of channels. */
interface Search {
  readonly problem: Problem
  readonly members: readonly number[]
  /** The least that the members from each place on cost, as far as it is known; 0 behind the last. */
  readonly rest: readonly number[]
  readonly kinds: ReadonlyMap<number, string>
  stepsLeft: number
}

/** What each member from some place on costs with those that were taken, by its choices. */
type Added = readonly (readonly number[])[]

function nextDoll(search: Search, from: number, known: Choice): Choice {
  const { problem, members, rest, kinds } = search
  const { choices, alone, between } = problem
  let best = known
  const taken: number[] = []
  /** Of channels that can stand for each other one is tried. */
  const tried = (member: number): number[] => {
    const used = new Set(taken.map((place, k) => choices[members[from + k] ?? 0]?.[place]))
    const met = new Set<string>()
    return (choices[member] ?? []).flatMap((channel, place) => {
      const kind = used.has(channel) ? `used ${channel}` : (kinds.get(channel) ?? '')
      return met.size < met.add(kind).size ? [place] : []
    })
  }
  const step = (depth: number, cost: number, added: Added): void => {
    const toCome = added.reduce((sum, own) => sum + Math.min(...own), rest[depth] ?? 0)
    if (cost + toCome >= best.cost || search.stepsLeft-- <= 0) return
    const [own = [], ...others] = added
    const member = members[depth]
    if (member === undefined) {
      best = { places: [...taken], cost }
      return
    }
    const costs = tried(member).map((place) => ({
      place,
      more: (own[place] ?? 0) + (alone[member]?.[place] ?? 0),
    }))
    for (const { place, more } of costs.sort((a, b) => a.more - b.more)) {
      taken.push(place)
      const next = others.map((costsOf, k) => {
        const other = members[depth + 1 + k] ?? 0
        return costsOf.map((before, there) => before + between(member, other, place, there))
      })
      step(depth + 1, cost + more, next)
      taken.pop()
    }
  }
  const nothing = members.slice(from).map((member) => (choices[member] ?? []).map(() => 0))
  step(from, 0, nothing)
  return best
}

/** The best of the last ones, with one more before them at its best beside these. */
function withOneMore({ problem, members }: Search, from: number, inner: Choice): Choice {
  const member = members[from] ?? 0
  const costs = (problem.choices[member] ?? []).map((_, place) =>
    inner.places.reduce(
      (sum, there, k) => sum + problem.between(member, members[from + 1 + k] ?? 0, place, there),
      problem.alone[member]?.[place] ?? 0,
    ),
  )
  const place = costs.indexOf(Math.min(...costs))
  return { places: [place, ...inner.places], cost: inner.cost + (costs[place] ?? 0) }
}

/**
 * The best places of some radios by themselves: branch and bound, with the best of the last ones alone as what is sure
 * to come (Verfaillie, Lemaitre and Schiex, Russian doll search, AAAI 1996).
 * `members` in the order of their numbers. `bound`: no choice costs less; the cost itself, but where it was given up.
 */
function exactly(problem: Problem, members: readonly number[]): Choice & { readonly bound: number } {
  const rest: number[] = Array.from({ length: members.length + 1 }, () => 0)
  const search: Search = { problem, members, rest, kinds: kindsOf(problem), stepsLeft: MOST_STEPS }
  let best: Choice = { places: [], cost: 0 }
  for (let from = members.length - 1; from >= 0; from--) {
    // At least what those within it cost.
    rest[from] = rest[from + 1] ?? 0
    best = nextDoll(search, from, withOneMore(search, from, best))
    // Given up: what was proven of those within it stays true of all that follow.
    if (search.stepsLeft > 0) rest[from] = best.cost
  }
  return { ...best, bound: rest[0] ?? 0 }
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

const channelsAt = ({ choices }: Problem, places: readonly number[]): number[] =>
  places.map((place, i) => choices[i]?.[place] ?? 0)

/** Channels that no radio by itself would leave; quickly found, and of nothing is proven that it is best. */
export function settledChannels(radios: readonly ChannelRadio[], hears: Hearing): Omit<ChannelPlan, 'bound'> {
  const problem = problemOf(radios, hears)
  const places = bySteps(problem)
  return { channels: channelsAt(problem, places), cost: costOf(problem, places) }
}

export function planChannels(radios: readonly ChannelRadio[], hears: Hearing): ChannelPlan {
  const problem = problemOf(radios, hears)
  const all = radios.map((_, i) => i)
  if (radios.length <= MOST_EXACT) {
    const { places, cost, bound } = exactly(problem, all)
    return { channels: channelsAt(problem, places), cost, bound }
  }
  const groups = Array.from({ length: Math.ceil(all.length / GROUP) }, (_, i) =>
    all.slice(i * GROUP, (i + 1) * GROUP),
  )
  const bound = groups.reduce((sum, group) => sum + exactly(problem, group).bound, 0)
  return { ...settledChannels(radios, hears), bound }
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
