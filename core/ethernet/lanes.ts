// Question: between which places can frames go both ways, for all VLANs at once?
// Method: every (bridge, VID) and every host socket is a number, every hop an edge between two numbers; places that frames
// pass between in both directions are one strongly connected component, found once for the whole plan.
// Source: IEEE 802.1Q-2022 clause 8.6 as in frames.ts; R. E. Tarjan 1972 (components by one depth-first walk).
import { memoOn } from '#core/base'
import {
  isEnd,
  isVlanAware,
  portKey,
  tags,
  vidsOf,
  type Device,
  type Link,
  type PlanIndex,
  type PortMode,
  type PortRef,
} from '#core/model'

/** No tag on the wire; its place in the list of VIDs is 0. */
const UNTAGGED = 0

export interface Lanes {
  /** Number of a place; -1 where the plan has none of that name. */
  bridge(deviceId: string, tag: number): number
  end(deviceId: string, portId: string): number
  /** Component of a place, by the first of its places: equal numbers talk to each other. */
  readonly component: Int32Array
  /** Edges out of place n are `target[first[n]]` to `target[first[n + 1] - 1]`, each over `link` from its a or its b end. */
  readonly first: Int32Array
  readonly target: Int32Array
  readonly link: Int32Array
  readonly fromA: Uint8Array
  /** Tag on the wire of an edge. */
  readonly tag: Int32Array
}

/** What a port does to each VID and each tag, by their places in the list of VIDs; -1 for dropped. */
interface PortTable {
  readonly out: Int32Array
  readonly into: Int32Array
}

export interface LaneInput {
  readonly index: PlanIndex
  readonly failed: ReadonlySet<string>
  readonly blocked: ReadonlySet<string>
  modeFor(device: Device, ref: PortRef, link: Link): PortMode
}

function tableOf(mode: PortMode, vids: readonly number[], place: ReadonlyMap<number, number>): PortTable {
  const out = new Int32Array(vids.length).fill(-1)
  const into = new Int32Array(vids.length).fill(-1)
  const at = (vid: number) => place.get(vid) ?? -1
  if (mode.mode === 'access') {
    const own = at(mode.vlan)
    if (own >= 0) {
      out[own] = 0
      into[0] = own
    }
  } else if (mode.mode === 'trunk') {
    if (mode.tagged === 'all')
      vids.forEach((vid, i) => {
        if (i > 0 && tags(mode, vid)) out[i] = into[i] = i
      })
    else
      for (const vid of mode.tagged) {
        const i = at(vid)
        if (i > 0) out[i] = into[i] = i
      }
    const native = mode.native === null ? -1 : at(mode.native)
    if (native >= 0) {
      out[native] = 0
      into[0] = native
    }
  }
  return { out, into }
}

/** Every VID that anything names, in order, after "untagged". */
function vidsIn(index: PlanIndex): number[] {
  const vids = new Set<number>(index.plan.networks.map((n) => n.vlan))
  const seen = new Set<PortMode>()
  for (const device of index.plan.devices) {
    for (const port of device.ports) {
      if (seen.has(port.mode)) continue
      seen.add(port.mode)
      if (port.mode.mode === 'access') vids.add(port.mode.vlan)
      else if (port.mode.mode === 'trunk') for (const vid of vidsOf(port.mode)) vids.add(vid)
    }
  }
  vids.delete(UNTAGGED)
  return [UNTAGGED, ...[...vids].sort((a, b) => a - b)]
}

interface Half {
  readonly device: number
  readonly base: number
  /** Null for a host's socket. */
  readonly table: PortTable | null
  readonly aware: boolean
}

/** What no weather changes: numbers of places, and what each end of each cable does to frames. */
interface Ground {
  readonly vids: readonly number[]
  readonly place: ReadonlyMap<number, number>
  readonly base: ReadonlyMap<string, number>
  readonly ends: ReadonlyMap<string, number>
  readonly size: number
  /** By place in the list of cables, a's end and b's; null where no frame passes. */
  readonly halves: readonly (readonly [Half, Half] | null)[]
}
const grounds = memoOn((_index: PlanIndex) => ({ ground: null as Ground | null }))
function groundOf({ index, modeFor }: LaneInput): Ground {
  const held = grounds(index)
  return (held.ground ??= makeGround(index, modeFor))
}

function makeGround(index: PlanIndex, modeFor: LaneInput['modeFor']): Ground {
  const vids = vidsIn(index)
  const place = new Map(vids.map((vid, i) => [vid, i]))
  const base = new Map<string, number>()
  const ends = new Map<string, number>()
  let size = 0
  for (const device of index.plan.devices) {
    if (base.has(device.id)) continue
    base.set(device.id, size)
    // Frames end at a routed port as they do at a host's socket.
    for (const port of device.ports)
      if (isEnd(device) || port.mode.mode === 'routed') ends.set(`${device.id}/${port.id}`, size++)
    if (isEnd(device)) continue
    base.set(device.id, size)
    size += vids.length
  }
  const tables = new Map<PortMode, PortTable>()
  const tableFor = (mode: PortMode): PortTable => {
    let known = tables.get(mode)
    if (!known) tables.set(mode, (known = tableOf(mode, vids, place)))
    return known
  }
  const half = (ref: PortRef, link: Link): Half | null => {
    const device = index.devices.get(ref.deviceId)
    const at = base.get(ref.deviceId)
    if (!device || at === undefined) return null
    const mode = modeFor(device, ref, link)
    if (isEnd(device) || mode.mode === 'routed') {
      const node = ends.get(portKey(ref))
      return node === undefined || mode.mode === 'off'
        ? null
        : { device: at, base: node, table: null, aware: false }
    }
    if (isVlanAware(device)) return { device: at, base: at, table: tableFor(mode), aware: true }
    return mode.mode === 'off' ? null : { device: at, base: at, table: null, aware: true }
  }
  const halves = index.plan.links.map((link) => {
    const [a, b] = [half(link.a, link), half(link.b, link)]
    return a && b && ([a, b] as const)
  })
  return { vids, place, base, ends, size, halves }
}

/** Builds the lanes of a plan in a weather. */
export function makeLanes(input: LaneInput): Lanes {
  const { index, failed, blocked } = input
  const { vids, place, base, ends, size, halves } = groundOf(input)
  // At most one edge for each VID, each way, over each cable.
  const most = index.plan.links.length * 2 * vids.length
  const edges: Edges = {
    count: 0,
    from: new Int32Array(most),
    to: new Int32Array(most),
    over: new Int32Array(most),
    side: new Uint8Array(most),
    wire: new Int32Array(most),
  }
  const width = vids.length
  const lay = (near: Half, far: Half, link: number, isA: number) => {
    for (let v = 0; v < (near.aware ? width : 1); v++) {
      const tag = near.table ? (near.table.out[v] as number) : v
      if (tag < 0) continue
      let arrives: number
      if (far.table) {
        const vid = far.table.into[tag] as number
        if (vid < 0) continue
        arrives = far.base + vid
      } else if (far.aware) arrives = far.base + tag
      else if (tag === 0) arrives = far.base
      else continue
      const at = edges.count++
      edges.from[at] = near.base + (near.aware ? v : 0)
      edges.to[at] = arrives
      edges.over[at] = link
      edges.side[at] = isA
      edges.wire[at] = vids[tag] as number
    }
  }
  index.plan.links.forEach((link, i) => {
    if (
      failed.has(link.id) ||
      failed.has(link.a.deviceId) ||
      failed.has(link.b.deviceId) ||
      (blocked.size > 0 && (blocked.has(portKey(link.a)) || blocked.has(portKey(link.b))))
    )
      return
    const [a, b] = halves[i] ?? []
    if (!a || !b) return
    lay(a, b, i, 1)
    lay(b, a, i, 0)
  })
  const sorted = sortByStart(size, edges)
  return {
    ...sorted,
    component: componentsOf(size, sorted.first, sorted.target),
    bridge: (deviceId, tag) => {
      const at = base.get(deviceId)
      const i = place.get(tag)
      const device = index.devices.get(deviceId)
      return at === undefined || i === undefined || !device || isEnd(device) ? -1 : at + i
    },
    end: (deviceId, portId) => ends.get(`${deviceId}/${portId}`) ?? -1,
  }
}

interface Edges {
  count: number
  readonly from: Int32Array
  readonly to: Int32Array
  readonly over: Int32Array
  readonly side: Uint8Array
  readonly wire: Int32Array
}

function sortByStart(size: number, { count, from, to, over, side, wire }: Edges) {
  const first = new Int32Array(size + 1)
  for (let e = 0; e < count; e++)
    first[(from[e] as number) + 1] = (first[(from[e] as number) + 1] as number) + 1
  for (let n = 0; n < size; n++) first[n + 1] = (first[n + 1] as number) + (first[n] as number)
  const next = first.slice()
  const target = new Int32Array(count)
  const link = new Int32Array(count)
  const fromA = new Uint8Array(count)
  const tag = new Int32Array(count)
  for (let e = 0; e < count; e++) {
    const start = from[e] as number
    const at = next[start] as number
    next[start] = at + 1
    target[at] = to[e] as number
    link[at] = over[e] as number
    fromA[at] = side[e] as number
    tag[at] = wire[e] as number
  }
  return { first, target, link, fromA, tag }
}

/** Strongly connected components, without recursion; each has the number of its first place, so that it keeps it when others change. */
function componentsOf(size: number, first: Int32Array, target: Int32Array): Int32Array {
  const component = new Int32Array(size).fill(-1)
  const order = new Int32Array(size).fill(-1)
  const low = new Int32Array(size)
  const next = first.slice()
  const open: number[] = []
  const path: number[] = []
  let counter = 0
  let found = 0
  for (let root = 0; root < size; root++) {
    if (order[root] !== -1) continue
    path.push(root)
    while (path.length > 0) {
      const n = path[path.length - 1] as number
      if (order[n] === -1) {
        order[n] = low[n] = counter++
        open.push(n)
      }
      let descended = false
      while ((next[n] as number) < (first[n + 1] as number)) {
        const m = target[next[n] as number] as number
        if (order[m] === -1) {
          path.push(m)
          descended = true
          break
        }
        next[n] = (next[n] as number) + 1
        if (component[m] === -1) low[n] = Math.min(low[n] as number, order[m] as number, low[m] as number)
      }
      if (descended) continue
      path.pop()
      if (low[n] === order[n]) {
        for (let m = open.pop(); m !== undefined; m = open.pop()) {
          component[m] = found
          if (m === n) break
        }
        found++
      }
    }
  }
  const firsts = new Int32Array(found).fill(-1)
  for (let n = 0; n < size; n++) {
    const own = component[n] as number
    if (firsts[own] === -1) firsts[own] = n
    component[n] = firsts[own] as number
  }
  return component
}

/** Every place that frames from one place reach, itself included. */
export function reachedFrom(lanes: Lanes, start: number): number[] {
  if (start < 0) return []
  const seen = new Set([start])
  const list = [start]
  for (let i = 0; i < list.length; i++) {
    const n = list[i] as number
    for (let e = lanes.first[n] as number; e < (lanes.first[n + 1] as number); e++) {
      const m = lanes.target[e] as number
      if (!seen.has(m)) {
        seen.add(m)
        list.push(m)
      }
    }
  }
  return list
}
