// Question: which sides can a packet have at a gateway, and which selectors can speak of one side at once?
// Method: each network and peer with each stretch of its addresses that the plan tells apart, and the internet's side.
import {
  contains,
  ipv4,
  lastOf,
  parseIpv4,
  parsePrefix4,
  spaceOf,
  usable,
  type Ipv4,
  type Prefix4,
} from '#core/address'
import { memoOn, memoOnParts, orNull } from '#core/base'
import { portKey, type PlanIndex, type Selector } from '#core/model'
import { cutPoints, firstOfEach, routedAs, routedPorts } from './numbering'
import { matcherOf, prefixesOf, tunnelVia, type Side } from './selectors'

/** 198.51.100.7, of RFC 5737's documentation block: it stands for any host outside. */
const SOMEBODY = ipv4(0xc6336407)
/** Addresses that stand for everybody outside: one for each stretch of public space that the plan tells apart. */
export const outsideOf = (index: PlanIndex): readonly Ipv4[] => outside(cutPoints(index))
const outside = memoOn((cuts: readonly number[]): readonly Ipv4[] => [
  SOMEBODY,
  ...new Set(cuts.flatMap((cut) => [ipv4(cut), ipv4(cut - 1)]).filter((a) => spaceOf(a) === 'public')),
])

const holds = (prefix: Prefix4 | null, address: Ipv4): boolean => prefix !== null && contains(prefix, address)

const lastSides = memoOnParts<readonly Side[]>(4)
/** Every side a packet can have at the gateway; the same list while nothing that makes it changes. */
export const sidesOf = memoOn((index: PlanIndex): readonly Side[] =>
  lastSides(
    cutPoints(index),
    [
      index.plan.tunnels,
      index.plan.routes,
      routedAs(index),
      JSON.stringify(index.plan.networks.map((n) => [n.id, n.subnet])),
    ],
    () => allSides(index),
  ),
)
function allSides(index: PlanIndex): Side[] {
  const cuts = cutPoints(index)
  const sides: Side[] = index.plan.networks.flatMap((network) => {
    const subnet = parsePrefix4(network.subnet)
    if (!subnet.ok) return []
    return firstOfEach([usable(subnet.value)], cuts).map((address) => ({ via: network.id, address }))
  })
  const far = index.plan.tunnels.flatMap((tunnel) =>
    prefixesOf(tunnel.peers.flatMap((p) => p.allowed)).flatMap((prefix) =>
      firstOfEach([{ from: prefix.base, to: lastOf(prefix) }], cuts).map((address) => ({
        via: tunnelVia(tunnel.id),
        address,
      })),
    ),
  )
  // What a router further in sends comes by the network that it stands in.
  const routed = index.plan.routes.flatMap((route) => {
    const [prefix, next] = [orNull(parsePrefix4(route.prefix)), orNull(parseIpv4(route.via))]
    const home =
      next === null
        ? undefined
        : (index.plan.networks.find((n) => holds(orNull(parsePrefix4(n.subnet)), next))?.id ??
          routedPorts(index).flatMap(({ device, port, face }) =>
            holds(face.prefix, next) ? [portKey({ deviceId: device.id, portId: port.id })] : [],
          )[0])
    return prefix === null || home === undefined
      ? []
      : firstOfEach([{ from: prefix.base, to: lastOf(prefix) }], cuts).map((address) => ({
          via: home,
          address,
        }))
  })
  return [
    ...sides,
    ...far,
    ...routed,
    ...outsideOf(index).map((address) => ({ via: 'uplink', address })),
    { via: 'self', address: ipv4(0) },
  ]
}

/** True where every side that `inner` speaks of is spoken of by `outer` too. */
export function covers(index: PlanIndex, outer: Selector, inner: Selector): boolean {
  const [x, y] = [matcherOf(index, outer), matcherOf(index, inner)]
  return sidesOf(index).every((side) => x(side) || !y(side))
}
