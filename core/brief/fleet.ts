// Question: which addresses of this site does another site of the fleet use too?
// Method: every network and tunnel subnet against every one over there, by prefix.
// Source: RFC 4632; two sites that a tunnel joins must not share addresses (common practice).
import { overlaps, parsePrefix4 } from '#core/address'
import { orNull } from '#core/util'
import type { Plan } from '#core/schema'
import { tunnelTo } from './words'

export interface FleetSite {
  readonly slug: string
  readonly name: string
  readonly supernet: string
  readonly subnets: readonly { readonly name: string; readonly subnet: string; readonly tunnel: boolean }[]
}

/**
 * What the rest of the fleet has to know of a site's addresses: its networks, and the subnets inside its
 * tunnels.
 */
export function addressesOf(slug: string, plan: Plan): FleetSite {
  const tunnels = plan.brief.far.flatMap((far) =>
    far.tunnel === null ? [] : [{ name: tunnelTo(far.name), subnet: far.tunnel, tunnel: true }],
  )
  return {
    slug,
    name: plan.site.name,
    supernet: plan.site.supernet,
    subnets: [...plan.networks.map(({ name, subnet }) => ({ name, subnet, tunnel: false })), ...tunnels],
  }
}

export interface FleetOverlap {
  readonly slug: string
  readonly site: string
  readonly theirs: string
  readonly theirSubnet: string
  readonly ours: string
  readonly ourSubnet: string
}

/**
 * Every pair that shares an address, in the order of the fleet, then of this plan.
 * One tunnel seen from both its ends is no such pair.
 */
export function fleetOverlaps(mine: FleetSite, fleet: readonly FleetSite[]): FleetOverlap[] {
  const read = (site: FleetSite) =>
    site.subnets.flatMap((subnet) => {
      const prefix = orNull(parsePrefix4(subnet.subnet))
      return prefix ? [{ ...subnet, prefix }] : []
    })
  const ours = read(mine)
  return fleet
    .filter((site) => site.slug !== mine.slug)
    .flatMap((site) =>
      read(site).flatMap((their) =>
        ours
          .filter(
            (our) =>
              overlaps(our.prefix, their.prefix) &&
              !(our.tunnel && their.tunnel && our.subnet === their.subnet),
          )
          .map((our) => ({
            slug: site.slug,
            site: site.name,
            theirs: their.name,
            theirSubnet: their.subnet,
            ours: our.name,
            ourSubnet: our.subnet,
          })),
      ),
    )
}
