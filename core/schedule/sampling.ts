// Question: what has to count, and how much, for work to be given out well along with the time?
// Method: weights drawn at random around those that did well; then the best of them with a few activities made more or
// less urgent, kept where the people are done no later.
// Source: sampling and local search over priorities, as in R. Kolisch and S. Hartmann, European Journal of Operational
// Research 174 (2006) 23-37.
import { dispatcher, type Orders, type Urgencies } from './dispatch'
import type { Compiled } from './project'

/** From where to where each weight is drawn: of 500 drawn wider, on 300 activities, the best lay in here. */
const SPANS: Readonly<Record<keyof Urgencies, readonly [from: number, to: number]>> = {
  slackMin: [4, 10],
  travel: [1, 4],
  isHeld: [20, 50],
  takes: [0, 40],
  left: [0.05, 0.2],
}
const WEIGHTS = ['slackMin', 'travel', 'isHeld', 'takes', 'left'] as const

/** So many are drawn before the best of them is changed. */
const DRAWN = 100
/** Activities of which at most so many are made more or less urgent at a time, and by how many minutes at most. */
const CHANGED = 8
const MORE_MIN = 20

/** Who does what in which order, and when all would be done. */
export interface Sample extends Orders {
  readonly endMin: number
}

interface Tried {
  readonly urgencies: Urgencies
  readonly more: Float64Array
  readonly cost: number
}

/** The end of all, and of each person's work on average; minutes. */
function endsOf({ minutes, project }: Compiled, { keys, people }: Orders) {
  const done = project.people.map(() => 0)
  let endMin = 0
  keys.forEach((start, i) => {
    const ended = start + (minutes[i] ?? 0)
    endMin = Math.max(endMin, ended)
    const person = people[i] ?? -1
    if (person >= 0) done[person] = Math.max(done[person] ?? 0, ended)
  })
  return { endMin, meanMin: done.reduce((sum, time) => sum + time, 0) / Math.max(1, done.length) }
}

/**
 * Gives out the work of a project in another way at each call.
 * @param next draws from 0 to 1
 */
export function createSampler(compiled: Compiled, next: () => number): () => Sample {
  const give = dispatcher(compiled)
  const count = compiled.minutes.length
  let tries = 0
  /** The very first is the middle of all. */
  const draw = (name: keyof Urgencies) =>
    SPANS[name][0] + (tries === 0 ? 0.5 : next()) * (SPANS[name][1] - SPANS[name][0])
  const drawAll = (): Urgencies => ({
    slackMin: draw('slackMin'),
    travel: draw('travel'),
    isHeld: draw('isHeld'),
    takes: draw('takes'),
    left: draw('left'),
  })
  const changed = ({ urgencies, more }: Tried) => {
    const changedMore = Float64Array.from(more)
    const times = 1 + Math.floor(next() * CHANGED)
    for (let n = 0; n < times; n++) changedMore[Math.floor(next() * count)] = (2 * next() - 1) * MORE_MIN
    const name = WEIGHTS[Math.floor(next() * WEIGHTS.length)] ?? 'travel'
    return { urgencies: next() < 0.3 ? { ...urgencies, [name]: draw(name) } : urgencies, more: changedMore }
  }
  let best: Tried | null = null
  return () => {
    const tried =
      best && tries >= DRAWN ? changed(best) : { urgencies: drawAll(), more: new Float64Array(count) }
    const orders = give(tried.urgencies, tried.more)
    tries++
    const { endMin, meanMin } = endsOf(compiled, orders)
    // Of two that end together the one with less work late is the better one.
    const cost = endMin + meanMin / 2
    if (!best || cost <= best.cost) best = { ...tried, cost }
    return { ...orders, endMin }
  }
}
