// Question: what of a plan can fail?
// Method: all things that a failure scenario can name.
// Source: the plan's own semantics; no figures used.
import type { Plan } from '#core/schema'

/** Everything that a failure scenario can name: no two have one id. */
export const failableThings = (
  plan: Pick<Plan, 'devices' | 'links' | 'uplinks' | 'tunnels'>,
): { readonly id: string }[] => [
  ...plan.devices,
  ...plan.uplinks,
  ...plan.tunnels,
  ...plan.tunnels.flatMap((tunnel) => tunnel.peers),
  ...plan.links,
]
