// Question: what do all the rules on a path let through, for any two addresses that share the path?
// Method: the path is found once; what its rules ask of addresses is kept as a small tree of intersections
// and unions, which is evaluated for each pair of addresses.
// A reference names the gateway whose rules are asked, so that it outlives an edit of them.
// Source: sets of packets along a path, as in header space analysis (Kazemian, Varghese and McKeown, 2012,
// from memory).
import type { Rule, DeviceId } from '#core/schema'
import type { Ipv4 } from '#core/address'
import { accepted, decide, type Policies } from './rules'
import { EVERYTHING, intersect, NOTHING, union, type ServiceSet } from './services'

/** The rules of one gateway, as a packet meets them. */
export interface FilterRef {
  readonly kind: 'rules'
  readonly deviceId: DeviceId
  readonly chain: Rule['chain']
  /** Interfaces by which a packet comes in and goes out. */
  readonly from: string
  readonly to: string
}
export type PathFilter =
  | { readonly kind: 'services'; readonly services: ServiceSet }
  | FilterRef
  | { readonly kind: 'all' | 'any'; readonly of: readonly PathFilter[] }

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

/** What passes from one address to another. */
export function evaluateFor(filter: PathFilter, policies: Policies, source: Ipv4, target: Ipv4): ServiceSet {
  return evaluate(filter, ({ deviceId, chain, from, to }) => {
    const compiled = policies.get(deviceId)
    if (!compiled) return EVERYTHING
    return accepted(decide(compiled, chain, { via: from, address: source }, { via: to, address: target }))
  })
}

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
  }
}
