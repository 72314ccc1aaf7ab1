// Question: between which nodes can frames go both ways, for all VLANs at once?
// Method: every (bridge, VID) and every host socket is a vertex, every hop an edge, in compressed sparse
// rows; vertices that frames pass between in both directions are one strongly connected component, found once
// for the whole plan.
// Source:
// IEEE 802.1Q-2022 clause 8.6 as in layer2.ts;
// R.
// E.
// Tarjan 1972 (components by one depth-first walk).
import { defineStage, isHost, isVlanAware, portKey, tags, vidsOf, type PlanIndex } from '#core/queries'
import type { Link, PortMode, PortRef, DeviceId, PortId } from '#core/schema'
import { hostTakes, modeFor, UNTAGGED } from './tagging'

/**
 * Adjacency in compressed sparse rows: edges out of vertex v are those from `first[v]` up to, without,
 * `first[v + 1]`.
 */
interface Adjacency {
  readonly first: Int32Array
  readonly target: Int32Array
  /**
   * By edge: place of its link in the plan, whether it leaves by the link's a end, and the tag on the wire.
   */
  readonly link: Int32Array
  readonly fromA: Uint8Array
  readonly tag: Int32Array
}

export interface VlanGraph extends Adjacency {
  /**
   * Vertex of a bridge's VID, of a host's interface or a routed port; -1 where the plan has none of that name.
   */
  bridge(deviceId: DeviceId, tag: number): number
  end(deviceId: DeviceId, portId: PortId, tag: number): number
  /** The bridge that a vertex is of; null for a host's socket or a routed port. */
  deviceOf(vertex: number): DeviceId | null
  /** Component of a vertex, by the first of its vertices: equal numbers talk to each other. */
  readonly component: Int32Array
}

/** What a port does to each VID and each tag, by their places in the list of VIDs; -1 for dropped. */
interface PortTable {
  readonly egress: Int32Array
  readonly ingress: Int32Array
}

function portTable(mode: PortMode, vids: readonly number[], placeOf: ReadonlyMap<number, number>): PortTable {
  const egress = new Int32Array(vids.length).fill(-1)
  const ingress = new Int32Array(vids.length).fill(-1)
  const untag = (vid: number | null) => {
    const place = vid === null ? undefined : placeOf.get(vid)
    if (place === undefined) return
    egress[place] = 0
    ingress[0] = place
  }
  if (mode.mode === 'access') untag(mode.vlan)
  if (mode.mode === 'trunk') {
    for (const vid of mode.tagged === 'all' ? vids.filter((vid) => tags(mode, vid)) : mode.tagged) {
      const place = placeOf.get(vid) ?? 0
      if (place > 0) egress[place] = ingress[place] = place
    }
    untag(mode.native)
  }
  return { egress, ingress }
}

/** A host's interfaces take the frames with their tags as they are. */
function hostTable(mode: PortMode, vids: readonly number[]): PortTable {
  const taken = Int32Array.from(vids, (vid, place) => (hostTakes(mode, vid) ? place : -1))
  return { egress: taken, ingress: taken }
}

/** Every VID that anything names, in order, after "untagged". */
function vidsIn(index: PlanIndex): number[] {
  const vids = new Set<number>([...index.networkHeads.values()].map((network) => network.vlan))
  for (const device of index.plan.devices)
    for (const { mode } of device.ports) for (const vid of vidsOf(mode)) vids.add(vid)
  for (const { tag } of index.plan.uplinks) vids.add(tag ?? UNTAGGED)
  vids.delete(UNTAGGED)
  return [UNTAGGED, ...[...vids].sort((a, b) => a - b)]
}

/** What one end of a link does to frames. */
interface LinkEnd {
  /** Its first vertex: that of "untagged", or the only one of a plain host's socket. */
  readonly base: number
  /** Null where frames pass as they are. */
  readonly table: PortTable | null
  /** True where each tag has a vertex of its own; false at a plain host's socket. */
  readonly tagged: boolean
  /** True of the internet, which passes no frames from one of its lines to another. */
  readonly isSink: boolean
}

/** What no failure changes: numbers of vertices, and what each end of each link does to frames. */
interface StaticTopology {
  readonly vids: readonly number[]
  readonly placeOf: ReadonlyMap<number, number>
  /** First vertex of each bridge, and the vertex of each host's socket and routed port. */
  readonly bridges: ReadonlyMap<string, number>
  readonly ends: ReadonlyMap<string, number>
  readonly size: number
  /** The bridge of each vertex, null for others. */
  readonly owners: readonly (DeviceId | null)[]
  /** By place in the list of links, a's end and b's; null where no frame passes. */
  readonly linkEnds: readonly (readonly [LinkEnd, LinkEnd] | null)[]
}

function numberVertices(index: PlanIndex, vids: readonly number[]) {
  const bridges = new Map<string, number>()
  const ends = new Map<string, number>()
  const owners: (DeviceId | null)[] = []
  for (const device of index.devices.values()) {
    // Frames end at a routed port as they do at a host's socket.
    for (const port of device.ports) {
      if (!isHost(device) && port.mode.mode !== 'routed') continue
      ends.set(portKey({ deviceId: device.id, portId: port.id }), owners.length)
      const interfaces = isHost(device) && port.mode.mode === 'trunk' ? vids.length : 1
      for (let place = 0; place < interfaces; place++) owners.push(null)
    }
    if (isHost(device)) continue
    bridges.set(device.id, owners.length)
    for (let place = 0; place < vids.length; place++) owners.push(device.id)
  }
  return { bridges, ends, owners, size: owners.length }
}

const staticTopology = defineStage('VLAN topology', (index): StaticTopology => {
  const vids = vidsIn(index)
  const placeOf = new Map(vids.map((vid, place) => [vid, place]))
  const { bridges, ends, owners, size } = numberVertices(index, vids)
  const tables = new Map<PortMode, PortTable>()
  const tableFor = (mode: PortMode): PortTable => {
    let known = tables.get(mode)
    if (!known) tables.set(mode, (known = portTable(mode, vids, placeOf)))
    return known
  }
  const linkEnd = (ref: PortRef, link: Link): LinkEnd | null => {
    const device = index.devices.get(ref.deviceId)
    if (!device) return null
    const mode = modeFor(index, device, ref, link)
    const socket = ends.get(portKey(ref))
    if (isHost(device) && socket !== undefined && mode.mode === 'trunk')
      return { base: socket, table: hostTable(mode, vids), tagged: true, isSink: false }
    if (isHost(device) || mode.mode === 'routed')
      return socket === undefined || mode.mode === 'off'
        ? null
        : { base: socket, table: null, tagged: false, isSink: false }
    const base = bridges.get(device.id) ?? -1
    if (isVlanAware(device)) return { base, table: tableFor(mode), tagged: true, isSink: false }
    return mode.mode === 'off' ? null : { base, table: null, tagged: true, isSink: device.kind === 'cloud' }
  }
  const linkEnds = index.plan.links.map((link) => {
    const first = linkEnd(link.a, link)
    const second = linkEnd(link.b, link)
    return first && second && ([first, second] as const)
  })
  return { vids, placeOf, bridges, ends, owners, size, linkEnds }
})

/** Edges as they are found, at most as many as were made room for. */
interface EdgeList {
  count: number
  readonly from: Int32Array
  readonly to: Int32Array
  readonly link: Int32Array
  readonly fromA: Uint8Array
  readonly tag: Int32Array
}

/** The vertex at which a frame with the tag of a place arrives; -1 where it is dropped. */
function arrivalAt(far: LinkEnd, tagPlace: number): number {
  if (far.table) {
    const vid = far.table.ingress[tagPlace] as number
    return vid < 0 ? -1 : far.base + vid
  }
  if (far.tagged) return far.base + tagPlace
  return tagPlace === 0 ? far.base : -1
}

/** Adds the edges from one end of a link to the other, one for each VID that passes. */
function addEdges(
  edges: EdgeList,
  vids: readonly number[],
  [near, far]: readonly [LinkEnd, LinkEnd],
  link: number,
  fromA: number,
) {
  if (near.isSink) return
  for (let place = 0; place < (near.tagged ? vids.length : 1); place++) {
    const tagPlace = near.table ? (near.table.egress[place] as number) : place
    const arrival = tagPlace < 0 ? -1 : arrivalAt(far, tagPlace)
    if (arrival < 0) continue
    const edge = edges.count++
    edges.from[edge] = near.base + place
    edges.to[edge] = arrival
    edges.link[edge] = link
    edges.fromA[edge] = fromA
    edges.tag[edge] = vids[tagPlace] as number
  }
}

/**
 * Builds the graph of a plan under a failure scenario.
 * @param blocked ports that the spanning tree blocks, by `portKey`
 */
export function buildVlanGraph(
  index: PlanIndex,
  failed: ReadonlySet<string>,
  blocked: ReadonlySet<string>,
): VlanGraph {
  const { vids, placeOf, bridges, ends, owners, size, linkEnds } = index.get(staticTopology)
  // At most one edge for each VID, each way, over each link.
  const most = index.plan.links.length * 2 * vids.length
  const edges: EdgeList = {
    count: 0,
    from: new Int32Array(most),
    to: new Int32Array(most),
    link: new Int32Array(most),
    fromA: new Uint8Array(most),
    tag: new Int32Array(most),
  }
  const isCut = ({ deviceId, portId }: PortRef) =>
    failed.has(deviceId) || (blocked.size > 0 && blocked.has(portKey({ deviceId, portId })))
  index.plan.links.forEach((link, place) => {
    const [first, second] = linkEnds[place] ?? []
    if (!first || !second || failed.has(link.id) || isCut(link.a) || isCut(link.b)) return
    addEdges(edges, vids, [first, second], place, 1)
    addEdges(edges, vids, [second, first], place, 0)
  })
  const adjacency = compressRows(size, edges)
  return {
    ...adjacency,
    component: stronglyConnected(size, adjacency.first, adjacency.target),
    bridge: (deviceId, tag) => {
      const base = bridges.get(deviceId)
      const place = placeOf.get(tag)
      return base === undefined || place === undefined ? -1 : base + place
    },
    deviceOf: (vertex) => owners[vertex] ?? null,
    end: (deviceId, portId, tag) => {
      const base = ends.get(portKey({ deviceId, portId }))
      return base === undefined ? -1 : base + (placeOf.get(tag) ?? 0)
    },
  }
}

/** Sorts edges by the vertex they start from. */
function compressRows(size: number, edges: EdgeList): Adjacency {
  const { count } = edges
  const first = new Int32Array(size + 1)
  for (let edge = 0; edge < count; edge++) {
    const row = (edges.from[edge] as number) + 1
    first[row] = (first[row] as number) + 1
  }
  for (let row = 0; row < size; row++) first[row + 1] = (first[row + 1] as number) + (first[row] as number)
  const next = first.slice()
  const target = new Int32Array(count)
  const link = new Int32Array(count)
  const fromA = new Uint8Array(count)
  const tag = new Int32Array(count)
  for (let edge = 0; edge < count; edge++) {
    const row = edges.from[edge] as number
    const place = next[row] as number
    next[row] = place + 1
    target[place] = edges.to[edge] as number
    link[place] = edges.link[edge] as number
    fromA[place] = edges.fromA[edge] as number
    tag[place] = edges.tag[edge] as number
  }
  return { first, target, link, fromA, tag }
}

/**
 * Tarjan's algorithm without recursion.
 * Each component is named by the first of its vertices, so that edits elsewhere leave its name.
 */
function stronglyConnected(size: number, first: Int32Array, target: Int32Array): Int32Array {
  const component = new Int32Array(size).fill(-1)
  const order = new Int32Array(size).fill(-1)
  const low = new Int32Array(size)
  const next = first.slice()
  const open: number[] = []
  const path: number[] = []
  let visited = 0

  /**
   * The next neighbour not visited yet; -1 where there is none left.
   * Neighbours visited before lower the vertex's link.
   */
  function unvisitedNeighbour(vertex: number): number {
    while ((next[vertex] as number) < (first[vertex + 1] as number)) {
      const neighbour = target[next[vertex] as number] as number
      if (order[neighbour] === -1) return neighbour
      next[vertex] = (next[vertex] as number) + 1
      if (component[neighbour] === -1)
        low[vertex] = Math.min(low[vertex] as number, order[neighbour] as number, low[neighbour] as number)
    }
    return -1
  }
  function close(root: number): void {
    for (let vertex = open.pop(); vertex !== undefined; vertex = open.pop()) {
      component[vertex] = root
      if (vertex === root) break
    }
  }
  function visit(vertex: number): void {
    if (order[vertex] === -1) {
      order[vertex] = low[vertex] = visited++
      open.push(vertex)
    }
    const neighbour = unvisitedNeighbour(vertex)
    if (neighbour !== -1) path.push(neighbour)
    else {
      path.pop()
      if (low[vertex] === order[vertex]) close(vertex)
    }
  }
  for (let root = 0; root < size; root++) {
    if (order[root] !== -1) continue
    path.push(root)
    while (path.length > 0) visit(path[path.length - 1] as number)
  }
  return namedByFirst(component)
}

/** The same partition, each class named by the least vertex in it. */
function namedByFirst(component: Int32Array): Int32Array {
  const least = new Int32Array(component.length).fill(-1)
  return component.map((own, vertex) => {
    if (least[own] === -1) least[own] = vertex
    return least[own] as number
  })
}

/** Every vertex that frames from one vertex reach, itself included. */
export function reachableFrom(graph: VlanGraph, start: number): number[] {
  if (start < 0) return []
  const seen = new Set([start])
  for (const vertex of seen)
    for (let edge = graph.first[vertex] as number; edge < (graph.first[vertex + 1] as number); edge++)
      seen.add(graph.target[edge] as number)
  return [...seen]
}
