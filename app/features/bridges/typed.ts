import { dishGainDbi } from '#core/radio'
import { ok, problem, refuse, type Result } from '#core/util'

/** A number that may be below zero, with three decimals at most. */
export const signed =
  (least: number, most: number) =>
  (text: string): Result<number> => {
    const value = Number(text.replace('−', '-'))
    return /^[-−]?\d{1,5}(\.\d{1,3})?$/.test(text) && value >= least && value <= most
      ? ok(value)
      : refuse(problem('out-of-range', '', { text, least, most }))
  }

/** Share of a dish's area that counts, where nobody has measured it: 0.5 to 0.65, common practice without a source. */
const DISH_EFFICIENCY = 0.6
/** A gain, or a dish by its diameter: `0.65 m`. */
export function gainTyped(text: string, mhz: number | null): Result<number> {
  const [, diameter] = /^(\d(?:\.\d{1,2})?) ?m$/.exec(text) ?? []
  if (diameter === undefined) return signed(-10, 60)(text)
  if (mhz === null) return refuse(problem('no-frequency', '', { text }))
  return signed(-10, 60)(dishGainDbi(Number(diameter), mhz, DISH_EFFICIENCY).toFixed(1))
}
