// Question: in which order are activities laid out, so that all ends as early as can be?
// Method: priority rules first; then forward-backward improvement (laid out from the end, then from the beginning in
// that order), and two seeded local searches: one exchanges the place of a few activities in the order, one changes
// what counts when work is given out along with the time. Both keep what is no worse.
// Source: R. Kolisch, European Journal of Operational Research 90 (1996) for the rules; K. Y. Li and R. J. Willis,
// European Journal of Operational Research 56 (1992) 370-379 for forward and backward.
import { chance } from '#core/util'
import { lowerBound } from './bound'
import { createSampler } from './sampling'
import { isExact, solveExactly } from './exact'
import { mirrored } from './mirror'
import type { ActivityGroup } from './activity'
import type { Compiled } from './project'
import { layOut, type Layout } from './serial'

export interface Found {
  readonly layout: Layout
  /** No schedule ends before; minutes from midnight of the first day. */
  readonly leastEndMin: number
  /** Nothing better exists. */
  readonly isProven: boolean
}

export interface Search {
  /** The best so far. */
  readonly best: Found
  /** Tries so many more orders; true where something better was found. */
  readonly improve: (tries: number) => boolean
}

/** Whether one layout is better: more laid out, then the earlier end, then less of what breaks ties. */
function isBetter(one: Layout, other: Layout): boolean {
  if (one.unplaced.size !== other.unplaced.size) return one.unplaced.size < other.unplaced.size
  return one.endMin === other.endMin ? one.tieBreakMin < other.tieBreakMin : one.endMin < other.endMin
}

const GROUPS: readonly ActivityGroup[] = ['before', 'bench', 'site', 'cut-over', 'after']

/** As people would do it: a group after the other, a place after the other, a device after the other. */
function asPeopleWould({ project }: Compiled): number[] {
  const { activities } = project
  const places = [...new Set(activities.map(({ place }) => place))]
  const things = [...new Set(activities.map(({ about }) => about))]
  return activities.map(({ group, place, about }) => {
    const [first, second] =
      group === 'site' ? [places.indexOf(place), things.indexOf(about)] : [things.indexOf(about), 0]
    return (GROUPS.indexOf(group) * things.length + first) * things.length + second
  })
}

/** Priority rules: as people would; longest way to the end; latest start; most that wait for it. */
function rules(compiled: Compiled): number[][] {
  const { tail, next, minutes } = compiled
  const followers: number[] = []
  for (let i = minutes.length - 1; i >= 0; i--)
    followers[i] = (next[i] ?? []).reduce((sum, j) => sum + 1 + (followers[j] ?? 0), 0)
  return [
    asPeopleWould(compiled),
    tail.map((minutesLeft) => -minutesLeft),
    tail.map((minutesLeft, i) => (minutes[i] ?? 0) - minutesLeft),
    followers.map((count) => -count),
  ]
}

const startsOf = ({ start }: Layout): number[] => Array.from(start, (time) => time || 0)

/** Laid out backwards from its end and forwards again, as long as that gains something. */
function justified(compiled: Compiled, layout: Layout): Layout {
  let best = layout
  for (;;) {
    const { endMin } = best
    const backward = layOut(
      mirrored(compiled, endMin),
      Array.from(best.end, (time) => endMin - (time || 0)),
    )
    if (backward.unplaced.size > 0) return best
    const forward = layOut(
      compiled,
      Array.from(backward.end, (time) => endMin - (time || 0)),
    )
    if (!isBetter(forward, best)) return best
    best = forward
  }
}

/** Swaps the urgency of two activities, or puts one somewhere else. */
function moved(keys: readonly number[], next: () => number): number[] {
  const changed = [...keys]
  const draw = () => Math.floor(next() * keys.length)
  const times = 1 + Math.floor(next() * 3)
  for (let n = 0; n < times; n++) {
    const [first, second] = [draw(), draw()]
    const [one, other] = [changed[first] ?? 0, changed[second] ?? 0]
    changed[first] = other + (next() < 0.5 ? -0.5 : 0.5)
    if (next() < 0.5) changed[second] = one
  }
  return changed
}

/** One of so many tries changes the order; the others give out the work along with the time. */
const SHARE = 3

/**
 * Looks for a schedule that ends as early as can be; the first answer is there at once.
 * The same project and seed give the same answers after the same number of tries.
 */
export function createSearch(compiled: Compiled, seed: number): Search {
  const next = chance(seed)
  const leastEndMin = lowerBound(compiled)
  const sample = createSampler(compiled, next)
  const first = sample()
  const ruled = [
    ...rules(compiled).map((keys) => layOut(compiled, keys)),
    layOut(compiled, first.keys, first.people),
  ]
  let best = justified(
    compiled,
    ruled.reduce((one, other) => (isBetter(other, one) ? other : one)),
  )
  const exact = isExact(compiled) && best.unplaced.size === 0 ? solveExactly(compiled, best) : null
  best = exact?.layout ?? best
  let [current, keys] = [best, startsOf(best)]
  let tried = 0
  const found = (): Found => {
    const isProven = best.unplaced.size === 0 && (exact?.isProven === true || best.endMin <= leastEndMin)
    return { layout: best, leastEndMin: isProven ? best.endMin : leastEndMin, isProven }
  }
  function giveOut(): void {
    const drawn = sample()
    if (drawn.endMin > best.endMin && best.unplaced.size === 0) return
    const layout = layOut(compiled, drawn.keys, drawn.people)
    if (isBetter(layout, best)) best = layout
  }
  function exchangePlaces(): void {
    const layout = layOut(compiled, moved(keys, next))
    if (isBetter(current, layout)) return
    ;[current, keys] = [layout, startsOf(layout)]
    if (!isBetter(layout, best)) return
    best = justified(compiled, layout)
    ;[current, keys] = [best, startsOf(best)]
  }
  return {
    get best() {
      return found()
    },
    improve(tries) {
      const before = best
      for (let n = 0; n < tries; n++, tried++) {
        if (tried % SHARE === 0) exchangePlaces()
        else giveOut()
      }
      return isBetter(best, before)
    },
  }
}
