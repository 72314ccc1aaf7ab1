import type { Plan } from '#core/schema'
import { isSameName, ok, problem, refuse, type Problem, type Result } from '#core/util'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

/** A column of an editable table. Without `commit` it is only read. */
export interface Column<Row> {
  readonly key: string
  readonly head: string
  readonly get: (row: Row) => string
  /** Text to start editing from, where it differs from what is shown. */
  readonly edit?: (row: Row) => string
  readonly check?: (row: Row, text: string) => readonly Problem[]
  readonly commit?: (row: Row, text: string, session: string) => void
  readonly choices?: (row: Row) => readonly string[]
  /** What the text can name, several of them between commas. */
  readonly offers?: (row: Row) => readonly string[]
  /** It names one of them, or anything else. */
  readonly offersOne?: boolean
  readonly num?: boolean
  readonly mono?: boolean
  readonly strong?: boolean
  readonly width?: string
  /** Long text takes several lines instead of all the room. */
  readonly wraps?: boolean
  /** Takes what room is left, and is cut where that is too little: for what can be read whole elsewhere. */
  readonly clips?: boolean
}

/** Why a text was refused; nothing where it was read. */
export const reasons = <T>(result: Result<T>): readonly Problem[] => (result.ok ? [] : result.problems)

/** A whole number within bounds, both included. */
export function checkNumber(text: string, least: number, most: number): readonly Problem[] {
  const value = Number(text)
  return /^\d{1,9}$/.test(text) && value >= least && value <= most
    ? []
    : [problem('not-a-number', '', { text, least, most })]
}

export const checkName = (text: string): readonly Problem[] =>
  text === '' || text.length > 60 ? [problem('no-name', '')] : []
export const checkChoice = (text: string, choices: readonly string[]): readonly Problem[] =>
  choices.includes(text) ? [] : [problem('not-a-choice', '', { text, choices: choices.join(', ') })]

/** Writes into one item of the plan, as one step to undo for each cell that is typed; `words` name the step. */
export type Put<Row, Item> = (
  row: Row,
  session: string,
  words: string,
  recipe: (item: Item, draft: PlanDraft) => void,
) => void

type Look = Pick<Column<unknown>, 'num' | 'mono' | 'strong' | 'width' | 'wraps' | 'clips' | 'offersOne'>

/** What a cell shows, what a typed text means, and where that is written. */
export interface ColumnSpec<Row, Item, Value> extends Look {
  readonly key: string
  readonly head: string
  readonly read: (row: Row, plan: Plan) => string
  readonly edit?: (row: Row, plan: Plan) => string
  readonly choices?: (row: Row, plan: Plan) => readonly string[]
  readonly offers?: (row: Row, plan: Plan) => readonly string[]
  /** The value of a text, or why it is none. */
  readonly parse: (text: string, row: Row, plan: Plan) => Result<Value>
  readonly write: (item: Item, value: Value, draft: PlanDraft) => void
  /** Names the step to undo. */
  readonly words?: (text: string, row: Row) => string
}

/** A column that waits for the plan that it reads and writes. */
export type BoundColumn<Row, Item> = (put: Put<Row, Item>, plan: () => Plan | null) => Column<Row>

/** Columns over the rows of one table. */
export const columnsOver =
  <Row, Item>() =>
  <Value>(spec: ColumnSpec<Row, Item, Value>): BoundColumn<Row, Item> => {
    const { key, head, read, edit, choices, offers, parse, write, words, ...look } = spec
    const stepWords = words ?? ((text: string) => `${head} ${text}`)
    return (put, plan) => {
      const shown = (of: typeof read) => (row: Row) => {
        const now = plan()
        return now ? of(row, now) : ''
      }
      const parsed = (text: string, row: Row) => {
        const now = plan()
        return now ? parse(text, row, now) : refuse(problem('no-plan', ''))
      }
      return {
        key,
        head,
        ...look,
        get: shown(read),
        ...(edit ? { edit: shown(edit) } : {}),
        ...(choices ? { choices: (row: Row) => choicesIn(choices, row, plan()) } : {}),
        ...(offers ? { offers: (row: Row) => choicesIn(offers, row, plan()) } : {}),
        check: (row, text) => reasons(parsed(text, row)),
        commit: (row, text, session) => {
          const value = parsed(text, row)
          if (value.ok)
            put(row, session, stepWords(text, row), (item, draft) => write(item, value.value, draft))
        },
      }
    }
  }

const choicesIn = <Row>(
  choices: (row: Row, plan: Plan) => readonly string[],
  row: Row,
  plan: Plan | null,
): readonly string[] => (plan ? choices(row, plan) : [])

/** Columns for a table of the plan that is worked on. */
export function useColumns<Row, Item>(
  columns: readonly (BoundColumn<Row, Item> | Column<Row>)[],
  put: Put<Row, Item>,
): readonly Column<Row>[] {
  const plan = usePlan()
  return columns.map((column) => (typeof column === 'function' ? column(put, () => plan.draft) : column))
}

// What typed texts mean.

export const name = (text: string): Result<string> => judged(text, checkName(text))
/** The text itself, where nothing speaks against it. */
export const judged = <Value>(value: Value, problems: readonly Problem[]): Result<Value> =>
  problems.length > 0 ? refuse(...problems) : ok(value)
/** A whole number within bounds, both included. */
export const whole =
  (least: number, most: number) =>
  (text: string): Result<number> =>
    judged(Number(text), checkNumber(text, least, most))
export { decimal, signed } from './typed-numbers'
/** One of a few words. */
export const oneOf =
  <Word extends string>(words: readonly Word[]) =>
  (text: string): Result<Word> =>
    judged(text as Word, checkChoice(text, words))
export const yesOrNo = (text: string): Result<boolean> => judged(text === 'yes', checkChoice(text, YES_NO))
export const YES_NO = ['yes', 'no'] as const
/** A choice of a few words, offered and understood. */
export const among = <Word extends string>(words: readonly Word[]) => ({
  choices: () => words,
  parse: oneOf(words),
})
export const amongYesAndNo = { choices: () => YES_NO, parse: yesOrNo }
/** As typed, where a parser can read it. */
export const asTyped =
  (parse: (text: string) => Result<unknown>) =>
  (text: string): Result<string> =>
    judged(text, reasons(parse(text)))
/** Null where one of some words for nothing is typed. */
export const orNothing =
  <Value>(nothing: readonly string[], parse: (text: string) => Result<Value>) =>
  (text: string): Result<Value | null> =>
    nothing.includes(text) ? ok(null) : parse(text)
/** Words of a text, between commas or blanks. */
export const wordsIn = (text: string, nothing: readonly string[] = ['—']): string[] =>
  text.split(/[\s,;]+/).filter((word) => word !== '' && !nothing.includes(word))
/** Parts of a text, between commas. */
export const partsIn = (text: string): string[] =>
  text
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '' && part !== '—')
/** A text of so many letters at most; what is beyond them is cut off. */
export const cutAt =
  (most: number) =>
  (text: string): Result<string> =>
    ok(text.slice(0, most))

/**
 * Ids of what a text names, between commas, in any case, each once and in the order of the list.
 * Problems: not-a-choice for each name that is none, with those there are.
 */
export function idsNamed(
  text: string,
  items: readonly { readonly id: string; readonly name: string }[],
): Result<string[]> {
  const wanted = partsIn(text)
  const names = (part: string, { name }: { readonly name: string }) => isSameName(name, part)
  const unknown = wanted.filter((part) => !items.some((item) => names(part, item)))
  const choices = items.map(({ name }) => name).join(', ')
  return unknown.length > 0
    ? refuse(...unknown.map((part) => problem('not-a-choice', '', { text: part, choices })))
    : ok(items.filter((item) => wanted.some((part) => names(part, item))).map(({ id }) => id))
}

/** The rule of a form's field: true where a text can be read, else why not. */
export const ruleOf =
  (parse: (text: string) => Result<unknown>) =>
  (text: string): true | string => {
    const read = parse(text.trim())
    return read.ok || read.problems.map(reasonOf).join('; ')
  }
