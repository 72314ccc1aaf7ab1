import { parseInterface4, parsePrefix4, parsePrefix6 } from '#core/address'
import { isSameName, ok, problem, refuse, type Problem, type Result } from '#core/util'
import { isEndpoint, isPublicKey } from '#core/format'
import { keyHolder } from '#core/queries'
import type { Peer, Plan, Tunnel } from '#core/schema'
import { checkFace6 } from '~/features/uplinks/uplink-columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import {
  among,
  asTyped,
  columnsOver,
  judged,
  name,
  orNothing,
  partsIn,
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

/** The prefixes of a network of that name, of the families that a tunnel speaks; none where there is none. */
function namedPrefixes(plan: Plan, tunnel: Tunnel | undefined, text: string): string[] {
  const network = plan.networks.find(({ name }) => isSameName(name, text))
  if (!network) return []
  return [network.subnet, ...(tunnel?.address6 && network.prefix6 !== null ? [network.prefix6] : [])]
}

function prefixesIn(list: readonly string[], text: string): Result<string[]> {
  if (list.length > MOST_PREFIXES)
    return refuse(problem('not-a-number', '', { text, least: 0, most: MOST_PREFIXES }))
  const wrong = list.flatMap((t) => (t.includes(':') ? reasons(parsePrefix6(t)) : reasons(parsePrefix4(t))))
  return judged([...new Set(list)], wrong)
}

/** Prefixes and names of networks: those between commas, or prefixes between blanks. */
function ownPrefixesOf(text: string, peer: Peer, plan: Plan): Result<string[]> {
  const tunnel = plan.tunnels.find(({ peers }) => peers.some(({ id }) => id === peer.id))
  const list = (text === 'nothing' ? [] : partsIn(text)).flatMap((part) => {
    const named = namedPrefixes(plan, tunnel, part)
    return named.length > 0 ? named : wordsIn(part)
  })
  return prefixesIn(list, text)
}

/** A prefix as it is read: by the name of the network that it is, where it is one. */
const prefixWords = (plan: Plan, prefix: string): string =>
  plan.networks.find(({ subnet, prefix6 }) => prefix === subnet || prefix === prefix6)?.name ?? prefix

/** Prefixes as they are read; a network of two families is named once. */
const namesOf = (plan: Plan, prefixes: readonly string[]): string[] => [
  ...new Set(prefixes.map((prefix) => prefixWords(plan, prefix))),
]

/** The first two of several words, and how many more there are. */
function firstOf(words: readonly string[]): string {
  if (words.length === 0) return 'nothing'
  return `${words.slice(0, 2).join(', ')}${words.length > 2 ? ` +${words.length - 2}` : ''}`
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
/** Networks, by name or prefix, and the prefixes they are known by: `Staff as 10.99.10.0/24, …`. */
function mappingsOf(text: string, _: Tunnel, plan: Plan): Result<Mapping[]> {
  if (NOTHING.includes(text.trim())) return ok([])
  const mappings = text.split(',').map((part) => {
    const [inside = '', outside = ''] = part.split(/\bas\b|=|→/).map((t) => t.trim())
    return { inside: namedPrefixes(plan, undefined, inside)[0] ?? inside, outside }
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
    words: (text) => `public name ${text}`,
  }),
  ofName('nameEveryS', 'Name updated every s', (text) => `name updated every ${text} s`),
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

const ALLOWED = ofPeer({
  key: 'allowed',
  head: 'Allowed IPs',
  mono: true,
  read: ({ allowed }) => firstOf(allowed),
  edit: ({ allowed }) => allowed.join(', '),
  parse: (text) => prefixesIn(text === 'nothing' ? [] : wordsIn(text), text),
  write: (p, list) => void (p.allowed = list),
  words: () => 'allowed IPs',
})
/** What the far end sends here: the site's own networks, by their names. */
const THEIR_ALLOWED = ofPeer({
  key: 'theirAllowed',
  head: 'Far end allows',
  mono: true,
  read: ({ theirAllowed }, plan) => firstOf(namesOf(plan, theirAllowed)),
  edit: ({ theirAllowed }, plan) => namesOf(plan, theirAllowed).join(', '),
  offers: (_, { networks }) => networks.map(({ name }) => name),
  parse: ownPrefixesOf,
  write: (p, list) => void (p.theirAllowed = list),
  words: () => 'far end allows',
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
  ALLOWED,
  THEIR_ALLOWED,
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
    head: 'Its uplink',
    num: true,
    mono: true,
    read: (p) => speedsText(p, '?'),
    edit: (p) => speedsText(p, ''),
    parse: speedsOf,
    write: (p, speeds) => void Object.assign(p, speeds),
    words: (text) => `uplink ${text} Mb/s`,
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
