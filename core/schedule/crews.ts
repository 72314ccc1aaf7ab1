// Question: what would one person less, or one more, save?
// Method: the same activities laid out for the first of the people, the first two, and so on, and for one more like the
// first; each with the same few tries.
// Source: none; each is a schedule of its own.
import type { Plan } from '#core/schema'
import { peopleOf, projectOf } from './plan-project'
import { compile } from './project'
import { createSearch } from './search'

export interface Crew {
  readonly people: number
  /** Null where something can be done by nobody of them. */
  readonly endMin: number | null
  /** Activities that nobody of them can do, and all that wait for those. */
  readonly undone: number
}

/** Tries for each number of people. */
const TRIES = 60

/** One person, two, and so on to one more than the plan has. */
export function crewsOf(plan: Plan, seed: number): Crew[] {
  const people = peopleOf(plan)
  const [first] = people
  if (!first) return []
  const more = [...people, { ...first, id: `${first.id}~more` }]
  return more.map((_, i) => {
    const search = createSearch(compile(projectOf(plan, undefined, more.slice(0, i + 1))), seed)
    search.improve(TRIES)
    const { layout } = search.best
    const undone = layout.unplaced.size
    return { people: i + 1, endMin: undone === 0 ? layout.endMin : null, undone }
  })
}
