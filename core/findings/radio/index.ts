// Question: does each radio link that can be computed stand up, and keep the rules of its country?
// Method: both directions by their balance in rain, the zone at usual refraction, both ends by their EIRP. What is not
// said, not surveyed, or of a country that is not in the data is not judged.
// Source: ITU-R P.530-18; the open regulatory database (core/wifi).
import { fieldsFault } from '#core/address'
import { defineStage, type PlanIndex } from '#core/queries'
import {
  budgetFrom,
  geometryOf,
  isNarrower,
  shortfallDb,
  solarDays,
  yearsToClose,
  radioLinks,
  ratesOf,
  spareDb,
  WANTED_SHARE,
  wiresBehind,
} from '#core/radio'
import type { RadioLink } from '#core/radio'
import type { RadioSettings } from '#core/schema'
import { isTooStrong, linkPermission } from '#core/wifi'
import { heightPlausibility } from './heights'
import { draft, onSheet, set, type Draft, type Finding, type Mend } from '../finding'

type AsSet = RadioSettings['ends']['a']['asSet']
type Computed = NonNullable<RadioLink['path']>
const ENDS = [0, 1] as const
const KEYS = ['a', 'b'] as const

const holds = (path: Computed, marginDb: number): boolean =>
  ENDS.every((from) => spareDb(path, from).rain >= marginDb)

function marginFindings(link: RadioLink, path: Computed, name: string): Draft[] {
  const { marginDb } = link.settings
  return ENDS.flatMap((end): Draft[] => {
    const spare = spareDb(path, end).rain
    if (spare >= marginDb) return []
    const at = link.names[end === 0 ? 1 : 0]
    const values = { link: name, at, spareDb: Math.round(10 * spare) / 10, marginDb, key: KEYS[end] }
    return [draft('R01', 'warning', ['links', link.id, 'medium'], values)]
  })
}

/** Less power at each end that sends too much, in whole dBm, where the link still has its margin then. */
function quieter(link: RadioLink, path: Computed, mostDbm: number, name: string): Mend | null {
  const lowered = ENDS.map((end) => {
    const { powerDbm, gainDbi, feederDb } = path.ends[end]
    return Math.min(powerDbm, Math.floor(mostDbm - gainDbi + feederDb))
  })
  const [first = 0, second = 0] = lowered
  const after: Computed = {
    ...path,
    ends: [
      { ...path.ends[0], powerDbm: first },
      { ...path.ends[1], powerDbm: second },
    ],
  }
  if (lowered.some((power) => power < -30) || !holds(after, link.settings.marginDb)) return null
  const changes = ENDS.flatMap((end) => {
    const before = path.ends[end].powerDbm
    const place = ['links', link.id, 'medium', 'radio', 'ends', KEYS[end], 'powerDbm']
    return lowered[end] === before ? [] : [set(place, before, lowered[end])]
  })
  return { code: 'lower-bridge-power', values: { link: name, ends: changes.length }, changes }
}

function ruleFindings({ plan }: PlanIndex, link: RadioLink, path: Computed, name: string): Draft[] {
  const { country } = plan.site
  const permission = linkPermission(country, path.mhz, path.widthMhz)
  if (permission === null) return []
  const eirpDbm = Math.max(...ENDS.map((end) => budgetFrom(path, end).eirpDbm))
  const place = ['links', link.id, 'medium']
  const values = { link: name, country, eirpDbm }
  if (permission === 'no')
    return [draft('R02', 'warning', place, { ...values, kind: 'forbidden', mostDbm: 0 })]
  if (!isTooStrong(eirpDbm, permission)) return []
  const told = { ...values, kind: 'too-strong' as const, mostDbm: permission.eirpDbm }
  return [draft('R02', 'warning', place, told, quieter(link, path, permission.eirpDbm, name))]
}

function zoneFindings(link: RadioLink, path: Computed, name: string): Draft[] {
  const { usual } = geometryOf(path)
  if (!usual || usual.share >= WANTED_SHARE) return []
  const values = { link: name, percent: Math.round(100 * usual.share), atM: usual.point.atM }
  return [draft('R03', 'warning', ['links', link.id, 'medium'], values)]
}

function rateFindings(link: RadioLink, name: string): Draft[] {
  const { neededMbps } = link.settings
  const rates = ratesOf(link)
  if (neededMbps === null || !rates || rates.throughputMbps >= neededMbps) return []
  const values = { link: name, mbps: Math.floor(rates.throughputMbps), neededMbps }
  return [draft('R04', 'warning', ['links', link.id, 'medium'], values)]
}

/** A wire behind an end that takes less than the air brings. */
function wireFindings(index: PlanIndex, link: RadioLink, name: string): Draft[] {
  const airMbps = Math.floor(ratesOf(link)?.throughputMbps ?? 0)
  return wiresBehind(index, link).flatMap((wire, end): Draft[] => {
    if (!wire || !isNarrower(wire, airMbps)) return []
    const values = { link: name, at: link.names[end] ?? '', ...wire, airMbps, key: KEYS[end] ?? '' }
    return [draft('R15', 'note', ['links', link.id, 'medium'], values)]
  })
}

/** Distances are set in steps of 100 m (common practice, without a source). */
const RANGE_STEP_M = 100
function rangeFindings({ id, lengthM, settings: { rangeSetM } }: RadioLink, name: string): Draft[] {
  if (rangeSetM === null || lengthM <= rangeSetM) return []
  const longerM = Math.ceil(lengthM / RANGE_STEP_M) * RANGE_STEP_M
  const place = ['links', id, 'medium', 'radio', 'rangeSetM']
  const mend: Mend = {
    code: 'lengthen-range',
    values: { link: name, lengthM: longerM },
    changes: [set(place, rangeSetM, longerM)],
  }
  return [draft('R06', 'warning', ['links', id, 'medium'], { link: name, setM: rangeSetM, lengthM }, mend)]
}

/** An end that reads far less than is computed looks past the other, or something stands between. */
function readingFindings(link: RadioLink, name: string): Draft[] {
  return ENDS.flatMap((end): Draft[] => {
    const missing = shortfallDb(link, KEYS[end])
    if (missing === null) return []
    const values = { link: name, at: link.names[end], missingDb: missing, key: KEYS[end] }
    return [draft('R07', 'warning', ['links', link.id, 'medium'], values)]
  })
}

/** What both ends must have in common; null where nobody has said, neither of the end nor of the link. */
const COMMON = [
  ['frequency', (end, { mhz }) => end.mhz ?? mhz],
  ['width', (end, { widthMhz }) => end.widthMhz ?? widthMhz],
  ['name', (end, { networkName }) => end.networkName || networkName || null],
  ['security', (end, { security }) => end.security ?? security],
  // A link carries frames as they are: that is what it is planned for.
  ['mode', (end) => end.mode ?? 'bridge'],
] as const satisfies readonly (readonly [
  string,
  (end: AsSet, link: RadioSettings) => number | string | null,
])[]

/** Ends that were found to have another key than the one that was given out. */
const keyFindings = ({ id, names, settings }: RadioLink, name: string): Draft[] =>
  ENDS.flatMap((end): Draft[] => {
    if (settings.ends[KEYS[end]].asSet.keyAsGiven !== false) return []
    const values = { link: name, kind: 'key' as const, at: names[end], key: `key ${KEYS[end]}` }
    return [draft('R05', 'warning', ['links', id, 'medium'], values)]
  })

/** Ends that were found to be set to different things. */
const pairFindings = ({ id, settings }: RadioLink, name: string): Draft[] =>
  COMMON.flatMap(([kind, read]): Draft[] => {
    const [first, second] = KEYS.map((end) => read(settings.ends[end].asSet, settings))
    if (first === second || first == null || second == null) return []
    const values = { link: name, kind, first: String(first), second: String(second), key: kind }
    return [draft('R05', 'warning', ['links', id, 'medium'], values)]
  })

function roleFindings({ id, names, settings: { ends } }: RadioLink, name: string): Draft[] {
  if (ends.a.role === null || ends.a.role !== ends.b.role) return []
  const other = ends.a.role === 'station' ? 'access-point' : 'station'
  const place = ['links', id, 'medium', 'radio', 'ends', 'b', 'role']
  const mend: Mend = {
    code: 'set-bridge-role',
    values: { device: names[1], role: other },
    changes: [set(place, ends.b.role, other)],
  }
  return [draft('R08', 'warning', ['links', id, 'medium'], { link: name, role: ends.a.role }, mend)]
}

/** Fields of an end's own page that were filled in one for the other. */
const fieldFindings = ({ id, names, settings }: RadioLink, name: string): Draft[] =>
  ENDS.flatMap((end): Draft[] => {
    const { asSet } = settings.ends[KEYS[end]]
    const fault = fieldsFault(asSet)
    if (!fault) return []
    const { address, mask, gateway } = asSet
    const values = { link: name, at: names[end], kind: fault, address, mask, gateway, key: KEYS[end] }
    return [draft('R09', 'warning', ['links', id, 'medium'], values)]
  })

/** Heights that are still to be said of a link that somebody has begun to describe. */
function heightFindings({ id, names, unsaid, settings }: RadioLink, name: string): Draft[] {
  if (settings.mhz === null) return []
  return unsaid.flatMap((one): Draft[] => {
    if (one.what !== 'antenna') return []
    const at = names[one.end === 'a' ? 0 : 1]
    return [draft('R10', 'note', ['links', id, 'medium'], { link: name, at, key: one.end })]
  })
}

/** So far ahead somebody plans who hangs a dish (common practice, without a source). */
const YEARS_AHEAD = 10
function growthFindings({ id }: RadioLink, path: Computed, name: string): Draft[] {
  const closing = yearsToClose(path)
  if (!closing || closing.years > YEARS_AHEAD) return []
  const values = { link: name, atM: closing.point.atM, years: Math.floor(closing.years) }
  return [draft('R11', 'note', ['links', id, 'medium'], values)]
}

const protectionFindings = ({ id, names, settings }: RadioLink, name: string): Draft[] =>
  ENDS.flatMap((end): Draft[] => {
    if (settings.ends[KEYS[end]].protection.trim() !== '') return []
    const values = { link: name, at: names[end], key: KEYS[end] }
    return [draft('R12', 'note', ['links', id, 'medium'], values)]
  })

/** Days without sun that a battery is to last (common practice, without a source). */
const DARK_DAYS = 3
const solarFindings = ({ id, names, settings }: RadioLink, name: string): Draft[] =>
  ENDS.flatMap((end): Draft[] => {
    const found = solarDays(settings.ends[KEYS[end]].solar)
    if (!found || (found.kind === 'dark' && found.days >= DARK_DAYS)) return []
    const values = { link: name, at: names[end], ...found, key: KEYS[end] }
    return [draft('R13', 'warning', ['links', id, 'medium'], values)]
  })

const ofLinks = defineStage('radio link findings', (index): Finding[] =>
  onSheet(
    'bridges',
    radioLinks(index).flatMap((link): Draft[] => {
      const { path, names } = link
      const name = names.join(' – ')
      const asSet = [
        ...roleFindings(link, name),
        ...pairFindings(link, name),
        ...keyFindings(link, name),
        ...fieldFindings(link, name),
        ...rangeFindings(link, name),
        ...heightFindings(link, name),
        ...heightPlausibility(index, link, name),
        ...protectionFindings(link, name),
        ...solarFindings(link, name),
      ]
      if (!path) return asSet
      return [
        ...asSet,
        ...marginFindings(link, path, name),
        ...ruleFindings(index, link, path, name),
        ...zoneFindings(link, path, name),
        ...growthFindings(link, path, name),
        ...rateFindings(link, name),
        ...wireFindings(index, link, name),
        ...readingFindings(link, name),
      ]
    }),
  ),
)

export const checkRadio = (index: PlanIndex): Finding[] => index.get(ofLinks)
