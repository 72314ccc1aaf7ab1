// Question: when is all done, if some things take longer than usual?
// Method: durations are drawn from PERT's beta distribution; who does what in which order stays as it is laid out; what
// waits begins as soon as all that it waits for has ended, in its hours.
// Source: Monte Carlo method as in ISO 31010:2019, B.5.10; criticality index of R. M. Van Slyke, Operations Research 11
// (1963) 839-860; D. G. Malcolm et al., Operations Research 7 (1959) 646-669: mean (least + 4 usual + worst) / 6.
import { chance } from '#core/util'
import { firstFitOfAll, type Interval } from './calendar'
import { arcsOf, chainTo, type Arcs } from './chain'
import type { Duration } from './activity'
import type { Compiled, Happened } from './project'
import type { Layout } from './serial'

export interface Spread {
  /** Ends of all runs, ascending, minutes from midnight of the first day. */
  readonly ends: readonly number[]
  /** Share of the runs in which all is over within the window of the cut-over; null where there is none. */
  readonly withinWindow: number | null
  /** Share of the runs in which an activity held up the end, by index. */
  readonly criticality: readonly number[]
}

/** Steps of a table of quantiles. */
const STEPS = 256
/** Points at which a density is summed. */
const POINTS = 2048

/**
 * Quantiles of the beta distribution that PERT takes for durations, on 0 to 1, at equal shares.
 * Formula: density in proportion to x^(4 mode) (1 - x)^(4 (1 - mode)), so that the mean is (1 + 4 mode) / 6.
 * @param mode where between least (0) and worst (1) the usual value lies
 */
function pertQuantiles(mode: number): Float64Array {
  const sums = new Float64Array(POINTS + 1)
  for (let i = 0; i < POINTS; i++) {
    const x = (i + 0.5) / POINTS
    sums[i + 1] = (sums[i] ?? 0) + x ** (4 * mode) * (1 - x) ** (4 * (1 - mode))
  }
  const total = sums[POINTS] ?? 1
  const quantiles = new Float64Array(STEPS + 1)
  let at = 0
  for (let step = 0; step <= STEPS; step++) {
    const wanted = (step / STEPS) * total
    while (at < POINTS - 1 && (sums[at + 1] ?? 0) < wanted) at++
    const [before, after] = [sums[at] ?? 0, sums[at + 1] ?? 0]
    quantiles[step] = (at + (wanted - before) / (after - before)) / POINTS
  }
  return quantiles
}

/**
 * How to draw durations of three points.
 * @returns a duration for a share of 0 to 1, minutes; the usual one where least and worst are the same
 */
export function durationDraw(): (duration: Duration, share: number) => number {
  const tables = new Map<number, Float64Array>()
  return ({ leastMin, usualMin, worstMin }, share) => {
    const range = worstMin - leastMin
    if (range <= 0) return usualMin
    const mode = Math.min(1, Math.max(0, (usualMin - leastMin) / range))
    let table = tables.get(mode)
    if (!table) tables.set(mode, (table = pertQuantiles(mode)))
    const at = Math.min(STEPS - 1, Math.floor(share * STEPS))
    const [low, high] = [table[at] ?? 0, table[at + 1] ?? 1]
    return leastMin + range * (low + (high - low) * (share * STEPS - at))
  }
}

/** A schedule that is run again and again with other durations. */
class Runs {
  private readonly arcs: Arcs
  private readonly lists: readonly (readonly (readonly Interval[])[])[]
  private readonly happened: readonly (Happened | undefined)[]
  private readonly end: Float64Array
  private readonly draw = durationDraw()
  /** How often each activity held up the end. */
  readonly held: Float64Array
  readonly ends: number[] = []
  /** Runs in which the window was kept. */
  kept = 0

  constructor(
    private readonly compiled: Compiled,
    layout: Layout,
  ) {
    const { project, limits } = compiled
    this.arcs = arcsOf(compiled, layout)
    this.lists = project.activities.map((_, i) =>
      [project.people[layout.person[i] ?? -1]?.hours, limits[i]].filter((list) => !!list),
    )
    this.happened = project.activities.map(({ id }) => project.happened.get(id))
    this.end = new Float64Array(project.activities.length)
    this.held = new Float64Array(project.activities.length)
  }

  /** When all that an activity waits for has ended. */
  private readyAt(i: number): number {
    const { before, notBefore } = this.compiled
    const person = this.arcs.personBefore[i] ?? -1
    let time = notBefore[i] ?? 0
    for (const j of before[i] ?? []) time = Math.max(time, this.end[j] ?? 0)
    for (const j of this.arcs.freedBy[i] ?? []) time = Math.max(time, this.end[j] ?? 0)
    return person < 0 ? time : Math.max(time, (this.end[person] ?? 0) + (this.arcs.travelMin[i] ?? 0))
  }

  private endOf(i: number, minutes: number): number {
    const happened = this.happened[i]
    if (happened)
      return happened.endMin ?? Math.max(this.compiled.project.nowMin, happened.startMin + minutes)
    // What no longer fits, such as into a window that is over, is done all the same, too late.
    const ready = this.readyAt(i)
    return (firstFitOfAll(this.lists[i] ?? [], ready, minutes) ?? ready) + minutes
  }

  run(next: () => number): void {
    const { activities, window } = this.compiled.project
    let [endMin, isKept] = [0, true]
    for (const i of this.arcs.order) {
      const activity = activities[i]
      const end = this.endOf(i, activity ? this.draw(activity.duration, next()) : 0)
      this.end[i] = end
      endMin = Math.max(endMin, end)
      if (window && activity?.limit === 'window' && end > window.to) isKept = false
    }
    this.ends.push(endMin)
    if (isKept) this.kept++
    for (const i of chainTo(this.compiled, this.arcs, { end: this.end, endMin }))
      this.held[i] = (this.held[i] ?? 0) + 1
  }
}

/**
 * Runs a schedule many times.
 * @param times 1 to 100,000
 * @param seed the same seed gives the same runs
 */
export function spreadOf(compiled: Compiled, layout: Layout, times: number, seed: number): Spread {
  const { activities, window } = compiled.project
  const next = chance(seed)
  const runs = new Runs(compiled, layout)
  for (let n = 0; n < times; n++) runs.run(next)
  return {
    ends: runs.ends.sort((a, b) => a - b),
    withinWindow: window && activities.some(({ limit }) => limit === 'window') ? runs.kept / times : null,
    criticality: Array.from(runs.held, (count) => count / times),
  }
}

/** Time by which a share of the runs is done. @param share 0 to 1 */
export const doneBy = ({ ends }: Spread, share: number): number =>
  ends[Math.min(ends.length - 1, Math.max(0, Math.ceil(share * ends.length) - 1))] ?? 0

/** Share of the runs that are done by a time. */
export const shareDoneBy = ({ ends }: Spread, time: number): number =>
  ends.length === 0 ? 0 : ends.filter((end) => end <= time).length / ends.length
