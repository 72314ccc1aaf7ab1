// Question: what of a plan, under one failure scenario, decides where packets go, before any rule is asked?
// Method: layer 2, then the gateways' interfaces and the leases they hand out, then hosts, then routes; one
// stage of the engine.
// Source:
// RFC 1122 section 3.3.1 (hosts), RFC 1812 section 5.2.4 (longest match).
import type { Ipv4 } from '#core/address'
import { layer2Of, type Layer2, type Layer2Node } from '#core/layer2'
import {
  defineStage,
  failuresIn,
  scenarioText,
  schedulesHolding,
  upstreamDownIn,
  type IndexedPlan,
  type PlanIndex,
  type FailureScenario,
} from '#core/queries'
import { leasesOf, type Lease, type Leases } from '#core/dhcp'
import { policiesOf, type Policies } from '#core/filter'
import { endpointsOf, interfacesOf, type Endpoint, type Interface4 } from './endpoints'
import { ipv6ProjectionOf, projectionIn, type Ipv6Projection } from './ipv6-projection'
import { routingOf, type Routing } from './routing'

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

function buildDataPlane(index: PlanIndex, scenario: FailureScenario): DataPlane {
  const layer2 = layer2Of(index, scenario)
  const context = { index, layer2 }
  const interfaces = interfacesOf(index, layer2)
  const leases = leasesOf(context, interfaces)
  const byAddress = new Map<Ipv4, Interface4[]>()
  for (const iface of interfaces)
    byAddress.set(iface.address, [...(byAddress.get(iface.address) ?? []), iface])
  const plane: Omit<DataPlane, 'content'> = {
    failed: layer2.failed,
    interfaces,
    interfacesByAddress: byAddress,
    // A repeated network keeps its first interface, as every look-up in a plan does.
    interfaceOfNetwork: new Map(interfaces.toReversed().map((iface) => [iface.networkId, iface])),
    leases,
    endpoints: endpointsOf(context, leases),
    ...routingOf(index, layer2, interfaces, upstreamDownIn(scenario)),
    ipv6: projectionIn(index.plan),
  }
  let text: string | null = null
  return { ...plane, content: () => (text ??= contentOf(plane)) }
}

/** Two data planes forward alike where all that they were made into is alike. */
const forwardsAlike = (first: DataPlane, second: DataPlane): boolean =>
  // What policy routes choose by, and how IPv6 is read, are functions: they are not compared.
  first.policyRoutes.size === 0 &&
  second.policyRoutes.size === 0 &&
  first.ipv6 === second.ipv6 &&
  first.content() === second.content()
const contentOf = (plane: Omit<DataPlane, 'content'>): string =>
  JSON.stringify([
    [...plane.failed],
    plane.interfaces,
    [...plane.leases],
    plane.endpoints,
    plane.uplinks,
    [...plane.blackholed],
    [...plane.sharing],
    [...plane.routedHere],
    plane.tunnels,
    [...plane.routes],
    plane.forwards,
  ])

const dataPlane = defineStage('data plane', buildDataPlane, { keyText: scenarioText, equal: forwardsAlike })

export const dataPlaneOf = (index: PlanIndex, scenario: FailureScenario): DataPlane =>
  index.get(dataPlane, failuresIn(scenario))

/**
 * Makes a plan ready for questions under a failure scenario.
 * Plan errors end in findings elsewhere; nothing here throws on them.
 */
export function openSite(index: PlanIndex, scenario: FailureScenario): Site {
  const holding = schedulesHolding(index.plan, scenario)
  const plane = dataPlaneOf(index, scenario)
  return {
    ...plane,
    plane,
    index,
    plan: index.plan,
    scenario: failuresIn(scenario),
    layer2: layer2Of(index, scenario),
    policies: policiesOf(index, holding),
    holding,
  }
}

/** The same for a plan's IPv6 side; null where it has none. */
export function openIpv6Site(index: PlanIndex, scenario: FailureScenario): Site | null {
  const ipv6 = ipv6ProjectionOf(index)
  return ipv6 && openSite(index.of(ipv6.plan), scenario)
}

/** The lease a DHCP client at a node is offered; null for none. */
export function leaseAt({ layer2, leases }: Site, node: Layer2Node): Lease | null {
  return leases.get(layer2.broadcastDomain(node)) ?? null
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
