// Question: does somebody inside reach a forwarded service by its outside address?
// Method: the gateway hands the call inside as it would one from outside, under its own address, so that the
// answer comes back to it; rules judge it as a call from the caller's network to the target's.
// Without that, the call ends at the gateway itself.
// Source:
// RFC 4787 section 6 and RFC 5382 section 7 (hairpinning); the source is the gateway's own, as masquerade
// makes it.
import { contains, formatIpv4, lastOf, networkOf, parseIpv4, type Ipv4 } from '#core/address'
import { groupBy, orNull } from '#core/util'
import type { DeviceId, Plan, PortForward, NetworkId } from '#core/schema'
import {
  accepted,
  atomBoundaries,
  decide,
  intersect,
  isNothing,
  minus,
  NOTHING,
  union,
  type Intervals,
  type ServiceSet,
} from '#core/filter'
import type { Endpoint, Interface4 } from './endpoints'
import { interfaceOnSegment, type Site } from './plane'
import type { RouteEntry } from './routing'
import { interfaceTowards } from './trace-one-way'

export interface InsideCall {
  /** Ports of the outside address that a call gets through to. */
  readonly services: ServiceSet
  readonly stop:
    | 'not-handed-back'
    | 'no-address'
    | 'other-gateway'
    | 'uplink-down'
    | 'address-elsewhere'
    | 'no-target'
    | 'answer-elsewhere'
    | 'rule'
    | null
}

const ended = (stop: InsideCall['stop']): InsideCall => ({ services: NOTHING, stop })

/** The gateway's interface through which an endpoint sends what is not on its own link. */
function gateOf(site: Site, endpoint: Endpoint, address: Ipv4): Interface4 | undefined {
  const { gateway, prefixLength } = endpoint
  if (endpoint.how === 'link-local' || gateway === null) return undefined
  if (!contains({ base: networkOf(address, prefixLength), length: prefixLength }, gateway)) return undefined
  return interfaceOnSegment(site, endpoint, gateway)
}

/** What of a forward an endpoint inside reaches by the outside address of its line. */
export function callFromInside(
  site: Site,
  forward: PortForward,
  endpoint: Endpoint,
  address: Ipv4,
): InsideCall {
  const gate = gateOf(site, endpoint, address)
  const outer = outerStop(site, forward, gate)
  if (outer) return ended(outer)
  const target = orNull(parseIpv4(forward.toAddress))
  const out = target === null ? undefined : interfaceTowardsTarget(site, forward, target)
  if (!gate || target === null || !out) return ended('no-target')
  const back = site.routes.get(forward.deviceId)?.lookup(address)
  const home = back && interfaceBy(site, forward.deviceId, back, address)
  if (home?.broadcastDomain !== endpoint.broadcastDomain || !isAnswered(site, forward, out, target))
    return ended('answer-elsewhere')
  const handed = handedPorts(forward)
  const compiled = site.policies.get(forward.deviceId)
  const ends = [
    { via: gate.networkId, address },
    { via: out.networkId, address: target },
  ] as const
  const passed = compiled ? intersect(handed, accepted(decide(compiled, 'forward', ...ends))) : handed
  if (isNothing(passed)) return ended('rule')
  const free = takenBefore(site.index.plan, forward).reduce<ServiceSet>(minus, passed)
  const shift = forward.from - forward.toPort
  const outside = (list: Intervals): Intervals => list.map(([a, b]) => [a + shift, b + shift] as const)
  return { services: { tcp: outside(free.tcp), udp: outside(free.udp), icmp: false }, stop: null }
}

/** Why a call does not get to the forward at all; null where it does. */
function outerStop(site: Site, forward: PortForward, gate: Interface4 | undefined): InsideCall['stop'] {
  if (!forward.hairpin) return 'not-handed-back'
  const uplink = site.index.plan.uplinks.find((u) => u.id === forward.uplinkId)
  if (!uplink || !site.uplinks.some((u) => u.id === uplink.id)) return 'uplink-down'
  // The outside address is another's: a modem in front has it, or the provider shares it.
  if (uplink.outside !== 'own' || uplink.facts.modem === 'routing') return 'address-elsewhere'
  if (!gate) return 'no-address'
  return gate.deviceId === forward.deviceId ? null : 'other-gateway'
}

/** Where a route leads to a neighbour: on its own subnet, or as the next hop itself. */
function interfaceBy(
  site: Site,
  deviceId: DeviceId,
  { kind, via }: RouteEntry,
  target: Ipv4,
): Interface4 | undefined {
  if (kind === 'connected') return site.interfaceOfNetwork.get(via)
  const isNextHop = kind === 'static' && via === formatIpv4(target)
  return isNextHop ? interfaceTowards(site, deviceId, via) : undefined
}

/** The gateway's interface on which a forward's target is; undefined where nobody there has the address. */
function interfaceTowardsTarget(site: Site, forward: PortForward, target: Ipv4): Interface4 | undefined {
  const route = site.routes.get(forward.deviceId)?.lookup(target)
  const out = route && interfaceBy(site, forward.deviceId, route, target)
  return out && holdersOf(site, out, target).length > 0 ? out : undefined
}

/** Endpoints heard at an interface that have, or may have, an address. */
const holdersOf = (site: Site, { broadcastDomain }: Interface4, address: Ipv4): Endpoint[] =>
  site.endpoints.filter(
    (endpoint) =>
      endpoint.how !== 'link-local' &&
      endpoint.ranges.some((range) => range.from <= address && address <= range.to) &&
      endpoint.broadcastDomain === broadcastDomain,
  )

/** True where the target finds the gateway's address, which it was called from: on its link, or by this gateway. */
const isAnswered = (site: Site, { deviceId }: PortForward, out: Interface4, target: Ipv4): boolean =>
  holdersOf(site, out, target).some((endpoint) => {
    const { prefixLength } = endpoint
    const isOnLink = networkOf(out.address, prefixLength) === networkOf(target, prefixLength)
    return isOnLink || gateOf(site, endpoint, target)?.deviceId === deviceId
  })

/** Ports of the target that a forward leads to. */
function handedPorts({ proto, from, to, toPort }: PortForward): ServiceSet {
  const ports: Intervals = [[toPort, Math.min(65_535, toPort + to - from)]]
  return { tcp: proto === 'tcp' ? ports : [], udp: proto === 'udp' ? ports : [], icmp: false }
}

/**
 * Ports of a forward's target that forwards before it have.
 * No file can tell a gateway's uplinks apart by addresses that change: of two forwards of one port the first
 * has such calls.
 */
function takenBefore(plan: Plan, forward: PortForward): ServiceSet[] {
  const shift = forward.from - forward.toPort
  return plan.forwards
    .slice(0, plan.forwards.indexOf(forward))
    .filter((f) => f.hairpin && f.deviceId === forward.deviceId && f.proto === forward.proto)
    .map(({ from, to }) => {
      const ports: Intervals = [[from - shift, to - shift]]
      return { tcp: ports, udp: ports, icmp: false }
    })
}

/**
 * What the hosts of one network reach of a forward by its outside address: ports all of them get through to,
 * ports only some do, and what ends the others' calls.
 */
export interface InsideCalls {
  readonly forwardId: string
  readonly networkId: NetworkId
  readonly allPairs: ServiceSet
  readonly somePairs: ServiceSet
  readonly stop: InsideCall['stop']
}

/** First addresses of the stretches that the routers' tables tell apart. */
const routeBoundaries = ({ routes }: Site): number[] =>
  [...routes.values()].flatMap(({ entries }) =>
    entries.flatMap(({ prefix }) => [prefix.base, lastOf(prefix) + 1]),
  )

/**
 * Every forward against every network with hosts in it, exactly: of each host, one address for each part of
 * its range that rules tell apart.
 */
export function callsFromInside(site: Site): InsideCalls[] {
  const { plan } = site.index
  const cuts = [...new Set([...atomBoundaries(site.index), ...routeBoundaries(site)])].sort((a, b) => a - b)
  const homes = groupBy(
    site.endpoints.filter((e) => e.networkId !== null),
    (e) => e.networkId ?? '',
  )
  return plan.forwards.flatMap((forward) =>
    plan.networks
      .filter((n) => homes.has(n.id))
      .map((network): InsideCalls => {
        const calls = (homes.get(network.id) ?? []).flatMap((endpoint) =>
          endpoint.ranges.flatMap(({ from, to }) =>
            [from, ...cuts.filter((c) => c > from && c <= to)].map((address) =>
              callFromInside(site, forward, endpoint, address as Ipv4),
            ),
          ),
        )
        const everywhere = calls.map((c) => c.services).reduce(intersect)
        return {
          forwardId: forward.id,
          networkId: network.id,
          allPairs: everywhere,
          somePairs: minus(calls.map((c) => c.services).reduce(union), everywhere),
          stop: calls.find((c) => c.stop !== null)?.stop ?? null,
        }
      }),
  )
}
