// Question: what of a plan, under one failure scenario, decides where packets go, before any rule is asked?
// Method: layer 2, then the gateways' interfaces and the leases they hand out, then hosts, then routes; one
// stage of the engine.
// Source:
// RFC 1122 section 3.3.1 (hosts), RFC 1812 section 5.2.4 (longest match).
import type { Ipv4 } from '#core/address'
import { layer2Of, type Layer2Node } from '#core/layer2'
import {
  defineStage,
  failuresIn,
  scenarioText,
  schedulesHolding,
  upstreamDownIn,
  type PlanIndex,
  type FailureScenario,
} from '#core/queries'
import { leasesOf, type Lease } from '#core/dhcp'
import { policiesOf } from '#core/filter'
import { endpointsOf, interfacesOf, type HostContext, type Interface4 } from './endpoints'
import { ipv6ProjectionOf, projectionIn } from './ipv6-projection'
import { answeredRelays } from './relays'
import type { DataPlane, Site } from './plane'
import { routingOf } from './routing'

function buildDataPlane(index: PlanIndex, scenario: FailureScenario): DataPlane {
  const layer2 = layer2Of(index, scenario)
  const context = { index, layer2 }
  const interfaces = interfacesOf(index, layer2)
  const served = leasesOf(index, interfaces, new Set())
  const byAddress = new Map<Ipv4, Interface4[]>()
  for (const iface of interfaces)
    byAddress.set(iface.address, [...(byAddress.get(iface.address) ?? []), iface])
  const own: Omit<DataPlane, 'content'> = {
    failed: layer2.failed,
    interfaces,
    interfacesByAddress: byAddress,
    // A repeated network keeps its first interface, as every look-up in a plan does.
    interfaceOfNetwork: new Map(interfaces.toReversed().map((iface) => [iface.networkId, iface])),
    leases: served,
    endpoints: endpointsOf(context, served),
    ...routingOf(index, layer2, interfaces, upstreamDownIn(scenario)),
    ipv6: projectionIn(index.plan),
  }
  const plane = index.plan.networks.some(({ dhcp }) => dhcp === 'relay') ? withRelays(context, own) : own
  let text: string | null = null
  return { ...plane, content: () => (text ??= contentOf(plane)) }
}

/** The same where relays are heard too: hosts that lease by them have addresses. */
function withRelays(context: HostContext, own: Omit<DataPlane, 'content'>): Omit<DataPlane, 'content'> {
  const { index } = context
  const relayed = answeredRelays(index, { ...own, content: () => contentOf(own) })
  const leases = leasesOf(index, own.interfaces, relayed)
  return { ...own, leases, endpoints: endpointsOf(context, leases) }
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
