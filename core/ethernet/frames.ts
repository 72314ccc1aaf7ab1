// Question: where do frames go?
// Method: 802.1Q as a directed graph whose nodes are (bridge, VID) for devices that sort by VLAN and
// (device, tag on the wire) for devices that pass frames as they are; an edge is one hop over a link.
// Source: IEEE 802.1Q-2022 clause 8.6 (ingress, forwarding, egress), acceptable frame types as in clause 6.9.
import { byText, memoOnParts } from '#core/base'
import { makeLanes, type Lanes } from './lanes'
import { spanningTree, type Tree } from './spanning-tree'
import {
  farEnd,
  findPort,
  isEnd,
  isVlanAware,
  portKey,
  tags,
  type Device,
  type Link,
  type PlanIndex,
  type PortMode,
  type PortRef,
  type Weather,
} from '#core/model'

/** No tag on the wire. VIDs run from 1, so 0 is free for it. */
export const UNTAGGED = 0

/** One hop: out of `out`, over the link, into `into`, as it looked on the wire. */
export interface Hop {
  readonly out: PortRef
  readonly into: PortRef
  readonly link: Link
  /** Tag on the wire, UNTAGGED for none. */
  readonly tag: number
  readonly node: string
}

/** Where frames sent from one node arrive: each node with the hop that first led there (null for the start). */
export type Spread = ReadonlyMap<string, { readonly from: string; readonly hop: Hop } | null>

export interface Fabric {
  readonly index: PlanIndex
  readonly failed: ReadonlySet<string>
  readonly tree: Tree
  /** The same hops for all VLANs at once, as numbers; made when first asked for. */
  lanes(): Lanes
  /** As `roomOf` below; each node is looked up once. */
  roomOf(node: string): number
  /** Frames leaving a node, one hop at a time. */
  hops(node: string): readonly Hop[]
  /** Everything that frames from a node reach; computed once per node. */
  spread(node: string): Spread
}

/** Node of a VLAN-aware device for a VID, or of a plain one for the tag a frame carries. */
export function bridgeNode(deviceId: string, tag: number): string {
  return `${deviceId}#${tag}`
}

/** Node where frames end: a host's socket, or a routed port. Nothing is forwarded between them at this layer. */
export function endNode(deviceId: string, portId: string): string {
  return `${deviceId}/${portId}`
}

/** The mode in force at a port for a link: over Wi-Fi an access point's radio is an access port of the SSID's VLAN. */
export function modeFor(index: PlanIndex, device: Device, ref: PortRef, link: Link): PortMode {
  if (link.medium.kind === 'wifi' && device.kind === 'access-point') {
    const ssid = index.ssids.get(link.medium.ssidId)
    const network = ssid ? index.networks.get(ssid.networkId) : undefined
    return ssid?.apIds.includes(device.id) && network
      ? { mode: 'access', vlan: network.vlan }
      : { mode: 'off' }
  }
  return findPort(index, ref)?.mode ?? { mode: 'off' }
}

/** Tag a VLAN-aware port puts on frames of a VID; null where it sends none. */
export function egressTag(mode: PortMode, vid: number): number | null {
  if (mode.mode === 'access') return mode.vlan === vid ? UNTAGGED : null
  if (mode.mode !== 'trunk') return null
  if (mode.native === vid) return UNTAGGED
  return tags(mode, vid) ? vid : null
}

/** VID a VLAN-aware port gives to a frame; null where ingress filtering drops it. */
export function ingressVid(mode: PortMode, tag: number): number | null {
  if (mode.mode === 'access') return tag === UNTAGGED ? mode.vlan : null
  if (mode.mode !== 'trunk') return null
  if (tag === UNTAGGED) return mode.native
  return tags(mode, tag) ? tag : null
}

function arrival(index: PlanIndex, link: Link, into: PortRef, tag: number): string | null {
  const device = index.devices.get(into.deviceId)
  if (!device) return null
  if (isVlanAware(device)) {
    const mode = modeFor(index, device, into, link)
    if (mode.mode === 'routed') return tag === UNTAGGED ? endNode(device.id, into.portId) : null
    const vid = ingressVid(mode, tag)
    return vid === null ? null : bridgeNode(device.id, vid)
  }
  const off = findPort(index, into)?.mode.mode
  if (off === undefined || off === 'off') return null
  if (isEnd(device)) return tag === UNTAGGED ? endNode(device.id, into.portId) : null
  return bridgeNode(device.id, tag)
}

function deviceOf(node: string): {
  readonly deviceId: string
  readonly portId: string | null
  readonly tag: number
} {
  const slash = node.indexOf('/')
  if (slash !== -1) return { deviceId: node.slice(0, slash), portId: node.slice(slash + 1), tag: UNTAGGED }
  const hash = node.lastIndexOf('#')
  return { deviceId: node.slice(0, hash), portId: null, tag: Number(node.slice(hash + 1)) }
}

function leave(
  fabric: { index: PlanIndex; failed: ReadonlySet<string>; blocked: ReadonlySet<string> },
  node: string,
): Hop[] {
  const { index, failed, blocked } = fabric
  const { deviceId, portId, tag } = deviceOf(node)
  const device = index.devices.get(deviceId)
  if (!device || failed.has(deviceId)) return []
  const hops: Hop[] = []
  for (const port of device.ports) {
    if (portId !== null && port.id !== portId) continue
    const out = { deviceId, portId: port.id }
    for (const link of index.linksAt.get(portKey(out)) ?? []) {
      const into = farEnd(link, out)
      if (
        failed.has(link.id) ||
        failed.has(into.deviceId) ||
        blocked.has(portKey(out)) ||
        blocked.has(portKey(into))
      )
        continue
      const mode = modeFor(index, device, out, link)
      // What a routed port sends is its own, and leaves by it alone.
      const wire =
        mode.mode === 'routed'
          ? portId === null
            ? null
            : UNTAGGED
          : isVlanAware(device)
            ? egressTag(mode, tag)
            : mode.mode === 'off'
              ? null
              : tag
      if (wire === null) continue
      const next = arrival(index, link, into, wire)
      if (next !== null) hops.push({ out, into, link, tag: wire, node: next })
    }
  }
  return hops
}

interface Layer {
  readonly tree: Tree
  readonly blocked: ReadonlySet<string>
  readonly held: { lanes?: Lanes }
}
/** Weathers of one plan that are remembered at a time. */
const layers = memoOnParts<Layer>(8)

/** What of layer 2 hangs on devices, cables, SSIDs, models and VLAN numbers alone: an edit elsewhere leaves it as it was. */
function layerOf(index: PlanIndex, failed: ReadonlySet<string>): Layer {
  const { plan } = index
  const key = `${[...failed].sort(byText).join(' ')} | ${plan.networks.map((n) => `${n.id} ${n.vlan}`).join(' ')}`
  return layers(plan.devices, [key, plan.links, plan.ssids, plan.models, plan.brief.equipment], () => {
    const tree = spanningTree(index, failed)
    return { tree, blocked: new Set(tree.blocked.map(portKey)), held: {} }
  })
}

/** The layer 2 of a plan under a weather. Nothing is computed before it is asked for. */
export function makeFabric(index: PlanIndex, weather: Weather): Fabric {
  const failed = new Set(weather)
  const { tree, blocked, held } = layerOf(index, failed)
  const hopsOf = new Map<string, Hop[]>()
  const spreads = new Map<string, Spread>()
  const hops = (node: string): readonly Hop[] => {
    let found = hopsOf.get(node)
    if (!found) hopsOf.set(node, (found = leave({ index, failed, blocked }, node)))
    return found
  }
  const spread = (node: string): Spread => {
    const known = spreads.get(node)
    if (known) return known
    const seen = new Map<string, { from: string; hop: Hop } | null>()
    if (!failed.has(deviceOf(node).deviceId)) seen.set(node, null)
    for (const [at] of seen) {
      for (const hop of hops(at)) if (!seen.has(hop.node)) seen.set(hop.node, { from: at, hop })
    }
    spreads.set(node, seen)
    return seen
  }
  const rooms = new Map<string, number>()
  const roomOf = (node: string): number => {
    const known = rooms.get(node)
    if (known !== undefined) return known
    const { deviceId } = deviceOf(node)
    const gone = failed.has(deviceId) || !index.devices.has(deviceId)
    const lane = gone ? -1 : laneOf(lanes(), node)
    const room = gone ? Number.NaN : lane < 0 ? -1 - rooms.size : (lanes().component[lane] as number)
    rooms.set(node, room)
    return room
  }
  const lanes = () =>
    (held.lanes ??= makeLanes({
      index,
      failed,
      blocked,
      modeFor: (device, ref, link) => modeFor(index, device, ref, link),
    }))
  return { index, failed, tree, lanes, hops, spread, roomOf }
}

/** Number of a node among the lanes; -1 where there is none. */
function laneOf(lanes: Lanes, node: string): number {
  const { deviceId, portId, tag } = deviceOf(node)
  return portId === null ? lanes.bridge(deviceId, tag) : lanes.end(deviceId, portId)
}

/** Number of the place a node stands in: nodes of one number hear each other both ways. Negative, and its own, where nothing leads; NaN, equal to nothing, where the device is gone. */
export function roomOf(fabric: Fabric, node: string): number {
  return fabric.roomOf(node)
}

/** True where frames pass from a to b and from b to a: what a conversation at layer 2 needs. */
export function bothWays(fabric: Fabric, a: string, b: string): boolean {
  return fabric.roomOf(a) === fabric.roomOf(b)
}

/** The hops from the start of a spread to a node, in order; empty where it is not reached. */
export function hopsTo(spread: Spread, node: string): Hop[] {
  const hops: Hop[] = []
  for (let step = spread.get(node); step; step = spread.get(step.from)) hops.unshift(step.hop)
  return hops
}

/** Devices in the order a cable-following person meets them, from one to another, whatever the VLANs; by fewest hops. */
export function cablePath(
  index: PlanIndex,
  failed: ReadonlySet<string>,
  fromDevice: string,
  toDevice: string,
): Link[] | null {
  const came = new Map<string, { device: string; link: Link } | null>([[fromDevice, null]])
  for (const [at] of came) {
    if (at === toDevice) break
    const device = index.devices.get(at)
    if (!device || failed.has(at) || (isEnd(device) && at !== fromDevice)) continue
    const steps = device.ports
      .filter((port) => port.mode.mode !== 'wan')
      .flatMap((port) =>
        (index.linksAt.get(portKey({ deviceId: at, portId: port.id })) ?? []).map((link) => ({ link, port })),
      )
      .sort((x, y) => byText(x.link.id, y.link.id))
    for (const { link, port } of steps) {
      const next = farEnd(link, { deviceId: at, portId: port.id }).deviceId
      if (!failed.has(link.id) && !failed.has(next) && !came.has(next)) came.set(next, { device: at, link })
    }
  }
  if (!came.has(toDevice)) return null
  const links: Link[] = []
  for (let step = came.get(toDevice); step; step = came.get(step.device)) links.unshift(step.link)
  return links
}
