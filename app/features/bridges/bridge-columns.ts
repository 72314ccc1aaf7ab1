import type { ProfileRow } from '#core/ingest'
import type { RadioLink } from '#core/radio'
import type { SurveyPoint } from '#core/schema'
import type { Result } from '#core/util'
import { gainTyped, signed } from './typed'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { among, columnsOver, decimal, orNothing, useColumns, whole, type Put } from '~/ui/columns'

const NOTHING = ['', '—']
const orDash = (value: number | null): string => (value === null ? '—' : String(value))
type RadioMedium = Extract<PlanDraft['links'][number]['medium'], { kind: 'radio' }>
const mediumIn = (draft: PlanDraft, linkId: string): RadioMedium | null => {
  const medium = draft.links.find(({ id }) => id === linkId)?.medium
  return medium?.kind === 'radio' ? medium : null
}

const linkColumn = columnsOver<RadioLink, RadioMedium>()
const WIDTHS = ['—', '20', '40', '80', '160'] as const
const LINK_COLUMNS = [
  linkColumn({
    key: 'distance',
    head: 'm',
    num: true,
    mono: true,
    read: (link) => String(link.lengthM),
    parse: decimal(200_000),
    write: (medium, value) => void (medium.lengthM = value),
  }),
  linkColumn({
    key: 'mhz',
    head: 'MHz',
    num: true,
    mono: true,
    read: (link) => orDash(link.settings.mhz),
    parse: orNothing<number>(NOTHING, whole(400, 90_000)),
    write: ({ radio }, value) => void (radio.mhz = value),
  }),
  linkColumn({
    key: 'width',
    head: 'Width, MHz',
    num: true,
    mono: true,
    read: (link) => orDash(link.settings.widthMhz),
    ...among(WIDTHS),
    write: ({ radio }, text) =>
      void (radio.widthMhz = text === '—' ? null : (Number(text) as 20 | 40 | 80 | 160)),
  }),
  linkColumn({
    key: 'polarization',
    head: 'Polarization',
    read: (link) => link.settings.polarization,
    ...among(['vertical', 'horizontal'] as const),
    write: ({ radio }, value) => void (radio.polarization = value),
  }),
  linkColumn({
    key: 'rain',
    head: 'Rain, mm/h',
    num: true,
    mono: true,
    read: (link) => orDash(link.settings.rainMmPerHour),
    parse: orNothing<number>(NOTHING, decimal(250)),
    write: ({ radio }, value) => void (radio.rainMmPerHour = value),
  }),
  linkColumn({
    key: 'margin',
    head: 'Fade margin, dB',
    num: true,
    mono: true,
    read: (link) => String(link.settings.marginDb),
    parse: decimal(60),
    write: ({ radio }, value) => void (radio.marginDb = value),
  }),
]

export function useLinkColumns() {
  const plan = usePlan()
  const put: Put<RadioLink, RadioMedium> = (row, session, words, recipe) =>
    plan.edit(`${row.names.join(' – ')}: ${words}`, session, (draft) => {
      const medium = mediumIn(draft, row.id)
      if (medium) recipe(medium, draft)
    })
  return [
    {
      key: 'name',
      head: 'Link',
      strong: true,
      wraps: true,
      get: (link: RadioLink) => link.names.join(' – '),
    },
    ...useColumns(LINK_COLUMNS, put),
  ]
}

export interface EndRow {
  readonly id: 'a' | 'b'
  readonly name: string
  readonly link: RadioLink
}
type EndDraft = RadioMedium['radio']['ends']['a']
const endColumn = columnsOver<EndRow, EndDraft>()
type Reader = (text: string) => Result<number>
const endField = (field: keyof EndDraft, head: string, reader: (row: EndRow) => Reader) =>
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

export function useEndColumns() {
  const plan = usePlan()
  const put: Put<EndRow, EndDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const end = mediumIn(draft, row.link.id)?.radio.ends[row.id]
      if (end) recipe(end, draft)
    })
  return [
    { key: 'name', head: 'End', strong: true, get: (row: EndRow) => row.name },
    ...useColumns(END_COLUMNS, put),
  ]
}

/** A surveyed point with what is free there; null while it is not computed. */
export interface PointRow extends SurveyPoint {
  readonly link: RadioLink
  readonly freeText: string
}
type PointDraft = RadioMedium['radio']['profile'][number]
const pointColumn = columnsOver<PointRow, PointDraft>()
const POINT_COLUMNS = [
  pointColumn({
    key: 'atM',
    head: 'At, m',
    num: true,
    mono: true,
    read: ({ atM }) => String(atM),
    parse: (text, { link }) => decimal(link.lengthM)(text),
    write: (point, value) => void (point.atM = value),
  }),
  pointColumn({
    key: 'groundM',
    head: 'Ground, m',
    num: true,
    mono: true,
    read: ({ groundM }) => String(groundM),
    parse: signed(-500, 9000),
    write: (point, value) => void (point.groundM = value),
  }),
  pointColumn({
    key: 'obstacleM',
    head: 'Obstacle, m',
    num: true,
    mono: true,
    read: ({ obstacleM }) => String(obstacleM),
    parse: decimal(500),
    write: (point, value) => void (point.obstacleM = value),
  }),
]

export function usePointColumns() {
  const plan = usePlan()
  const put: Put<PointRow, PointDraft> = (row, session, words, recipe) =>
    plan.edit(`point at ${row.atM} m: ${words}`, session, (draft) => {
      const point = mediumIn(draft, row.link.id)?.radio.profile.find(({ id }) => id === row.id)
      if (point) recipe(point, draft)
    })
  return [
    ...useColumns(POINT_COLUMNS, put),
    { key: 'free', head: 'Zone free', num: true, mono: true, get: (row: PointRow) => row.freeText },
  ]
}

/** Points of a link, added and removed. */
export function usePointEdits() {
  const plan = usePlan()
  const add = (link: RadioLink, id: string): void =>
    plan.edit('surveyed point added', '', (draft) => {
      const made = { id, atM: Math.round(link.lengthM / 2), groundM: 0, obstacleM: 0 }
      mediumIn(draft, link.id)?.radio.profile.push(made)
    })
  /** Lays a whole survey, as one step. */
  const replace = (link: RadioLink, rows: readonly ProfileRow[]): void =>
    plan.edit('survey imported', '', (draft) => {
      const medium = mediumIn(draft, link.id)
      if (medium) medium.radio.profile = rows.map((row, n) => ({ id: `point-${n + 1}`, ...row }))
    })
  const remove = (link: RadioLink, id: string): void =>
    plan.edit('surveyed point removed', '', (draft) => {
      const medium = mediumIn(draft, link.id)
      if (medium) medium.radio.profile = medium.radio.profile.filter((point) => point.id !== id)
    })
  return { add, remove, replace }
}
