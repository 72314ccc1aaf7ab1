// Question: what does a plan say of IPv6, put so that the same traces, rules and matrix can be asked?
// Method: only which prefix lies in which tells addresses apart, so the plan's IPv6 prefixes are laid out
// anew inside 10.0.0.0/8; everything that speaks of IPv4 alone speaks of nothing.
// There is no translation: a network's own uplinks are those whose providers delegate its prefix, and the
// internet can call every host of it.
// Source:
// RFC 4862 (hosts make addresses of the prefix they hear), RFC 4193 (unique local: no way outside), RFC 6177,
// RFC 8504.
import {
  contains,
  contains6,
  formatIpv4,
  formatIpv6,
  formatPrefix4,
  formatPrefix6,
  ipv4,
  lastOf,
  parsePrefix6,
  readInterface6,
  spaceOf6,
  type Ipv4,
  type Prefix4,
  type Prefix6,
} from '#core/address'
import { by, orNull } from '#core/util'
import {
  defineStage,
  uplinksInOrder,
  ipv6PrefixOf,
  expandPairDefaults,
  type IndexedPlan,
  type PlanIndex,
} from '#core/queries'
import type {
  Device,
  StaticAssignment,
  Network,
  Selector,
  Tunnel,
  DeviceId,
  PortForward,
  NetworkId,
  UplinkId,
} from '#core/schema'
import { layOutPrefixes, ROOT } from './ipv6-layout'
import {
  hostPrefix,
  readAll,
  routedFace,
  speaksIpv6,
  spokenPrefixes,
  tunnelFace,
  type Ipv6Parts,
  type SpokenPrefixes,
} from './spoken-prefixes'
import { staticDefaults } from './static-defaults'

/** How the addresses of a projected plan are read. */
export interface Ipv6Projection {
  /**
   * The uplinks by which a host of this address has the internet, first choice first; none where its prefix
   * is nobody's outside.
   */
  uplinksOf(address: Ipv4): readonly string[]
  /** True of an uplink over which some provider delegates a prefix. */
  delegates(uplinkId: UplinkId): boolean
  /** Addresses outside the site, one for each kind of them that rules and intents tell apart. */
  readonly outside: readonly Ipv4[]
  text(address: Ipv4): string
  /**
   * Where an address of an interface or a tunnel, or the first of a peer's prefix, is laid; null for others.
   */
  addressOf(text: string): Ipv4 | null
  prefixText(prefix: Prefix4): string
  /** Of IPv4, by which tunnels are carried: the projected plan has no such routes, and hands nothing inside. */
  readonly staticDefaults: ReadonlyMap<DeviceId, number>
  readonly forwards: readonly PortForward[]
}

/** Somebody outside: 2001:db8:ffff:ffff::7 (RFC 3849). */
const SOMEBODY: Prefix6 = { groups: [0x2001, 0xdb8, 0xffff, 0xffff, 0, 0, 0, 7], length: 128 }
/** Hosts of a network: a gateway and some two hundred others; nothing tells more of them apart. */
const NETWORK_HOSTS = 256
const NONE: readonly never[] = []

const hasRouted = (device: Device): boolean => device.ports.some((port) => port.mode.mode === 'routed')
/** A network's block: what rules tell apart of it comes first, its own hosts stand at the end. */
interface NetworkBlock {
  readonly networkId: NetworkId
  readonly ipv6: Prefix6
  readonly block: Prefix4
  /** First address of its own hosts. */
  readonly own: number
}

/** Where everything is laid. */
interface Layout {
  readonly spoken: SpokenPrefixes
  readonly homes: readonly NetworkBlock[]
  blockOf(prefix: Prefix6): Prefix4
  /** A prefix as the projected plan writes it. */
  textOf(prefix: Prefix6): string
  /** The prefix that a block was made for, as text; null for other blocks. */
  sixOf(block: Prefix4): string | null
}

function layOut(plan: Ipv6Parts, selected: readonly Prefix6[]): Layout | null {
  const spoken = spokenPrefixes(plan, selected)
  const networks = plan.networks.flatMap((network) => {
    const ipv6 = ipv6PrefixOf(network)
    return ipv6 ? [{ networkId: network.id, ipv6 }] : []
  })
  const blocks = layOutPrefixes(
    [
      ...networks.map(({ ipv6 }) => ipv6),
      ...spoken.typed.flatMap(({ address, prefix }) => [address, prefix]),
      ...spoken.inside,
      ...spoken.addresses,
      ...spoken.theirs,
      ...spoken.selected,
      SOMEBODY,
    ],
    new Map(networks.map(({ ipv6 }) => [formatPrefix6(ipv6), NETWORK_HOSTS])),
  )
  if (!blocks) return null
  const blockOf = (prefix: Prefix6): Prefix4 => blocks.get(formatPrefix6(prefix)) ?? ROOT
  const homes = networks.map(({ networkId, ipv6 }): NetworkBlock => {
    const block = blockOf(ipv6)
    return { networkId, ipv6, block, own: lastOf(block) - NETWORK_HOSTS + 1 }
  })
  return {
    spoken,
    homes,
    blockOf,
    textOf: (prefix) => (prefix.length === 0 ? '0.0.0.0/0' : formatPrefix4(blockOf(prefix))),
    sixOf: ({ base, length }) =>
      [...blocks].find(([, block]) => block.base === base && block.length === length)?.[0] ?? null,
  }
}

const faceText = ({ blockOf }: Layout, iface: ReturnType<typeof readInterface6>): string =>
  iface ? `${formatIpv4(blockOf(iface.address).base)}/${blockOf(iface.prefix).length}` : ''

/** What has no prefix has no address: nothing there can be read. */
const withoutSix = (network: Network): Network => ({
  ...network,
  subnet: '',
  gateway: '',
  dhcp: 'none',
  relayTo: null,
  pool: null,
  exclusions: [],
  fixed: [],
})

function projectNetwork(layout: Layout, network: Network): Network {
  const { spoken, blockOf } = layout
  const home = layout.homes.find(({ networkId }) => networkId === network.id)
  if (!home) return withoutSix(network)
  const own = spoken.typed.filter((typed) => typed.networkId === network.id)
  // Of a device with a typed address all entries stay: the n-th is its n-th port's.
  // What is not typed makes its own.
  const fixed = network.fixed
    .filter((entry) => own.some((typed) => typed.fixed.deviceId === entry.deviceId))
    .map((entry): StaticAssignment => {
      const typed = own.find((one) => one.fixed === entry)
      if (!typed) return { ...entry, ip: '', how: 'reserved' }
      const mask = contains6(home.ipv6, typed.address) ? null : blockOf(typed.prefix).length
      return { ...entry, ip: formatIpv4(blockOf(typed.address).base), gateway: null, mask }
    })
  const taken = fixed.filter((entry) => entry.ip !== '').map((entry) => ({ from: entry.ip, to: entry.ip }))
  const router = formatIpv4(ipv4(home.own + 1))
  return {
    ...network,
    subnet: formatPrefix4(home.block),
    gateway: router,
    dhcp: 'serve',
    relayTo: null,
    pool: { from: formatIpv4(home.block.base), to: formatIpv4(ipv4(home.own + NETWORK_HOSTS - 2)) },
    exclusions: [{ from: formatIpv4(ipv4(home.own)), to: router }, ...taken],
    fixed,
  }
}

const projectDevice = (layout: Layout, device: Device): Device =>
  hasRouted(device)
    ? {
        ...device,
        ports: device.ports.map((port) =>
          port.mode.mode === 'routed'
            ? {
                ...port,
                mode: { mode: 'routed', address: faceText(layout, routedFace(port)), address6: null },
              }
            : port,
        ),
      }
    : device

function projectTunnel(layout: Layout, tunnel: Tunnel): Tunnel[] {
  const iface = tunnelFace(tunnel)
  if (!iface) return []
  const peers = tunnel.peers.map((peer) => ({
    ...peer,
    allowed: readAll(peer.allowed).map(layout.textOf),
    theirAllowed: readAll(peer.theirAllowed).map(layout.textOf),
  }))
  return [{ ...tunnel, mapped: [], address: faceText(layout, iface), peers }]
}

/** What a layout says of addresses. */
function makeProjection(
  plan: Ipv6Parts,
  { spoken, homes, blockOf, sixOf }: Layout,
): Omit<Ipv6Projection, 'staticDefaults' | 'forwards'> {
  const delegated = uplinksInOrder(plan).flatMap((uplink) => {
    const prefix = uplink.facts.delegated6 === null ? null : orNull(parsePrefix6(uplink.facts.delegated6))
    return prefix ? [{ id: uplink.id, prefix }] : []
  })
  /**
   * Everything inside and beyond tunnels, the narrowest first, with the uplinks whose providers brought it.
   */
  const zones = [...homes.map((home) => home.ipv6), ...spoken.inside]
    .map((ipv6) => ({
      block: blockOf(ipv6),
      length: ipv6.length,
      uplinks: delegated.filter((d) => contains6(d.prefix, ipv6)).map((d) => d.id),
    }))
    .sort(by((zone) => -zone.length))
  const zoneOf = (address: Ipv4) => zones.find((zone) => contains(zone.block, address))
  const narrowestFirst = [
    SOMEBODY,
    ...spoken.typed.map((typed) => typed.address),
    ...spoken.addresses,
    ...spoken.inside,
    ...spoken.theirs,
    ...spoken.selected,
  ].sort(by((prefix) => -prefix.length))
  // The last address of a prefix's block is in none of its children.
  const outside = [
    SOMEBODY,
    ...spoken.selected.filter((prefix) => ['global', 'documentation'].includes(spaceOf6(prefix))),
  ]
    .map((prefix) => lastOf(blockOf(prefix)))
    .filter((address) => !zoneOf(address))
  return {
    uplinksOf: (address) => zoneOf(address)?.uplinks ?? NONE,
    delegates: (uplinkId) => delegated.some((d) => d.id === uplinkId),
    outside: [...new Set(outside)],
    text: (address) => {
      const home = homes.find(({ block }) => contains(block, address))
      if (home && address >= home.own)
        return formatIpv6([...home.ipv6.groups.slice(0, 7), address - home.own])
      // Of what rules and routes tell apart, the prefix that tells it.
      const around = narrowestFirst.find((prefix) => contains(blockOf(prefix), address)) ?? SOMEBODY
      return around.length === 128 ? formatIpv6(around.groups) : `in ${formatPrefix6(around)}`
    },
    addressOf: (text) => {
      const one = hostPrefix(text)
      const around = one && narrowestFirst.find((prefix) => contains6(prefix, one))
      return around && around !== SOMEBODY ? blockOf(around).base : null
    },
    prefixText: (prefix) => (prefix.length === 0 ? '::/0' : (sixOf(prefix) ?? formatPrefix4(prefix))),
  }
}

const prefixIn = (selector: Selector): Prefix6 | null =>
  selector.kind === 'prefix' ? orNull(parsePrefix6(selector.prefix)) : null

/** IPv6 prefixes that rules, intents and groups speak of. */
const selectedPrefixes = defineStage(
  'selected IPv6 prefixes',
  ({ plan }): readonly Prefix6[] => {
    const pairs = [...plan.policies.flatMap((policy) => expandPairDefaults(policy).rules), ...plan.intents]
    const selectors = [
      ...pairs.flatMap(({ from, to }) => [from, to]),
      ...plan.groups.flatMap((group) => group.members),
    ]
    return selectors.flatMap((selector) => prefixIn(selector) ?? [])
  },
  { equal: (a, b) => a.map(formatPrefix6).join() === b.map(formatPrefix6).join() },
)

/**
 * All but the rules, intents and groups themselves; null where no network speaks IPv6, or too many prefixes
 * are named.
 */
const projectedParts = defineStage('projected parts', (index) => {
  const { networks, uplinks, devices, tunnels, routes, forwards } = index.plan
  if (!networks.some(speaksIpv6)) return null
  const plan = { networks, uplinks, devices, tunnels, routes }
  const layout = layOut(plan, index.get(selectedPrefixes))
  return (
    layout && {
      layout,
      projection: { ...makeProjection(plan, layout), staticDefaults: staticDefaults(index), forwards },
      networks: networks.map((network) => projectNetwork(layout, network)),
      devices: devices.some(hasRouted) ? devices.map((device) => projectDevice(layout, device)) : devices,
      tunnels: tunnels.flatMap((tunnel) => projectTunnel(layout, tunnel)),
      routes: routes.flatMap((route) => {
        const [prefix, via] = [orNull(parsePrefix6(route.prefix)), hostPrefix(route.via)]
        if (!prefix || !via) return []
        return [{ ...route, prefix: layout.textOf(prefix), via: formatIpv4(layout.blockOf(via).base) }]
      }),
    }
  )
})

/** How selectors are written in the projected plan. */
const projectedSelectors = defineStage('projected selectors', (index) => {
  const parts = index.get(projectedParts)
  const selector = <S extends Selector>(
    selector: S,
  ): S | { readonly kind: 'prefix'; readonly prefix: string } => {
    if (selector.kind !== 'prefix') return selector
    const prefix = prefixIn(selector)
    // A rule for an IPv4 prefix meets no IPv6 packet.
    return { kind: 'prefix', prefix: prefix && parts ? parts.layout.textOf(prefix) : '' }
  }
  const ends = <T extends { readonly from: Selector; readonly to: Selector }>(item: T): T => ({
    ...item,
    from: selector(item.from),
    to: selector(item.to),
  })
  return { selector, ends }
})

const projectedPolicies = defineStage('projected policies', (index) => {
  const { ends } = index.get(projectedSelectors)
  return index.plan.policies.map((policy) => ({
    ...policy,
    rules: policy.rules.map(ends),
    pairs: policy.pairs.map(ends),
  }))
})
const projectedIntents = defineStage('projected intents', (index) =>
  index.plan.intents.map(index.get(projectedSelectors).ends),
)
const projectedGroups = defineStage('projected groups', (index) =>
  index.plan.groups.map((group) => ({
    ...group,
    members: group.members.map(index.get(projectedSelectors).selector),
  })),
)

const ipv6Projection = defineStage('IPv6 projection', (index) => {
  const parts = index.get(projectedParts)
  if (!parts) return null
  const { projection, networks, devices, tunnels, routes } = parts
  const plan: IndexedPlan = {
    ...index.plan,
    networks,
    devices,
    tunnels,
    routes,
    groups: index.get(projectedGroups),
    policies: index.get(projectedPolicies),
    intents: index.get(projectedIntents),
    policyRoutes: NONE,
    forwards: NONE,
    projection,
  }
  return { ...projection, plan }
})

/**
 * A plan's IPv6 side as another plan, and how to read its addresses; null where it has none, or more prefixes
 * than can be laid out.
 */
export const ipv6ProjectionOf = (
  index: PlanIndex,
): (Ipv6Projection & { readonly plan: IndexedPlan }) | null => index.get(ipv6Projection)

/** How to read the addresses of a projected plan; null for a plan that stands for itself. */
export const projectionIn = ({ projection }: IndexedPlan): Ipv6Projection | null =>
  (projection as Ipv6Projection | undefined) ?? null
