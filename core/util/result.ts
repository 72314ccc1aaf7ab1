/**
 * A refusal of input or of a request: stable code, the place it concerns, and the values a sentence needs.
 */
export interface Problem {
  readonly code: string
  /** Where: a field path, `row 7, column "gateway"`, or an id. Empty when the whole input is meant. */
  readonly place: string
  /** What was met there, as text; wording is built elsewhere from the code and these values. */
  readonly values: Readonly<Record<string, string | number>>
}

/** Success with a value, or a list of problems. Refusals are values; only defects are thrown. */
export type Result<T, E = Problem> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problems: readonly E[] }

export function ok<T>(value: T): Result<T, never> {
  return { ok: true, value }
}

export function refuse<E>(...problems: readonly E[]): Result<never, E> {
  return { ok: false, problems }
}

export function problem(code: string, place: string, values: Problem['values'] = {}): Problem {
  return { code, place, values }
}

/** The value, or null where there is none: for when the reasons are told elsewhere. */
export function orNull<T, E>(result: Result<T, E>): T | null {
  return result.ok ? result.value : null
}

/** Marks the branch no input can reach; a throw here is a defect of ours. */
export function unreachable(value: never): never {
  throw new Error(`unreachable case: ${JSON.stringify(value)}`)
}
