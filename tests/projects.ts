import fc from 'fast-check'
import { KINDS, type Activity, type Project } from '#core/schedule'
import type { ActivityKind } from '#core/schema'

// Small projects for tests of schedules, without a plan behind them.

type Rest = Partial<Omit<Activity, 'id' | 'duration'>> & { readonly minutes?: readonly number[] }

/** An activity of so many minutes, or of three points, that needs one person unless it says otherwise. */
export function activity(id: string, minutes: number | readonly number[], rest: Rest = {}): Activity {
  const [leastMin = 0, usualMin = leastMin, worstMin = usualMin] =
    typeof minutes === 'number' ? [minutes] : minutes
  const kind: ActivityKind = 'connect'
  return {
    id,
    kind,
    group: KINDS[kind].group,
    about: id,
    deviceId: null,
    place: '',
    duration: { leastMin, usualMin, worstMin, source: 'own' },
    hands: true,
    skills: [],
    after: [],
    takes: [],
    frees: [],
    limit: 'any',
    ...rest,
  }
}

export const ALWAYS = [{ from: 0, to: 200_000 }]

export function aProject(activities: readonly Activity[], rest: Partial<Project> = {}): Project {
  return {
    activities,
    people: [{ id: 'one', skills: [], hours: ALWAYS }],
    capacities: new Map(),
    travelMin: () => 0,
    daylight: null,
    window: null,
    wishes: new Map(),
    happened: new Map(),
    nowMin: 0,
    ...rest,
  }
}

const PLACES = ['hall', 'shed', 'mast']
/** Ways that are no shortcuts of each other. */
const WAYS: Readonly<Record<string, number>> = { 'hall shed': 3, 'hall mast': 5, 'mast shed': 4 }
const way = (from: string, to: string): number => WAYS[[from, to].sort().join(' ')] ?? 0

interface Shape {
  readonly minutes: number
  readonly hands: boolean
  readonly skilled: boolean
  readonly place: number
  readonly after: readonly number[]
  readonly daylight: boolean
}

const shape: fc.Arbitrary<Shape> = fc.record({
  minutes: fc.integer({ min: 1, max: 9 }),
  hands: fc.boolean(),
  skilled: fc.boolean(),
  place: fc.nat({ max: 2 }),
  after: fc.array(fc.nat({ max: 8 }), { maxLength: 2 }),
  daylight: fc.boolean(),
})

export interface Wishes {
  readonly most: number
  readonly hours?: boolean
  readonly chains?: boolean
}

/** Activities in an order that breaks no precedence; pairs of them may hold the one bench between them. */
const drawnActivities = (shapes: readonly Shape[], { hours = false, chains = false }: Wishes): Activity[] => {
  const plain = shapes.map(({ minutes, hands, skilled, place, after, daylight }, i) =>
    activity(`a${i}`, minutes, {
      hands,
      skills: hands && skilled ? ['height'] : [],
      place: PLACES[place] ?? '',
      after: [...new Set(after)].filter((j) => j < i).map((j) => `a${j}`),
      limit: hours && daylight ? 'daylight' : 'any',
    }),
  )
  if (!chains) return plain
  // The first of a pair takes the bench, the second, which waits for it alone, frees it.
  return plain.map((each, i) => {
    const about = `pair${Math.floor(i / 2)}`
    return i % 2 === 0
      ? { ...each, about, takes: i + 1 < plain.length ? ['bench'] : [] }
      : { ...each, about, after: [`a${i - 1}`], frees: ['bench'] }
  })
}

/** A day of 30 minutes: with 20 for work, 10 of daylight in their midst. */
const DAYS = Array.from({ length: 60 }, (_, day) => day * 30)

/** Projects by chance: one or two people, one of whom may work at height, three places. */
export const randomProject = (wishes: Wishes): fc.Arbitrary<Project> =>
  fc
    .tuple(
      fc.array(shape, { minLength: 1, maxLength: wishes.most }),
      fc.integer({ min: 1, max: 2 }),
      fc.boolean(),
    )
    .map(([shapes, people, far]) => {
      const hours = wishes.hours ? DAYS.map((from) => ({ from, to: from + 20 })) : ALWAYS
      const names = ['one', 'two'].slice(0, people)
      return aProject(drawnActivities(shapes, wishes), {
        people: names.map((id, i) => ({ id, skills: i === 0 ? ['height'] : [], hours })),
        travelMin: far ? way : () => 0,
        daylight: wishes.hours ? DAYS.map((from) => ({ from: from + 5, to: from + 15 })) : null,
      })
    })
