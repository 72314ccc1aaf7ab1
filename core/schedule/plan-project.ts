// Question: which project does a plan make, with its people, hours, light and window?
// Method: what the plan says; where it names nobody, one person who may do everything is assumed, and that is told.
// Source: none beyond those of the parts.
import { DAY } from '#core/queries'
import type { Person, Plan, WorkFacts } from '#core/schema'
import { activitiesOf } from './activities'
import { daylightAt, hoursOf, windowOf } from './calendar'
import { BENCH_PORT } from './on-bench'
import type { Happened, Project } from './project'

/** Works from Monday to Friday, 8 to 17 h, and may do everything: counted while the plan names nobody. */
export const ASSUMED: Person = {
  id: 'assumed',
  name: 'Anybody',
  skills: ['mains', 'height', 'driving'],
  days: [1, 2, 3, 4, 5],
  from: '08:00',
  to: '17:00',
}

/** What the schedule takes for granted, since the plan does not say it. */
export type Assumption = 'people' | 'start' | 'daylight' | 'travel' | 'window'

export const peopleOf = (plan: Plan): readonly Person[] =>
  plan.work.people.length > 0 ? plan.work.people : [ASSUMED]

/** Travel between two places, minutes, over others where that is shorter; 0 where none is said. */
function travelOf({ journeys }: WorkFacts): Project['travelMin'] {
  const places = [...new Set(journeys.flatMap((journey) => [journey.a, journey.b]))]
  const indexOf = new Map(places.map((place, i) => [place, i]))
  const shortest = places.map((_, i) => places.map((__, j) => (i === j ? 0 : Infinity)))
  const shorten = (from: number, to: number, minutes: number) => {
    const row = shortest[from]
    if (row) row[to] = Math.min(row[to] ?? Infinity, minutes)
  }
  for (const journey of journeys) {
    const [from, to] = [indexOf.get(journey.a) ?? 0, indexOf.get(journey.b) ?? 0]
    shorten(from, to, journey.minutes)
    shorten(to, from, journey.minutes)
  }
  // Over each place in turn (R. W. Floyd, Communications of the ACM 5 (1962) 345).
  places.forEach((_, over) =>
    places.forEach((__, from) =>
      places.forEach((___, to) =>
        shorten(from, to, (shortest[from]?.[over] ?? Infinity) + (shortest[over]?.[to] ?? Infinity)),
      ),
    ),
  )
  return (from, to) => {
    const minutes = shortest[indexOf.get(from) ?? -1]?.[indexOf.get(to) ?? -1] ?? 0
    return Number.isFinite(minutes) ? minutes : 0
  }
}

/** The first building whose position is known stands for the site. */
const positionOf = (plan: Plan) => plan.brief.buildings.find(({ position }) => position)?.position ?? null

export interface Clock {
  readonly happened: ReadonlyMap<string, Happened>
  /** Minutes from midnight of the first day. */
  readonly nowMin: number
}
const AT_FIRST: Clock = { happened: new Map(), nowMin: 0 }

/**
 * The project of a plan.
 * @param people who works; those of the plan where nothing else is said
 */
export function projectOf(plan: Plan, clock: Clock = AT_FIRST, people = peopleOf(plan)): Project {
  const { work } = plan
  const known = new Set(people.map(({ id }) => id))
  const firstDay = Math.floor(clock.nowMin / DAY)
  return {
    activities: activitiesOf(plan),
    people: people.map((person) => ({
      id: person.id,
      skills: person.skills,
      hours: hoursOf(person, work.startDate, firstDay),
    })),
    capacities: new Map([[BENCH_PORT, work.benchPorts]]),
    travelMin: travelOf(work),
    daylight: daylightAt(positionOf(plan), work, firstDay),
    window: windowOf(work),
    wishes: new Map(
      work.adjustments.map(({ activityId, personId, notBeforeMin }) => [
        activityId,
        { personId: personId !== null && known.has(personId) ? personId : null, notBeforeMin },
      ]),
    ),
    ...clock,
  }
}

/** What a schedule of this plan takes for granted. */
export function assumptionsOf(plan: Plan, { activities, daylight, window }: Project): Assumption[] {
  const { work } = plan
  const places = new Set(activities.map(({ place }) => place).filter((place) => place !== ''))
  return [
    ...(work.people.length === 0 ? ['people' as const] : []),
    ...(work.startDate === null ? ['start' as const] : []),
    ...(daylight === null && activities.some(({ limit }) => limit === 'daylight')
      ? ['daylight' as const]
      : []),
    ...(work.journeys.length === 0 && places.size > 1 ? ['travel' as const] : []),
    ...(window === null && activities.some(({ limit }) => limit === 'window') ? ['window' as const] : []),
  ]
}
