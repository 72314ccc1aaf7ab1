// Question: what do all the rules on a path let through, for any two addresses that share the path?
// Method: the path is found once; what its rules ask of addresses is kept as a small tree of intersections
// and unions, which is evaluated for each pair of addresses.
// A reference names the gateway whose rules are asked, so that it outlives an edit of them.
// Source: sets of packets along a path, as in header space analysis (Kazemian, Varghese and McKeown, 2012,
// from memory).
import type { Rule, DeviceId } from '#core/schema'
import type { Ipv4 } from '#core/address'
import { accepted, decide, type Policies } from './rules'
import { EVERYTHING, intersect, isNothing, minus, NOTHING, union, type ServiceSet } from './services'

/** The rules of one gateway, as a packet meets them. */
export interface FilterRef {
  readonly kind: 'rules'
  readonly deviceId: DeviceId
  readonly chain: Rule['chain']
  /** Interfaces by which a packet comes in and goes out. */
  readonly from: string
  readonly to: string
  /** True where the packet is an answer: it comes from whom the flow goes to. */
  readonly isReply?: boolean
}
export type PathFilter =
  | { readonly kind: 'services'; readonly services: ServiceSet }
  | FilterRef
  | { readonly kind: 'all' | 'any'; readonly of: readonly PathFilter[] }
  /** Answers at gateways that did not see the question, and judge them by their rules. */
  | { readonly kind: 'answers'; readonly of: PathFilter }

export const ALLOW_ALL: PathFilter = { kind: 'services', services: EVERYTHING }
export const DENY_ALL: PathFilter = { kind: 'services', services: NOTHING }
export const allowOnly = (services: ServiceSet): PathFilter => ({ kind: 'services', services })

/** What must pass every filter. */
export function allOf(filters: readonly PathFilter[]): PathFilter {
  const [first, ...more] = filters
  if (!first) return ALLOW_ALL
  return more.length === 0 ? first : { kind: 'all', of: filters }
}
/** What may choose among filters. */
export function anyOf(filters: readonly PathFilter[]): PathFilter {
  const [first, ...more] = filters
  return first && more.length === 0 ? first : { kind: 'any', of: filters }
}

/** The same rules as answers meet them, of some gateways alone: others know the flow, and ask no rule. */
export function ofAnswers(filter: PathFilter, deviceIds: readonly string[]): PathFilter {
  switch (filter.kind) {
    case 'services':
    case 'answers':
      return filter
    case 'rules':
      return deviceIds.includes(filter.deviceId) ? { ...filter, isReply: true } : ALLOW_ALL
    case 'all':
    case 'any':
      return { kind: filter.kind, of: filter.of.map((one) => ofAnswers(one, deviceIds)) }
  }
}

/** What passes from one address to another. */
export function evaluateFor(filter: PathFilter, policies: Policies, source: Ipv4, target: Ipv4): ServiceSet {
  return evaluate(filter, ({ deviceId, chain, from, to, isReply }) => {
    const compiled = policies.get(deviceId)
    if (!compiled) return EVERYTHING
    const [sender, receiver] = isReply ? [target, source] : [source, target]
    return accepted(decide(compiled, chain, { via: from, address: sender }, { via: to, address: receiver }))
  })
}

/**
 * Ports that a caller chooses by itself: those of RFC 6335 section 6, and below them what Linux takes
 * (ip_local_port_range).
 */
const CALLERS: ServiceSet = { tcp: [], udp: [[32_768, 65_535]], icmp: false }
const ALL_UDP: ServiceSet = { tcp: [], udp: EVERYTHING.udp, icmp: false }
/** An answer goes to a port that the caller chose: it comes through where rules accept every such port. */
const answered = (accepted: ServiceSet): ServiceSet =>
  isNothing(minus(CALLERS, accepted)) ? ALL_UDP : NOTHING

/** What passes where each list of rules lets this through. */
export function evaluate(filter: PathFilter, through: (rules: FilterRef) => ServiceSet): ServiceSet {
  switch (filter.kind) {
    case 'services':
      return filter.services
    case 'rules':
      return through(filter)
    case 'all':
      return filter.of.reduce<ServiceSet>((set, one) => intersect(set, evaluate(one, through)), EVERYTHING)
    case 'any':
      return filter.of.reduce<ServiceSet>((set, one) => union(set, evaluate(one, through)), NOTHING)
    case 'answers':
      return answered(evaluate(filter.of, through))
  }
}

const NONE: readonly never[] = []
/** The rule lists that a filter asks. */
export function filterRefs(filter: PathFilter): readonly FilterRef[] {
  switch (filter.kind) {
    case 'services':
      return NONE
    case 'rules':
      return [filter]
    case 'all':
    case 'any':
      return filter.of.flatMap(filterRefs)
    case 'answers':
      return filterRefs(filter.of)
  }
}
