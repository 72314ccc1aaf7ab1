// Question: which sides can a packet have at a gateway, and which selectors can speak of one side at once?
// Method: each network and peer with each stretch of its addresses that the plan tells apart, and the
// internet's side.
import {
  contains,
  ipv4,
  lastOf,
  parseIpv4,
  parsePrefix4,
  isGlobal,
  usable,
  type Ipv4,
  type Prefix4,
  readPrefixes4,
} from '#core/address'
import { orNull } from '#core/util'
import { defineStage, portKey, type PlanIndex } from '#core/queries'
import type { Selector } from '#core/schema'
import { atomBoundaries, representatives, routedPorts } from './address-atoms'
import { localPrefixes } from './local-prefixes'
import { matcherOf, tunnelInterface, type PacketEnd } from './selectors'

/** 198.51.100.7, 203.0.113.7 and 192.0.2.7, of RFC 5737's documentation blocks: any host outside. */
const INTERNET_SAMPLES = [0xc6336407, 0xcb007107, 0xc0000207].map(ipv4)
/**
 * Addresses that stand for everybody outside: one for each stretch of public space that the plan tells apart.
 */
export const internetRepresentatives = (index: PlanIndex): readonly Ipv4[] => index.get(outside)
const outside = defineStage('internet representatives', (index): readonly Ipv4[] => {
  const own = connectedPrefixes(index)
  const isElsewhere = (address: Ipv4) => !own.some((prefix) => contains(prefix, address))
  const cut = atomBoundaries(index)
    .flatMap((boundary) => [ipv4(boundary), ipv4(boundary - 1)])
    .filter((address) => isGlobal(address) && isElsewhere(address))
  const [sample] = INTERNET_SAMPLES.filter(isElsewhere)
  return [...new Set([...(sample === undefined ? [] : [sample]), ...cut])]
})

/** What a site has itself, or reaches by a tunnel: the subnets of its networks and gateways, and what peers have. */
function connectedPrefixes(index: PlanIndex): readonly Prefix4[] {
  const { devices, networks, tunnels } = index.plan
  const gateways = devices.filter(({ kind }) => kind === 'gateway')
  return [
    ...readPrefixes4(networks.map(({ subnet }) => subnet)),
    ...gateways.flatMap(({ id }) => localPrefixes(index, id)).map(({ prefix }) => prefix),
    ...readPrefixes4(tunnels.flatMap(({ peers }) => peers).flatMap(({ allowed }) => allowed)).filter(
      ({ length }) => length > 0,
    ),
  ]
}

const holds = (prefix: Prefix4 | null, address: Ipv4): boolean => prefix !== null && contains(prefix, address)

const packetEndsStage = defineStage('packet ends', findPacketEnds, {
  equal: (a, b) => a.length === b.length && a.every((end, i) => sameSide(end, b[i] as PacketEnd)),
})
const sameSide = (a: PacketEnd, b: PacketEnd): boolean => a.via === b.via && a.address === b.address
/** Every side a packet can have at the gateway. */
export const packetEnds = (index: PlanIndex): readonly PacketEnd[] => index.get(packetEndsStage)
/** The interface on whose subnet an address lies: a network, or a routed port. */
function interfaceTowards(index: PlanIndex, address: Ipv4): string | undefined {
  const network = index.plan.networks.find((n) => holds(orNull(parsePrefix4(n.subnet)), address))
  const port = routedPorts(index).find((p) => contains(p.prefix, address))
  return network?.id ?? (port && portKey(port))
}

function findPacketEnds(index: PlanIndex): PacketEnd[] {
  const cuts = atomBoundaries(index)
  const sides: PacketEnd[] = index.plan.networks.flatMap((network) => {
    const subnet = parsePrefix4(network.subnet)
    if (!subnet.ok) return []
    return representatives([usable(subnet.value)], cuts).map((address) => ({ via: network.id, address }))
  })
  const far = index.plan.tunnels.flatMap((tunnel) =>
    readPrefixes4(tunnel.peers.flatMap((p) => p.allowed)).flatMap((prefix) =>
      representatives([{ from: prefix.base, to: lastOf(prefix) }], cuts).map((address) => ({
        via: tunnelInterface(tunnel.id),
        address,
      })),
    ),
  )
  // What a router further in sends comes by the network that it stands in.
  const routed = index.plan.routes.flatMap((route) => {
    const [prefix, next] = [orNull(parsePrefix4(route.prefix)), orNull(parseIpv4(route.via))]
    const via = next === null ? undefined : interfaceTowards(index, next)
    if (prefix === null || via === undefined) return []
    return representatives([{ from: prefix.base, to: lastOf(prefix) }], cuts).map((address) => ({
      via,
      address,
    }))
  })
  return [
    ...sides,
    ...far,
    ...routed,
    ...internetRepresentatives(index).map((address) => ({ via: 'uplink', address })),
    { via: 'self', address: ipv4(0) },
  ]
}

/** True where every side that `inner` speaks of is spoken of by `outer` too. */
export function subsumes(index: PlanIndex, outer: Selector, inner: Selector): boolean {
  const [x, y] = [matcherOf(index, outer), matcherOf(index, inner)]
  return packetEnds(index).every((side) => x(side) || !y(side))
}
