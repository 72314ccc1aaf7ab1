import { parseInterface4, parsePrefix4, parsePrefix6 } from '#core/address'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { isEndpoint, isPublicKey } from '#core/format'
import { keyHolder } from '#core/queries'
import type { Peer, Plan, Tunnel } from '#core/schema'
import { checkFace6 } from '~/features/uplinks/line-columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import {
  among,
  asTyped,
  columnsOver,
  judged,
  name,
  orNothing,
  reasons,
  useColumns,
  whole,
  wordsIn,
  type Column,
  type Put,
} from '~/ui/columns'

// The tables of the Tunnels sheet.

const NOTHING = ['', '—']
const MOST_PREFIXES = 100
const MOST_MBPS = 1_000_000

/**
 * One key, one peer: one that somebody else has, here or in another tunnel, is refused.
 * `own`: whose field it is typed into.
 */
export function checkKey(plan: Plan | null, own: string, text: string): readonly Problem[] {
  if (text === '') return []
  if (!isPublicKey(text)) return [problem('not-a-key', '', { text: text.slice(0, 20) })]
  const holder = keyHolder(plan?.tunnels ?? [], own, text)
  return holder === null ? [] : [problem('key-in-use', '', { name: holder })]
}
const keyOf = (text: string, { id }: { readonly id: string }, plan: Plan): Result<string | null> =>
  judged(text === '' ? null : text, checkKey(plan, id, text))
const keyWords = (key: string | null): string => (key === null ? 'none' : `${key.slice(0, 8)}…`)

function prefixesOf(text: string): Result<string[]> {
  const list = text === 'nothing' ? [] : wordsIn(text)
  if (list.length > MOST_PREFIXES)
    return refuse(problem('not-a-number', '', { text, least: 0, most: MOST_PREFIXES }))
  const wrong = list.flatMap((t) => (t.includes(':') ? reasons(parsePrefix6(t)) : reasons(parsePrefix4(t))))
  return judged(list, wrong)
}

type Speeds = Pick<Peer, 'downMbps' | 'upMbps'>
/** Down and up of a line, Mb/s: `500/100`; nothing, or `?`, where nobody knows. */
function speedsOf(text: string): Result<Speeds> {
  if (['', '?'].includes(text.trim())) return ok({ downMbps: null, upMbps: null })
  const [, down, up] = /^(\d{1,7})\s*\/\s*(\d{1,7})$/.exec(text.trim()) ?? []
  const [downMbps, upMbps] = [Number(down), Number(up)]
  const isSpeed = (mbps: number) => mbps >= 1 && mbps <= MOST_MBPS
  return isSpeed(downMbps) && isSpeed(upMbps)
    ? ok({ downMbps, upMbps })
    : refuse(problem('not-a-speed', '', { text }))
}
const speedsText = ({ downMbps, upMbps }: Peer, unknown: string): string =>
  downMbps === null || upMbps === null ? unknown : `${downMbps}/${upMbps}`

type Mapping = Omit<Tunnel['mapped'][number], 'id'>
/** Networks and the prefixes they are known by: `10.9.10.0/24 as 10.99.10.0/24, …`. */
function mappingsOf(text: string): Result<Mapping[]> {
  if (NOTHING.includes(text.trim())) return ok([])
  const mappings = text.split(',').map((part) => {
    const [inside = '', outside = ''] = part.split(/\bas\b|=|→/).map((t) => t.trim())
    return { inside, outside }
  })
  return judged(mappings, mappings.flatMap(mappingProblems))
}
function mappingProblems({ inside, outside }: Mapping): readonly Problem[] {
  const [first, second] = [parsePrefix4(inside), parsePrefix4(outside)]
  if (!first.ok || !second.ok) return [...reasons(first), ...reasons(second)]
  if (first.value.length === second.value.length) return []
  return [problem('lengths-differ', '', { text: `${inside} as ${outside}` })]
}
/** Mappings with the ids of those that stay. */
const withIds = (mappings: readonly Mapping[], before: readonly Tunnel['mapped'][number][]) =>
  mappings.map((mapping, i) => {
    const known = before.find((m) => m.inside === mapping.inside)?.id
    return { id: known ?? `map-${i + 1}-${mapping.inside.replaceAll(/[./]/g, '-')}`, ...mapping }
  })
function mappedText({ mapped: [first, ...more] }: Tunnel): string {
  if (!first) return '—'
  return `${first.outside}${more.length > 0 ? ` +${more.length}` : ''}`
}

type TunnelDraft = PlanDraft['tunnels'][number]
const ofTunnel = columnsOver<Tunnel, TunnelDraft>()
/** Seconds of the name that follows an address. */
const ofName = (key: 'nameEveryS' | 'nameTtlS', head: string, words: (text: string) => string) =>
  ofTunnel({
    key,
    head,
    num: true,
    mono: true,
    read: (t) => (t.publicName === null ? '—' : String(t[key])),
    edit: (t) => String(t[key]),
    parse: whole(0, 604_800),
    write: (t, value) => void (t[key] = value),
    words,
  })

const TUNNEL_COLUMNS = [
  ofTunnel({
    key: 'name',
    head: 'Tunnel',
    strong: true,
    read: (t) => t.name,
    parse: name,
    write: (t, text) => void (t.name = text),
    words: (text) => `named ${text}`,
  }),
  ofTunnel({
    key: 'address',
    head: 'Inside',
    mono: true,
    read: (t) => t.address,
    parse: asTyped(parseInterface4),
    write: (t, text) => void (t.address = text),
    words: (text) => `inside ${text}`,
  }),
  ofTunnel<string | null>({
    key: 'address6',
    head: 'Inside, IPv6',
    mono: true,
    read: (t) => t.address6 ?? '—',
    edit: (t) => t.address6 ?? '',
    parse: orNothing(NOTHING, (text) => judged(text, checkFace6(text))),
    write: (t, text) => void (t.address6 = text),
    words: (text) => `inside ${text}`,
  }),
  ofTunnel({
    key: 'publicName',
    head: 'Public name',
    mono: true,
    read: (t) => t.publicName ?? '—',
    edit: (t) => t.publicName ?? '',
    parse: (text) =>
      /^[A-Za-z0-9.-]{0,253}$/.test(text) ? ok(text === '' ? null : text) : refuse(problem('no-name', '')),
    write: (t, text) => void (t.publicName = text),
    words: (text) => `found as ${text}`,
  }),
  ofName('nameEveryS', 'Name updated every s', (text) => `name looked after every ${text} s`),
  ofName('nameTtlS', 'TTL, s', (text) => `name remembered for ${text} s`),
  ofTunnel({
    key: 'mapped',
    head: 'Known to peers as',
    mono: true,
    read: mappedText,
    edit: (t) => t.mapped.map((m) => `${m.inside} as ${m.outside}`).join(', '),
    parse: mappingsOf,
    write: (t, mappings) => void (t.mapped = withIds(mappings, t.mapped)),
    words: () => 'translated one to one',
  }),
  ofTunnel({
    key: 'listenPort',
    head: 'UDP port',
    num: true,
    mono: true,
    read: (t) => String(t.listenPort),
    parse: whole(1, 65_535),
    write: (t, value) => void (t.listenPort = value),
    words: (text) => `port ${text}`,
  }),
  ofTunnel({
    key: 'mtu',
    head: 'MTU',
    num: true,
    mono: true,
    read: (t) => String(t.mtu),
    parse: whole(576, 9000),
    write: (t, value) => void (t.mtu = value),
  }),
  ofTunnel({
    key: 'publicKey',
    head: 'Public key',
    mono: true,
    read: (t) => keyWords(t.publicKey),
    edit: (t) => t.publicKey ?? '',
    parse: keyOf,
    write: (t, key) => void (t.publicKey = key),
    words: () => 'public key',
  }),
]

export function useTunnelColumns(): readonly Column<Tunnel>[] {
  const plan = usePlan()
  const put: Put<Tunnel, TunnelDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const tunnel = draft.tunnels.find((t) => t.id === row.id)
      if (tunnel) recipe(tunnel, draft)
    })
  return useColumns(TUNNEL_COLUMNS, put)
}

type PeerDraft = TunnelDraft['peers'][number]
const ofPeer = columnsOver<Peer, PeerDraft>()
const KINDS: readonly Peer['kind'][] = ['site', 'person', 'provider']
const DIALS_US = 'it dials us'

/** Of several prefixes the first is shown, and how many more there are; all of them where they are typed. */
const prefixes = (key: 'allowed' | 'theirAllowed', head: string) =>
  ofPeer({
    key,
    head,
    mono: true,
    read: ({ [key]: [first, ...more] }) =>
      more.length > 0 ? `${first} +${more.length}` : (first ?? 'nothing'),
    edit: (p) => p[key].join(' '),
    parse: prefixesOf,
    write: (p, list) => void (p[key] = list),
    words: () => head,
  })

const PEER_COLUMNS = [
  ofPeer({
    key: 'name',
    head: 'Peer',
    strong: true,
    read: (p) => p.name,
    parse: name,
    write: (p, text) => void (p.name = text),
    words: (text) => `named ${text}`,
  }),
  ofPeer<Peer['kind']>({
    key: 'kind',
    head: 'Type',
    width: '76px',
    read: (p) => p.kind,
    ...among(KINDS),
    write: (p, kind) => void (p.kind = kind),
    words: (text) => text,
  }),
  prefixes('allowed', 'Allowed IPs'),
  prefixes('theirAllowed', 'Far end allows'),
  ofPeer<string | null>({
    key: 'endpoint',
    head: 'Endpoint',
    mono: true,
    read: (p) => p.endpoint ?? DIALS_US,
    edit: (p) => p.endpoint ?? '',
    parse: orNothing(['', DIALS_US], (text) =>
      isEndpoint(text) ? ok(text) : refuse(problem('not-an-endpoint', '', { text })),
    ),
    write: (p, text) => void (p.endpoint = text),
    words: () => 'endpoint',
  }),
  ofPeer({
    key: 'downMbps',
    head: 'Its line',
    num: true,
    mono: true,
    read: (p) => speedsText(p, '?'),
    edit: (p) => speedsText(p, ''),
    parse: speedsOf,
    write: (p, speeds) => void Object.assign(p, speeds),
    words: (text) => `line ${text} Mb/s`,
  }),
  ofPeer<number | null>({
    key: 'keepaliveS',
    head: 'Alive s',
    num: true,
    mono: true,
    read: (p) => String(p.keepaliveS ?? '—'),
    edit: (p) => String(p.keepaliveS ?? ''),
    parse: orNothing([''], whole(0, 65_535)),
    write: (p, value) => void (p.keepaliveS = value),
    words: (text) => `keepalive ${text}`,
  }),
  ofPeer({
    key: 'publicKey',
    head: 'Public key',
    mono: true,
    read: (p) => keyWords(p.publicKey),
    edit: (p) => p.publicKey ?? '',
    parse: keyOf,
    write: (p, key) => void (p.publicKey = key),
    words: () => 'public key',
  }),
]

export function usePeerColumns(tunnelId: () => string): readonly Column<Peer>[] {
  const plan = usePlan()
  const put: Put<Peer, PeerDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const peer = draft.tunnels.find((t) => t.id === tunnelId())?.peers.find((p) => p.id === row.id)
      if (peer) recipe(peer, draft)
    })
  return useColumns(PEER_COLUMNS, put)
}
