import type { Problem } from '#core/util'
import { problem, type Result } from '#core/util'

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
