// Question: what comes next in a plan: which address, which network, which id?
// Method: the first that is free, in order; nothing that is given already moves.
// Source: common practice (third octet as VLAN number, a /24 for each network); usable addresses as in RFC
// 950.
import {
  contains,
  formatIpv4,
  formatPrefix4,
  gapsIn,
  ipv4,
  parseIpv4,
  parsePrefix4,
  rangePrefixes,
  usable,
  type Prefix4,
} from '#core/address'
import { orNull } from '#core/util'
import { hasTrait, tags } from '#core/queries'
import type {
  Device,
  DeviceId,
  Network,
  NetworkId,
  Plan,
  Port,
  PortMode,
  StaticAssignment,
} from '#core/schema'
import { BLANK_FIXED, BLANK_NETWORK } from './blanks'

/** `stem`, or `stem-2`, `stem-3` and so on: the first that is not taken. */
export function freshId(taken: readonly { readonly id: string }[], stem: string): string {
  const held = new Set(taken.map((item) => item.id))
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`
    if (!held.has(id)) return id
  }
}

/** Every address that is somebody's for good, in whichever network it was typed. */
export const takenAddresses = (plan: Plan): ReadonlySet<string> =>
  new Set(plan.networks.flatMap((network) => [network.gateway, ...network.fixed.map((f) => f.ip)]))

/** The lowest host address of a network that is neither taken nor in its pool; null where there is none. */
export function firstFreeAddress(network: Network, taken: ReadonlySet<string>): string | null {
  const subnet = orNull(parsePrefix4(network.subnet))
  if (!subnet) return null
  const hosts = usable(subnet)
  const from = network.pool && orNull(parseIpv4(network.pool.from))
  const to = network.pool && orNull(parseIpv4(network.pool.to))
  for (let ip: number = hosts.from; ip <= hosts.to; ip++) {
    const pooled = from !== null && to !== null && ip >= from && ip <= to
    if (!pooled && !taken.has(formatIpv4(ipv4(ip)))) return formatIpv4(ipv4(ip))
  }
  return null
}

/** A reservation of the first free address of a network for a device; null where none is free. */
export function reserve(
  home: Network,
  { id: deviceId, name }: Device,
  taken: ReadonlySet<string>,
): StaticAssignment | null {
  const ip = firstFreeAddress(home, taken)
  return ip === null ? null : { id: `fixed-${deviceId}`, ip, name, deviceId, how: 'reserved', ...BLANK_FIXED }
}

/**
 * A reservation by which a device can be named.
 * Null where it has an address for good, is in no network, stands for many, or none is free.
 */
export function reservationFor(
  plan: Plan,
  deviceId: DeviceId,
): { home: NetworkId; made: StaticAssignment } | null {
  const device = plan.devices.find(({ id }) => id === deviceId)
  const home = plan.networks.find(({ id }) => id === device?.homeNetworkId)
  const isKnown = plan.networks.some(({ fixed }) => fixed.some((known) => known.deviceId === deviceId))
  if (!device || !home || isKnown || device.count !== 1) return null
  const made = reserve(home, device, takenAddresses(plan))
  return made && { home: home.id, made: { ...made, id: freshId(home.fixed, made.id) } }
}

/** Longest prefix that is still worth a network of its own: six hosts. */
const SMALLEST = 29

function roomFor(block: Prefix4, taken: readonly Prefix4[]): Prefix4 | null {
  const parts = gapsIn(block, taken)
    .flatMap(rangePrefixes)
    .filter((p) => p.length <= SMALLEST && contains(block, p.base))
  const roomy = parts.find((p) => p.length <= 24) ?? [...parts].sort((a, b) => a.length - b.length)[0]
  return roomy ? { base: roomy.base, length: Math.max(24, roomy.length) } : null
}

/**
 * A network in the first free /24 of the site's block, or its largest smaller gap; null where the block is
 * full or unreadable.
 */
export function proposeNetwork(plan: Plan): Network | null {
  const block = orNull(parsePrefix4(plan.site.supernet))
  const subnet =
    block &&
    roomFor(
      block,
      plan.networks.flatMap((n) => orNull(parsePrefix4(n.subnet)) ?? []),
    )
  if (!subnet) return null
  const inOrder = [(subnet.base >>> 8) & 255, ...Array.from({ length: 4093 }, (_, i) => i + 2)]
  const vlan = inOrder.find((vid) => vid > 1 && !plan.networks.some((n) => n.vlan === vid))
  if (vlan === undefined) return null
  return {
    id: freshId(plan.networks, `vlan-${vlan}`),
    vlan,
    name: `Network ${vlan}`,
    subnet: formatPrefix4(subnet),
    gateway: formatIpv4(usable(subnet).from),
    routerId: plan.devices.find((d) => d.kind === 'gateway')?.id ?? 'gateway',
    dhcp: 'none',
    pool: null,
    expected: 0,
    fixed: [],
    ...BLANK_NETWORK,
  }
}

function modeWith(mode: PortMode, swap: (vid: number) => number): PortMode {
  if (mode.mode === 'access') return { ...mode, vlan: swap(mode.vlan) }
  if (mode.mode !== 'trunk') return mode
  return {
    ...mode,
    native: mode.native === null ? null : swap(mode.native),
    tagged: mode.tagged === 'all' ? 'all' : [...new Set(mode.tagged.map(swap))].sort((a, b) => a - b),
  }
}

/** The plan with another VLAN number for a network, on every port that names the old one too. */
export function renumberVlan(plan: Plan, networkId: NetworkId, to: number): Plan {
  const from = plan.networks.find((n) => n.id === networkId)?.vlan
  if (from === undefined || from === to) return plan
  const names = (mode: PortMode) =>
    mode.mode === 'access'
      ? mode.vlan === from
      : mode.mode === 'trunk' && (mode.native === from || (mode.tagged !== 'all' && tags(mode, from)))
  const renumbered = (port: Port): Port =>
    names(port.mode) ? { ...port, mode: modeWith(port.mode, (vid) => (vid === from ? to : vid)) } : port
  return {
    ...plan,
    networks: plan.networks.map((n) => (n.id === networkId ? { ...n, vlan: to } : n)),
    devices: plan.devices.map((device) =>
      device.ports.some((p) => names(p.mode)) ? { ...device, ports: device.ports.map(renumbered) } : device,
    ),
  }
}

/** The VLAN of an access port, or the first that a trunk names. */
function firstVid(mode: PortMode): number | undefined {
  if (mode.mode === 'access') return mode.vlan
  if (mode.mode !== 'trunk') return undefined
  return mode.native ?? (mode.tagged === 'all' ? undefined : mode.tagged[0])
}

/**
 * What a port becomes when its mode is changed: it keeps the VLAN it had, or takes `fallback` where it had
 * none.
 */
export function turnedInto(
  mode: 'access' | 'trunk' | 'plain' | 'off',
  was: PortMode,
  fallback: number,
): PortMode {
  const vlan = firstVid(was) ?? fallback
  if (mode === 'access') return { mode, vlan }
  return mode === 'trunk' ? { mode, native: vlan, tagged: [] } : { mode }
}

/** The network that a new device of a kind is usually in: hosts in the first, what is managed where most is. */
export function usualHome({ networks, devices }: Plan, kind: Device['kind']): NetworkId | null {
  if (kind === 'hosts') return networks[0]?.id ?? null
  if (!hasTrait({ kind }, 'addressed')) return null
  const managed = devices.filter((device) => hasTrait(device, 'addressed'))
  const shares = networks.map(({ id }) => managed.filter(({ homeNetworkId }) => homeNetworkId === id).length)
  return networks[shares.indexOf(Math.max(...shares))]?.id ?? null
}
