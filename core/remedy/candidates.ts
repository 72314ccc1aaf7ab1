// Question: which single entry of a plan could be what keeps a flow from passing?
// Method: the flow is walked to where it ends; what decides there says which entries may be changed, and how.
// Source: the plan's own semantics; which repair a practitioner tries for which stop is common practice,
// without a source.
import { parseIpv4 } from '#core/address'
import { orNull } from '#core/util'
import { trunkProposals } from '#core/layer2'
import {
  cableAt,
  canBeCalled,
  endAt,
  findPort,
  freshId,
  isVlanAware,
  uplinksInOrder,
  portKey,
  selectorKey,
  tags,
  vidsOf,
  type Intent,
  type Link,
  type Plan,
  type PortMode,
  type PortRef,
  type Rule,
} from '#core/model'
import type { Site, Walk, WalkLine } from '#core/reachability'

export type RemedyCode =
  | 'add-rule'
  | 'widen-rule'
  | 'move-rule'
  | 'remove-rule'
  | 'carry-vlan'
  | 'carry-along'
  | 'access-port'
  | 'same-native'
  | 'swap-ports'
  | 'swap-cables'
  | 'move-cable'
  | 'own-gateway'
  | 'own-mask'
  | 'serve-dhcp'
  | 'ssid-network'
  | 'end-isolation'
  | 'take-next-line'
  | 'allow-prefix'
  | 'forward-port'

/** A plan with one thing changed that may let a flow pass. */
export interface Candidate {
  readonly code: RemedyCode
  /** Ids and numbers that its words need. */
  readonly values: Readonly<Record<string, string | number>>
  readonly after: Plan
}

const swap = <T extends { readonly id: string }>(
  items: readonly T[],
  id: string,
  change: (item: T) => T,
): T[] => items.map((item) => (item.id === id ? change(item) : item))

function ruleCandidates(plan: Plan, intent: Intent, line: WalkLine & { kind: 'rule' }): Candidate[] {
  const policy = plan.policies.find((p) => p.deviceId === line.deviceId)
  if (!policy) return []
  const withRules = (rules: readonly Rule[]): Plan => ({
    ...plan,
    policies: plan.policies.map((p) => (p === policy ? { ...p, rules } : p)),
  })
  // What no rule of the list decides, a default of all or of a pair, is decided after it.
  const found = policy.rules.findIndex((r) => r.id === line.ruleId)
  const at = found === -1 ? policy.rules.length : found
  const own: Rule = {
    id: freshId(policy.rules, 'added'),
    chain: line.chain,
    action: 'accept',
    from: intent.from,
    to: intent.to,
    services: intent.services,
    note: intent.note,
    log: false,
    when: intent.when,
  }
  const values = { device: line.deviceId, number: at + 1 }
  const alike = policy.rules.filter(
    (rule) =>
      rule.action === 'accept' &&
      rule.chain === line.chain &&
      rule.services.length > 0 &&
      selectorKey(rule.from) === selectorKey(intent.from) &&
      selectorKey(rule.to) === selectorKey(intent.to),
  )
  const below = policy.rules.slice(at + 1).filter((r) => r.action === 'accept' && r.chain === line.chain)
  return [
    ...alike.map((rule): Candidate => ({
      code: 'widen-rule',
      values: { ...values, number: policy.rules.indexOf(rule) + 1 },
      after: withRules(
        swap(policy.rules, rule.id, (rule) => ({
          ...rule,
          services: intent.services.length === 0 ? [] : [...new Set([...rule.services, ...intent.services])],
        })),
      ),
    })),
    {
      code: 'add-rule',
      values,
      after: withRules([...policy.rules.slice(0, at), own, ...policy.rules.slice(at)]),
    },
    ...below.map((rule): Candidate => ({
      code: 'move-rule',
      values: { ...values, from: policy.rules.indexOf(rule) + 1 },
      after: withRules([
        ...policy.rules.slice(0, at),
        rule,
        ...policy.rules.slice(at).filter((r) => r !== rule),
      ]),
    })),
    ...(found === -1
      ? []
      : [
          {
            code: 'remove-rule' as const,
            values,
            after: withRules(policy.rules.filter((r) => r.id !== line.ruleId)),
          },
        ]),
  ]
}

const withMode = (plan: Plan, ref: PortRef, mode: PortMode): Plan => ({
  ...plan,
  devices: swap(plan.devices, ref.deviceId, (device) => ({
    ...device,
    ports: swap(device.ports, ref.portId, (p) => ({ ...p, mode })),
  })),
})
const carrying = (mode: PortMode, vlan: number): PortMode | null =>
  mode.mode === 'trunk' && mode.tagged !== 'all' && !mode.tagged.includes(vlan) && mode.native !== vlan
    ? { ...mode, tagged: [...mode.tagged, vlan].sort((a, b) => a - b) }
    : null

/** Native VLANs that differ at the ends of a cable, made alike from either end. */
function nativeCandidates(site: Site): Candidate[] {
  const { plan, index } = site
  return plan.links.flatMap((link) =>
    [
      [link.a, link.b],
      [link.b, link.a],
    ].flatMap(([ref, far]): Candidate[] => {
      const [own, other] = [ref && findPort(index, ref)?.mode, far && findPort(index, far)?.mode]
      if (!ref || own?.mode !== 'trunk' || other?.mode !== 'trunk' || own.native === other.native) return []
      const tagged =
        own.tagged === 'all'
          ? own.tagged
          : [...own.tagged, ...(own.native === null ? [] : [own.native])]
              .filter((v, i, all) => v !== other.native && all.indexOf(v) === i)
              .sort((a, b) => a - b)
      return [
        {
          code: 'same-native',
          values: { device: ref.deviceId, port: ref.portId, vlan: other.native ?? 0 },
          after: withMode(plan, ref, { ...own, native: other.native, tagged }),
        },
      ]
    }),
  )
}

const carriesAny = (mode: PortMode, vlans: readonly number[]): boolean =>
  vlans.some((v) => tags(mode, v) || vidsOf(mode).includes(v))

/** Two cabled ports of one device, one of which is in question, with each other's modes. */
function swapCandidates(site: Site, suspects: readonly PortRef[], vlans: readonly number[]): Candidate[] {
  const { plan, index } = site
  return suspects.flatMap((ref) => {
    const device = index.devices.get(ref.deviceId)
    const own = findPort(index, ref)
    if (!device || !own || !isVlanAware(device)) return []
    return device.ports
      .filter(
        (port) =>
          port.id !== own.id &&
          index.linksAt.has(portKey({ deviceId: device.id, portId: port.id })) &&
          carriesAny(port.mode, vlans) &&
          JSON.stringify(port.mode) !== JSON.stringify(own.mode),
      )
      .map((port): Candidate => ({
        code: 'swap-ports',
        values: { device: device.id, port: own.id, other: port.id },
        after: withMode(withMode(plan, ref, port.mode), { deviceId: device.id, portId: port.id }, own.mode),
      }))
  })
}

/**
 * A cable in question, in a free port of its device that carries what is wanted; or in each other's port with
 * another, where one of the two is a line's, whose mode says nothing without it.
 */
function cableCandidates(site: Site, suspects: readonly PortRef[], vlans: readonly number[]): Candidate[] {
  const { plan, index } = site
  const moved = (links: readonly Link[], link: Link, from: PortRef, to: PortRef) =>
    swap(links, link.id, (l) => ({ ...l, [endAt(link, from)]: to }))
  return suspects.flatMap((ref) => {
    const [device, own, cable] = [index.devices.get(ref.deviceId), findPort(index, ref), cableAt(index, ref)]
    if (!device || !own || !cable || !isVlanAware(device)) return []
    const others = device.ports
      .filter((p) => p.id !== own.id && JSON.stringify(p.mode) !== JSON.stringify(own.mode))
      .map((port) => ({ port, at: { deviceId: device.id, portId: port.id } }))
    const values = (other: string) => ({ device: device.id, port: own.id, other })
    const free = new Map(
      others
        .filter(({ port, at }) => !index.linksAt.has(portKey(at)) && carriesAny(port.mode, vlans))
        .map((o) => [JSON.stringify(o.port.mode), o]),
    )
    return [
      ...[...free.values()].map(({ port, at }): Candidate => ({
        code: 'move-cable',
        values: values(port.id),
        after: { ...plan, links: moved(plan.links, cable, ref, at) },
      })),
      ...others.flatMap(({ port, at }): Candidate[] => {
        const theirs = own.mode.mode === 'wan' || port.mode.mode === 'wan' ? cableAt(index, at) : null
        return theirs
          ? [
              {
                code: 'swap-cables',
                values: values(port.id),
                after: { ...plan, links: moved(moved(plan.links, cable, ref, at), theirs, at, ref) },
              },
            ]
          : []
      }),
    ]
  })
}

/** The ports at both ends of some devices' cables; those that sort no frames change nothing. */
const around = (site: Site, deviceIds: readonly string[]): PortRef[] =>
  site.plan.links.flatMap((link) =>
    [link.a, link.b].some((ref) => deviceIds.includes(ref.deviceId)) ? [link.a, link.b] : [],
  )

/** Ports that drop the VLANs of either end: one alone, or all on the way at once. */
function portCandidates(site: Site, vlans: readonly number[], dropped: readonly PortRef[]): Candidate[] {
  const { plan } = site
  const proposals = trunkProposals(site.index, site.layer2.failed)
  return vlans.flatMap((vlan): Candidate[] => {
    const short = proposals.filter((p) => p.add.includes(vlan)).map((p) => p.port)
    const one = [...dropped, ...short].flatMap((ref): Candidate[] => {
      const mode = findPort(site.index, ref)?.mode
      if (!mode) return []
      const tagged = carrying(mode, vlan)
      const values = { device: ref.deviceId, port: ref.portId, vlan }
      if (tagged) return [{ code: 'carry-vlan', values, after: withMode(plan, ref, tagged) }]
      const moved = mode.mode === 'off' || (mode.mode === 'access' && mode.vlan !== vlan)
      return moved
        ? [{ code: 'access-port', values, after: withMode(plan, ref, { mode: 'access', vlan }) }]
        : []
    })
    const along = short.reduce((now, ref) => {
      const mode = findPort(site.index, ref)?.mode
      const tagged = mode && carrying(mode, vlan)
      return tagged ? withMode(now, ref, tagged) : now
    }, plan)
    return [
      ...one,
      ...(short.length > 1
        ? [{ code: 'carry-along' as const, values: { vlan, count: short.length }, after: along }]
        : []),
    ]
  })
}

function addressCandidates(plan: Plan, deviceIds: readonly string[]): Candidate[] {
  return plan.networks.flatMap((network) => {
    const typed = network.fixed.filter(
      (f) => f.how === 'static' && f.deviceId !== null && deviceIds.includes(f.deviceId),
    )
    const change = (code: RemedyCode, field: 'gateway' | 'mask') =>
      typed
        .filter((f) => f[field] !== null)
        .map((assignment): Candidate => ({
          code,
          values: { device: assignment.deviceId ?? '', network: network.id },
          after: {
            ...plan,
            networks: swap(plan.networks, network.id, (network) => ({
              ...network,
              fixed: swap(network.fixed, assignment.id, (x) => ({ ...x, [field]: null })),
            })),
          },
        }))
    return [...change('own-gateway', 'gateway'), ...change('own-mask', 'mask')]
  })
}

/** What is not heard: DHCP that is off, an SSID that leads elsewhere, stations kept apart. */
function hostCandidates(plan: Plan, deviceIds: readonly string[]): Candidate[] {
  const homes = new Set(plan.devices.filter((d) => deviceIds.includes(d.id)).map((d) => d.wants))
  const dhcp = plan.networks
    .filter((n) => homes.has(n.id) && n.dhcp === 'none' && n.pool !== null)
    .map((network): Candidate => ({
      code: 'serve-dhcp',
      values: { network: network.id },
      after: { ...plan, networks: swap(plan.networks, network.id, (x) => ({ ...x, dhcp: 'serve' })) },
    }))
  const ssids = plan.links.flatMap((link) =>
    link.medium.kind === 'wifi' && [link.a, link.b].some((ref) => deviceIds.includes(ref.deviceId))
      ? [link.medium.ssidId]
      : [],
  )
  const air = plan.ssids
    .filter((s) => ssids.includes(s.id))
    .flatMap((ssid): Candidate[] => {
      const change = (
        code: RemedyCode,
        values: Candidate['values'],
        part: Partial<typeof ssid>,
      ): Candidate => ({
        code,
        values: { ssid: ssid.id, ...values },
        after: { ...plan, ssids: swap(plan.ssids, ssid.id, (x) => ({ ...x, ...part })) },
      })
      const moves = [...homes].flatMap((home) =>
        home !== null && home !== ssid.networkId
          ? [change('ssid-network', { network: home }, { networkId: home })]
          : [],
      )
      return [...moves, ...(ssid.isolation ? [change('end-isolation', {}, { isolation: false })] : [])]
    })
  return [...dhcp, ...air]
}

function wayCandidates(site: Site, intent: Intent, walk: Walk): Candidate[] {
  const { plan } = site
  const networkOf = (id: string) =>
    plan.networks.find((n) => n.id === site.endpoints.find((e) => e.id === id)?.networkId)
  return walk.lines.flatMap((line): Candidate[] => {
    if (line.kind === 'chosen' && line.exit === null) {
      return [
        {
          code: 'take-next-line',
          values: { policyRoute: line.policyRouteId },
          after: {
            ...plan,
            policyRoutes: swap(plan.policyRoutes, line.policyRouteId, (r) => ({ ...r, orElse: 'next' })),
          },
        },
      ]
    }
    if (line.kind === 'tunnel') {
      const network = networkOf(line.inward ? walk.flow.to : walk.flow.from)
      const peer = plan.tunnels.find((t) => t.id === line.tunnelId)?.peers.find((p) => p.id === line.peerId)
      if (!network || !peer || peer.theirAllowed.includes(network.subnet)) return []
      const peers = (list: Plan['tunnels'][number]['peers']) =>
        swap(list, peer.id, (p) => ({ ...p, theirAllowed: [...p.theirAllowed, network.subnet] }))
      return [
        {
          code: 'allow-prefix',
          values: { peer: peer.id, prefix: network.subnet },
          after: {
            ...plan,
            tunnels: swap(plan.tunnels, line.tunnelId, (t) => ({ ...t, peers: peers(t.peers) })),
          },
        },
      ]
    }
    if (
      line.kind === 'stopped' &&
      line.code === 'not-addressable' &&
      intent.to.kind === 'device' &&
      walk.flow.proto !== 'icmp'
    ) {
      const network = networkOf(walk.flow.to)
      const address = network?.fixed.find(
        (f) => f.deviceId === (intent.to.kind === 'device' ? intent.to.id : ''),
      )?.ip
      const uplink = uplinksInOrder(plan).find((u) => u.deviceId === network?.routerId && canBeCalled(u))
      if (!uplink || address === undefined || orNull(parseIpv4(address)) === null) return []
      const entries = intent.services
        .flatMap((id) => site.index.services.get(id)?.entries ?? [])
        .filter((e) => e.proto === walk.flow.proto && e.from <= walk.flow.port && walk.flow.port <= e.to)
      return entries.slice(0, 1).map((entry) => ({
        code: 'forward-port' as const,
        values: { line: uplink.id, proto: entry.proto, port: entry.from, to: address },
        after: {
          ...plan,
          forwards: [
            ...plan.forwards,
            {
              id: freshId(plan.forwards, 'forward'),
              deviceId: uplink.deviceId,
              uplinkId: uplink.id,
              proto: entry.proto as 'tcp' | 'udp',
              from: entry.from,
              to: entry.to,
              toAddress: address,
              toPort: entry.from,
              hairpin: false,
              note: intent.note,
            },
          ],
        },
      }))
    }
    return []
  })
}

/**
 * Everything that might let an intent's flow pass, going by where its walk ends.
 * `walk`: of a flow that the intent asks for and that does not pass.
 */
export function candidatesFor(site: Site, intent: Intent, walk: Walk): Candidate[] {
  const { plan, endpoints } = site
  const ends = [walk.flow.from, walk.flow.to].flatMap((id) => endpoints.find((e) => e.id === id) ?? [])
  const deviceIds = ends.map((e) => e.deviceId)
  const vlans = [...new Set(ends.flatMap((e) => plan.networks.find((n) => n.id === e.wants)?.vlan ?? []))]
  const refused = walk.lines.filter(
    (l): l is WalkLine & { kind: 'rule' } => l.kind === 'rule' && l.action !== 'accept',
  )
  const dropped = walk.lines.flatMap((l) => (l.kind === 'dropped-at' ? [l.port] : []))
  const suspects = [...dropped, ...around(site, deviceIds)].filter(
    (ref, i, all) => all.findIndex((r) => portKey(r) === portKey(ref)) === i,
  )
  const lines = plan.uplinks.map((u): PortRef => ({ deviceId: u.deviceId, portId: u.portId }))
  const stopped = walk.lines.some((l) => l.kind === 'stopped' && l.code !== 'rule')
  return [
    ...refused.flatMap((line) => ruleCandidates(plan, intent, line)),
    ...(stopped
      ? [
          ...portCandidates(site, vlans, suspects),
          ...nativeCandidates(site),
          ...swapCandidates(site, suspects, vlans),
          ...cableCandidates(site, [...suspects, ...lines], vlans),
          ...addressCandidates(plan, deviceIds),
          ...hostCandidates(plan, deviceIds),
        ]
      : []),
    ...wayCandidates(site, intent, walk),
  ]
}
