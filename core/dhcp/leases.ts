// Question: which lease is offered where?
// Method: DHCP is answered where frames to a serving interface and back exist and the pool lies in that
// interface's subnet; which relays hear a server, others say.
// Source: RFC 2131 (DHCP), RFC 1542 section 4 (relay agents).
import {
  contains,
  networkOf,
  parseIpv4,
  rangesWithout,
  type Ipv4,
  type Prefix4,
  type Range4,
} from '#core/address'
import { orNull } from '#core/util'
import type { Layer2Node } from '#core/layer2'
import { readRange4, type PlanIndex } from '#core/queries'
import type { Network, NetworkId } from '#core/schema'

/** A gateway's interface, as far as DHCP asks of it. */
export interface ServingInterface {
  readonly networkId: NetworkId
  readonly vlan: number
  readonly node: Layer2Node
  readonly broadcastDomain: number
  readonly address: Ipv4
  readonly prefix: Prefix4
}

export interface Lease {
  readonly networkId: NetworkId
  /** What anybody may be handed; nothing where all of it is reserved. */
  readonly ranges: readonly Range4[]
  readonly prefixLength: number
  readonly gateway: Ipv4
}

/** Leases by broadcast domain. */
export type Leases = ReadonlyMap<number, Lease>

/** True where a server keeps an address for whom it is reserved: on its own subnet, and not its own address. */
export function keepsAddress(
  { gateway, prefixLength }: Pick<Lease, 'gateway' | 'prefixLength'>,
  ip: Ipv4,
): boolean {
  return ip !== gateway && networkOf(ip, prefixLength) === networkOf(gateway, prefixLength)
}

/**
 * The parts of a network's pool that are not excluded, as far as they lie on a server's subnet; its own address it
 * hands to nobody.
 */
export function servedRanges({ pool, exclusions, gateway }: Network, subnet: Prefix4): Range4[] {
  const whole = pool && readRange4(pool)
  if (!whole) return []
  const excluded = [...exclusions, { from: gateway, to: gateway }].flatMap((range) => readRange4(range) ?? [])
  return rangesWithout(whole, excluded).filter(
    ({ from, to }) => contains(subnet, from) && contains(subnet, to),
  )
}

/** What a server hands to anybody: nothing that it keeps for somebody. */
function handedOut(
  { fixed }: Network,
  parts: readonly Range4[],
  lease: Omit<Lease, 'ranges'>,
): readonly Range4[] {
  const kept = fixed
    .filter(({ how }) => how === 'reserved')
    .flatMap(({ ip }) => orNull(parseIpv4(ip)) ?? [])
    .filter((ip) => keepsAddress(lease, ip))
    .map((ip) => ({ from: ip, to: ip }))
  return kept.length === 0 ? parts : parts.flatMap((part) => rangesWithout(part, kept))
}

/**
 * What is offered in each broadcast domain, from the lowest VLAN that answers there.
 * @param relayed networks whose relay hears a server
 */
export function leasesOf(
  index: PlanIndex,
  interfaces: readonly ServingInterface[],
  relayed: ReadonlySet<NetworkId>,
): Leases {
  const isAnswered = ({ id, dhcp }: Network) => dhcp === 'serve' || (dhcp === 'relay' && relayed.has(id))
  const leases = new Map<number, Lease>()
  for (const iface of [...interfaces].sort((a, b) => a.vlan - b.vlan)) {
    const network = index.networks.get(iface.networkId)
    if (!network || leases.has(iface.broadcastDomain) || !isAnswered(network)) continue
    const parts = servedRanges(network, iface.prefix)
    if (parts.length === 0) continue
    const lease = { networkId: network.id, prefixLength: iface.prefix.length, gateway: iface.address }
    leases.set(iface.broadcastDomain, { ...lease, ranges: handedOut(network, parts, lease) })
  }
  return leases
}
