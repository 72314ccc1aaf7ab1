// Question: which sides can a packet have at a gateway, and which selectors can speak of one side at once?
// Method: each network and peer with each stretch of its addresses that the plan tells apart, and the internet's side.
import { ipv4, lastOf, parsePrefix4, usable } from '#core/address'
import { memoOn } from '#core/base'
import type { PlanIndex, Selector } from '#core/model'
import { cutPoints, firstOfEach } from './numbering'
import { matcherOf, prefixesOf, tunnelVia, type Side } from './selectors'

/** An address of RFC 5737's documentation block that stands for any host outside. */
const OUTSIDE = ipv4(0xc6336407)

/** Every side a packet can have at the gateway. */
export const sidesOf = memoOn((index: PlanIndex): Side[] => {
  const cuts = cutPoints(index)
  const sides: Side[] = index.plan.networks.flatMap((network) => {
    const subnet = parsePrefix4(network.subnet)
    if (!subnet.ok) return []
    return firstOfEach([usable(subnet.value)], cuts).map((address) => ({ via: network.id, address }))
  })
  const far = index.plan.tunnels.flatMap((tunnel) => prefixesOf(tunnel.peers.flatMap((p) => p.allowed)).flatMap((prefix) =>
    firstOfEach([{ from: prefix.base, to: lastOf(prefix) }], cuts).map((address) => ({ via: tunnelVia(tunnel.id), address }))))
  return [...sides, ...far, { via: 'uplink', address: OUTSIDE }, { via: 'self', address: ipv4(0) }]
})

/** True where some side is spoken of by both selectors. */
export function meets(index: PlanIndex, a: Selector, b: Selector): boolean {
  const [x, y] = [matcherOf(index, a), matcherOf(index, b)]
  return sidesOf(index).some((side) => x(side) && y(side))
}

/** True where every side that `inner` speaks of is spoken of by `outer` too. */
export function covers(index: PlanIndex, outer: Selector, inner: Selector): boolean {
  const [x, y] = [matcherOf(index, outer), matcherOf(index, inner)]
  return sidesOf(index).every((side) => x(side) || !y(side))
}
