// Question: what of what arrives on an uplink is handed inside, and to whom?
// Method: of two forwards of one port the first has it; only uplinks that can be called count.
// Source: nft(8) (`dnat`; the first rule that matches decides).
import { parseIpv4, type Ipv4 } from '#core/address'
import { minus, NOTHING, union, type Intervals, type ServiceSet } from '#core/filter'
import { canBeCalled } from '#core/queries'
import type { DeviceId, PortForward, Uplink, UplinkId } from '#core/schema'
import { orNull } from '#core/util'

/** What of a gateway's routing the forwards hang on. */
export interface Forwarding {
  readonly forwards: readonly PortForward[]
  /** Uplinks that the gateway takes for well, first choice first. */
  readonly uplinks: readonly Uplink[]
  /** Those of them beyond which nothing answers and that nobody probes. */
  readonly blackholed: ReadonlySet<string>
}

/** True where somebody outside can call the gateway over a line that is well. */
export function acceptsInbound({ blackholed }: Pick<Forwarding, 'blackholed'>, uplink: Uplink): boolean {
  return canBeCalled(uplink) && !blackholed.has(uplink.id)
}

/** Ports of a line that a forward has, and that no forward before it on that line took. */
function outerPorts(forwards: readonly PortForward[], forward: PortForward): ServiceSet {
  const ports = ({ proto, from, to }: PortForward): ServiceSet => ({
    tcp: proto === 'tcp' ? [[from, to]] : [],
    udp: proto === 'udp' ? [[from, to]] : [],
    icmp: false,
  })
  return forwards
    .slice(0, forwards.indexOf(forward))
    .filter((one) => one.deviceId === forward.deviceId && one.uplinkId === forward.uplinkId)
    .reduce((free, earlier) => minus(free, ports(earlier)), ports(forward))
}

/** What arrives on a line and is handed inside: its gateway does not see it. */
export const handedInside = ({ forwards }: Pick<Forwarding, 'forwards'>, uplinkId: UplinkId): ServiceSet =>
  forwards
    .filter((forward) => forward.uplinkId === uplinkId)
    .map((forward) => outerPorts(forwards, forward))
    .reduce(union, NOTHING)

/** The same ports inside, where a forward moves them; those beyond the last port there is are nobody's. */
function innerPorts(outer: ServiceSet, { from, toPort }: PortForward): ServiceSet {
  const moved = (list: Intervals): Intervals =>
    list
      .map(([first, last]) => [first + toPort - from, Math.min(65_535, last + toPort - from)] as const)
      .filter(([first, last]) => first <= last)
  return { tcp: moved(outer.tcp), udp: moved(outer.udp), icmp: false }
}

/** What arrives on a line and is handed to addresses that are meant, by the ports there. */
export const handedTo = (
  { forwards }: Pick<Forwarding, 'forwards'>,
  uplinkId: UplinkId,
  isMeant: (address: Ipv4) => boolean,
): ServiceSet =>
  forwards
    .filter((forward) => forward.uplinkId === uplinkId && isMeantBy(forward, isMeant))
    .map((forward) => innerPorts(outerPorts(forwards, forward), forward))
    .reduce(union, NOTHING)
const isMeantBy = ({ toAddress }: PortForward, isMeant: (address: Ipv4) => boolean): boolean => {
  const address = orNull(parseIpv4(toAddress))
  return address !== null && isMeant(address)
}

/** What port forwards hand to an address over the lines that can be called; null where none names it. */
export function forwardedTo(
  routing: Forwarding,
  address: Ipv4,
): {
  readonly deviceId: DeviceId
  readonly services: ServiceSet
  readonly uplinkIds: readonly string[]
} | null {
  const mine = routing.forwards.filter((f) => orNull(parseIpv4(f.toAddress)) === address)
  const [first] = mine
  if (!first) return null
  let services: ServiceSet = NOTHING
  const uplinkIds: string[] = []
  for (const forward of mine) {
    const uplink = routing.uplinks.find((u) => u.id === forward.uplinkId && u.deviceId === forward.deviceId)
    if (forward.deviceId !== first.deviceId || !uplink || !acceptsInbound(routing, uplink)) continue
    services = union(services, innerPorts(outerPorts(routing.forwards, forward), forward))
    if (!uplinkIds.includes(uplink.id)) uplinkIds.push(uplink.id)
  }
  return { deviceId: first.deviceId, services, uplinkIds }
}
