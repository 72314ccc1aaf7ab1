// Extenders, and access points that have joined another: what they hear, what they carry, what is left behind them.
import type { ExtenderSignal } from '#core/wifi'
import { useJoinColumn } from './join-column'
import { usePlaceColumns, type PlacementRow } from './placement-columns'
import { behindWords, carriesWords, extenderWords, signalWords } from './words'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { amongYesAndNo, columnsOver, useColumns, type Column, type Put } from '~/ui/columns'
import { problem, refuse } from '#core/util'

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
  { key: 'rates', head: 'Rate behind it', wraps: true, get: ({ signal }) => behindWords(signal) },
]

type LinkDraft = PlanDraft['links'][number]
const linkColumn = columnsOver<ExtenderRow, LinkDraft>()
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

export function useExtenderColumns(): readonly Column<ExtenderRow>[] {
  const plan = usePlan()
  const put: Put<ExtenderRow, LinkDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.device.name}: ${words}`, session, (draft) => {
      const link = draft.links.find(({ id }) => id === row.signal.linkId)
      if (link) recipe(link, draft)
    })
  return [
    { key: 'name', head: 'Device', strong: true, get: ({ device }) => device.name },
    useJoinColumn('Joins'),
    ...EXTENDER_COLUMNS,
    ...useColumns(JOINED_COLUMNS, put),
    ...(usePlaceColumns() as readonly Column<ExtenderRow>[]),
  ]
}
