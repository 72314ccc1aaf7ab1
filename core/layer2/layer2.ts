// Question: where do frames go?
// Method: 802.1Q as a directed graph whose nodes are (bridge, VID) for devices that sort by VLAN and
// (device, tag on the wire) for devices that pass frames as they are; an edge is one hop over a link.
// Source: IEEE 802.1Q-2022 clause 8.6 (ingress, forwarding, egress).
import { byText } from '#core/util'
import {
  defineStage,
  downIn,
  farEnd,
  findPort,
  isHost,
  isRaining,
  isVlanAware,
  portKey,
  scenarioText,
  type PlanIndex,
  type FailureScenario,
} from '#core/queries'
import { lostInRain } from '#core/radio'
import type { Device, DeviceId, Link, PortMode, PortRef } from '#core/schema'
import { spanningTree, type SpanningTree } from './spanning-tree'
import { BfsTree, type Hop } from './bfs-tree'
import { loopsOf } from './loops'
import {
  bridgeNode,
  egressTag,
  endNode,
  hostTakes,
  ingressVid,
  modeFor,
  UNTAGGED,
  type Layer2Node,
} from './tagging'
import { buildVlanGraph, type VlanGraph } from './vlan-graph'

/** Layer 2 of a plan under a failure scenario. */
export interface Layer2 {
  /** Ids of what is down. */
  readonly failed: ReadonlySet<string>
  readonly tree: SpanningTree
  /** Devices of each ring that spanning tree leaves, by id. */
  loops(): readonly (readonly DeviceId[])[]
  /** The same hops for all VLANs at once, as numbers. */
  readonly vlanGraph: VlanGraph
  /**
   * Number of the broadcast domain of a node: nodes of one number hear each other both ways.
   * Negative, and its own, where nothing leads; NaN, equal to nothing, where the device is gone.
   */
  broadcastDomain(node: Layer2Node): number
  /** Frames leaving a node, one hop at a time. */
  egress(node: Layer2Node): readonly Hop[]
  /** Everything that frames from a node reach; computed once per node. */
  bfsTree(node: Layer2Node): BfsTree
}

type Blocked = ReadonlySet<string>

/** The node at which a frame arrives at a port; null where it is dropped there. */
function ingress(index: PlanIndex, link: Link, into: PortRef, tag: number): Layer2Node | null {
  const device = index.devices.get(into.deviceId)
  if (!device) return null
  if (isVlanAware(device)) {
    const mode = modeFor(index, device, into, link)
    if (mode.mode === 'routed') return tag === UNTAGGED ? endNode(device.id, into.portId) : null
    const vid = ingressVid(mode, tag)
    return vid === null ? null : bridgeNode(device.id, vid)
  }
  const mode = findPort(index, into)?.mode ?? { mode: 'off' }
  if (isHost(device)) return hostTakes(mode, tag) ? endNode(device.id, into.portId, tag) : null
  if (mode.mode === 'off') return null
  return bridgeNode(device.id, tag)
}

/** The tag with which a frame of a node leaves by a port; null where it does not. */
function wireTag(device: Device, mode: PortMode, node: Layer2Node): number | null {
  // What a routed port sends is its own, and leaves by it alone.
  if (mode.mode === 'routed') return node.portId === null ? null : UNTAGGED
  if (isVlanAware(device)) return egressTag(mode, node.tag)
  return mode.mode === 'off' ? null : node.tag
}

function egressHops(
  index: PlanIndex,
  failed: ReadonlySet<string>,
  blocked: Blocked,
  node: Layer2Node,
): Hop[] {
  const device = index.devices.get(node.deviceId)
  // Between its lines the internet passes no frames.
  if (!device || failed.has(device.id) || device.kind === 'cloud') return []
  const stands = (link: Link, out: PortRef, into: PortRef) =>
    !failed.has(link.id) &&
    !failed.has(into.deviceId) &&
    !blocked.has(portKey(out)) &&
    !blocked.has(portKey(into))
  return device.ports
    .filter((port) => node.portId === null || port.id === node.portId)
    .flatMap((port) => {
      const out = { deviceId: device.id, portId: port.id }
      return (index.linksAt.get(portKey(out)) ?? []).flatMap((link): Hop[] => {
        const into = farEnd(link, out)
        const tag = stands(link, out, into) ? wireTag(device, modeFor(index, device, out, link), node) : null
        const next = tag === null ? null : ingress(index, link, into, tag)
        return tag === null || next === null ? [] : [{ out, into, link, tag, node: next }]
      })
    })
}

function buildLayer2(index: PlanIndex, scenario: FailureScenario): Layer2 {
  const failed = isRaining(scenario)
    ? new Set<string>([...downIn(scenario), ...lostInRain(index)])
    : downIn(scenario)
  const tree = spanningTree(index, failed)
  const blocked = new Set(tree.blocked.map(portKey))
  const vlanGraph = buildVlanGraph(index, failed, blocked)
  const hops = new Map<string, readonly Hop[]>()
  const trees = new Map<string, BfsTree>()
  const domains = new Map<string, number>()
  const egress = (node: Layer2Node): readonly Hop[] => {
    let found = hops.get(node.key)
    if (!found) hops.set(node.key, (found = egressHops(index, failed, blocked, node)))
    return found
  }
  const bfsTree = (start: Layer2Node): BfsTree => {
    let found = trees.get(start.key)
    if (!found) trees.set(start.key, (found = new BfsTree(failed.has(start.deviceId) ? null : start, egress)))
    return found
  }
  const broadcastDomain = (node: Layer2Node): number => {
    let domain = domains.get(node.key)
    if (domain !== undefined) return domain
    const { deviceId, portId, tag } = node
    if (failed.has(deviceId) || !index.devices.has(deviceId)) domain = Number.NaN
    else {
      const vertex = portId === null ? vlanGraph.bridge(deviceId, tag) : vlanGraph.end(deviceId, portId, tag)
      domain = vertex < 0 ? -1 - domains.size : (vlanGraph.component[vertex] as number)
    }
    domains.set(node.key, domain)
    return domain
  }
  let loops: readonly (readonly DeviceId[])[] | null = null
  return {
    failed,
    tree,
    loops: () => (loops ??= loopsOf(index, vlanGraph)),
    vlanGraph,
    broadcastDomain,
    egress,
    bfsTree,
  }
}

const layer2 = defineStage('layer 2', buildLayer2, { keyText: scenarioText })

/** The layer 2 of a plan under a failure scenario. */
export const layer2Of = (index: PlanIndex, scenario: FailureScenario): Layer2 =>
  index.get(
    layer2,
    scenario.filter(({ kind }) => kind === 'down' || kind === 'rain'),
  )

/** True where frames pass from a to b and from b to a: what a conversation at layer 2 needs. */
export function bothWays(layer2: Layer2, from: Layer2Node, to: Layer2Node): boolean {
  return layer2.broadcastDomain(from) === layer2.broadcastDomain(to)
}

/** By which cable, and from which device, a device was reached; null for the one at which one began. */
type CableStep = { readonly device: DeviceId; readonly link: Link } | null

/**
 * Devices in the order a cable-following person meets them, whatever the VLANs; by fewest hops.
 * @param until where one stops; whatever is reached without it
 */
export function cableTree(
  index: PlanIndex,
  failed: ReadonlySet<string>,
  fromDevice: DeviceId,
  until?: DeviceId,
): ReadonlyMap<DeviceId, CableStep> {
  const came = new Map<DeviceId, CableStep>([[fromDevice, null]])
  for (const [at] of came) {
    if (at === until) break
    const device = index.devices.get(at)
    if (!device || failed.has(at) || (isHost(device) && at !== fromDevice)) continue
    const steps = device.ports
      .filter((port) => port.mode.mode !== 'wan')
      .flatMap((port) => {
        const links = index.linksAt.get(portKey({ deviceId: at, portId: port.id })) ?? []
        return links.map((link) => ({ link, port }))
      })
      .sort((x, y) => byText(x.link.id, y.link.id))
    for (const { link, port } of steps) {
      const next = farEnd(link, { deviceId: at, portId: port.id }).deviceId
      if (!failed.has(link.id) && !failed.has(next) && !came.has(next)) came.set(next, { device: at, link })
    }
  }
  return came
}

/** The cables from one device to another, whatever the VLANs; by fewest hops, and null where there is no way. */
export function cablePath(
  index: PlanIndex,
  failed: ReadonlySet<string>,
  fromDevice: DeviceId,
  toDevice: DeviceId,
): Link[] | null {
  const came = cableTree(index, failed, fromDevice, toDevice)
  if (!came.has(toDevice)) return null
  const links: Link[] = []
  for (let step = came.get(toDevice); step; step = came.get(step.device)) links.unshift(step.link)
  return links
}
