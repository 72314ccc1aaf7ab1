import { problem, type Problem } from '#core/util'

/** A field whose text is checked at each key, and written where it is right. */
export interface TypedField {
  readonly key: string
  readonly name: string
  readonly read: () => string
  /** Why the text is refused; nothing where it is right. */
  readonly check: (text: string) => readonly Problem[]
  readonly write: (text: string) => void
  readonly hint?: string
  readonly mono?: boolean
}

/** A number within bounds, both included; an empty text where none is a value too. */
export const numberBetween =
  (least: number, most: number, orNone = false) =>
  (text: string): readonly Problem[] => {
    const value = Number(text)
    const isRight = text === '' ? orNone : value >= least && value <= most
    return isRight ? [] : [problem('not-in-range', '', { text, least, most })]
  }
