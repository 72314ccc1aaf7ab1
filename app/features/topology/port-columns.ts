import { linkSpeed } from '#core/cabling'
import { mediumText, modeText } from '#core/export'
import { connect, disconnect, portNamed, turnedInto } from '#core/edit'
import { isHost, isVlanAware, namesIn } from '#core/queries'
import type { Link, Medium, Plan, Port, PortMode, LinkId } from '#core/schema'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import type { PortRow } from './topology-graph'
import { usePlan, type PlanDraft } from '~/stores/plan'
import {
  among,
  checkNumber,
  columnsOver,
  oneOf,
  useColumns,
  whole,
  type Column,
  type Put,
} from '~/ui/columns'

// The table of ports, and what typing into it does.

const TYPED = ['access', 'trunk', 'off'] as const
/** A host's socket: untagged in the network that it wants, or with interfaces of its own VLANs. */
const TYPED_OF_HOST = ['plain', 'trunk'] as const
type Typed = (typeof TYPED | typeof TYPED_OF_HOST)[number]
function typedFor({ device }: PortRow): readonly Typed[] {
  if (isHost(device)) return TYPED_OF_HOST
  return isVlanAware(device) ? TYPED : []
}
const SPEEDS = ['auto', '10', '100', '1000', '2500', '10000'] as const
const OPTICS = ['—', '1000BASE-SX', '1000BASE-LX10', '10GBASE-SR', '10GBASE-LR'] as const
const RUNS = ['indoor', 'outdoor', 'between'] as const
export const CABLES: readonly Medium[] = [
  ...(['Cat5e', 'Cat6', 'Cat6A'] as const).flatMap((category) =>
    RUNS.map((run): Medium => ({ kind: 'copper', category, lengthM: 0, run })),
  ),
  ...(['OM3', 'OM4', 'OS2'] as const).flatMap((grade) =>
    RUNS.map((run): Medium => ({ kind: 'fibre', grade, lengthM: 0, run })),
  ),
]
export const cableNames = CABLES.map((c) => mediumText(c).kind)

/** What a new cable is until somebody says otherwise. */
const NEW_CABLE: Medium = { kind: 'copper', category: 'Cat6', lengthM: 0, run: 'indoor' }
const NOTHING = ['', '—']
const NO_NATIVE = [...NOTHING, 'none']
const MOST_METRES = 200_000

const MOST_VLANS = 4094

/** VLAN numbers as people list them: `10 20, 30-39`, or `all`. */
export function readTags(text: string): {
  readonly vids: number[] | 'all'
  readonly problems: readonly Problem[]
} {
  if (text === 'all') return { vids: 'all', problems: [] }
  const said = text
    .replaceAll(/(?<=\d)\s*[-–]\s*(?=\d)/g, '-')
    .split(/[\s,;]+/)
    .filter((word) => word !== '—')
  // Spans are written out only as many as there can be numbers: a pasted text has no end.
  const words = said.length > MOST_VLANS ? said : [...new Set(said)].flatMap(namesIn)
  return {
    vids: [...new Set(words.map(Number))].sort((a, b) => a - b),
    problems: words.flatMap((w) => checkNumber(w, 1, 4094)).slice(0, 1),
  }
}

const portOf = ({ device, portId }: PortRow): Port | undefined => device.ports.find((p) => p.id === portId)
const modeOf = (row: PortRow): PortMode => portOf(row)?.mode ?? { mode: 'off' }
const nameOf = (row: PortRow): string => `${row.device.name} port ${portOf(row)?.name ?? row.portId}`
const saying = (what: string) => (text: string, row: PortRow) => `${nameOf(row)}: ${what}${text}`
const isCable = (link: Link | null): link is Link => ['copper', 'fibre'].includes(link?.medium.kind ?? '')

/** Refused where a port's mode is not one that is typed: a line's, a radio's, or of a device that reads no tags. */
function typedOnly<Value>(row: PortRow, result: Result<Value>): Result<Value> {
  const { mode } = modeOf(row)
  if (typedFor(row).some((typed) => typed === mode)) return result
  return refuse(problem('not-a-mode', '', { text: mode, choices: 'ports that sort VLANs' }))
}

function nativeOf(text: string, row: PortRow): Result<number | null> {
  const mode = modeOf(row)
  if (mode.mode === 'off') return refuse(problem('not-a-mode', '', { text: 'off', choices: 'access, trunk' }))
  if (mode.mode === 'trunk' && NO_NATIVE.includes(text)) return ok(null)
  if (mode.mode === 'trunk' && mode.tagged !== 'all' && mode.tagged.includes(Number(text)))
    return refuse(problem('tagged-already', '', { text }))
  return typedOnly(row, whole(1, 4094)(text))
}

function taggedOf(text: string, row: PortRow): Result<number[] | 'all'> {
  const mode = modeOf(row)
  const { vids, problems } = readTags(text)
  if (mode.mode !== 'trunk')
    return vids.length === 0 ? ok(vids) : refuse(problem('not-a-trunk', '', { text }))
  if (mode.native !== null && vids !== 'all' && vids.includes(mode.native))
    return refuse(problem('native-already', '', { text: mode.native }))
  return problems.length > 0 ? refuse(...problems) : ok(vids)
}
function taggedWords(text: string, row: PortRow): string {
  const { vids } = readTags(text)
  return `${nameOf(row)}: tagged ${vids === 'all' ? vids : vids.join(' ') || 'none'}`
}

/** Drafts are written to: a mode of the plan is copied into them. */
const copied = (mode: PortMode): PortDraft['mode'] =>
  (mode.mode === 'trunk' && mode.tagged !== 'all'
    ? { ...mode, tagged: [...mode.tagged] }
    : { ...mode }) as PortDraft['mode']

type PortDraft = PlanDraft['devices'][number]['ports'][number]
const column = columnsOver<PortRow, PortDraft>()

const DEVICE: Column<PortRow> = { key: 'device', head: 'Device', strong: true, get: (r) => r.device.name }
const PORT: Column<PortRow> = {
  key: 'port',
  head: 'Port',
  num: true,
  mono: true,
  width: '48px',
  get: (r) => portOf(r)?.name ?? r.portId,
}

const MODE_COLUMNS = [
  column<PortMode>({
    key: 'mode',
    head: 'Mode',
    width: '84px',
    read: (r) => modeText(modeOf(r)).mode,
    choices: typedFor,
    parse: (text, row, plan) => {
      const typed = typedOnly(row, oneOf<Typed>(typedFor(row))(text))
      const home = plan.networks.find((n) => n.id === row.device.homeNetworkId)?.vlan ?? 1
      return typed.ok ? ok(turnedInto(typed.value, modeOf(row), home)) : typed
    },
    write: (port, mode) => void (port.mode = copied(mode)),
    words: saying(''),
  }),
  column({
    key: 'native',
    head: 'Native',
    num: true,
    mono: true,
    width: '64px',
    read: (r) => modeText(modeOf(r)).native || '—',
    edit: (r) => modeText(modeOf(r)).native,
    parse: nativeOf,
    write: ({ mode }, vid) => {
      if (mode.mode === 'access' && vid !== null) mode.vlan = vid
      if (mode.mode === 'trunk') mode.native = vid
    },
    words: (text, row) => {
      const vid = NO_NATIVE.includes(text) ? 'none' : text
      return `${nameOf(row)}: ${modeOf(row).mode === 'access' ? 'access' : 'native'} ${vid}`
    },
  }),
  column({
    key: 'tagged',
    head: 'Tagged',
    mono: true,
    read: (r) => modeText(modeOf(r)).tagged || '—',
    edit: (r) => modeText(modeOf(r)).tagged,
    parse: taggedOf,
    write: ({ mode }, vids) => {
      if (mode.mode === 'trunk') mode.tagged = vids
    },
    words: taggedWords,
  }),
]

const OPTIC = column<(typeof OPTICS)[number]>({
  key: 'optic',
  head: 'Light',
  mono: true,
  width: '76px',
  read: (r) => portOf(r)?.optic?.replace('BASE-', ' ') ?? '—',
  edit: (r) => portOf(r)?.optic ?? '—',
  ...among(OPTICS),
  write: (port, optic) => void (port.optic = optic === '—' ? null : optic),
  words: saying('transceiver '),
})

/** @param speedOf Mb/s that a cable comes up with; null where none is, or none is known */
const speedColumn = (speedOf: (linkId: LinkId) => number | null) =>
  column({
    key: 'speed',
    head: 'Speed',
    num: true,
    mono: true,
    width: '68px',
    read: (row) => {
      const mbps = row.link ? speedOf(row.link.id) : null
      const forced = portOf(row)?.speedMbps
      if (mbps === null) return forced ? `${forced} M!` : '—'
      return mbps >= 1000 ? `${mbps / 1000} G` : `${mbps} M`
    },
    edit: (r) => String(portOf(r)?.speedMbps ?? 'auto'),
    ...among(SPEEDS),
    write: (port, speed) => void (port.speedMbps = speed === 'auto' ? null : Number(speed)),
    words: saying('speed '),
  })

type LinkDraft = PlanDraft['links'][number]
const ofCable = columnsOver<PortRow, LinkDraft>()
const CABLE_COLUMNS = [
  ofCable<Medium>({
    key: 'cable',
    head: 'Cable',
    read: (r) => (r.link ? mediumText(r.link.medium).kind : '—'),
    choices: () => cableNames,
    parse: (text, { link }) => {
      if (!isCable(link)) return refuse(problem('not-a-choice', '', { text, choices: NO_CABLE }))
      const typed = oneOf(cableNames)(text)
      const lengthM = 'lengthM' in link.medium ? link.medium.lengthM : 0
      return typed.ok ? ok({ ...(CABLES[cableNames.indexOf(text)] ?? NEW_CABLE), lengthM } as Medium) : typed
    },
    write: (link, medium) => void (link.medium = medium as LinkDraft['medium']),
    words: saying(''),
  }),
  ofCable({
    key: 'length',
    head: 'm',
    num: true,
    mono: true,
    width: '56px',
    read: (r) => (r.link ? mediumText(r.link.medium).lengthM || '—' : '—'),
    parse: (text, { link }): Result<number | null> => {
      if (link && 'lengthM' in link.medium) return whole(0, MOST_METRES)(text)
      if (text === '—') return ok(null)
      return refuse(problem('not-a-choice', '', { text, choices: 'cables; this has no length' }))
    },
    write: ({ medium }, lengthM) => {
      if (lengthM !== null && 'lengthM' in medium) medium.lengthM = lengthM
    },
    words: (text, row) => `${nameOf(row)}: ${text} m`,
  }),
]
const NO_CABLE = 'cables; this is not one'

/** The plan with the port's cable laid elsewhere, or taken out where nothing is typed. */
function laidTo(plan: Plan, row: PortRow, text: string): Result<Plan> {
  if (text.toLowerCase() === row.far.toLowerCase()) return ok(plan)
  const without = row.link ? disconnect(plan, row.link.id) : plan
  if (NOTHING.includes(text)) return ok(without)
  const far = portNamed(plan, text)
  if (!far.ok) return far
  const near = { deviceId: row.device.id, portId: row.portId }
  return connect(without, near, far.value, isCable(row.link) ? row.link.medium : NEW_CABLE)
}

/** Nothing takes the cable out; a device and its port lays one. */
function checkFar(plan: Plan | null, row: PortRow, text: string): readonly Problem[] {
  const stays = NOTHING.includes(text) || text.toLowerCase() === row.far.toLowerCase()
  if (!plan || stays) return []
  if (row.link && !isCable(row.link)) return [problem('not-a-choice', '', { text, choices: NO_CABLE })]
  const laid = laidTo(plan, row, text)
  return laid.ok ? [] : laid.problems
}

/** The columns of the port table. */
export function usePortColumns(): readonly Column<PortRow>[] {
  const plan = usePlan()
  const put: Put<PortRow, PortDraft> = (row, session, words, recipe) =>
    plan.edit(words, session, (draft) => {
      const port = draft.devices.find((d) => d.id === row.device.id)?.ports.find((p) => p.id === row.portId)
      if (port) recipe(port, draft)
    })
  const putCable: Put<PortRow, LinkDraft> = (row, session, words, recipe) =>
    plan.edit(words, session, (draft) => {
      const link = draft.links.find((l) => l.id === row.link?.id)
      if (link) recipe(link, draft)
    })
  const speeds = computed(() => {
    const index = plan.index
    return new Map(index ? index.plan.links.map((link) => [link.id, linkSpeed(index, link).mbps]) : [])
  })
  const far: Column<PortRow> = {
    key: 'far',
    head: 'Connected to',
    get: (r) => r.far || '—',
    edit: (r) => r.far,
    check: (row, text) => checkFar(plan.draft, row, text),
    commit: (row, text, session) => {
      const words = NOTHING.includes(text) ? 'cable taken out' : `to ${text}`
      plan.change(`${nameOf(row)}: ${words}`, session, (now) => {
        const laid = laidTo(now, row, text)
        return laid.ok ? laid.value : now
      })
    },
  }
  const speed = speedColumn((linkId) => speeds.value.get(linkId) ?? null)
  return [
    ...useColumns([DEVICE, PORT, ...MODE_COLUMNS, far, speed], put),
    ...useColumns(CABLE_COLUMNS, putCable),
    ...useColumns([OPTIC], put),
  ]
}
