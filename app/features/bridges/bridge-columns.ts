import type { ProfileRow } from '#core/ingest'
import { mostStreams, type RadioLink } from '#core/radio'
import type { LinkWidth, SurveyPoint } from '#core/schema'
import { rainTyped } from './typed'
import { carriesWords } from './words'
import { usePlan, type PlanDraft } from '~/stores/plan'
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

export const NOTHING = ['', '—']
export const orDash = (value: number | null): string => (value === null ? '—' : String(value))
export type RadioMedium = Extract<PlanDraft['links'][number]['medium'], { kind: 'radio' }>
export const mediumIn = (draft: PlanDraft, linkId: string): RadioMedium | null => {
  const medium = draft.links.find(({ id }) => id === linkId)?.medium
  return medium?.kind === 'radio' ? medium : null
}

const linkColumn = columnsOver<RadioLink, RadioMedium>()
export const WIDTHS = ['—', '20', '40', '80', '160', '2160'] as const
export const widthOf = (text: (typeof WIDTHS)[number]): LinkWidth | null =>
  text === '—' ? null : (Number(text) as LinkWidth)
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
    write: ({ radio }, text) => void (radio.widthMhz = widthOf(text)),
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
    parse: orNothing<number>(NOTHING, rainTyped),
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

const GENERATIONS = ['—', 'n', 'ac', 'ax', 'be', 'ad'] as const
const THROUGHPUT_COLUMNS = [
  linkColumn({
    key: 'generation',
    head: '802.11',
    mono: true,
    read: (link) => link.settings.generation ?? '—',
    ...among(GENERATIONS),
    write: ({ radio }, text) => {
      radio.generation = text === '—' ? null : text
      // Where there is one stream alone, nobody has to say so.
      if (text !== '—' && mostStreams(text) === 1) radio.streams = 1
    },
  }),
  linkColumn({
    key: 'streams',
    head: 'Streams',
    num: true,
    mono: true,
    read: (link) => orDash(link.settings.streams),
    parse: orNothing<number>(NOTHING, whole(1, 4)),
    write: ({ radio }, value) => void (radio.streams = value),
  }),
  linkColumn({
    key: 'range',
    head: 'Range set, m',
    num: true,
    mono: true,
    read: (link) => orDash(link.settings.rangeSetM),
    parse: orNothing<number>(NOTHING, decimal(200_000)),
    write: ({ radio }, value) => void (radio.rangeSetM = value),
  }),
  linkColumn({
    key: 'needed',
    head: 'Needed, Mb/s',
    num: true,
    mono: true,
    read: (link) => orDash(link.settings.neededMbps),
    parse: orNothing<number>(NOTHING, whole(1, 1_000_000)),
    write: ({ radio }, value) => void (radio.neededMbps = value),
  }),
  linkColumn({
    key: 'gust',
    head: 'Gust, m/s',
    num: true,
    mono: true,
    read: (link) => orDash(link.settings.gustMps),
    parse: orNothing<number>(NOTHING, decimal(100)),
    write: ({ radio }, value) => void (radio.gustMps = value),
  }),
  linkColumn({
    key: 'networkName',
    head: 'Network name',
    mono: true,
    read: (link) => link.settings.networkName,
    parse: cutAt(32),
    write: ({ radio }, value) => void (radio.networkName = value),
  }),
  linkColumn({
    key: 'security',
    head: 'Encryption',
    read: (link) => ENCRYPTION_WORDS[link.settings.security ?? 'unknown'],
    ...among(Object.values(ENCRYPTION_WORDS)),
    write: ({ radio }, text) => void (radio.security = encryptionOf(text)),
  }),
]

function usePutLink(): Put<RadioLink, RadioMedium> {
  const plan = usePlan()
  return (row, session, words, recipe) =>
    plan.edit(`${row.names.join(' – ')}: ${words}`, session, (draft) => {
      const medium = mediumIn(draft, row.id)
      if (medium) recipe(medium, draft)
    })
}

/** What a link carries, and what that hangs on. */
export const useThroughputColumns = () => [
  ...useColumns(THROUGHPUT_COLUMNS, usePutLink()),
  { key: 'carries', head: 'Carries', wraps: true, get: carriesWords },
]

export function useLinkColumns() {
  return [
    {
      key: 'name',
      head: 'Link',
      strong: true,
      wraps: true,
      get: (link: RadioLink) => link.names.join(' – '),
    },
    ...useColumns(LINK_COLUMNS, usePutLink()),
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
  pointColumn({
    key: 'growsM',
    head: 'Grows, m a year',
    num: true,
    mono: true,
    read: ({ growsM }) => String(growsM),
    parse: decimal(10),
    write: (point, value) => void (point.growsM = value),
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
      const made = { id, atM: Math.round(link.lengthM / 2), groundM: 0, obstacleM: 0, growsM: 0 }
      mediumIn(draft, link.id)?.radio.profile.push(made)
    })
  /** Lays a whole survey, as one step. */
  const replace = (link: RadioLink, rows: readonly ProfileRow[]): void =>
    plan.edit('survey imported', '', (draft) => {
      const medium = mediumIn(draft, link.id)
      if (medium) medium.radio.profile = rows.map((row, n) => ({ id: `point-${n + 1}`, growsM: 0, ...row }))
    })
  const remove = (link: RadioLink, id: string): void =>
    plan.edit('surveyed point removed', '', (draft) => {
      const medium = mediumIn(draft, link.id)
      if (medium) medium.radio.profile = medium.radio.profile.filter((point) => point.id !== id)
    })
  return { add, remove, replace }
}
