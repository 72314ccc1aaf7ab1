import type { FindingCode, FindingValues, MendCode, MendValues } from '#core/findings'

/** What a finding says: what is wrong, and why it matters. */
export interface Words {
  readonly title: string
  readonly what: string
  readonly why: string
}

/** Words for each code, made of its own values: a code without words fails to compile. */
export type FindingWords = {
  readonly [Code in FindingCode]: (values: Readonly<FindingValues[Code]>) => Words
}
/** The same of the buttons of mends. */
export type MendWords = { readonly [Code in MendCode]: (values: Readonly<MendValues[Code]>) => string }
