// Question: what do all the rules on a way let through, for any two addresses that share the way?
// Method: the way is found once; what its rules ask of addresses is kept as a small tree of intersections and unions, which is
// evaluated for each pair of addresses.
import type { Rule } from '#core/model'
import type { Ipv4 } from '#core/address'
import { accepted, decide, type CompiledPolicy } from './rules'
import { EVERYTHING, intersect, NOTHING, union, type ServiceSet } from './services'

export interface RulesToll {
  readonly kind: 'rules'
  readonly compiled: CompiledPolicy
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
export const everyToll = (of: readonly Toll[]): Toll => (of.length === 1 ? (of[0] as Toll) : { kind: 'all', of })
export const anyToll = (of: readonly Toll[]): Toll => (of.length === 1 ? (of[0] as Toll) : { kind: 'some', of })

/** What passes from one address to another. */
export function pay(toll: Toll, source: Ipv4, target: Ipv4): ServiceSet {
  switch (toll.kind) {
    case 'free':
      return toll.services
    case 'rules':
      return accepted(decide(toll.compiled, toll.chain, { via: toll.from, address: source }, { via: toll.to, address: target }))
    case 'all':
      return toll.of.reduce<ServiceSet>((set, t) => intersect(set, pay(t, source, target)), EVERYTHING)
    case 'some':
      return toll.of.reduce<ServiceSet>((set, t) => union(set, pay(t, source, target)), NOTHING)
  }
}

/** The rule lists that a toll asks. */
export function rulesIn(toll: Toll): readonly RulesToll[] {
  if (toll.kind === 'rules') return [toll]
  return toll.kind === 'free' ? [] : toll.of.flatMap(rulesIn)
}
