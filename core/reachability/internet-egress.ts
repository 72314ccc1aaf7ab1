// Question: by which uplinks and tunnels does a packet leave a gateway for the internet, and what of it is
// let out?
// Method: each share of the services takes the exit that the policy routes give it, and is judged by the
// rules as it leaves there.
// A reply goes back the way its flow came.
// Source: ip-rule(8) (policy before main);
// RFC 8028 section 3.2.3 (IPv6 leaves by the uplink whose provider delegated its prefix).
import type { DeviceId, UplinkId } from '#core/schema'
import { ipv4, spaceOf, type Ipv4, type Prefix4 } from '#core/address'
import {
  allOf,
  allowOnly,
  anyOf,
  DENY_ALL,
  EVERYTHING,
  NOTHING,
  tunnelInterface,
  type PathFilter,
  type ServiceSet,
} from '#core/filter'
import type { DataPlane } from './plane'
import type { Ipv6Projection } from './ipv6-projection'
import {
  egressShares,
  isRoutedHere,
  leadsOutside,
  type EgressShare,
  type Exit,
  type RouteEntry,
} from './routing'
import type { RouterIngress, StopCode, TraceState } from './trace'

const DEFAULT: Prefix4 = { base: ipv4(0), length: 0 }

/** True where an address is somewhere outside, as far as this side of the plan goes. */
export const isOutside = (plane: DataPlane, address: Ipv4): boolean =>
  plane.ipv6 !== null || spaceOf(address) !== 'private'

interface Egress {
  readonly filter: PathFilter
  /** Services that no policy route took. */
  readonly rest: ServiceSet
  /**
   * Null where something leaves.
   * What the rules refuse is no end of the path; what leads nowhere at all is.
   */
  readonly stop: StopCode | null
}

/**
 * IPv6 leaves by the first uplink whose provider has delegated the sender's prefix, and by no other; a
 * gateway itself by the first of all.
 */
function egressShareOfIpv6(plane: DataPlane, ipv6: Ipv6Projection, ingress: RouterIngress): EgressShare {
  const serves = (uplinkId: UplinkId) =>
    ingress.via === 'self' ? ipv6.delegates(uplinkId) : ipv6.uplinksOf(ingress.source).includes(uplinkId)
  const own = plane.uplinks.find(({ id, deviceId }) => deviceId === ingress.deviceId && serves(id))
  return { services: EVERYTHING, policyRouteId: null, exit: own ? { kind: 'uplink', id: own.id } : null }
}

/** True where what leaves by an exit is lost, although the gateway takes the uplink for well. */
function isLost(plane: DataPlane, deviceId: DeviceId, exit: Exit, byPolicy: boolean): boolean {
  // A gateway does not see that a tunnel's far end is silent: its interface stays, and so does the route.
  if (exit.kind === 'tunnel') return !leadsOutside(plane, exit.id)
  if (plane.blackholed.has(exit.id)) return true
  // Of uplinks that share load, which takes a flow is a hash's choice: what one loses is promised to nobody.
  return (
    !byPolicy && !plane.ipv6 && (plane.sharing.get(deviceId)?.some((id) => plane.blackholed.has(id)) ?? false)
  )
}

/** Why what leaves by an exit is lost. */
const LOST: Readonly<Record<Exit['kind'], StopCode>> = { uplink: 'upstream-down', tunnel: 'tunnel-down' }

/** True where a sender keeps its address as it leaves: the provider routes it here. */
const isKnownOutside = (plane: DataPlane, exit: Exit, source: Ipv4): boolean =>
  exit.kind === 'uplink' && isRoutedHere(plane, exit.id as UplinkId, source)

/** One share, let out by one exit: its filter, or why it leads nowhere. */
function leaveBy(
  plane: DataPlane,
  trace: TraceState,
  ingress: RouterIngress,
  entry: RouteEntry | undefined,
  share: EgressShare,
): PathFilter | StopCode {
  const { services: only, policyRouteId, exit } = share
  const { deviceId } = ingress
  if (policyRouteId !== null) trace.steps?.push({ kind: 'chosen', deviceId, policyRouteId, exit, only })
  if (exit === null) return policyRouteId === null ? 'no-uplink' : 'route-refused'
  if (policyRouteId === null && entry && !plane.ipv6)
    trace.steps?.push({ kind: 'route', deviceId, entry, only })
  const filters = [allowOnly(only), ...forwardFilter(trace, ingress, share, exit)]
  if (trace.isNewFlow && isLost(plane, deviceId, exit, policyRouteId !== null)) return LOST[exit.kind]
  if (plane.ipv6) {
    const route: RouteEntry = { prefix: DEFAULT, kind: 'uplink', via: exit.id, metric: 0 }
    trace.steps?.push({ kind: 'route', deviceId, entry: route, only })
  } else if (!isKnownOutside(plane, exit, ingress.source))
    trace.steps?.push({ kind: 'translate', deviceId, exit, only })
  return allOf(filters)
}

/** The rules that a new flow through a gateway meets on its way to an exit. */
function forwardFilter(
  trace: TraceState,
  { deviceId, via, source, target }: RouterIngress,
  { services: only }: EgressShare,
  exit: Exit,
): PathFilter[] {
  if (!trace.isNewFlow || via === 'self') return []
  const to = exit.kind === 'uplink' ? 'uplink' : tunnelInterface(exit.id)
  const ends = { from: { via, address: source }, to: { via: to, address: target } }
  trace.steps?.push({ kind: 'rules', deviceId, chain: 'forward', ...ends, only })
  return [{ kind: 'rules', deviceId, chain: 'forward', from: via, to }]
}

/** The way out to the internet from a gateway. @param entry its route there, where it is an uplink's */
export function leaveForInternet(
  plane: DataPlane,
  trace: TraceState,
  ingress: RouterIngress,
  entry: RouteEntry | undefined,
): Egress {
  const { ipv6 } = plane
  if (ipv6 && ingress.via !== 'self' && ipv6.uplinksOf(ingress.source).length === 0)
    return { filter: DENY_ALL, rest: NOTHING, stop: 'not-global' }
  const shares = ipv6
    ? [egressShareOfIpv6(plane, ipv6, ingress)]
    : egressShares(plane, ingress, entry, trace.isNewFlow)
  const left = shares.map((share) => leaveBy(plane, trace, ingress, entry, share))
  const filters = left.filter((one): one is PathFilter => typeof one !== 'string')
  const stop = left.find((one): one is StopCode => typeof one === 'string') ?? 'no-uplink'
  return {
    filter: anyOf(filters),
    rest: shares.find((share) => share.policyRouteId === null)?.services ?? NOTHING,
    stop: filters.length > 0 ? null : stop,
  }
}
