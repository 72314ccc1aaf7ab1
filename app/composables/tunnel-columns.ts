import { parsePrefix4, parsePrefix6 } from '#core/address'
import { problem, type Problem } from '#core/util'
import { isEndpoint, isPublicKey, keyHolder, type Peer, type Plan, type Tunnel } from '#core/model'
import { checkChoice, checkName, checkNumber, reasons, type Column } from './columns'
import { checkFace, checkFace6 } from './line-columns'
import { usePlan, type PlanDraft } from '~/stores/plan'

const listOf = (text: string) => text.split(/[,\s]+/).filter((t) => t !== '' && t !== '—')
const checkPrefixes = (text: string): readonly Problem[] =>
  listOf(text).length > 100
    ? [problem('not-a-number', '', { text, least: 0, most: 100 })]
    : listOf(text).flatMap((t) => (t.includes(':') ? reasons(parsePrefix6(t)) : reasons(parsePrefix4(t))))
/**
 * One key, one peer: one that somebody else has, here or in another tunnel, is refused.
 * `own`: whose field it is typed into.
 */
export function checkKey(plan: Plan | null, own: string, text: string): readonly Problem[] {
  if (text === '') return []
  if (!isPublicKey(text)) return [problem('not-a-key', '', { text: text.slice(0, 20) })]
  const name = keyHolder(plan?.tunnels ?? [], own, text)
  return name === null ? [] : [problem('key-in-use', '', { name })]
}
const keyWords = (key: string | null): string => (key === null ? 'none' : `${key.slice(0, 8)}…`)
/** Down and up of a line, Mb/s: `500/100`; nothing, or `?`, where nobody knows. */
const speedsOf = (text: string): Pick<Peer, 'downMbps' | 'upMbps'> => {
  const [, down, up] = /^(\d{1,7})\s*\/\s*(\d{1,7})$/.exec(text.trim()) ?? []
  return { downMbps: down === undefined ? null : Number(down), upMbps: up === undefined ? null : Number(up) }
}
const checkSpeeds = (text: string): readonly Problem[] => {
  const { downMbps, upMbps } = speedsOf(text)
  if (['', '?'].includes(text.trim())) return []
  return downMbps !== null &&
    upMbps !== null &&
    Math.min(downMbps, upMbps) >= 1 &&
    Math.max(downMbps, upMbps) <= 1_000_000
    ? []
    : [problem('not-a-speed', '', { text })]
}
/** Networks and the prefixes they are known by: `10.9.10.0/24 as 10.99.10.0/24, …`. */
const mappingsOf = (text: string): { inside: string; outside: string }[] =>
  NOTHING.includes(text.trim())
    ? []
    : text.split(',').map((part) => {
        const [inside = '', outside = ''] = part.split(/\bas\b|=|→/).map((t) => t.trim())
        return { inside, outside }
      })
const checkMappings = (text: string): readonly Problem[] =>
  mappingsOf(text).flatMap(({ inside, outside }) => {
    const [first, second] = [parsePrefix4(inside), parsePrefix4(outside)]
    if (!first.ok || !second.ok) return [...reasons(first), ...reasons(second)]
    if (first.value.length === second.value.length) return []
    return [problem('lengths-differ', '', { text: `${inside} as ${outside}` })]
  })
const NOTHING = ['', '—']
const KINDS = ['site', 'person', 'provider'] as const

export function useTunnelColumns(): readonly Column<Tunnel>[] {
  const plan = usePlan()
  const put = (
    row: Tunnel,
    session: string,
    words: string,
    recipe: (t: PlanDraft['tunnels'][number]) => void,
  ) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const tunnel = draft.tunnels.find((t) => t.id === row.id)
      if (tunnel) recipe(tunnel)
    })
  return [
    {
      key: 'name',
      head: 'Tunnel',
      strong: true,
      get: (t) => t.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) => put(row, session, `named ${text}`, (t) => void (t.name = text)),
    },
    {
      key: 'address',
      head: 'Inside',
      mono: true,
      get: (t) => t.address,
      check: (_, text) => checkFace(text),
      commit: (row, text, session) => put(row, session, `inside ${text}`, (t) => void (t.address = text)),
    },
    {
      key: 'address6',
      head: 'Inside, IPv6',
      mono: true,
      get: (t) => t.address6 ?? '—',
      edit: (t) => t.address6 ?? '',
      check: (_, text) => (NOTHING.includes(text) ? [] : checkFace6(text)),
      commit: (row, text, session) =>
        put(row, session, `inside ${text}`, (t) => void (t.address6 = NOTHING.includes(text) ? null : text)),
    },
    {
      key: 'publicName',
      head: 'Found as',
      mono: true,
      get: (t) => t.publicName ?? '—',
      edit: (t) => t.publicName ?? '',
      check: (_, text) => (/^[A-Za-z0-9.-]{0,253}$/.test(text) ? [] : [problem('no-name', '')]),
      commit: (row, text, session) =>
        put(row, session, `found as ${text}`, (t) => void (t.publicName = text === '' ? null : text)),
    },
    {
      key: 'nameEveryS',
      head: 'Looked after, s',
      num: true,
      mono: true,
      get: (t) => (t.publicName === null ? '—' : String(t.nameEveryS)),
      edit: (t) => String(t.nameEveryS),
      check: (_, text) => checkNumber(text, 0, 604_800),
      commit: (row, text, session) =>
        put(row, session, `name looked after every ${text} s`, (t) => void (t.nameEveryS = Number(text))),
    },
    {
      key: 'nameTtlS',
      head: 'TTL, s',
      num: true,
      mono: true,
      get: (t) => (t.publicName === null ? '—' : String(t.nameTtlS)),
      edit: (t) => String(t.nameTtlS),
      check: (_, text) => checkNumber(text, 0, 604_800),
      commit: (row, text, session) =>
        put(row, session, `name remembered for ${text} s`, (t) => void (t.nameTtlS = Number(text))),
    },
    {
      key: 'mapped',
      head: 'Ours is known as',
      mono: true,
      get: (tunnel) =>
        tunnel.mapped.length === 0
          ? '—'
          : `${tunnel.mapped[0]?.outside}${tunnel.mapped.length > 1 ? ` +${tunnel.mapped.length - 1}` : ''}`,
      edit: (t) => t.mapped.map((m) => `${m.inside} as ${m.outside}`).join(', '),
      check: (_, text) => checkMappings(text),
      commit: (row, text, session) =>
        put(
          row,
          session,
          'translated one to one',
          (tunnel) =>
            void (tunnel.mapped = mappingsOf(text).map((mapping, i) => ({
              id:
                tunnel.mapped.find((o) => o.inside === mapping.inside)?.id ??
                `map-${i + 1}-${mapping.inside.replaceAll(/[./]/g, '-')}`,
              ...mapping,
            }))),
        ),
    },
    {
      key: 'listenPort',
      head: 'UDP port',
      num: true,
      mono: true,
      get: (t) => String(t.listenPort),
      check: (_, text) => checkNumber(text, 1, 65_535),
      commit: (row, text, session) =>
        put(row, session, `port ${text}`, (t) => void (t.listenPort = Number(text))),
    },
    {
      key: 'mtu',
      head: 'MTU',
      num: true,
      mono: true,
      get: (t) => String(t.mtu),
      check: (_, text) => checkNumber(text, 576, 9000),
      commit: (row, text, session) => put(row, session, `MTU ${text}`, (t) => void (t.mtu = Number(text))),
    },
    {
      key: 'publicKey',
      head: 'Public key',
      mono: true,
      get: (t) => keyWords(t.publicKey),
      edit: (t) => t.publicKey ?? '',
      check: (row, text) => checkKey(plan.draft, row.id, text),
      commit: (row, text, session) =>
        put(row, session, 'public key', (t) => void (t.publicKey = text === '' ? null : text)),
    },
  ]
}

export function usePeerColumns(tunnelId: () => string): readonly Column<Peer>[] {
  const plan = usePlan()
  const put = (
    row: Peer,
    session: string,
    words: string,
    recipe: (p: PlanDraft['tunnels'][number]['peers'][number]) => void,
  ) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const peer = draft.tunnels.find((t) => t.id === tunnelId())?.peers.find((p) => p.id === row.id)
      if (peer) recipe(peer)
    })
  // Of several prefixes the first is shown, and how many more there are; all of them where they are typed.
  const prefixes = (key: 'allowed' | 'theirAllowed', head: string): Column<Peer> => ({
    key,
    head,
    mono: true,
    get: (p) => (p[key].length > 1 ? `${p[key][0]} +${p[key].length - 1}` : (p[key][0] ?? 'nothing')),
    edit: (p) => p[key].join(' '),
    check: (_, text) => checkPrefixes(text === 'nothing' ? '' : text),
    commit: (row, text, session) =>
      put(row, session, head, (p) => void (p[key] = text === 'nothing' ? [] : listOf(text))),
  })
  return [
    {
      key: 'name',
      head: 'Peer',
      strong: true,
      get: (p) => p.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) => put(row, session, `named ${text}`, (p) => void (p.name = text)),
    },
    {
      key: 'kind',
      head: 'Is a',
      width: '76px',
      get: (p) => p.kind,
      choices: () => KINDS,
      check: (_, text) => checkChoice(text, KINDS),
      commit: (row, text, session) => put(row, session, text, (p) => void (p.kind = text as Peer['kind'])),
    },
    prefixes('allowed', 'Has'),
    prefixes('theirAllowed', 'May reach'),
    {
      key: 'endpoint',
      head: 'We dial',
      mono: true,
      get: (p) => p.endpoint ?? 'it dials us',
      edit: (p) => p.endpoint ?? '',
      check: (_, text) =>
        text === '' || text === 'it dials us' || isEndpoint(text)
          ? []
          : [problem('not-an-endpoint', '', { text })],
      commit: (row, text, session) =>
        put(
          row,
          session,
          'endpoint',
          (p) => void (p.endpoint = text === '' || text === 'it dials us' ? null : text),
        ),
    },
    {
      key: 'downMbps',
      head: 'Its line',
      num: true,
      mono: true,
      get: (p) => (p.downMbps === null || p.upMbps === null ? '?' : `${p.downMbps}/${p.upMbps}`),
      edit: (p) => (p.downMbps === null || p.upMbps === null ? '' : `${p.downMbps}/${p.upMbps}`),
      check: (_, text) => checkSpeeds(text),
      commit: (row, text, session) =>
        put(row, session, `line ${text} Mb/s`, (p) => void Object.assign(p, speedsOf(text))),
    },
    {
      key: 'keepaliveS',
      head: 'Alive s',
      num: true,
      mono: true,
      get: (p) => String(p.keepaliveS ?? '—'),
      edit: (p) => String(p.keepaliveS ?? ''),
      check: (_, text) => (text === '' ? [] : checkNumber(text, 0, 65_535)),
      commit: (row, text, session) =>
        put(
          row,
          session,
          `keepalive ${text}`,
          (p) => void (p.keepaliveS = text === '' ? null : Number(text)),
        ),
    },
    {
      key: 'publicKey',
      head: 'Public key',
      mono: true,
      get: (p) => keyWords(p.publicKey),
      edit: (p) => p.publicKey ?? '',
      check: (row, text) => checkKey(plan.draft, row.id, text),
      commit: (row, text, session) =>
        put(row, session, 'public key', (p) => void (p.publicKey = text === '' ? null : text)),
    },
  ]
}
