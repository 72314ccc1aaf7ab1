import { parseIpv4 } from '#core/address'
import { ok, problem, refuse, type Result } from '#core/util'
import type { Plan, PolicyRoute, PortForward, Probe, Uplink } from '#core/schema'
import { useSelectors } from '~/features/rules/selectors'
import { usePlan, type PlanDraft } from '~/stores/plan'
import {
  among,
  asTyped,
  columnsOver,
  cutAt,
  decimal,
  judged,
  name,
  oneOf,
  orNothing,
  partsIn,
  useColumns,
  whole,
  wordsIn,
  type Column,
  type Put,
} from '~/ui/columns'
import { useUplinkEdit, type UplinkDraft } from './uplink-columns'

// The tables of the Uplinks sheet.

const USUAL: Probe = { kind: 'icmp', targets: [], quorum: 1, everyS: 5, timeoutS: 1, misses: 3, returns: 4 }
const MOST_TARGETS = 8
const MOST_HOST = 253

const ofUplink = columnsOver<Uplink, UplinkDraft>()
const LINE: Column<Uplink> = { key: 'name', head: 'Uplink', strong: true, get: (u) => u.name }

/** A figure of a line's probe; refused where nothing is asked yet. */
const ofProbe = (
  key: 'everyS' | 'timeoutS' | 'misses' | 'returns' | 'quorum',
  head: string,
  most: number,
  parse: (text: string) => Result<number>,
) =>
  ofUplink({
    key,
    head,
    num: true,
    mono: true,
    read: (u) => (u.probe ? String(u.probe[key]) : '—'),
    parse: (text, uplink) => {
      if (!uplink.probe) return refuse(problem('no-probe', ''))
      if (Number(text) <= 0) return refuse(problem('not-a-number', '', { text, least: 1, most }))
      return parse(text)
    },
    write: (u, value) => void (u.probe && (u.probe[key] = value)),
  })
const seconds = (key: 'everyS' | 'timeoutS', head: string) => ofProbe(key, head, 3600, decimal(3600))
const times = (key: 'misses' | 'returns' | 'quorum', head: string, most: number) =>
  ofProbe(key, head, most, whole(1, most))

function targetsOf(text: string): Result<string[]> {
  const targets = wordsIn(text)
  return targets.length > MOST_TARGETS || targets.some((t) => t.length > MOST_HOST)
    ? refuse(problem('not-a-choice', '', { text, choices: 'up to eight hosts' }))
    : ok(targets)
}

/** Typing a first target begins a probe; taking the last out ends it. */
function watch(uplink: UplinkDraft, targets: string[]): void {
  const quorum = Math.min(uplink.probe?.quorum ?? targets.length, targets.length)
  uplink.probe = targets.length === 0 ? null : { ...(uplink.probe ?? USUAL), targets, quorum }
}

const PROBE_KINDS: readonly Probe['kind'][] = ['icmp', 'dns', 'http']
const PROBE_COLUMNS = [
  LINE,
  ofUplink({
    key: 'targets',
    head: 'Asked',
    mono: true,
    read: (u) => u.probe?.targets.join(' ') ?? '—',
    edit: (u) => u.probe?.targets.join(' ') ?? '',
    parse: targetsOf,
    write: watch,
    words: () => 'probe targets',
  }),
  times('quorum', 'Unanswered', MOST_TARGETS),
  ofUplink({
    key: 'kind',
    head: 'By',
    width: '58px',
    read: (u) => u.probe?.kind ?? '—',
    choices: () => PROBE_KINDS,
    parse: (text, u) => (u.probe ? oneOf(PROBE_KINDS)(text) : refuse(problem('no-probe', ''))),
    write: (u, kind) => void (u.probe && (u.probe.kind = kind)),
    words: (text) => `probe by ${text}`,
  }),
  seconds('everyS', 'Every s'),
  seconds('timeoutS', 'Wait s'),
  times('misses', 'Misses', 1000),
  times('returns', 'Returns', 1000),
  ofUplink({
    key: 'holdDownS',
    head: 'Hold s',
    num: true,
    mono: true,
    read: (u) => String(u.holdDownS),
    parse: whole(0, 86_400),
    write: (u, value) => void (u.holdDownS = value),
    words: (text) => `hold-down ${text} s`,
  }),
  ofUplink({
    key: 'lossPct',
    head: 'Loss %',
    num: true,
    mono: true,
    read: (u) => String(u.lossPct),
    parse: decimal(100),
    write: (u, value) => void (u.lossPct = value),
    words: (text) => `loss ${text} %`,
  }),
]

/** How each line is watched, a row a line. */
export const useProbeColumns = (): readonly Column<Uplink>[] => useColumns(PROBE_COLUMNS, useUplinkEdit())

const maybe = (key: 'availablePct' | 'usualGbPerDay', head: string, most: number) =>
  ofUplink<number | null>({
    key,
    head,
    num: true,
    mono: true,
    read: (u) => String(u[key] ?? '?'),
    edit: (u) => String(u[key] ?? ''),
    parse: orNothing(['', '?'], decimal(most)),
    write: (u, value) => void (u[key] = value),
  })
const number = (
  key: 'priority' | 'weight' | 'bringUpS',
  head: string,
  range: readonly [least: number, most: number],
  words: (text: string) => string,
) =>
  ofUplink({
    key,
    head,
    num: true,
    mono: true,
    read: (u) => String(u[key]),
    parse: whole(...range),
    write: (u, value) => void (u[key] = value),
    words,
  })

const STANDBY: readonly Uplink['standby'][] = ['hot', 'cold']
const STANDBY_COLUMNS = [
  LINE,
  number('priority', 'Order', [1, 100], (text) => `order ${text}`),
  number('weight', 'Weight', [1, 1000], (text) => `weight ${text}`),
  ofUplink<Uplink['standby']>({
    key: 'standby',
    head: 'Standby',
    width: '78px',
    read: (u) => u.standby,
    ...among(STANDBY),
    write: (u, standby) => void (u.standby = standby),
    words: (text) => `${text} standby`,
  }),
  number('bringUpS', 'Bring-up, s', [0, 86_400], (text) => `bring-up ${text} s`),
  ofUplink({
    key: 'sharedRisks',
    head: 'Shared risks',
    read: (u) => u.sharedRisks.join(', ') || '—',
    edit: (u) => u.sharedRisks.join(', '),
    parse: (text) =>
      ok(
        partsIn(text)
          .map((t) => t.slice(0, 80))
          .slice(0, 10),
      ),
    write: (u, sharedRisks) => void (u.sharedRisks = sharedRisks),
    words: () => 'shared risks',
  }),
  maybe('availablePct', 'Works, % of the year', 100),
  maybe('usualGbPerDay', 'Usual GB a day', 1_000_000),
]

/** How good each uplink is, and what it shares with others. */
export const useStandbyColumns = (): readonly Column<Uplink>[] => useColumns(STANDBY_COLUMNS, useUplinkEdit())

type PolicyRouteDraft = PlanDraft['policyRoutes'][number]
const ofRoute = columnsOver<PolicyRoute, PolicyRouteDraft>()

/** Uplinks and tunnels that a policy route may send by, with their names. */
const exitsOf = ({ uplinks, tunnels }: Plan) => [
  ...uplinks.map(({ id, name }) => ({ name, out: { kind: 'uplink' as const, id } })),
  ...tunnels.map(({ id, name }) => ({ name, out: { kind: 'tunnel' as const, id } })),
]
function exitOf(text: string, plan: Plan): Result<PolicyRoute['out']> {
  const exits = exitsOf(plan)
  const found = exits.find((e) => e.name === text)
  if (found) return ok(found.out)
  return refuse(problem('not-a-choice', '', { text, choices: exits.map((e) => e.name).join(', ') }))
}
const exitName = ({ out }: PolicyRoute, plan: Plan): string =>
  exitsOf(plan).find((e) => e.out.id === out.id && e.out.kind === out.kind)?.name ?? out.id

const MEANWHILE = { next: 'take the next uplink', refuse: 'wait' } as const
const MEANWHILE_WORDS = Object.values(MEANWHILE)
const EXIT_COLUMNS = [
  ofRoute({
    key: 'out',
    head: 'Goes by',
    read: exitName,
    choices: (_, plan) => exitsOf(plan).map((e) => e.name),
    parse: (text, _, plan) => exitOf(text, plan),
    write: (route, out) => {
      route.out = out
      // A gateway does not see that the far end of a tunnel is silent: what goes there would not go on.
      if (out.kind === 'tunnel') route.orElse = 'refuse'
    },
    words: (text) => `by ${text}`,
  }),
  ofRoute({
    key: 'orElse',
    head: 'While that is down',
    read: (r) => MEANWHILE[r.orElse],
    ...among(MEANWHILE_WORDS),
    write: (r, text) => void (r.orElse = text === MEANWHILE.next ? 'next' : 'refuse'),
    words: (text) => text,
  }),
  ofRoute({
    key: 'note',
    head: 'Why',
    read: (r) => r.note || '—',
    edit: (r) => r.note,
    parse: cutAt(200),
    write: (r, text) => void (r.note = text),
    words: () => 'why',
  }),
]

/** Who goes by which exit. */
export function usePolicyRouteColumns(): readonly Column<PolicyRoute>[] {
  const plan = usePlan()
  const pick = useSelectors()
  const put: Put<PolicyRoute, PolicyRouteDraft> = (row, session, words, recipe) =>
    plan.edit(`policy route: ${words}`, session, (draft) => {
      const route = draft.policyRoutes.find((r) => r.id === row.id)
      if (route) recipe(route, draft)
    })
  const who = ofRoute({
    key: 'from',
    head: 'Who',
    read: (r) => pick.words(r.from),
    choices: (r) => pick.choices(r.from),
    parse: (text, r) => judged(text, pick.check(r.from, text)),
    write: (r, text, draft) => void (r.from = pick.read(text, r.from, draft) as typeof r.from),
    words: (text) => `for ${text}`,
  })
  const what = ofRoute({
    key: 'services',
    head: 'What',
    read: (r) => pick.serviceWords(r.services),
    parse: (text) => judged(text, pick.checkServices(text)),
    write: (r, text, draft) => void (r.services = pick.readServices(text, draft)),
    words: (text) => text,
  })
  return useColumns([who, what, ...EXIT_COLUMNS], put)
}

type ForwardDraft = PlanDraft['forwards'][number]
const ofForward = columnsOver<PortForward, ForwardDraft>()
const MOST_PORT = 65_535

/** `80`, or `5000-5010`. */
function spanOf(text: string): Result<{ from: number; to: number }> {
  const [, first = '', last = first] = /^(\d{1,5})(?:-(\d{1,5}))?$/.exec(text) ?? []
  const [from, to] = [Number(first), Number(last)]
  return first !== '' && from <= to && to <= MOST_PORT
    ? ok({ from, to })
    : refuse(problem('not-a-number', '', { text, least: 0, most: MOST_PORT }))
}

const PROTOCOLS: readonly PortForward['proto'][] = ['tcp', 'udp']
const INSIDE = ['no', 'too'] as const
const uplinkNames = (plan: Plan): string[] => plan.uplinks.map((u) => u.name)
const FORWARD_COLUMNS = [
  ofForward({
    key: 'uplink',
    head: 'Arrives on',
    read: (f, plan) => plan.uplinks.find((u) => u.id === f.uplinkId)?.name ?? f.uplinkId,
    choices: (_, plan) => uplinkNames(plan),
    parse: (text, _, plan) => oneOf(uplinkNames(plan))(text),
    write: (finding, text, draft) =>
      void (finding.uplinkId = draft.uplinks.find((u) => u.name === text)?.id ?? finding.uplinkId),
    words: (text) => `on ${text}`,
  }),
  ofForward<PortForward['proto']>({
    key: 'proto',
    head: 'By',
    width: '58px',
    read: (f) => f.proto,
    ...among(PROTOCOLS),
    write: (f, proto) => void (f.proto = proto),
    words: (text) => text,
  }),
  ofForward({
    key: 'ports',
    head: 'Port',
    num: true,
    mono: true,
    read: (f) => (f.to > f.from ? `${f.from}-${f.to}` : String(f.from)),
    parse: spanOf,
    write: (f, span) => void Object.assign(f, span),
    words: (text) => `port ${text}`,
  }),
  ofForward({
    key: 'toAddress',
    head: 'Handed to',
    mono: true,
    read: (f) => f.toAddress,
    parse: asTyped(parseIpv4),
    write: (f, text) => void (f.toAddress = text),
    words: (text) => `to ${text}`,
  }),
  ofForward({
    key: 'toPort',
    head: 'Port there',
    num: true,
    mono: true,
    read: (f) => String(f.toPort),
    parse: whole(0, MOST_PORT),
    write: (f, value) => void (f.toPort = value),
    words: (text) => `port there ${text}`,
  }),
  ofForward({
    key: 'hairpin',
    head: 'From inside',
    width: '90px',
    read: (f) => (f.hairpin ? 'too' : 'no'),
    ...among(INSIDE),
    write: (f, text) => void (f.hairpin = text === 'too'),
    words: (text) => `from inside ${text}`,
  }),
  ofForward({
    key: 'note',
    head: 'Why',
    read: (f) => f.note || '—',
    edit: (f) => f.note,
    parse: (text) => (text === '' ? ok('') : name(text)),
    write: (f, text) => void (f.note = text),
    words: () => 'why',
  }),
]

/** What arrives from outside and is handed inside. */
export function useForwardColumns(): readonly Column<PortForward>[] {
  const plan = usePlan()
  const put: Put<PortForward, ForwardDraft> = (row, session, words, recipe) =>
    plan.edit(`port forward: ${words}`, session, (draft) => {
      const forward = draft.forwards.find((f) => f.id === row.id)
      if (forward) recipe(forward, draft)
    })
  return useColumns(FORWARD_COLUMNS, put)
}
