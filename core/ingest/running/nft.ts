// The filter chains that nftables runs, compared with the ruleset written for the gateway.
// Source: libnftables-json(5); nft(8) for the meaning of each match.
import { nftRuleset } from '#core/export'
import type { Plan, DeviceId } from '#core/schema'
import { drift, flat, isFields, type Drift, type Fields, type Running } from './drift'

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

const VERDICTS: readonly string[] = ['accept', 'drop', 'reject']

/** A match or a log as it is written; what is not known here stands as it was printed. */
function statementText(kind: string, inner: unknown, statement: Fields): string {
  if (kind === 'log') return `log prefix=${isFields(inner) ? String(inner['prefix'] ?? '').trim() : ''}`
  if (kind !== 'match' || !isFields(inner) || !isFields(inner['left'])) return JSON.stringify(statement)
  const name = expressionName(inner['left'])
  return `${inner['op'] === '!=' ? 'not ' : ''}${name}=${flat(valueText(inner['right']))}`
}

/**
 * A rule as `nft -j` prints it; a match that is not known here stands as it was printed, so that it shows as
 * a difference.
 */
function readPrinted(rule: Fields): Met {
  const statements = (Array.isArray(rule['expr']) ? rule['expr'] : []).filter(isFields)
  const parts: string[] = []
  let verdict = ''
  for (const statement of statements) {
    const [kind = ''] = Object.keys(statement)
    if (VERDICTS.includes(kind)) verdict = kind
    else if (kind !== 'counter') parts.push(statementText(kind, statement[kind], statement))
  }
  const id = typeof rule['comment'] === 'string' ? (rule['comment'].split(':')[0] ?? '') : ''
  return { says: [...parts.sort(), verdict].join(' '), id }
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

export function compareNft(plan: Plan, deviceId: DeviceId, items: readonly unknown[]): Running {
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
