// Extenders, and access points that have joined another: what they hear, what they carry, what is left behind them.
import type { Plan } from '#core/schema'
import type { ExtenderSignal } from '#core/wifi'
import { useJoinColumn } from './join-column'
import { usePlaceColumns, type PlacementRow } from './placement-columns'
import { behindWords, carriesWords, extenderWords, signalWords } from './words'
import { ssidTyped } from '~/features/topology/ssid-columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { amongYesAndNo, columnsOver, useColumns, type Column, type Put } from '~/ui/columns'
import { ok, problem, refuse, type Result } from '#core/util'

export interface ExtenderRow extends PlacementRow {
  readonly signal: ExtenderSignal
}

const EXTENDER_COLUMNS: readonly Column<ExtenderRow>[] = [
  { key: 'carries', head: 'Carries', wraps: true, get: ({ signal }) => carriesWords(signal) },
  {
    key: 'level',
    head: 'Hears',
    mono: true,
    get: ({ signal }) => signalWords(signal.heard?.levelDbm ?? null),
  },
  {
    key: 'judged',
    head: 'Judged',
    wraps: true,
    get: ({ signal, placement }) => extenderWords(signal, placement !== null),
  },
  {
    key: 'rates',
    head: 'Rate behind it',
    width: '200px',
    wraps: true,
    get: ({ signal }) => behindWords(signal),
  },
]

type LinkDraft = PlanDraft['links'][number]
const linkColumn = columnsOver<ExtenderRow, LinkDraft>()
/** As a plan has room for. */
const MOST_SUFFIX = 16
const repeatedName = ({ signal }: ExtenderRow, plan: Plan): string =>
  plan.ssids.find(({ id }) => id === signal.ssidId)?.name ?? ''
function suffixOf(row: ExtenderRow, plan: Plan): string {
  const medium = plan.links.find(({ id }) => id === row.signal.linkId)?.medium
  return medium?.kind === 'wifi' ? medium.suffix : ''
}
/** The whole name, as it is sent; it begins with the one that is repeated, so that both are told from others. */
function suffixTyped(text: string, row: ExtenderRow, plan: Plan): Result<string> {
  const name = repeatedName(row, plan)
  if (row.signal.linkId === null || !row.signal.isExtender || name === '')
    return refuse(problem('not-joined', ''))
  const fits = ssidTyped(text).ok && text.length - name.length <= MOST_SUFFIX
  return text.startsWith(name) && fits
    ? ok(text.slice(name.length))
    : refuse(problem('not-a-suffix', '', { text, name }))
}
const SENT_COLUMNS = [
  linkColumn({
    key: 'sentAs',
    head: 'Sends as',
    mono: true,
    read: (row, plan) => (row.signal.isExtender ? repeatedName(row, plan) + suffixOf(row, plan) || '—' : '—'),
    parse: suffixTyped,
    write: ({ medium }, suffix) => {
      if (medium.kind === 'wifi') medium.suffix = suffix
    },
    words: (text) => `sends on as ${text}`,
  }),
]
const JOINED_COLUMNS = [
  linkColumn({
    key: 'fourAddress',
    head: '4-address (WDS)',
    read: ({ signal }) => (signal.mode === 'bridge' ? 'yes' : 'no'),
    choices: amongYesAndNo.choices,
    parse: (text, { signal }) =>
      signal.linkId === null ? refuse(problem('not-joined', '')) : amongYesAndNo.parse(text),
    write: ({ medium }, fourAddress) => {
      if (medium.kind === 'wifi') medium.fourAddress = fourAddress
    },
    words: (text) => `four-address frames ${text}`,
  }),
]

function usePutLink(): Put<ExtenderRow, LinkDraft> {
  const plan = usePlan()
  return (row, session, words, recipe) =>
    plan.edit(`${row.device.name}: ${words}`, session, (draft) => {
      const link = draft.links.find(({ id }) => id === row.signal.linkId)
      if (link) recipe(link, draft)
    })
}

export const useExtenderColumns = (): readonly Column<ExtenderRow>[] => [
  { key: 'name', head: 'Device', strong: true, get: ({ device }) => device.name },
  useJoinColumn('Joins'),
  ...EXTENDER_COLUMNS,
  ...useColumns(JOINED_COLUMNS, usePutLink()),
]

/** Where extenders hang, and by which name they send. */
export const useExtenderPlaceColumns = (): readonly Column<ExtenderRow>[] => [
  { key: 'name', head: 'Extender', strong: true, get: ({ device }) => device.name },
  ...useColumns(SENT_COLUMNS, usePutLink()),
  ...(usePlaceColumns() as readonly Column<ExtenderRow>[]),
]
