// Question: does what a gateway runs say the same as the plan?
// Method: what its own programs print is read into the terms of the files that were written for it, and both
// are compared, entry by entry.
// Secrets in it are passed over unread.
// Source: libnftables-json(5), ip(8) with -j, wg(8) `show … dump`, dnsmasq(8) (leases file); nft(8) for the
// meaning of each match.
import { contains, parseIpv4, parsePrefix4, parseRange4 } from '#core/address'
import { ok, orNull, problem, refuse, type Result } from '#core/util'
import { dnsmasqConf, ipBatch, nftRuleset, wgName } from '#core/export'
import type { Plan, Tunnel } from '#core/model'

export type RunningKind = 'nft' | 'address' | 'route' | 'rule' | 'wireguard' | 'leases'
export type DriftCode =
  | 'rule-missing'
  | 'rule-extra'
  | 'rule-moved'
  | 'default-differs'
  | 'chain-missing'
  | 'address-missing'
  | 'address-extra'
  | 'route-missing'
  | 'route-extra'
  | 'choice-missing'
  | 'choice-extra'
  | 'lease-outside'
  | 'lease-taken'
  | 'lease-elsewhere'
  | 'peer-missing'
  | 'peer-unknown'
  | 'allowed-differs'
  | 'port-differs'
  | 'key-differs'
  | 'never-heard'
  | 'not-there'

/** One difference: where, what the plan says, and what runs. */
export interface Drift {
  readonly code: DriftCode
  readonly where: string
  readonly planned: string
  readonly running: string
}
export interface Running {
  readonly kind: RunningKind
  /** Entries read. */
  readonly entries: number
  readonly drifts: readonly Drift[]
}

type Fields = Readonly<Record<string, unknown>>
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const drift = (code: DriftCode, where: string, planned = '', running = ''): Drift => ({
  code,
  where,
  planned,
  running,
})

/** A list written one way: sorted, a single address without its full length. */
const flat = (items: readonly string[]): string =>
  [...items]
    .map((i) => i.replace(/\/(32|128)$/, ''))
    .sort()
    .join(',')

interface Met {
  /** What it matches and does, in one order; the same for rules that mean the same. */
  readonly says: string
  readonly id: string
}

const KEYS =
  'iifname|oifname|ip6? [sd]addr|tcp dport|udp dport|icmpv6 type|icmp type|ct state|' +
  'ip6 hoplimit|log prefix|meta day|meta hour'
const TOKEN = new RegExp(`(${KEYS}) (\\{[^}]*\\}|"[^"]*"(?:-"[^"]*")?|\\S+)`, 'g')
/** A rule as Able Mast writes it. */
function readWritten(line: string): Met {
  const [body = '', comment = ''] = line.split(' comment "')
  const parts = [...body.matchAll(TOKEN)].map(([, key = '', value = '']) => {
    const bare = value.replaceAll(/[{}"\s]/g, '').split(',')
    return `${key.replace('meta ', '')}=${key === 'log prefix' ? value.replaceAll('"', '') : flat(bare)}`
  })
  const verdict = /\b(accept|drop|reject)\s*$/.exec(body)?.[1] ?? ''
  return { says: [...parts.sort(), verdict].join(' '), id: comment.replace(/"$/, '').split(':')[0] ?? '' }
}

function valueText(value: unknown): string[] {
  if (Array.isArray(value)) return value.flatMap(valueText)
  if (!isFields(value)) return [String(value)]
  if (value['set'] !== undefined) return valueText(value['set'])
  if (isFields(value['prefix']))
    return [`${String(value['prefix']['addr'])}/${String(value['prefix']['len'])}`]
  if (Array.isArray(value['range'])) return [value['range'].map(String).join('-')]
  if (value['elem'] !== undefined)
    return valueText(isFields(value['elem']) ? value['elem']['val'] : value['elem'])
  return [JSON.stringify(value)]
}

/** What a match compares: a part of the packet, or what is known of it. */
function expressionName({ meta, payload, ct, ...other }: Fields): string {
  if (isFields(meta)) return String(meta['key'])
  if (isFields(ct)) return `ct ${String(ct['key'])}`
  if (isFields(payload)) return `${String(payload['protocol'])} ${String(payload['field'])}`
  return JSON.stringify(other)
}

/**
 * A rule as `nft -j` prints it; a match that is not known here stands as it was printed, so that it shows as
 * a difference.
 */
function readPrinted(rule: Fields): Met {
  const parts: string[] = []
  let verdict = ''
  for (const statement of Array.isArray(rule['expr']) ? rule['expr'] : []) {
    if (!isFields(statement)) continue
    const [kind = ''] = Object.keys(statement)
    const inner = statement[kind]
    if (kind === 'accept' || kind === 'drop' || kind === 'reject') verdict = kind
    else if (kind === 'counter') continue
    else if (kind === 'log')
      parts.push(`log prefix=${isFields(inner) ? String(inner['prefix'] ?? '').trim() : ''}`)
    else if (kind === 'match' && isFields(inner) && isFields(inner['left'])) {
      const { left } = inner as { left: Fields }
      const name = expressionName(left)
      parts.push(`${inner['op'] === '!=' ? 'not ' : ''}${name}=${flat(valueText(inner['right']))}`)
    } else parts.push(JSON.stringify(statement))
  }
  return {
    says: [...parts.sort(), verdict].join(' '),
    id: typeof rule['comment'] === 'string' ? (rule['comment'].split(':')[0] ?? '') : '',
  }
}

interface Chain {
  readonly policy: string
  readonly rules: readonly Met[]
}

function writtenChains(text: string): Map<string, Chain> {
  const chains = new Map<string, { policy: string; rules: Met[] }>()
  let chain: { policy: string; rules: Met[] } | null = null
  let table = ''
  for (const line of text.split('\n')) {
    const opened = /^\s*chain (\S+) \{/.exec(line)?.[1]
    table = /^table (\S+ \S+) \{/.exec(line)?.[1] ?? table
    if (opened !== undefined && table === 'inet site') chains.set(opened, (chain = { policy: '', rules: [] }))
    else if (/^\s*\}/.test(line)) chain = null
    else if (chain && line.includes('policy ')) chain.policy = /policy (\w+)/.exec(line)?.[1] ?? ''
    else if (chain && line.trim() !== '' && !line.trim().startsWith('#'))
      chain.rules.push(readWritten(line.trim()))
  }
  return chains
}

function printedChains(items: readonly unknown[]): Map<string, Chain> {
  const chains = new Map<string, { policy: string; rules: Met[] }>()
  for (const item of items) {
    if (!isFields(item)) continue
    const [chain, rule] = [item['chain'], item['rule']]
    if (isFields(chain) && chain['family'] === 'inet' && chain['table'] === 'site')
      chains.set(String(chain['name']), { policy: String(chain['policy'] ?? ''), rules: [] })
    if (isFields(rule) && rule['family'] === 'inet' && rule['table'] === 'site')
      chains.get(String(rule['chain']))?.rules.push(readPrinted(rule))
  }
  return chains
}

/** What two ordered lists of rules do not share, and which of the shared ones stand elsewhere. */
function compareRules(where: string, planned: readonly Met[], running: readonly Met[]): Drift[] {
  const left = [...running]
  const shared: number[] = []
  const out: Drift[] = []
  for (const rule of planned) {
    const at = left.findIndex((r) => r.says === rule.says)
    if (at >= 0) {
      const found = left.splice(at, 1)[0] as Met
      shared.push(running.indexOf(found))
      continue
    }
    const changed =
      rule.id === '' ? -1 : left.findIndex((r) => r.id === rule.id && !planned.some((p) => p.says === r.says))
    const was = changed >= 0 ? (left.splice(changed, 1)[0]?.says ?? '') : ''
    out.push(drift('rule-missing', `${where}, ${rule.id || 'rule'}`, rule.says, was))
  }
  out.push(...left.map((r) => drift('rule-extra', `${where}, ${r.id || 'rule'}`, '', r.says)))
  const moved = shared.findIndex((at, i) => i > 0 && at < (shared[i - 1] as number))
  if (moved >= 0) out.push(drift('rule-moved', where, '', running[shared[moved] as number]?.says ?? ''))
  return out
}

function compareNft(plan: Plan, deviceId: string, items: readonly unknown[]): Running {
  const [planned, running] = [writtenChains(nftRuleset(plan, deviceId) ?? ''), printedChains(items)]
  const drifts = [...planned].flatMap(([name, chain]) => {
    const other = running.get(name)
    if (!other) return [drift('chain-missing', name)]
    return [
      ...(other.policy === chain.policy ? [] : [drift('default-differs', name, chain.policy, other.policy)]),
      ...compareRules(name, chain.rules, other.rules),
    ]
  })
  return { kind: 'nft', entries: [...running.values()].reduce((n, c) => n + c.rules.length, 0), drifts }
}

const commands = (plan: Plan, deviceId: string, object: string): string[] =>
  ipBatch(plan, deviceId)
    .split('\n')
    .filter((l) => l.startsWith(`${object} `))

function compareAddresses(plan: Plan, deviceId: string, faces: readonly Fields[]): Running {
  const planned = commands(plan, deviceId, 'addr').flatMap((command) => {
    const [, at = '', dev = ''] = /^addr add (\S+) dev (\S+)/.exec(command) ?? []
    return at === '' ? [] : [{ at, dev }]
  })
  const running = faces.flatMap((face) =>
    (Array.isArray(face['addr_info']) ? (face['addr_info'] as unknown[]) : [])
      .filter(isFields)
      .filter((a) => a['scope'] !== 'link')
      .map((a) => ({ at: `${String(a['local'])}/${String(a['prefixlen'])}`, dev: String(face['ifname']) })),
  )
  const devices = new Set(planned.map((p) => p.dev))
  const names = new Set(faces.map((f) => String(f['ifname'])))
  const has = (list: typeof planned, one: (typeof planned)[number]) =>
    list.some((x) => x.at === one.at && x.dev === one.dev)
  return {
    kind: 'address',
    entries: running.length,
    drifts: [
      ...[...devices].filter((d) => !names.has(d)).map((d) => drift('not-there', d)),
      ...planned
        .filter((p) => names.has(p.dev) && !has(running, p))
        .map((p) => drift('address-missing', p.dev, p.at)),
      ...running
        .filter((r) => devices.has(r.dev) && !has(planned, r))
        .map((r) => drift('address-extra', r.dev, '', r.at)),
    ],
  }
}

function compareRoutes(plan: Plan, deviceId: string, printed: readonly Fields[]): Running {
  const planned = commands(plan, deviceId, 'route')
    .filter((l) => !l.includes(' table ') && !l.includes('unreachable'))
    .map((command) => {
      const [, , dst = ''] = command.split(' ')
      return { dst, by: / via (\S+)/.exec(command)?.[1] ?? / dev (\S+)/.exec(command)?.[1] ?? '' }
    })
  const running = printed
    .filter((r) => r['protocol'] !== 'kernel' && r['protocol'] !== 'ra')
    .map((r) => ({ dst: String(r['dst']), via: String(r['gateway'] ?? ''), dev: String(r['dev'] ?? '') }))
  const meets = (plannedPeer: (typeof planned)[number], runningPeer: (typeof running)[number]) =>
    flat([plannedPeer.dst]) === flat([runningPeer.dst]) &&
    (plannedPeer.by === runningPeer.via || plannedPeer.by === runningPeer.dev)
  return {
    kind: 'route',
    entries: printed.length,
    drifts: [
      ...planned
        .filter((p) => !running.some((r) => meets(p, r)))
        .map((p) => drift('route-missing', p.dst, p.by)),
      // Default routes come from the lines.
      ...running
        .filter((r) => r.dst !== 'default' && !planned.some((p) => meets(p, r)))
        .map((r) => drift('route-extra', r.dst, '', r.via || r.dev)),
    ],
  }
}

/** `ip rule` numbers that every system has. */
const ALWAYS: ReadonlySet<number> = new Set([0, 32_766, 32_767])

function compareChoices(plan: Plan, deviceId: string, printed: readonly Fields[]): Running {
  const planned = commands(plan, deviceId, 'rule')
    .filter((l) => !/ (from|to) [0-9a-f]*:/.test(l))
    .map((l) => ({ pref: Number(/pref (\d+)/.exec(l)?.[1]), text: l.replace(/^rule add /, '') }))
  const running = printed.map((r) => Number(r['priority'])).filter((n) => !ALWAYS.has(n))
  return {
    kind: 'rule',
    entries: printed.length,
    drifts: [
      ...planned
        .filter((p) => !running.includes(p.pref))
        .map((p) => drift('choice-missing', String(p.pref), p.text)),
      ...running
        .filter((n) => !planned.some((p) => p.pref === n))
        .map((n) => drift('choice-extra', String(n))),
    ],
  }
}

/**
 * Columns of `wg show NAME dump`; with `all`, each line begins with the interface.
 * The private key, the first of an interface's line, is not read.
 */
function compareWireguard(plan: Plan, deviceId: string, lines: readonly (readonly string[])[]): Running {
  const tunnels = plan.tunnels.filter((t) => t.deviceId === deviceId)
  const named = lines.some((l) => l.length === 5 || l.length === 9)
  const drifts: Drift[] = []
  // Of a peer that changes its key, what both of its entries have together.
  const seen = new Map<Tunnel, Map<string, { allowed: string[]; heard: boolean }>>()
  let now: Tunnel | undefined
  for (const all of lines) {
    const line = named ? all.slice(1) : all
    if (line.length === 4) {
      const [, publicKey = '', port = ''] = line
      now = named
        ? tunnels[tunnels.findIndex((_, i) => wgName(i + 1) === all[0])]
        : (tunnels.find((t) => t.publicKey === publicKey) ?? tunnels[0])
      if (!now) continue
      seen.set(now, new Map())
      if (now.publicKey !== null && now.publicKey !== publicKey)
        drifts.push(drift('key-differs', now.name, now.publicKey, publicKey))
      if (String(now.listenPort) !== port)
        drifts.push(drift('port-differs', now.name, String(now.listenPort), port))
      continue
    }
    const [key = '', , , allowed = '', handshake = ''] = line
    const peer = now?.peers.find((p) => p.publicKey === key || p.next?.publicKey === key)
    if (!now || !peer) {
      drifts.push(drift('peer-unknown', now?.name ?? '', '', key))
      continue
    }
    const before = seen.get(now)?.get(peer.id)
    seen.get(now)?.set(peer.id, {
      allowed: [...(before?.allowed ?? []), ...(allowed === '(none)' ? [] : allowed.split(','))],
      heard: (before?.heard ?? false) || handshake !== '0',
    })
  }
  for (const tunnel of tunnels) {
    const met = seen.get(tunnel)
    for (const peer of tunnel.peers) {
      const is = met?.get(peer.id)
      if (is && flat(is.allowed) !== flat(peer.allowed))
        drifts.push(drift('allowed-differs', peer.name, flat(peer.allowed), flat(is.allowed)))
      if (is && !is.heard) drifts.push(drift('never-heard', peer.name))
    }
    if (!met) drifts.push(drift('not-there', tunnel.name))
    else
      drifts.push(
        ...tunnel.peers
          .filter((p) => !met.has(p.id))
          .map((p) => drift('peer-missing', p.name, p.publicKey ?? '')),
      )
  }
  return { kind: 'wireguard', entries: lines.length, drifts }
}

const LEASE = /^\d+ ([0-9a-f]{2}(?::[0-9a-f]{2}){5}) (\d+\.\d+\.\d+\.\d+) (\S+)/i

function compareLeases(plan: Plan, deviceId: string, lines: readonly string[]): Running {
  const holds = new Map(
    [...dnsmasqConf(plan, deviceId).matchAll(/^dhcp-host=([0-9a-f:]+),(\S+)$/gm)].map(
      ([, mac = '', ip = '']) => [mac, ip],
    ),
  )
  const held = new Map([...holds].map(([mac, ip]) => [ip, mac]))
  const networks = plan.networks.filter((n) => n.routerId === deviceId)
  const drifts = lines.flatMap((line): Drift[] => {
    const [, mac = '', ip = '', name = ''] = LEASE.exec(line) ?? []
    const address = orNull(parseIpv4(ip))
    if (address === null) return []
    const [own, owner] = [holds.get(mac.toLowerCase()), held.get(ip)]
    const who = name === '*' ? mac : `${name} (${mac})`
    if (own !== undefined && own !== ip) return [drift('lease-elsewhere', who, own, ip)]
    if (owner !== undefined && owner !== mac.toLowerCase()) return [drift('lease-taken', ip, owner, who)]
    const inPool = networks.some((network) => {
      const pool = network.pool && orNull(parseRange4(`${network.pool.from}-${network.pool.to}`))
      return (
        pool &&
        pool.from <= address &&
        address <= pool.to &&
        [parsePrefix4(network.subnet)].some((s) => s.ok && contains(s.value, address))
      )
    })
    return inPool || own === ip ? [] : [drift('lease-outside', ip, '', who)]
  })
  return { kind: 'leases', entries: lines.length, drifts }
}

const MOST_CHARACTERS = 5_000_000

/**
 * What a gateway's program printed, compared with the plan:
 * `nft -j list ruleset`, `ip -j address`, `ip -j route`, `ip -j rule`,
 * `wg show … dump`, or dnsmasq's leases file; which of them it is, it says itself.
 * Of nftables the filter chains are compared.
 * Errors: not-evidence, too-large.
 */
export function readRunning(plan: Plan, deviceId: string, text: string): Result<Running> {
  if (text.length > MOST_CHARACTERS)
    return refuse(problem('too-large', '', { bytes: text.length, most: MOST_CHARACTERS }))
  const wrong = refuse(problem('not-evidence', '', { text: text.trim().slice(0, 40) }))
  const plain = text.trim()
  if (plain.startsWith('{') || plain.startsWith('[')) {
    let read: unknown
    try {
      read = JSON.parse(plain)
    } catch {
      return wrong
    }
    if (isFields(read) && Array.isArray(read['nftables']))
      return ok(compareNft(plan, deviceId, read['nftables']))
    if (!Array.isArray(read) || read.length === 0 || !read.every(isFields)) return wrong
    const list = read as readonly Fields[]
    if (list.every((f) => 'addr_info' in f)) return ok(compareAddresses(plan, deviceId, list))
    if (list.every((f) => 'dst' in f && !('priority' in f))) return ok(compareRoutes(plan, deviceId, list))
    return list.every((f) => 'priority' in f) ? ok(compareChoices(plan, deviceId, list)) : wrong
  }
  const lines = plain
    .split('\n')
    .map((l) => l.trimEnd())
    .filter((l) => l !== '')
  const columns = lines.map((l) => l.split('\t'))
  if (lines.length > 0 && columns.every((c) => [4, 5, 8, 9].includes(c.length)))
    return ok(compareWireguard(plan, deviceId, columns))
  return lines.length > 0 && lines.every((l) => LEASE.test(l) || /^(duid |\d+ \d+ [0-9a-f:]+ )/.test(l))
    ? ok(compareLeases(plan, deviceId, lines))
    : wrong
}
