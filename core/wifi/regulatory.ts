// Question: how strongly may a radio send on a channel in a country?
// Method: the rules that cover the channel's whole span; neighbouring rules that may be joined count as one, with the
// least power of both and the cautions of both.
// Source: the open regulatory database of Debian's package wireless-regdb; its licence is beside the data.
import data from './regulatory.json'
import type { Span } from './channels'

/** Version of the data, which is its date. */
export const REGULATORY_DATE: string = data.version

interface Rule {
  readonly fromKhz: number
  readonly toKhz: number
  readonly widthKhz: number
  readonly eirpDbm: number
  readonly flags: readonly string[]
}

export interface Permission {
  /** Most EIRP, dBm. */
  readonly eirpDbm: number
  /** Looks for radar, and leaves when there is some. */
  readonly dfs: boolean
  readonly indoorOnly: boolean
  /** May only answer: an access point must not begin there. */
  readonly listenOnly: boolean
}

type Row = [fromKhz: number, toKhz: number, widthKhz: number, eirp: number, flags: string]
const COUNTRIES = data.countries as unknown as Readonly<Record<string, readonly Row[]>>
const readRule = ([fromKhz, toKhz, widthKhz, eirp, flags]: Row): Rule => ({
  fromKhz,
  toKhz,
  widthKhz,
  eirpDbm: eirp / 100,
  flags: flags.split(' '),
})

export const hasRules = (country: string): boolean => Object.hasOwn(COUNTRIES, country)

/** Two neighbours of which both may be joined, as one; null where they may not. */
function joined(first: Rule, second: Rule): Rule | null {
  const areJoinable = [first, second].every(({ flags }) => flags.includes('joins'))
  if (!areJoinable || first.toKhz !== second.fromKhz) return null
  return {
    fromKhz: first.fromKhz,
    toKhz: second.toKhz,
    widthKhz: first.widthKhz + second.widthKhz,
    eirpDbm: Math.min(first.eirpDbm, second.eirpDbm),
    flags: [...first.flags, ...second.flags],
  }
}

function rulesOf(country: string): Rule[] {
  const rules = (Object.hasOwn(COUNTRIES, country) ? (COUNTRIES[country] ?? []) : []).map(readRule)
  const pairs = rules.flatMap((rule, i) => {
    const next = rules[i + 1]
    return (next && joined(rule, next)) ?? []
  })
  return [...rules, ...pairs]
}

/** Both are written to a hundredth of a dB. */
export const isTooStrong = (eirpDbm: number, { eirpDbm: mostDbm }: Permission): boolean =>
  eirpDbm > mostDbm + 0.005

/**
 * What is permitted on a span; `no` where no rule covers it, null where the country is not in the data.
 * Great Britain, 5,170 to 5,250 MHz: 23.01 dBm, indoors only.
 */
export function permissionFor(country: string, { fromMhz, toMhz }: Span): Permission | 'no' | null {
  if (!hasRules(country)) return null
  const [fromKhz, toKhz] = [fromMhz * 1000, toMhz * 1000]
  const rule = rulesOf(country).find(
    (one) => one.fromKhz <= fromKhz && one.toKhz >= toKhz && one.widthKhz >= toKhz - fromKhz,
  )
  if (!rule) return 'no'
  const has = (flag: string) => rule.flags.includes(flag)
  return {
    eirpDbm: rule.eirpDbm,
    dfs: has('dfs'),
    indoorOnly: has('indoor'),
    listenOnly: has('listenOnly'),
  }
}

/** The same of a radio link by its middle and its width, MHz. */
export const linkPermission = (country: string, mhz: number, widthMhz: number): Permission | 'no' | null =>
  permissionFor(country, { fromMhz: mhz - widthMhz / 2, toMhz: mhz + widthMhz / 2 })
