// Question: of which sides of a packet does a selector speak?
// Method: by the interface a packet uses, by the prefixes that name its address, or by both.
// Source: as any packet filter matches (nft(8), iifname and saddr).
import {
  contains,
  parseIpv4,
  parsePrefix4,
  readPrefixes4,
  type Ipv4,
  type Prefix4,
  networkOf,
} from '#core/address'
import { orNull } from '#core/util'
import { defineStage, membersOf, type PlanIndex } from '#core/queries'
import type { Selector, DeviceId, TunnelId } from '#core/schema'

/** The `via` of a tunnel's interface. */
export const tunnelInterface = (tunnelId: TunnelId): string => `tunnel:${tunnelId}`

/** One side of a packet at a gateway: the interface it uses and its address. */
export interface PacketEnd {
  /** Network id, `uplink`, `tunnel:` with a tunnel's id, or `self` for the gateway's own sockets. */
  readonly via: string
  readonly address: Ipv4
}

export type Matcher = (side: PacketEnd) => boolean

const addressesByDevice = defineStage(
  'addresses by device',
  ({ plan }): ReadonlyMap<string, readonly Ipv4[]> => {
    const known = new Map<string, Ipv4[]>()
    for (const { deviceId, ip } of plan.networks.flatMap((n) => n.fixed)) {
      const parsed = deviceId === null ? null : parseIpv4(ip)
      if (deviceId !== null && parsed?.ok) known.set(deviceId, [...(known.get(deviceId) ?? []), parsed.value])
    }
    return known
  },
)

/** Devices that selectors name, at most, before their addresses are looked up anew. */
const NAMED_DEVICES = 5000
const addressesOfDevice = defineStage(
  'addresses of a device',
  (index, deviceId: DeviceId): readonly Ipv4[] => index.get(addressesByDevice).get(deviceId) ?? [],
  { equal: (a, b) => a.join() === b.join(), keys: NAMED_DEVICES },
)
/** Addresses that belong to a device for good. */
export const fixedAddresses = (index: PlanIndex, deviceId: DeviceId): readonly Ipv4[] =>
  index.get(addressesOfDevice, deviceId)

type Told<K extends Selector['kind']> = Extract<Selector, { readonly kind: K }>
/** The one interface that a selector speaks of. */
export function interfaceNamed(selector: Told<'network' | 'internet' | 'gateway' | 'tunnel'>): string {
  switch (selector.kind) {
    case 'network':
      return selector.id
    case 'internet':
      return 'uplink'
    case 'gateway':
      return 'self'
    case 'tunnel':
      return tunnelInterface(selector.id)
  }
}

/** A test for whether a selector speaks of a side. */
export function matcherOf(index: PlanIndex, selector: Selector): Matcher {
  switch (selector.kind) {
    case 'any':
      return () => true
    case 'inside': {
      const networks = index.networkHeads
      return (side) => networks.has(side.via)
    }
    case 'network':
    case 'internet':
    case 'gateway':
    case 'tunnel': {
      const via = interfaceNamed(selector)
      return (side) => side.via === via
    }
    case 'device': {
      const own = new Set(fixedAddresses(index, selector.id))
      return (side) => own.has(side.address)
    }
    case 'prefix': {
      const prefix = orNull(parsePrefix4(selector.prefix))
      return prefix ? (side) => contains(prefix, side.address) : () => false
    }
    case 'group': {
      const members = membersOf(index, selector).map((m) => matcherOf(index, m))
      return (side) => members.some((speaks) => speaks(side))
    }
    case 'peer': {
      const tunnel = index.plan.tunnels.find((t) => t.peers.some((p) => p.id === selector.id))
      const own = readPrefixes4(tunnel?.peers.find((p) => p.id === selector.id)?.allowed ?? [])
      return (side) =>
        tunnel !== undefined &&
        side.via === tunnelInterface(tunnel.id) &&
        own.some((prefix) => contains(prefix, side.address))
    }
  }
}

const alone = (address: Ipv4): Prefix4 => ({ base: address, length: 32 })
export const readAt = (text: string, length: number): Prefix4[] =>
  [parseIpv4(text)].flatMap((read) => (read.ok ? [{ base: networkOf(read.value, length), length }] : []))
export function prefixesIn(index: PlanIndex, selector: Selector): Prefix4[] {
  if (selector.kind === 'group') return membersOf(index, selector).flatMap((m) => prefixesIn(index, m))
  if (selector.kind === 'prefix') {
    const prefix = orNull(parsePrefix4(selector.prefix))
    return prefix ? [prefix] : []
  }
  return selector.kind === 'device' ? fixedAddresses(index, selector.id).map(alone) : []
}
export const prefixName = (p: Prefix4): number => p.base * 64 + p.length
export function distinct(list: readonly Prefix4[]): Prefix4[] {
  const seen = new Set<number>()
  return list.filter((p) => seen.size < seen.add(prefixName(p)).size)
}
