// Question: what of a plan can fail?
// Method: all lists of things that a failure scenario can name.
// Source: the plan's own semantics; no figures used.
import type { Plan } from '#core/schema'

export interface FailableList {
  readonly kind: 'device' | 'uplink' | 'tunnel' | 'peer' | 'link'
  /** Where the list stands in the plan. */
  readonly path: readonly (string | number)[]
  readonly items: readonly { readonly id: string }[]
}
type Failable = Pick<Plan, 'devices' | 'links' | 'uplinks' | 'tunnels'>

/** The lists of what a failure scenario can name: no two things in them have one id. */
export const failableLists = (plan: Failable): readonly FailableList[] => [
  { kind: 'device', path: ['devices'], items: plan.devices },
  { kind: 'uplink', path: ['uplinks'], items: plan.uplinks },
  { kind: 'tunnel', path: ['tunnels'], items: plan.tunnels },
  ...plan.tunnels.map((tunnel, i): FailableList => ({
    kind: 'peer',
    path: ['tunnels', i, 'peers'],
    items: tunnel.peers,
  })),
  { kind: 'link', path: ['links'], items: plan.links },
]

/** Everything that a failure scenario can name. */
export const failableThings = (plan: Failable): { readonly id: string }[] =>
  failableLists(plan).flatMap((list) => list.items)
