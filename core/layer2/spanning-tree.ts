// Question: which bridge is the root, and which ports do the bridges block?
// Method: devices that speak the protocol are bridges; whatever passes frames without speaking it joins its
// cables into one segment, as the bridges see it.
// Root, root ports, designated ports by priority vectors; the rest is blocked.
// Source:
// IEEE 802.1D-2004 clause 17 (RSTP): bridge identifier, path costs of table 17-3, one tree for all VLANs.
import { by, byText, groupBy } from '#core/util'
import { linkSpeed } from '#core/cabling'
import {
  defineStage,
  endsOf,
  findPort,
  hasTrait,
  isVlanAware,
  modelOf,
  portKey,
  type PlanIndex,
} from '#core/queries'
import type { Device, Link, PortRef } from '#core/schema'
import { ingressVid, UNTAGGED } from './tagging'

export const DEFAULT_PRIORITY = 32_768
const LONG_COST = 20_000_000_000
/** Taken where nothing is known of a link: 1 Gb/s. */
const ASSUMED_MBPS = 1000

export interface SpanningTree {
  /** Null where no device speaks the protocol. */
  readonly rootId: string | null
  readonly blocked: readonly PortRef[]
}

/** Path cost of a speed, table 17-3. Worked: 100 Mb/s -> 200,000; 1 Gb/s -> 20,000; 10 Gb/s -> 2,000. */
export function pathCost(mbps: number): number {
  return Math.max(1, Math.min(200_000_000, Math.floor(LONG_COST / (mbps * 1000))))
}

/**
 * True for a device that speaks the spanning tree protocol: managed switches, and what its model says does.
 */
export function runsStp(index: PlanIndex, device: Device): boolean {
  return modelOf(index, device.model)?.stp ?? device.kind === 'switch'
}

/** The bundle of a link between two devices; its own name where it is a cable by itself. */
export const bundleName = (link: Link): string =>
  link.lag === null
    ? `link ${link.id}`
    : `lag ${link.lag} ${endsOf(link)
        .map(({ deviceId }) => deviceId)
        .sort(byText)
        .join(' ')}`

interface Edge {
  readonly link: Link
  readonly members: readonly Link[]
  readonly ends: readonly [PortRef, PortRef]
  readonly cost: number
}

/**
 * Cables between devices that forward frames, while all is well.
 * A bundle of links is one edge, at its first member.
 */
const edgesWhenWell = defineStage('spanning tree edges', (index): readonly Edge[] => {
  const forwarding = index.plan.links.filter(
    (link) =>
      link.medium.kind !== 'wifi' &&
      link.medium.kind !== 'line' &&
      endsOf(link).every((ref) => {
        const device = index.devices.get(ref.deviceId)
        const mode = findPort(index, ref)?.mode.mode
        return (
          device &&
          hasTrait(device, 'forwards') &&
          mode !== undefined &&
          mode !== 'off' &&
          mode !== 'wan' &&
          mode !== 'routed'
        )
      }),
  )
  const groups = groupBy(forwarding, bundleName)
  return [...groups.values()].flatMap((members) => edgeOf(index, members))
})

function edgeOf(index: PlanIndex, members: readonly Link[]): Edge[] {
  const link = members[0]
  if (!link) return []
  const mbps = members.reduce((sum, m) => sum + (linkSpeed(index, m).mbps ?? ASSUMED_MBPS), 0)
  return [{ link, members, ends: endsOf(link), cost: pathCost(mbps) }]
}

/** What of them is left under a failure scenario. */
function edgesOf(index: PlanIndex, failed: ReadonlySet<string>): readonly Edge[] {
  const stands = (link: Link) =>
    !failed.has(link.id) && !failed.has(link.a.deviceId) && !failed.has(link.b.deviceId)
  const edges = index.get(edgesWhenWell)
  if (failed.size === 0) return edges
  return edges.flatMap((edge) =>
    edge.members.every(stands) ? edge : edgeOf(index, edge.members.filter(stands)),
  )
}

/** Joins things into sets; `join` says whether they were apart. */
function makeDisjointSets() {
  const parent = new Map<string, string>()
  const find = (id: string): string => {
    let at = id
    for (let up = parent.get(at); up !== undefined && up !== at; up = parent.get(at)) at = up
    return at
  }
  const join = (first: string, second: string): boolean => {
    const [x, y] = [find(first), find(second)]
    if (x === y) return false
    parent.set(x, y)
    return true
  }
  return { find, join }
}

interface Attachment {
  readonly ref: PortRef
  readonly cost: number
}
interface Segment {
  readonly ports: readonly Attachment[]
}

/**
 * The segment that frames of the protocol (BPDUs) are on at a port of a device that does not speak it.
 * They carry no tag: a device that sorts by VLAN takes them into the VLAN of untagged frames, and what leaves it
 * tagged no bridge takes for the protocol's.
 */
function bpduSegment(index: PlanIndex, ref: PortRef): string {
  const device = index.devices.get(ref.deviceId)
  if (!device || !isVlanAware(device)) return `deaf ${ref.deviceId}`
  const mode = findPort(index, ref)?.mode
  const vid = mode ? ingressVid(mode, UNTAGGED) : null
  return vid === null ? `deaf ${portKey(ref)}` : `deaf ${ref.deviceId} ${vid}`
}

function segmentsOf(index: PlanIndex, edges: readonly Edge[], isBridge: (id: string) => boolean): Segment[] {
  const sets = makeDisjointSets()
  const name = (edge: Edge) => {
    const deaf = edge.ends.find((ref) => !isBridge(ref.deviceId))
    return deaf ? bpduSegment(index, deaf) : `link ${edge.link.id}`
  }
  for (const edge of edges)
    if (edge.ends.every((ref) => !isBridge(ref.deviceId)))
      sets.join(bpduSegment(index, edge.ends[0]), bpduSegment(index, edge.ends[1]))
  const groups = groupBy(edges, (e) => sets.find(name(e)))
  return [...groups.values()].map((list) => ({
    ports: list.flatMap((edge) =>
      edge.ends.filter((ref) => isBridge(ref.deviceId)).map((ref) => ({ ref, cost: edge.cost })),
    ),
  }))
}

/** Place of a port among those of its device. */
const portPlaces = defineStage(
  'places of ports',
  ({ plan }): ReadonlyMap<string, number> =>
    new Map(
      plan.devices.flatMap((device) =>
        device.ports.map((port, i) => [portKey({ deviceId: device.id, portId: port.id }), i] as const),
      ),
    ),
)

/**
 * The tree of a plan under a failure scenario.
 * Bridge addresses decide where priorities are equal; an unknown one counts by the device's id.
 */
export function spanningTree(index: PlanIndex, failed: ReadonlySet<string>): SpanningTree {
  const edges = edgesOf(index, failed)
  const bridges = bridgesOf(index, edges)
  const rank = new Map(bridges.map((b, i) => [b.id, i]))
  const isBridge = (id: string) => rank.has(id)
  const rootId = bridges[0]?.id ?? null
  const sets = makeDisjointSets()
  // Without a second way anywhere there is nothing to block.
  if (edges.map((e) => sets.join(e.ends[0].deviceId, e.ends[1].deviceId)).every(Boolean))
    return { rootId, blocked: [] }
  const segments = segmentsOf(index, edges, isBridge)
  const places = index.get(portPlaces)
  const portOrder = (ref: PortRef) => places.get(portKey(ref)) ?? 0
  const vector = by<PriorityVector>(
    (o) => o.cost,
    (o) => rank.get(o.from.deviceId) ?? 0,
    (o) => portOrder(o.from),
    (o) => portOrder(o.at),
  )
  const blocked: PortRef[] = []
  const reached = new Set<string>()
  for (const root of bridges) {
    // Islands that no cable joins elect a root each.
    if (reached.has(root.id)) continue
    const { cost, rootPort } = costsFrom(root.id, segments, vector)
    for (const id of cost.keys()) reached.add(id)
    const island = segments.filter((s) => s.ports.some((p) => cost.has(p.ref.deviceId)))
    blocked.push(...blockedBy(island, cost, rootPort, vector))
  }
  const order = by<PortRef>((r) => r.deviceId, portOrder)
  return { rootId, blocked: blocked.flatMap((ref) => bundlePorts(edges, ref)).sort(order) }
}

/** Bridges that speak spanning tree, the root first. */
function bridgesOf(index: PlanIndex, edges: readonly Edge[]) {
  const macs = new Map(index.plan.brief.equipment.map((box) => [box.deviceId, box.mac]))
  const ids = [...new Set(edges.flatMap((e) => e.ends.map((r) => r.deviceId)))]
  return ids
    .flatMap((id) => {
      const device = index.devices.get(id)
      return device && runsStp(index, device)
        ? [{ id, priority: device.stpPriority ?? DEFAULT_PRIORITY, mac: macs.get(id) ?? LAST_MAC }]
        : []
    })
    .sort(
      by(
        (b) => b.priority,
        (b) => b.mac,
        (b) => b.id,
      ),
    )
}

/** Stands behind every address that is known. */
const LAST_MAC = '~'

/** The ports of the bundle that a port stands for. */
function bundlePorts(edges: readonly Edge[], ref: PortRef): PortRef[] {
  const edge = edges.find((e) => e.ends.some((end) => portKey(end) === portKey(ref)))
  return edge ? edge.members.flatMap((m) => endsOf(m).filter((end) => end.deviceId === ref.deviceId)) : [ref]
}

/** What a bridge hears at one of its ports: the sender's cost with this port's added. */
interface PriorityVector {
  readonly at: PortRef
  readonly from: PortRef
  readonly cost: number
}

/** Least path costs from a root, by Dijkstra's algorithm; of equal ones the better priority vector. */
function costsFrom(
  rootId: string,
  segments: readonly Segment[],
  vector: (a: PriorityVector, b: PriorityVector) => number,
) {
  const cost = new Map<string, number>([[rootId, 0]])
  const rootPort = new Map<string, PriorityVector>()
  const bySegment = segmentsByDevice(segments)
  const open = new Set([rootId])
  const hear = (offer: PriorityVector) => {
    const { deviceId } = offer.at
    const known = rootPort.get(deviceId)
    if (known && vector(offer, known) >= 0) return
    rootPort.set(deviceId, offer)
    cost.set(deviceId, offer.cost)
    open.add(deviceId)
  }
  while (open.size > 0) {
    const at = nearest(open, cost)
    open.delete(at)
    for (const { ports } of bySegment.get(at) ?? []) {
      const senders = ports.filter((p) => p.ref.deviceId === at)
      const hearers = ports.filter((p) => p.ref.deviceId !== at && p.ref.deviceId !== rootId)
      for (const port of hearers)
        for (const sender of senders)
          hear({ at: port.ref, from: sender.ref, cost: (cost.get(at) ?? 0) + port.cost })
    }
  }
  return { cost, rootPort }
}

function segmentsByDevice(segments: readonly Segment[]): Map<string, Segment[]> {
  const out = new Map<string, Segment[]>()
  for (const segment of segments)
    for (const id of new Set(segment.ports.map((p) => p.ref.deviceId)))
      out.set(id, [...(out.get(id) ?? []), segment])
  return out
}

/** The one of least cost; the first of equals. */
function nearest(open: ReadonlySet<string>, cost: ReadonlyMap<string, number>): string {
  let best = ''
  for (const id of open) if (best === '' || (cost.get(id) ?? 0) < (cost.get(best) ?? 0)) best = id
  return best
}

function blockedBy(
  segments: readonly Segment[],
  cost: ReadonlyMap<string, number>,
  rootPort: ReadonlyMap<string, PriorityVector>,
  vector: (a: PriorityVector, b: PriorityVector) => number,
): PortRef[] {
  return segments.flatMap((segment) => {
    const offers = segment.ports
      .map((p): PriorityVector => ({ at: p.ref, from: p.ref, cost: cost.get(p.ref.deviceId) ?? 0 }))
      .sort(vector)
    const designated = offers[0]
    return segment.ports
      .map((p) => p.ref)
      .filter((ref) => {
        const root = rootPort.get(ref.deviceId)
        return (
          designated &&
          portKey(designated.at) !== portKey(ref) &&
          (!root || portKey(root.at) !== portKey(ref))
        )
      })
  })
}
