// Numbers as people type them, read or refused with the reason.
import { ok, problem, refuse, type Result } from '#core/util'

/** A number with at most three decimals, from 0. */
export const decimal =
  (most: number) =>
  (text: string): Result<number> =>
    /^\d{1,6}(\.\d{1,3})?$/.test(text) && Number(text) <= most
      ? ok(Number(text))
      : refuse(problem('out-of-range', '', { text, least: 0, most }))
/** A number that may be below zero, with three decimals at most. */
export const signed =
  (least: number, most: number) =>
  (text: string): Result<number> => {
    const value = Number(text.replace('−', '-'))
    return /^[-−]?\d{1,5}(\.\d{1,3})?$/.test(text) && value >= least && value <= most
      ? ok(value)
      : refuse(problem('out-of-range', '', { text, least, most }))
  }
