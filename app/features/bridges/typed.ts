import { dishGainDbi, rainOfZone } from '#core/radio'
import { decimal, signed } from '~/ui/typed-numbers'
import { ok, problem, refuse, type Result } from '#core/util'

/** Share of a dish's area that counts, where nobody has measured it: 0.5 to 0.65, common practice without a source. */
const DISH_EFFICIENCY = 0.6
/** A gain, or a dish by its diameter: `0.65 m`. */
export function gainTyped(text: string, mhz: number | null): Result<number> {
  const [, diameter] = /^(\d(?:\.\d{1,2})?) ?m$/.exec(text) ?? []
  if (diameter === undefined) return signed(-10, 60)(text)
  if (mhz === null) return refuse(problem('no-frequency', '', { text }))
  return signed(-10, 60)(dishGainDbi(Number(diameter), mhz, DISH_EFFICIENCY).toFixed(1))
}

/** Rain in mm/h, or the letter of a rain zone: `K`, `zone K`. */
export function rainTyped(text: string): Result<number> {
  const [, letter] = /^(?:zone )?([a-z])$/i.exec(text) ?? []
  if (letter === undefined) return decimal(250)(text)
  const rain = rainOfZone(letter)
  return rain === null ? refuse(problem('no-rain-zone', '', { text })) : ok(rain)
}
