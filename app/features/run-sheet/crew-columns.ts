import { freshId, removePerson, setDuration } from '#core/edit'
import { activitiesOf, KINDS, recordedTimes, type Duration, type RecordedTime } from '#core/schedule'
import type { ActivityKind, Journey, Person, Skill } from '#core/schema'
import { ok, problem, refuse, type Result } from '#core/util'
import { SKILL_WORDS, skillsText, SOURCES } from './words'
import { kindWords } from '~/wording/activities'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { DAYS, daysTyped, dayWords, HALF_HOURS, readClock, readDays } from '~/ui/days'
import {
  columnsOver,
  cutAt,
  name,
  orNothing,
  partsIn,
  useColumns,
  whole,
  yesOrNo,
  YES_NO,
  type Column,
  type Put,
} from '~/ui/columns'

type PersonDraft = PlanDraft['work']['people'][number]
const SKILLS = Object.keys(SKILL_WORDS) as Skill[]

/** Skills that a text names. Problems: not-a-choice. */
function readSkills(text: string): Result<Skill[]> {
  const named = partsIn(text).filter((part) => part !== 'none')
  const unknown = named.find((part) => !SKILLS.includes(part as Skill))
  return unknown === undefined
    ? ok(SKILLS.filter((skill) => named.includes(skill)))
    : refuse(problem('not-a-choice', '', { text: unknown, choices: SKILLS.join(', ') }))
}

function usePutPerson(): Put<Person, PersonDraft> {
  const plan = usePlan()
  return (row, session, words, recipe) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const person = draft.work.people.find(({ id }) => id === row.id)
      if (person) recipe(person, draft)
    })
}

/** Who works, what they may do, and when. */
export function usePersonColumns(): readonly Column<Person>[] {
  const over = columnsOver<Person, PersonDraft>()
  const time = (key: 'from' | 'to', head: string) =>
    over({
      key,
      head,
      mono: true,
      width: '110px',
      read: (person) => person[key],
      offers: () => HALF_HOURS,
      offersOne: true,
      parse: readClock,
      write: (person, clock) => void (person[key] = clock),
    })
  return useColumns<Person, PersonDraft>(
    [
      over({
        key: 'name',
        head: 'Who',
        strong: true,
        read: (person) => person.name,
        parse: name,
        write: (person, text) => void (person.name = text),
      }),
      over({
        key: 'skills',
        head: 'May work at',
        read: (person) => skillsText(person.skills) || 'none',
        offers: () => SKILLS,
        parse: readSkills,
        write: (person, skills) => void (person.skills = skills),
      }),
      over({
        key: 'days',
        head: 'Days',
        read: (person) => dayWords(person.days),
        edit: (person) => daysTyped(person.days),
        offers: () => DAYS,
        parse: readDays,
        write: (person, days) => void (person.days = days),
      }),
      time('from', 'From'),
      time('to', 'Until'),
    ],
    usePutPerson(),
  )
}

/** People and journeys come and go. */
export function useCrewEdits() {
  const plan = usePlan()
  return {
    addPerson: () =>
      plan.edit('person added', '', ({ work }) => {
        const id = freshId(work.people, 'person')
        const names = ['Rigger', 'Electrician', 'Helper'].filter((role) =>
          work.people.every((person) => person.name !== role),
        )
        work.people.push({
          id,
          name: names[0] ?? `Person ${work.people.length + 1}`,
          skills: names[0] === 'Electrician' ? ['mains'] : ['height'],
          days: [1, 2, 3, 4, 5],
          from: '08:00',
          to: '17:00',
        })
      }),
    dropPerson: (id: string) => plan.edit('person removed', '', ({ work }) => removePerson(work, id)),
    addJourney: (from: string, to: string) =>
      plan.edit('travel time added', '', ({ work }) => {
        work.journeys.push({ id: freshId(work.journeys, 'journey'), a: from, b: to, minutes: 5 })
      }),
    dropJourney: (id: string) =>
      plan.edit('travel time removed', '', ({ work }) => {
        work.journeys = work.journeys.filter((journey) => journey.id !== id)
      }),
  }
}

type JourneyDraft = PlanDraft['work']['journeys'][number]

/** Journeys between places, by foot, car or boat. */
export function useJourneyColumns(places: () => readonly string[]): readonly Column<Journey>[] {
  const plan = usePlan()
  const put: Put<Journey, JourneyDraft> = (row, session, words, recipe) =>
    plan.edit(`travel time: ${words}`, session, (draft) => {
      const journey = draft.work.journeys.find(({ id }) => id === row.id)
      if (journey) recipe(journey, draft)
    })
  const over = columnsOver<Journey, JourneyDraft>()
  const end = (key: 'a' | 'b', head: string) =>
    over({
      key,
      head,
      read: (journey) => journey[key] || '—',
      offers: places,
      offersOne: true,
      parse: cutAt(80),
      write: (journey, place) => void (journey[key] = place),
    })
  return useColumns<Journey, JourneyDraft>(
    [
      end('a', 'From'),
      end('b', 'To'),
      over({
        key: 'minutes',
        head: 'Minutes',
        num: true,
        width: '90px',
        read: (journey) => String(journey.minutes),
        parse: whole(0, 1440),
        write: (journey, minutes) => void (journey.minutes = minutes),
      }),
    ],
    put,
  )
}

/** A kind of activity, with how long it takes here and how many there are. */
export interface KindRow {
  readonly id: ActivityKind
  readonly count: number
  readonly isLeftOut: boolean
  readonly source: Duration['source']
  readonly minutes: readonly [least: number, usual: number, worst: number]
  /** What was recorded of it here; nothing where it was not. */
  readonly recorded: RecordedTime | undefined
}

/** Kinds that models say themselves. */
const OF_MODELS: readonly ActivityKind[] = ['boot', 'adopt']
function sourceOf(kind: ActivityKind, isOwn: boolean): Duration['source'] {
  if (isOwn) return 'own'
  return OF_MODELS.includes(kind) ? 'model' : 'practice'
}

/** Every kind that this plan has, and those that were left out. */
export function useKindRows() {
  const plan = usePlan()
  const site = useSite()
  const recorded = computed(() => new Map(recordedTimes(site.steps).map((time) => [time.kind, time])))
  return computed((): KindRow[] => {
    const { draft } = plan
    if (!draft) return []
    const counts = new Map<ActivityKind, number>()
    for (const { kind } of activitiesOf(draft)) counts.set(kind, (counts.get(kind) ?? 0) + 1)
    return (Object.keys(KINDS) as ActivityKind[])
      .filter((kind) => counts.has(kind) || draft.work.leftOut.includes(kind))
      .map((kind) => {
        const own = draft.work.durations.find((duration) => duration.kind === kind)
        return {
          id: kind,
          count: counts.get(kind) ?? 0,
          isLeftOut: draft.work.leftOut.includes(kind),
          source: sourceOf(kind, own !== undefined),
          minutes: own ? [own.leastMin, own.usualMin, own.worstMin] : KINDS[kind].minutes,
          recorded: recorded.value.get(kind),
        }
      })
  })
}

const recordedText = ({ recorded }: KindRow): string =>
  recorded ? `${recorded.leastMin} / ${recorded.usualMin} / ${recorded.worstMin} (${recorded.count})` : '—'

/** Times from which on what was recorded says something. */
const OFTEN = 3

/** Takes what was recorded for this team's own, for kinds that were recorded often enough. */
export function useRecordedTimes(rows: () => readonly KindRow[]) {
  const plan = usePlan()
  const often = computed(() =>
    rows().flatMap(({ recorded }) => (recorded && recorded.count >= OFTEN ? [recorded] : [])),
  )
  const take = () =>
    plan.edit('recorded times taken', '', ({ work }) => {
      for (const time of often.value)
        setDuration(work, time.kind, [time.leastMin, time.usualMin, time.worstMin])
    })
  return { often, take }
}

interface KindDraft {
  kind: ActivityKind
  draft: PlanDraft
}

/** Three numbers in their order. Problems: not-three-minutes. */
function readMinutes(text: string): Result<[number, number, number]> {
  const [least, usual, worst] = partsIn(text.replaceAll(/[\s/]+/g, ',')).map(Number)
  const isRight =
    least !== undefined &&
    usual !== undefined &&
    worst !== undefined &&
    [least, usual, worst].every((minutes) => Number.isInteger(minutes) && minutes <= 10_000) &&
    0 <= least &&
    least <= usual &&
    usual <= worst
  return isRight ? ok([least, usual, worst]) : refuse(problem('not-three-minutes', '', { text }))
}

/** How long each kind takes, and whether this site needs it at all. */
export function useKindColumns(): readonly Column<KindRow>[] {
  const plan = usePlan()
  const put: Put<KindRow, KindDraft> = (row, session, words, recipe) =>
    plan.edit(`${kindWords(row.id)}: ${words}`, session, (draft) => recipe({ kind: row.id, draft }, draft))
  const over = columnsOver<KindRow, KindDraft>()
  return useColumns<KindRow, KindDraft>(
    [
      { key: 'kind', head: 'Activity', strong: true, get: (row) => kindWords(row.id) },
      { key: 'count', head: 'How many', num: true, width: '90px', get: (row) => String(row.count) },
      over({
        key: 'minutes',
        head: 'Least / usual / worst, min',
        mono: true,
        width: '200px',
        // What models say differs from one to the next.
        read: (row) => (row.source === 'model' ? '—' : row.minutes.join(' / ')),
        edit: (row) => (row.source === 'model' ? '' : row.minutes.join(' / ')),
        parse: (text) => orNothing<[number, number, number]>(['', '—'], readMinutes)(text),
        write: ({ kind, draft }, minutes) => setDuration(draft.work, kind, minutes),
      }),
      { key: 'source', head: 'From', width: '90px', get: (row) => SOURCES[row.source] },
      { key: 'recorded', head: 'Recorded here', width: '150px', mono: true, get: recordedText },
      over({
        key: 'left-out',
        head: 'Left out',
        width: '90px',
        read: (row) => (row.isLeftOut ? 'yes' : 'no'),
        choices: () => YES_NO,
        parse: yesOrNo,
        write: ({ kind, draft }, isLeftOut) => {
          const others = draft.work.leftOut.filter((each) => each !== kind)
          draft.work.leftOut = isLeftOut ? [...others, kind] : others
        },
      }),
    ],
    put,
  )
}
