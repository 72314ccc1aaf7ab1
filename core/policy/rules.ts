// Question: what does an ordered rule list let through from one place to another?
// Method: first match, exactly: each rule takes its services out of what no rule has decided yet.
// Source: first-match semantics as of any packet filter with terminal verdicts (nftables' accept and drop).
import { contains, parseIpv4, parsePrefix4, type Ipv4, type Prefix4 } from '#core/address'
import type { PlanIndex, Policy, Rule, Selector } from '#core/model'
import { EVERYTHING, intersect, isNothing, minus, NOTHING, servicesOf, union, type ServiceSet } from './services'

/** One side of a packet at a gateway: the interface it uses and its address. */
export interface Side {
  /** Network id, `uplink`, or `self` for the gateway's own sockets. */
  readonly via: string
  readonly address: Ipv4
}

/** What one rule, or the default (rule null), decided. */
export interface Decision {
  readonly rule: Rule | null
  readonly action: Rule['action']
  readonly services: ServiceSet
}

type Matcher = (side: Side) => boolean

/** Addresses that belong to a device for good. */
export function fixedAddresses(index: PlanIndex, deviceId: string): Ipv4[] {
  return index.plan.networks.flatMap((network) =>
    network.fixed.flatMap((fixed) => {
      const parsed = fixed.deviceId === deviceId ? parseIpv4(fixed.ip) : null
      return parsed?.ok ? [parsed.value] : []
    }),
  )
}

function matcherOf(index: PlanIndex, selector: Selector): Matcher {
  switch (selector.kind) {
    case 'any':
      return () => true
    case 'inside':
      return (side) => side.via !== 'uplink' && side.via !== 'self'
    case 'network':
      return (side) => side.via === selector.id
    case 'internet':
      return (side) => side.via === 'uplink'
    case 'gateway':
      return (side) => side.via === 'self'
    case 'device': {
      const own = new Set(fixedAddresses(index, selector.id))
      return (side) => own.has(side.address)
    }
    case 'prefix': {
      const prefix = parsePrefix4(selector.prefix)
      return prefix.ok ? (side) => contains(prefix.value, side.address) : () => false
    }
  }
}

/** Rules made ready to be asked many times. */
export interface CompiledPolicy {
  readonly policy: Policy
  readonly rules: readonly { readonly rule: Rule; readonly from: Matcher; readonly to: Matcher; readonly services: ServiceSet }[]
  /** Answers already given; many pairs of hosts ask the same question. */
  readonly decided: Map<string, readonly Decision[]>
}

export function compilePolicy(index: PlanIndex, policy: Policy): CompiledPolicy {
  const rules = policy.rules.map((rule) => ({
    rule,
    from: matcherOf(index, rule.from),
    to: rule.chain === 'input' ? () => true : matcherOf(index, rule.to),
    services: servicesOf(rule.services, index.services),
  }))
  return { policy, rules, decided: new Map() }
}

/** Who decides what, in order, for new connections from one side to the other. The sets are disjoint and cover all. */
export function decide(compiled: CompiledPolicy, chain: Rule['chain'], from: Side, to: Side): readonly Decision[] {
  const key = `${chain} ${from.via} ${from.address} ${to.via} ${to.address}`
  const known = compiled.decided.get(key)
  if (known) return known
  const decisions = decideFresh(compiled, chain, from, to)
  compiled.decided.set(key, decisions)
  return decisions
}

function decideFresh(compiled: CompiledPolicy, chain: Rule['chain'], from: Side, to: Side): Decision[] {
  const decisions: Decision[] = []
  let open: ServiceSet = EVERYTHING
  for (const entry of compiled.rules) {
    if (entry.rule.chain !== chain || !entry.from(from) || !entry.to(to)) continue
    const taken = intersect(open, entry.services)
    if (isNothing(taken)) continue
    decisions.push({ rule: entry.rule, action: entry.rule.action, services: taken })
    open = minus(open, taken)
    if (isNothing(open)) return decisions
  }
  decisions.push({ rule: null, action: compiled.policy[chain], services: open })
  return decisions
}

export function accepted(decisions: readonly Decision[]): ServiceSet {
  return decisions.filter((d) => d.action === 'accept').reduce((set, d) => union(set, d.services), NOTHING)
}

/** Addresses at which some rule or route starts to treat its neighbours differently. */
export function cutPoints(index: PlanIndex): number[] {
  const cuts = new Set<number>()
  const addPrefix = (prefix: Prefix4) => {
    cuts.add(prefix.base)
    cuts.add(prefix.base + 2 ** (32 - prefix.length))
  }
  const addSelector = (selector: Selector) => {
    if (selector.kind === 'prefix') {
      const prefix = parsePrefix4(selector.prefix)
      if (prefix.ok) addPrefix(prefix.value)
    } else if (selector.kind === 'device') {
      for (const address of fixedAddresses(index, selector.id)) addPrefix({ base: address, length: 32 })
    }
  }
  for (const rule of index.plan.policies.flatMap((p) => p.rules)) {
    addSelector(rule.from)
    addSelector(rule.to)
  }
  for (const text of [...index.plan.routes.map((r) => r.prefix), ...index.plan.networks.map((n) => n.subnet)]) {
    const prefix = parsePrefix4(text)
    if (prefix.ok) addPrefix(prefix.value)
  }
  return [...cuts].sort((a, b) => a - b)
}

