// Ends of a radio link: antennas, what they read, what protects, feeds and shakes them.
import { expectedDbm, surveyedDbm, windLoad, type RadioLink } from '#core/radio'
import { parseReading } from '#core/wifi'
import type { Mounting, SolarSupply } from '#core/schema'
import type { Result } from '#core/util'
import { mediumIn, NOTHING, orDash, widthOf, WIDTHS, type RadioMedium } from './bridge-columns'
import { gainTyped } from './typed'
import { levelWords, ROLE_WORDS, roleOf, windWords } from './words'
import { usePlan } from '~/stores/plan'
import { ENCRYPTION_WORDS, encryptionOf } from '~/wording/encryption'
import {
  among,
  columnsOver,
  cutAt,
  decimal,
  orNothing,
  signed,
  useColumns,
  whole,
  type Put,
} from '~/ui/columns'

/** What an end is to read in clear weather; a dash while that is not computed. */
function expectedText(link: RadioLink, end: 'a' | 'b'): string {
  const expected = expectedDbm(link, end)
  return expected === null ? '—' : levelWords(expected)
}
export interface EndRow {
  readonly id: 'a' | 'b'
  readonly name: string
  readonly link: RadioLink
}
type EndDraft = RadioMedium['radio']['ends']['a']
const endColumn = columnsOver<EndRow, EndDraft>()
type Reader = (text: string) => Result<number>
type EndFigure = 'antennaM' | 'powerDbm' | 'gainDbi' | 'feederDb' | 'readDbm'
const endField = (field: EndFigure, head: string, reader: (row: EndRow) => Reader) =>
  endColumn({
    key: field,
    head,
    num: true,
    mono: true,
    read: ({ id, link }) => orDash(link.settings.ends[id][field]),
    parse: (text, row) => orNothing<number>(NOTHING, reader(row))(text),
    write: (end, value) => void (end[field] = value),
  })

const END_COLUMNS = [
  endField('antennaM', 'Antenna height, m', () => signed(-500, 9000)),
  endField('powerDbm', 'Power, dBm', () => signed(-30, 60)),
  endField(
    'gainDbi',
    'Gain, dBi',
    ({ link }) =>
      (text) =>
        gainTyped(text, link.settings.mhz),
  ),
  endField('feederDb', 'Cable loss, dB', () => signed(0, 60)),
]
const ROLE_COLUMNS = [
  endColumn({
    key: 'role',
    head: 'Role',
    read: ({ id, link }) => ROLE_WORDS[link.settings.ends[id].role ?? 'unknown'],
    ...among(Object.values(ROLE_WORDS)),
    write: (end, text) => void (end.role = roleOf(text)),
  }),
]
const READING_COLUMNS = [
  endField('readDbm', 'Reads, dBm', () => parseReading),
  endColumn({
    key: 'seen',
    head: 'Seen there',
    wraps: true,
    read: ({ id, link }) => link.settings.ends[id].seen,
    parse: cutAt(120),
    write: (end, value) => void (end.seen = value),
  }),
]
const SAID = ['—', 'yes', 'no'] as const
const saidWords = (said: boolean | null): string => (said === null ? '—' : SAID[said ? 1 : 2])
const MODES = ['—', 'bridge', 'router'] as const
const fieldOf = (field: 'address' | 'mask' | 'gateway', head: string) =>
  endColumn({
    key: `set-${field}`,
    head,
    mono: true,
    read: ({ id, link }) => link.settings.ends[id].asSet[field] || '—',
    parse: (text) => cutAt(45)(text === '—' ? '' : text),
    write: (end, value) => void (end.asSet[field] = value),
  })
const AS_SET_COLUMNS = [
  endColumn({
    key: 'setMhz',
    head: 'MHz',
    num: true,
    mono: true,
    read: ({ id, link }) => orDash(link.settings.ends[id].asSet.mhz),
    parse: orNothing<number>(NOTHING, whole(400, 90_000)),
    write: (end, value) => void (end.asSet.mhz = value),
  }),
  endColumn({
    key: 'setWidth',
    head: 'Width, MHz',
    num: true,
    mono: true,
    read: ({ id, link }) => orDash(link.settings.ends[id].asSet.widthMhz),
    ...among(WIDTHS),
    write: (end, text) => void (end.asSet.widthMhz = widthOf(text)),
  }),
  endColumn({
    key: 'setName',
    head: 'Network name',
    mono: true,
    read: ({ id, link }) => link.settings.ends[id].asSet.networkName,
    parse: cutAt(32),
    write: (end, value) => void (end.asSet.networkName = value),
  }),
  endColumn({
    key: 'setSecurity',
    head: 'Encryption',
    read: ({ id, link }) => ENCRYPTION_WORDS[link.settings.ends[id].asSet.security ?? 'unknown'],
    ...among(Object.values(ENCRYPTION_WORDS)),
    write: (end, text) => void (end.asSet.security = encryptionOf(text)),
  }),
  endColumn({
    key: 'setKey',
    head: 'Key as given out',
    read: ({ id, link }) => saidWords(link.settings.ends[id].asSet.keyAsGiven),
    ...among(SAID),
    write: (end, text) => void (end.asSet.keyAsGiven = text === '—' ? null : text === 'yes'),
  }),
  endColumn({
    key: 'setMode',
    head: 'Mode',
    read: ({ id, link }) => link.settings.ends[id].asSet.mode ?? '—',
    ...among(MODES),
    write: (end, mode) => void (end.asSet.mode = mode === '—' ? null : mode),
  }),
]
const FIELD_COLUMNS = [fieldOf('address', 'Address'), fieldOf('mask', 'Mask'), fieldOf('gateway', 'Gateway')]
const surveyField = (field: 'readDbm' | 'gainDbi', head: string, reader: Reader) =>
  endColumn({
    key: `survey-${field}`,
    head,
    num: true,
    mono: true,
    read: ({ id, link }) => orDash(link.settings.ends[id].survey[field]),
    parse: orNothing<number>(NOTHING, reader),
    write: (end, value) => void (end.survey[field] = value),
  })
const SURVEY_COLUMNS = [
  surveyField('readDbm', 'Heard, dBm', parseReading),
  surveyField('gainDbi', 'Antenna, dBi', signed(-10, 60)),
]
const mountingField = (field: keyof Mounting, head: string, most: number) =>
  endColumn({
    key: field,
    head,
    num: true,
    mono: true,
    read: ({ id, link }) => orDash(link.settings.ends[id].mounting[field]),
    parse: orNothing<number>(NOTHING, decimal(most)),
    write: (end, value) => void (end.mounting[field] = value),
  })
const MOUNTING_COLUMNS = [
  mountingField('dishM', 'Dish, m across', 5),
  mountingField('mastM', 'Up the mast, m', 100),
  mountingField('footM', 'Stand, m to its edge', 10),
]
const solarField = (field: keyof SolarSupply, head: string, most: number) =>
  endColumn({
    key: field,
    head,
    num: true,
    mono: true,
    read: ({ id, link }) => orDash(link.settings.ends[id].solar[field]),
    parse: orNothing<number>(NOTHING, decimal(most)),
    write: (end, value) => void (end.solar[field] = value),
  })
const SUPPLY_COLUMNS = [
  endColumn({
    key: 'protection',
    head: 'Bonded and protected by',
    wraps: true,
    read: ({ id, link }) => link.settings.ends[id].protection,
    parse: cutAt(120),
    write: (end, value) => void (end.protection = value),
  }),
  solarField('panelW', 'Solar panel, W', 100_000),
  solarField('sunHours', 'Peak sun, h', 24),
  solarField('batteryWh', 'Battery, Wh', 999_999),
  solarField('drawW', 'Draw, W', 100_000),
]

function usePutEnd(): Put<EndRow, EndDraft> {
  const plan = usePlan()
  return (row, session, words, recipe) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const end = mediumIn(draft, row.link.id)?.radio.ends[row.id]
      if (end) recipe(end, draft)
    })
}
const endName = { key: 'name', head: 'End', strong: true, get: (row: EndRow) => row.name }
export const useEndColumns = () => [endName, ...useColumns(END_COLUMNS, usePutEnd())]
/** What keeps lightning off each end, and what feeds it where no mains are. */
export const useSupplyColumns = () => [endName, ...useColumns(SUPPLY_COLUMNS, usePutEnd())]
/** What each end's own page was found to say. */
export const useAsSetColumns = () => [endName, ...useColumns(AS_SET_COLUMNS, usePutEnd())]
/** What the address fields of its page were found to say. */
export const useFieldColumns = () => [endName, ...useColumns(FIELD_COLUMNS, usePutEnd())]
/** What was heard with another antenna before the real one was up, and what that will hear. */
export const useSurveyColumns = () => [
  endName,
  ...useColumns(SURVEY_COLUMNS, usePutEnd()),
  {
    key: 'surveyed',
    head: 'Will read, dBm',
    num: true,
    mono: true,
    get: ({ id, link }: EndRow) => {
      const level = surveyedDbm(link, id)
      return level === null ? '—' : levelWords(level)
    },
  },
]
/** What the wind takes hold of, and how hard. */
export const useWindColumns = () => [
  endName,
  ...useColumns(MOUNTING_COLUMNS, usePutEnd()),
  {
    key: 'wind',
    head: 'In the gust',
    wraps: true,
    get: ({ id, link }: EndRow) =>
      windWords(windLoad(link.settings.ends[id].mounting, link.settings.gustMps)),
  },
]
/** How each end is set up, and what it reads once it is aimed. */
export const useAimColumns = () => [
  endName,
  ...useColumns(ROLE_COLUMNS, usePutEnd()),
  {
    key: 'expected',
    head: 'Expected, dBm',
    num: true,
    mono: true,
    get: ({ id, link }: EndRow) => expectedText(link, id),
  },
  ...useColumns(READING_COLUMNS, usePutEnd()),
]
