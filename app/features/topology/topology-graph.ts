import { by, groupBy } from '#core/util'
import type { VlanOnLink, VlanGap } from '#core/layer2'
import type { Walk } from '#core/reachability'
import { farEnd, indexPlan, portKey } from '#core/queries'
import { spanOf } from '#core/edit'
import type { Device, Link, Plan, PortRef, DeviceId, LinkId, NetworkId, PortId } from '#core/schema'
import { ASSIGNMENT_WORDS } from '~/wording/kinds'

// What the Loom draws: devices as bars, alike hosts as one label, the cables between two of them as one
// bundle.

export interface TopologyNode {
  readonly id: string
  readonly name: string
  readonly detail: string
  readonly kind: 'bar' | 'hosts'
  readonly failed: boolean
}

/** One VLAN in a bundle. */
export interface VlanThread {
  readonly vlan: number
  readonly networkId: NetworkId
  /** Only one direction arrives: it cannot carry a conversation. */
  readonly oneWay: boolean
  /** Where it stops: at the start of the bundle or at its end; null where it goes through. */
  readonly gap: {
    readonly at: 'from' | 'to'
    readonly port: PortRef
    readonly affected: readonly string[]
  } | null
}

export interface LinkBundle {
  readonly id: string
  /** Device nearer to the internet. */
  readonly from: string
  readonly to: string
  readonly fromPorts: string
  readonly toPorts: string
  readonly links: readonly Link[]
  readonly threads: readonly VlanThread[]
  readonly label: string
  readonly failed: boolean
  readonly air: boolean
}

/** How many devices each is away from the internet's side. */
function depths(plan: Plan): Map<string, number> {
  const index = indexPlan(plan)
  const starts = plan.devices.filter((d) => d.kind === 'cloud')
  const first = starts.length > 0 ? starts : plan.devices.filter((d) => d.kind === 'gateway')
  const depth = new Map(first.map((d) => [d.id, 0]))
  for (const [id, level] of depth) {
    const device = index.devices.get(id)
    for (const port of device?.ports ?? []) {
      const ref = { deviceId: id, portId: port.id }
      for (const link of index.linksAt.get(portKey(ref)) ?? []) {
        const next = farEnd(link, ref).deviceId
        if (!depth.has(next)) depth.set(next, level + 1)
      }
    }
  }
  return depth
}

/** Spans with the dash that reads best. */
const shownSpan = (names: readonly string[]): string => spanOf(names).replaceAll('-', '–')

/** Stations that roam between access points have no one place: the access points name their SSIDs instead. */
function roams(plan: Plan, device: Device): boolean {
  const links = plan.links.filter((l) => l.a.deviceId === device.id || l.b.deviceId === device.id)
  return device.kind === 'hosts' && links.length > 1 && links.every((l) => l.medium.kind === 'wifi')
}
const isDrawn = (plan: Plan, device: Device | undefined): boolean =>
  device !== undefined && device.kind !== 'cloud' && !roams(plan, device)

function nodesOf(plan: Plan, failed: ReadonlySet<string>): TopologyNode[] {
  const ssids = (id: string) =>
    plan.ssids
      .filter((s) => s.apIds.includes(id))
      .map((s) => plan.networks.find((n) => n.id === s.networkId)?.name ?? s.name)
  return plan.devices
    .filter((d) => isDrawn(plan, d))
    .map((device): TopologyNode => {
      const hosts = device.kind === 'hosts'
      return {
        id: device.id,
        kind: hosts ? 'hosts' : 'bar',
        failed: failed.has(device.id),
        name: hosts && device.count > 1 ? `${device.name}, ${device.count}` : device.name,
        detail: hosts
          ? ''
          : [
              device.model || (device.kind === 'unmanaged' ? 'unmanaged' : ''),
              ...(device.kind === 'access-point' ? [`air: ${ssids(device.id).join(', ')}`] : []),
            ]
              .filter((t) => t !== '')
              .join(' · '),
      }
    })
}

function threadsOf(
  plan: Plan,
  links: readonly Link[],
  from: string,
  carriedVlans: readonly VlanOnLink[],
  gaps: readonly VlanGap[],
): VlanThread[] {
  const ids = new Set(links.map((l) => l.id))
  return plan.networks.flatMap((network): VlanThread[] => {
    const here = carriedVlans.filter((c) => ids.has(c.linkId) && c.vlan === network.vlan)
    const gap = gaps.find((k) => ids.has(k.linkId) && k.networkId === network.id)
    if (here.length === 0 && !gap) return []
    const stop = gap && {
      at: gap.port.deviceId === from ? ('from' as const) : ('to' as const),
      port: gap.port,
      affected: gap.affected,
    }
    return [
      {
        vlan: network.vlan,
        networkId: network.id,
        oneWay: !gap && !here.some((c) => c.fromA && c.fromB),
        gap: stop ?? null,
      },
    ]
  })
}

function labelOf(plan: Plan, links: readonly Link[]): string {
  const uplink = plan.uplinks.find((uplink) =>
    links.some((link) =>
      [link.a, link.b].some((ref) => ref.deviceId === uplink.deviceId && ref.portId === uplink.portId),
    ),
  )
  if (uplink) return `${ASSIGNMENT_WORDS[uplink.kind]}${uplink.tag === null ? '' : ` · tag ${uplink.tag}`}`
  const medium = links[0]?.medium
  return medium?.kind === 'radio' ? `radio ${(medium.lengthM / 1000).toLocaleString('en')} km` : ''
}

export interface TopologyGraph {
  readonly nodes: readonly TopologyNode[]
  readonly bundles: readonly LinkBundle[]
}

/** The picture's parts, from the plan and what the engine found to be carried. */
export function topologyGraphOf(
  plan: Plan,
  failed: ReadonlySet<string>,
  carriedVlans: readonly VlanOnLink[],
  gaps: readonly VlanGap[],
): TopologyGraph {
  const devices = new Map(plan.devices.map((d) => [d.id, d]))
  const depth = depths(plan)
  const portName = (ref: PortRef) =>
    devices.get(ref.deviceId)?.ports.find((p) => p.id === ref.portId)?.name ?? ref.portId
  const drawn = plan.links.filter((l) => [l.a, l.b].every((ref) => isDrawn(plan, devices.get(ref.deviceId))))
  const ends = (link: Link): readonly [PortRef, PortRef] =>
    (depth.get(link.a.deviceId) ?? 99) <= (depth.get(link.b.deviceId) ?? 99)
      ? [link.a, link.b]
      : [link.b, link.a]
  const groups = groupBy(drawn, (link) =>
    ends(link)
      .map((ref) => ref.deviceId)
      .join('>'),
  )
  const bundles = [...groups].map(([id, links]): LinkBundle => {
    const pairs = links.map(ends)
    const [near, far] = pairs[0] as readonly [PortRef, PortRef]
    const down = (link: Link) =>
      failed.has(link.id) || [link.a, link.b].some((ref) => failed.has(ref.deviceId))
    return {
      id,
      links,
      from: near.deviceId,
      to: far.deviceId,
      fromPorts: shownSpan(pairs.map(([ref]) => portName(ref))),
      toPorts: shownSpan(pairs.map(([, ref]) => portName(ref))),
      threads: threadsOf(plan, links, near.deviceId, carriedVlans, gaps),
      label: labelOf(plan, links),
      failed: links.every(down),
      air: links.every((l) => l.medium.kind === 'wifi' || l.medium.kind === 'radio'),
    }
  })
  return { nodes: nodesOf(plan, failed), bundles: bundles.sort(by((b) => b.id)) }
}

/** Rows of the port table: every port of the devices that sort or pass frames, in plan order. */
export interface PortRow {
  readonly id: string
  readonly device: Device
  readonly portId: PortId
  readonly link: Link | null
  readonly far: string
}
/** @param hostsId a group of hosts whose sockets are listed as well; those of others are seen from the other end */
export function portRowsOf(plan: Plan, hostsId = ''): PortRow[] {
  const index = indexPlan(plan)
  return plan.devices
    .filter((d) => (d.kind !== 'hosts' || d.id === hostsId) && d.kind !== 'cloud')
    .flatMap((device) =>
      device.ports.flatMap((port): PortRow[] => {
        const ref = { deviceId: device.id, portId: port.id }
        const links = index.linksAt.get(portKey(ref)) ?? []
        if (links.length === 0) return [{ id: portKey(ref), device, portId: port.id, link: null, far: '' }]
        return links.map((link) => {
          const far = farEnd(link, ref)
          const peer = index.devices.get(far.deviceId)
          return {
            id: `${portKey(ref)} ${link.id}`,
            device,
            portId: port.id,
            link,
            far: `${peer?.name ?? far.deviceId} ${peer?.ports.find((p) => p.id === far.portId)?.name ?? ''}`.trim(),
          }
        })
      }),
    )
}

/**
 * A walk as the Loom shows it: numbered steps along bundles, the devices on the way, and where it ends
 * without arriving.
 */
export interface WalkPath {
  /** By bundle: the numbers of the steps over it, each with the direction drawn. */
  readonly steps: ReadonlyMap<
    string,
    readonly { readonly n: number; readonly outward: boolean; readonly back: boolean }[]
  >
  readonly devices: ReadonlySet<string>
  readonly stop:
    { readonly bundleId: string; readonly at: 'from' | 'to' } | { readonly deviceId: DeviceId } | null
}

export function pathOn(graph: TopologyGraph, walk: Walk): WalkPath {
  const bundleOf = (linkId: LinkId) => graph.bundles.find((b) => b.links.some((l) => l.id === linkId))
  const steps = new Map<string, { n: number; outward: boolean; back: boolean }[]>()
  const devices = new Set<string>()
  let stop: WalkPath['stop'] = null
  let level = 0
  let last = ''
  for (const line of walk.lines) {
    if ('deviceId' in line) devices.add((last = line.deviceId))
    if (line.kind === 'hop') {
      devices.add(line.out.deviceId).add((last = line.into.deviceId))
      const bundle = bundleOf(line.linkId)
      if (bundle)
        steps.set(bundle.id, [
          ...(steps.get(bundle.id) ?? []),
          { n: ++level, outward: line.out.deviceId === bundle.from, back: line.back },
        ])
    }
    const bundle = line.kind === 'dropped-at' ? bundleOf(line.linkId) : undefined
    if (bundle && !steps.has(bundle.id)) steps.set(bundle.id, [])
    if (bundle && line.kind === 'dropped-at')
      stop = { bundleId: bundle.id, at: line.port.deviceId === bundle.from ? 'from' : 'to' }
    if (line.kind === 'stopped' && stop === null && last !== '') stop = { deviceId: last }
  }
  return { steps, devices, stop }
}
