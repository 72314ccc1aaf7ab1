// Question: which networks does a DHCP server answer that stands elsewhere?
// Method: the relay's request to the server, and the server's answer to the relay, traced as any flow; the server must
// have an address of its own, without a relay.
// Source: RFC 1542 section 4 and RFC 2131 section 4.1: a relay sends from its own address in the clients' network, and
// the server answers to that address, both at UDP port 67.
import { parseIpv4, type Ipv4 } from '#core/address'
import { evaluateFor, filterRefs, includes, policiesOf } from '#core/filter'
import type { PlanIndex } from '#core/queries'
import type { Network, NetworkId } from '#core/schema'
import { orNull } from '#core/util'
import type { DataPlane } from './plane'
import type { Endpoint } from './endpoints'
import { PathFilters } from './round-trip'

const SERVER_PORT = 67

/** The host that has an address for good. */
const holderOf = ({ endpoints }: DataPlane, address: Ipv4): Endpoint | undefined =>
  endpoints.find(
    ({ how, ranges }) =>
      (how === 'static' || how === 'reserved') &&
      ranges.some(({ from, to }) => from <= address && address <= to),
  )

function isAnswered(index: PlanIndex, plane: DataPlane, paths: PathFilters, network: Network): boolean {
  const [own, server] = [orNull(parseIpv4(network.gateway)), orNull(parseIpv4(network.relayTo ?? ''))]
  const endpoint = server === null ? undefined : holderOf(plane, server)
  if (own === null || server === null || !endpoint || !plane.interfaceOfNetwork.has(network.id)) return false
  const relay = { party: { kind: 'gateway' as const, deviceId: network.routerId }, address: own }
  const filter = paths.between(relay, { party: { kind: 'endpoint', endpoint }, address: server })
  // A rule that is there at some times of the week only is no way that a lease can hang on.
  const policies = filterRefs(filter).length > 0 ? policiesOf(index, new Set()) : new Map()
  return includes(evaluateFor(filter, policies, own, server), 'udp', SERVER_PORT)
}

/** Networks whose relay hears a server. @param plane without any relayed lease */
export function answeredRelays(index: PlanIndex, plane: DataPlane): ReadonlySet<NetworkId> {
  const relayed = index.plan.networks.filter((network) => network.dhcp === 'relay')
  const paths = new PathFilters(plane)
  return new Set(
    relayed.filter((network) => isAnswered(index, plane, paths, network)).map((network) => network.id),
  )
}
