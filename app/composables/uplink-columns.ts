import { parseIpv4 } from '#core/address'
import { problem, type Problem } from '#core/util'
import type { PolicyRoute, PortForward, Probe, Uplink } from '#core/model'
import { checkChoice, checkName, checkNumber, reasons, type Column } from './columns'
import { useLineEdit } from './line-columns'
import { useSelectors } from './selectors'
import { usePlan, type PlanDraft } from '~/stores/plan'

const decimals = (text: string, most: number): readonly Problem[] =>
  /^\d{1,6}(\.\d{1,3})?$/.test(text) && Number(text) <= most
    ? []
    : [problem('not-a-number', '', { text, least: 0, most })]
const USUAL: Probe = { kind: 'icmp', targets: [], quorum: 1, everyS: 5, timeoutS: 1, misses: 3, returns: 4 }

/**
 * How each line is watched, a row a line.
 * Typing a first target begins a probe; taking the last out ends it.
 */
export function useProbeColumns(): readonly Column<Uplink>[] {
  const put = useLineEdit()
  const list = (text: string) => text.split(/[,\s]+/).filter((t) => t !== '' && t !== '—')
  const ofProbe = (
    key: 'everyS' | 'timeoutS' | 'misses' | 'returns' | 'quorum',
    head: string,
    most: number,
    whole: boolean,
  ): Column<Uplink> => ({
    key,
    head,
    num: true,
    mono: true,
    get: (u) => (u.probe ? String(u.probe[key]) : '—'),
    check: (uplink, text) => {
      if (!uplink.probe) return [problem('no-probe', '')]
      if (Number(text) <= 0) return [problem('not-a-number', '', { text, least: 1, most })]
      if (whole) return checkNumber(text, 1, most)
      return decimals(text, most)
    },
    commit: (row, text, session) =>
      put(row, session, `${head} ${text}`, (u) => void (u.probe && (u.probe[key] = Number(text)))),
  })
  return [
    { key: 'name', head: 'Line', strong: true, get: (u) => u.name },
    {
      key: 'targets',
      head: 'Asked',
      mono: true,
      get: (u) => u.probe?.targets.join(' ') ?? '—',
      edit: (u) => u.probe?.targets.join(' ') ?? '',
      check: (_, text) =>
        list(text).length > 8 || list(text).some((t) => t.length > 253)
          ? [problem('not-a-choice', '', { text, choices: 'up to eight hosts' })]
          : [],
      commit: (row, text, session) =>
        put(row, session, 'probe targets', (uplink) => {
          const targets = list(text)
          uplink.probe =
            targets.length === 0
              ? null
              : {
                  ...(uplink.probe ?? USUAL),
                  targets,
                  quorum: Math.min(uplink.probe?.quorum ?? targets.length, targets.length),
                }
        }),
    },
    ofProbe('quorum', 'Silent', 8, true),
    {
      key: 'kind',
      head: 'By',
      width: '58px',
      get: (u) => u.probe?.kind ?? '—',
      choices: () => ['icmp', 'dns', 'http'],
      check: (u, text) => (u.probe ? checkChoice(text, ['icmp', 'dns', 'http']) : [problem('no-probe', '')]),
      commit: (row, text, session) =>
        put(
          row,
          session,
          `probe by ${text}`,
          (u) => void (u.probe && (u.probe.kind = text as Probe['kind'])),
        ),
    },
    ofProbe('everyS', 'Every s', 3600, false),
    ofProbe('timeoutS', 'Wait s', 3600, false),
    ofProbe('misses', 'Misses', 1000, true),
    ofProbe('returns', 'Returns', 1000, true),
    {
      key: 'holdDownS',
      head: 'Hold s',
      num: true,
      mono: true,
      get: (u) => String(u.holdDownS),
      check: (_, text) => checkNumber(text, 0, 86_400),
      commit: (row, text, session) =>
        put(row, session, `hold-down ${text} s`, (u) => void (u.holdDownS = Number(text))),
    },
    {
      key: 'lossPct',
      head: 'Loss %',
      num: true,
      mono: true,
      get: (u) => String(u.lossPct),
      check: (_, text) => decimals(text, 100),
      commit: (row, text, session) =>
        put(row, session, `loss ${text} %`, (u) => void (u.lossPct = Number(text))),
    },
  ]
}

/** What each line is worth and what it leans on. */
export function useStandbyColumns(): readonly Column<Uplink>[] {
  const put = useLineEdit()
  const maybe = (key: 'availablePct' | 'usualGbPerDay', head: string, most: number): Column<Uplink> => ({
    key,
    head,
    num: true,
    mono: true,
    get: (u) => String(u[key] ?? '?'),
    edit: (u) => String(u[key] ?? ''),
    check: (_, text) => (text === '' || text === '?' ? [] : decimals(text, most)),
    commit: (row, text, session) =>
      put(
        row,
        session,
        `${head} ${text}`,
        (u) => void (u[key] = text === '' || text === '?' ? null : Number(text)),
      ),
  })
  return [
    { key: 'name', head: 'Line', strong: true, get: (u) => u.name },
    {
      key: 'priority',
      head: 'Order',
      num: true,
      mono: true,
      get: (u) => String(u.priority),
      check: (_, text) => checkNumber(text, 1, 100),
      commit: (row, text, session) =>
        put(row, session, `order ${text}`, (u) => void (u.priority = Number(text))),
    },
    {
      key: 'weight',
      head: 'Weight',
      num: true,
      mono: true,
      get: (u) => String(u.weight),
      check: (_, text) => checkNumber(text, 1, 1000),
      commit: (row, text, session) =>
        put(row, session, `weight ${text}`, (u) => void (u.weight = Number(text))),
    },
    {
      key: 'standby',
      head: 'Standby',
      width: '78px',
      get: (u) => u.standby,
      choices: () => ['hot', 'cold'],
      check: (_, text) => checkChoice(text, ['hot', 'cold']),
      commit: (row, text, session) =>
        put(row, session, `${text} standby`, (u) => void (u.standby = text as Uplink['standby'])),
    },
    {
      key: 'bringUpS',
      head: 'Dialled in s',
      num: true,
      mono: true,
      get: (u) => String(u.bringUpS),
      check: (_, text) => checkNumber(text, 0, 86_400),
      commit: (row, text, session) =>
        put(row, session, `dialled in ${text} s`, (u) => void (u.bringUpS = Number(text))),
    },
    {
      key: 'fates',
      head: 'Leans on',
      get: (u) => u.fates.join(', ') || '—',
      edit: (u) => u.fates.join(', '),
      check: () => [],
      commit: (row, text, session) =>
        put(
          row,
          session,
          'leans on',
          (uplink) =>
            void (uplink.fates = text
              .split(',')
              .map((t) => t.trim().slice(0, 80))
              .filter((t) => t !== '' && t !== '—')
              .slice(0, 10)),
        ),
    },
    maybe('availablePct', 'Works, % of the year', 100),
    maybe('usualGbPerDay', 'Usual GB a day', 1_000_000),
  ]
}

export function usePolicyRouteColumns(): readonly Column<PolicyRoute>[] {
  const plan = usePlan()
  const pick = useSelectors()
  const put = (
    row: PolicyRoute,
    session: string,
    words: string,
    recipe: (r: PlanDraft['policyRoutes'][number], draft: PlanDraft) => void,
  ) =>
    plan.edit(`policy route: ${words}`, session, (draft) => {
      const route = draft.policyRoutes.find((r) => r.id === row.id)
      if (route) recipe(route, draft)
    })
  const exits = () => [
    ...(plan.draft?.uplinks ?? []).map((uplink) => ({
      words: uplink.name,
      out: { kind: 'uplink' as const, id: uplink.id },
    })),
    ...(plan.draft?.tunnels ?? []).map((tunnel) => ({
      words: tunnel.name,
      out: { kind: 'tunnel' as const, id: tunnel.id },
    })),
  ]
  const exitWords = (policyRoute: PolicyRoute) =>
    exits().find((e) => e.out.id === policyRoute.out.id && e.out.kind === policyRoute.out.kind)?.words ??
    policyRoute.out.id
  const ELSE = { next: 'take the next line', refuse: 'wait' } as const
  return [
    {
      key: 'from',
      head: 'Who',
      get: (r) => pick.words(r.from),
      choices: (r) => pick.choices(r.from),
      check: (r, text) => pick.check(r.from, text),
      commit: (row, text, session) =>
        put(row, session, `for ${text}`, (r) => void (r.from = pick.read(text, row.from) as typeof r.from)),
    },
    {
      key: 'services',
      head: 'What',
      get: (r) => pick.serviceWords(r.services),
      check: (_, text) => pick.checkServices(text),
      commit: (row, text, session) =>
        put(row, session, text, (r, draft) => void (r.services = pick.readServices(text, draft))),
    },
    {
      key: 'out',
      head: 'Goes by',
      get: exitWords,
      choices: () => exits().map((e) => e.words),
      check: (_, text) =>
        checkChoice(
          text,
          exits().map((e) => e.words),
        ),
      commit: (row, text, session) =>
        put(
          row,
          session,
          `by ${text}`,
          (r) => void (r.out = exits().find((e) => e.words === text)?.out ?? r.out),
        ),
    },
    {
      key: 'orElse',
      head: 'While that is down',
      get: (r) => ELSE[r.orElse],
      choices: () => Object.values(ELSE),
      check: (_, text) => checkChoice(text, Object.values(ELSE)),
      commit: (row, text, session) =>
        put(row, session, text, (r) => void (r.orElse = text === ELSE.next ? 'next' : 'refuse')),
    },
    {
      key: 'note',
      head: 'Why',
      get: (r) => r.note || '—',
      edit: (r) => r.note,
      check: () => [],
      commit: (row, text, session) => put(row, session, 'why', (r) => void (r.note = text.slice(0, 200))),
    },
  ]
}

export function useForwardColumns(): readonly Column<PortForward>[] {
  const plan = usePlan()
  const put = (
    row: PortForward,
    session: string,
    words: string,
    recipe: (f: PlanDraft['forwards'][number]) => void,
  ) =>
    plan.edit(`port forward: ${words}`, session, (draft) => {
      const forward = draft.forwards.find((f) => f.id === row.id)
      if (forward) recipe(forward)
    })
  const lines = () => (plan.draft?.uplinks ?? []).map((u) => u.name)
  const span = (text: string) => /^(\d{1,5})(?:-(\d{1,5}))?$/.exec(text)
  const checkSpan = (text: string): readonly Problem[] => {
    const [, from = '', to = from] = span(text) ?? []
    return span(text) && Number(from) <= Number(to) && Number(to) <= 65_535
      ? []
      : [problem('not-a-number', '', { text, least: 0, most: 65_535 })]
  }
  return [
    {
      key: 'uplink',
      head: 'Arrives on',
      get: (f) => plan.draft?.uplinks.find((u) => u.id === f.uplinkId)?.name ?? f.uplinkId,
      choices: lines,
      check: (_, text) => checkChoice(text, lines()),
      commit: (row, text, session) =>
        put(
          row,
          session,
          `on ${text}`,
          (f) => void (f.uplinkId = plan.draft?.uplinks.find((u) => u.name === text)?.id ?? f.uplinkId),
        ),
    },
    {
      key: 'proto',
      head: 'By',
      width: '58px',
      get: (f) => f.proto,
      choices: () => ['tcp', 'udp'],
      check: (_, text) => checkChoice(text, ['tcp', 'udp']),
      commit: (row, text, session) => put(row, session, text, (f) => void (f.proto = text as 'tcp' | 'udp')),
    },
    {
      key: 'ports',
      head: 'Port',
      num: true,
      mono: true,
      get: (f) => (f.to > f.from ? `${f.from}-${f.to}` : String(f.from)),
      check: (_, text) => checkSpan(text),
      commit: (row, text, session) =>
        put(row, session, `port ${text}`, (forward) => {
          const [, from = '0', to = from] = span(text) ?? []
          Object.assign(forward, { from: Number(from), to: Number(to) })
        }),
    },
    {
      key: 'toAddress',
      head: 'Handed to',
      mono: true,
      get: (f) => f.toAddress,
      check: (_, text) => reasons(parseIpv4(text)),
      commit: (row, text, session) => put(row, session, `to ${text}`, (f) => void (f.toAddress = text)),
    },
    {
      key: 'toPort',
      head: 'Port there',
      num: true,
      mono: true,
      get: (f) => String(f.toPort),
      check: (_, text) => checkNumber(text, 0, 65_535),
      commit: (row, text, session) =>
        put(row, session, `port there ${text}`, (f) => void (f.toPort = Number(text))),
    },
    {
      key: 'hairpin',
      head: 'From inside',
      width: '90px',
      get: (f) => (f.hairpin ? 'too' : 'no'),
      choices: () => ['no', 'too'],
      check: (_, text) => checkChoice(text, ['no', 'too']),
      commit: (row, text, session) =>
        put(row, session, `from inside ${text}`, (f) => void (f.hairpin = text === 'too')),
    },
    {
      key: 'note',
      head: 'Why',
      get: (f) => f.note || '—',
      edit: (f) => f.note,
      check: (_, text) => (text === '' ? [] : checkName(text)),
      commit: (row, text, session) => put(row, session, 'why', (f) => void (f.note = text)),
    },
  ]
}
