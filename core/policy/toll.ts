// Question: what do all the rules on a way let through, for any two addresses that share the way?
// Method: the way is found once; what its rules ask of addresses is kept as a small tree of intersections and unions, which is
// evaluated for each pair of addresses. A toll names the gateway whose rules are asked, so that it outlives an edit of them.
import type { Rule } from '#core/model'
import type { Ipv4 } from '#core/address'
import { accepted, decide, type Policies } from './rules'
import { EVERYTHING, intersect, NOTHING, union, type ServiceSet } from './services'

export interface RulesToll {
  readonly kind: 'rules'
  readonly deviceId: string
  readonly chain: Rule['chain']
  /** Interfaces by which a packet comes in and goes out. */
  readonly from: string
  readonly to: string
}
export type Toll =
  | { readonly kind: 'free'; readonly services: ServiceSet }
  | RulesToll
  | { readonly kind: 'all' | 'some'; readonly of: readonly Toll[] }

export const FREE: Toll = { kind: 'free', services: EVERYTHING }
export const SHUT: Toll = { kind: 'free', services: NOTHING }

/** What must pay every toll, and what may choose among them. */
export const everyToll = (of: readonly Toll[]): Toll =>
  of.length === 0 ? FREE : of.length === 1 ? (of[0] as Toll) : { kind: 'all', of }
export const anyToll = (of: readonly Toll[]): Toll =>
  of.length === 1 ? (of[0] as Toll) : { kind: 'some', of }

/** What passes from one address to another. */
export function pay(toll: Toll, policies: Policies, source: Ipv4, target: Ipv4): ServiceSet {
  return paid(toll, ({ deviceId, chain, from, to }) => {
    const compiled = policies.get(deviceId)
    return compiled
      ? accepted(decide(compiled, chain, { via: from, address: source }, { via: to, address: target }))
      : EVERYTHING
  })
}

/** What passes where each list of rules lets this through. */
export function paid(toll: Toll, through: (rules: RulesToll) => ServiceSet): ServiceSet {
  switch (toll.kind) {
    case 'free':
      return toll.services
    case 'rules':
      return through(toll)
    case 'all':
      return toll.of.reduce<ServiceSet>((set, t) => intersect(set, paid(t, through)), EVERYTHING)
    case 'some':
      return toll.of.reduce<ServiceSet>((set, t) => union(set, paid(t, through)), NOTHING)
  }
}

/** The rule lists that a toll asks. */
export function rulesIn(toll: Toll): readonly RulesToll[] {
  switch (toll.kind) {
    case 'free':
      return NONE
    case 'rules':
      return [toll]
    case 'all':
    case 'some':
      return toll.of.flatMap(rulesIn)
  }
}
const NONE: readonly never[] = []
