import type { Plan } from '#core/schema'
import { numberBetween, type TypedField } from '~/ui/typed-fields'

type NumberOfSite = 'upsWh' | 'upsEfficiency' | 'pricePerKwh' | 'poeHeadroomPct'
export type PutSite = (words: string, session: string, key: NumberOfSite, value: number | null) => void

interface NumberField {
  readonly key: NumberOfSite
  readonly name: string
  /** Bounds of what is typed. */
  readonly least: number
  readonly most: number
  /** What is typed, of one unit of what is stored. */
  readonly typedPerUnit: number
  readonly orNone: boolean
}
const FIELDS: readonly NumberField[] = [
  { key: 'poeHeadroomPct', name: 'PoE headroom, %', least: 0, most: 90, typedPerUnit: 1, orNone: false },
  { key: 'upsWh', name: 'Battery, Wh', least: 0, most: 10_000_000, typedPerUnit: 1, orNone: true },
  { key: 'upsEfficiency', name: 'Inverter, %', least: 10, most: 100, typedPerUnit: 100, orNone: false },
  { key: 'pricePerKwh', name: 'Price of a kWh', least: 0, most: 1000, typedPerUnit: 1, orNone: false },
]

/** What the site's power is worked out with, as fields. */
export const powerFields = (site: Plan['site'], put: PutSite): TypedField[] =>
  FIELDS.map(({ key, name, least, most, typedPerUnit, orNone }) => ({
    key,
    name,
    mono: true,
    read: () => {
      const value = site[key]
      return value === null ? '' : String(Number((value * typedPerUnit).toPrecision(12)))
    },
    check: numberBetween(least, most, orNone),
    write: (text) =>
      put(`${name} ${text}`, `power ${key}`, key, text === '' ? null : Number(text) / typedPerUnit),
  }))
