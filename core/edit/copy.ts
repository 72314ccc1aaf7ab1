// Question: what of a plan holds for another site like it?
// Method: all but what is of one box or one owner: serial numbers, MAC addresses and keys.
import type { Plan } from '#core/schema'

/** The plan of a new site, made from another's. */
export function planForAnotherSite(plan: Plan, name: string): Plan {
  return {
    ...plan,
    site: { ...plan.site, name },
    brief: { ...plan.brief, equipment: [] },
    networks: plan.networks.map((network) => ({
      ...network,
      fixed: network.fixed.map((assignment) => ({ ...assignment, mac: null })),
    })),
    tunnels: plan.tunnels.map((tunnel) => ({
      ...tunnel,
      publicKey: null,
      peers: tunnel.peers.map((peer) => ({ ...peer, publicKey: null, next: null })),
    })),
  }
}
