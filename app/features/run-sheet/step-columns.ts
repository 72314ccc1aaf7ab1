import { adjust, adjustmentOf } from '#core/edit'
import type { TimetableRow } from '#core/schedule'
import type { Person } from '#core/schema'
import { readTime, timeText, typedTime } from './times'
import { skillsText, unplacedWords } from './words'
import { titlesOf } from '~/wording/activities'
import { usePlan } from '~/stores/plan'
import {
  columnsOver,
  oneOf,
  orNothing,
  useColumns,
  yesOrNo,
  YES_NO,
  type Column,
  type Put,
} from '~/ui/columns'

/** A row of the table of steps. */
export type StepRow = TimetableRow

const ANYBODY = 'anybody'

const nameOf = (people: readonly Person[], id: string | null): string =>
  people.find((person) => person.id === id)?.name ?? ''

interface Wish {
  personId?: string | null
  notBeforeMin?: number | null
  isLeftOut?: boolean
}

/** What is wished of a step, as one step to undo for each cell that is typed. */
function usePutWish(): Put<StepRow, Wish> {
  const plan = usePlan()
  return (row, session, words, recipe) =>
    plan.edit(`run sheet: ${words}`, session, (draft) => {
      const wish: Wish = {}
      recipe(wish, draft)
      adjust(draft.work, row.id, wish)
    })
}

const over = columnsOver<StepRow, Wish>()

/** Who is to do it: anybody, or one of those who may. */
const whoColumn = over({
  key: 'who',
  head: 'Who',
  width: '90px',
  read: (row, { work }) =>
    row.hands ? nameOf(work.people, row.personId) || skillsText(row.skills) || ANYBODY : '(a wait)',
  edit: (row, { work }) => nameOf(work.people, adjustmentOf(work, row.id).personId) || ANYBODY,
  choices: (row, { work }) => [
    ANYBODY,
    ...work.people
      .filter(({ skills }) => row.skills.every((skill) => (skills as readonly string[]).includes(skill)))
      .map(({ name }) => name),
  ],
  parse: (text, _, { work }) => orNothing(['', ANYBODY], oneOf(work.people.map(({ name }) => name)))(text),
  write: (wish, name, draft) => {
    wish.personId = draft.work.people.find((person) => person.name === name)?.id ?? null
  },
})

const notBeforeColumn = over({
  key: 'not-before',
  head: 'Not before',
  mono: true,
  width: '90px',
  read: (row, { work }) => {
    const { notBeforeMin } = adjustmentOf(work, row.id)
    return notBeforeMin === null ? '—' : timeText(work.startDate, notBeforeMin)
  },
  edit: (row, { work }) => {
    const { notBeforeMin } = adjustmentOf(work, row.id)
    return notBeforeMin === null ? '' : typedTime(work.startDate, notBeforeMin)
  },
  parse: (text, _, { work }) =>
    orNothing<number>(['', '—'], (typed) => readTime(work.startDate, typed))(text),
  write: (wish, minutes) => void (wish.notBeforeMin = minutes),
})

const leftOutColumn = over({
  key: 'left-out',
  head: 'Left out',
  width: '70px',
  read: (row, { work }) => (adjustmentOf(work, row.id).isLeftOut ? 'yes' : 'no'),
  choices: () => YES_NO,
  parse: yesOrNo,
  write: (wish, isLeftOut) => void (wish.isLeftOut = isLeftOut),
})

/** When, what, who: a row for each activity. */
export function useStepColumns(): readonly Column<StepRow>[] {
  const plan = usePlan()
  const titles = computed(() => (plan.draft ? titlesOf(plan.draft) : () => ''))
  const start = () => plan.draft?.work.startDate ?? null
  return useColumns<StepRow, Wish>(
    [
      {
        key: 'start',
        head: 'From',
        mono: true,
        width: '134px',
        get: (row) => (row.startMin === null ? '—' : timeText(start(), row.startMin)),
      },
      {
        key: 'lasts',
        head: 'Min',
        num: true,
        width: '50px',
        get: ({ startMin, endMin, duration }) =>
          String(startMin === null || endMin === null ? duration.usualMin : Math.round(endMin - startMin)),
      },
      {
        key: 'what',
        head: 'What',
        strong: true,
        wraps: true,
        get: (row) => [titles.value(row), unplacedWords(row)].filter((text) => text !== '').join('. '),
      },
      { key: 'where', head: 'Where', clips: true, width: '100px', get: (row) => row.place || '—' },
      whoColumn,
      notBeforeColumn,
      leftOutColumn,
    ],
    usePutWish(),
  )
}
