// What of a plan, made ready under one failure scenario, paths are traced by.
import type { Ipv4 } from '#core/address'
import type { Leases } from '#core/dhcp'
import type { Policies } from '#core/filter'
import type { Layer2 } from '#core/layer2'
import type { FailureScenario, IndexedPlan, PlanIndex } from '#core/queries'
import type { Endpoint, Interface4 } from './endpoints'
import type { Ipv6Projection } from './ipv6-projection'
import type { Routing } from './routing'

/** What of a plan, under one failure scenario, its rules and intents have no say in. */
export interface DataPlane extends Routing {
  /** Devices, links, uplinks, tunnels and peers that are down. */
  readonly failed: ReadonlySet<string>
  readonly interfaces: readonly Interface4[]
  readonly interfacesByAddress: ReadonlyMap<Ipv4, readonly Interface4[]>
  readonly interfaceOfNetwork: ReadonlyMap<string, Interface4>
  readonly leases: Leases
  readonly endpoints: readonly Endpoint[]
  /** Where the plan's IPv6 side is asked: how to read its addresses; null for IPv4. */
  readonly ipv6: Ipv6Projection | null
  /** All of the above as one text, but for what are functions: equal for planes that forward alike. */
  content(): string
}

/** A plan made ready to be asked, under one failure scenario. */
export interface Site extends DataPlane {
  readonly plane: DataPlane
  readonly index: PlanIndex
  readonly plan: IndexedPlan
  /** The scenario, without the time of the week. */
  readonly scenario: FailureScenario
  readonly layer2: Layer2
  readonly policies: Policies
  /** Schedules that hold. */
  readonly holding: ReadonlySet<string>
}

/** Whoever stands at a node; of one broadcast domain are those who hear each other. */
export type OnSegment = Pick<Endpoint, 'node' | 'broadcastDomain'>

/** The gateway's interface that has an address and is heard from where somebody is. */
export function interfaceOnSegment(
  { interfacesByAddress }: DataPlane,
  { broadcastDomain }: OnSegment,
  address: Ipv4,
): Interface4 | undefined {
  return interfacesByAddress.get(address)?.find((iface) => iface.broadcastDomain === broadcastDomain)
}
