// Question: is a VLAN carried from its gateway to everywhere it is needed, and if not, which port drops it?
// Method: for each need, the cables between gateway and edge are followed with 802.1Q at every port.
// Source: IEEE 802.1Q-2022 clause 8.6.
import { by } from '#core/util'
import {
  defineStage,
  farEnd,
  hostInterfaces,
  isHost,
  isVlanAware,
  type NetworkHead,
  type PlanIndex,
  scenarioText,
  type FailureScenario,
} from '#core/queries'
import type { Device, Link, PortMode, PortRef, DeviceId, LinkId, NetworkId } from '#core/schema'
import { bothWays, cablePath, layer2Of } from './layer2'
import { bridgeNode, egressTag, endNode, ingressVid, modeFor, UNTAGGED, type Layer2Node } from './tagging'
import { reachableFrom } from './vlan-graph'

/**
 * A place where a network must arrive: hosts on a port, an SSID of an access point, a device's own address.
 */
export interface VlanDemand {
  readonly networkId: NetworkId
  readonly deviceId: DeviceId
  /** Node whose frames must reach the gateway's interface. */
  readonly node: Layer2Node
  /** Port at the edge, where there is one. */
  readonly port: PortRef | null
  readonly why: 'hosts' | 'ssid' | 'management'
}

/** One port that drops a VLAN on the way to where it is needed. */
export interface VlanGap {
  readonly networkId: NetworkId
  readonly vlan: number
  readonly port: PortRef
  readonly linkId: LinkId
  /** Ids of the devices beyond the port that need the VLAN. */
  readonly affected: readonly string[]
  /**
   * What would let it through; null where no tag can (an access port of another VLAN, a port that is off).
   */
  readonly mend: 'tag' | null
}

/** Every need of the plan, in a fixed order. */
export function vlanDemands(index: PlanIndex): VlanDemand[] {
  const needs: VlanDemand[] = []
  for (const device of index.plan.devices) {
    for (const { port, tag, network } of hostInterfaces(index, device))
      needs.push({
        networkId: network.id,
        deviceId: device.id,
        node: endNode(device.id, port.id, tag),
        port: { deviceId: device.id, portId: port.id },
        why: 'hosts',
      })
    if (device.homeNetworkId !== null && !isHost(device) && device.kind !== 'gateway') {
      const tag = isVlanAware(device)
        ? (index.networkHeads.get(device.homeNetworkId)?.vlan ?? UNTAGGED)
        : UNTAGGED
      needs.push({
        networkId: device.homeNetworkId,
        deviceId: device.id,
        node: bridgeNode(device.id, tag),
        port: null,
        why: 'management',
      })
    }
    if (device.kind !== 'access-point') continue
    for (const ssid of index.plan.ssids.filter((s) => s.apIds.includes(device.id))) {
      const vlan = index.networkHeads.get(ssid.networkId)?.vlan
      if (vlan !== undefined) {
        needs.push({
          networkId: ssid.networkId,
          deviceId: device.id,
          node: bridgeNode(device.id, vlan),
          port: null,
          why: 'ssid',
        })
      }
    }
  }
  return needs
}

type End = { readonly device: Device; readonly ref: PortRef }
type Hop = { readonly link: Link; readonly near: End; readonly far: End }
const endsFrom = (index: PlanIndex, link: Link, fromDevice: string): { near: End; far: End } | null => {
  const near = link.a.deviceId === fromDevice ? link.a : link.b
  const far = farEnd(link, near)
  const nearDevice = index.devices.get(near.deviceId)
  const farDevice = index.devices.get(far.deviceId)
  return nearDevice && farDevice
    ? { near: { device: nearDevice, ref: near }, far: { device: farDevice, ref: far } }
    : null
}

/** The links of a way with their ends, the gateway's first, up to where the plan breaks off. */
function hopsAlong(index: PlanIndex, from: string, links: readonly Link[]): Hop[] {
  const hops: Hop[] = []
  let at = from
  for (const link of links) {
    const ends = endsFrom(index, link, at)
    if (!ends) break
    at = ends.far.device.id
    hops.push({ link, ...ends })
  }
  return hops
}

/** True where a tag that is sent over the first of some hops is read beyond: by the next that sorts, or at the end. */
function isTagRead(index: PlanIndex, need: VlanDemand, hops: readonly Hop[], vlan: number): boolean {
  const next = hops.find(({ far }) => isVlanAware(far.device))
  if (!next) return need.node.tag === vlan
  const mode = modeFor(index, next.far.device, next.far.ref, next.link)
  // What drops the VLAN altogether is told of by itself.
  return egressTag(mode, vlan) !== UNTAGGED
}

/** The mend of a port that drops a VLAN: a tag, where it is a trunk and the tag helps. */
const tagMend = ({ mode }: PortMode, helps: () => boolean): 'tag' | null =>
  mode === 'trunk' && helps() ? 'tag' : null

/** Ports on the way from the gateway to a need that drop the VLAN, each judged against a right neighbour. */
function droppingPorts(
  index: PlanIndex,
  network: NetworkHead,
  need: VlanDemand,
  links: readonly Link[],
): { ref: PortRef; link: Link; mend: 'tag' | null }[] {
  const drops: { ref: PortRef; link: Link; mend: 'tag' | null }[] = []
  let wire: number | null = UNTAGGED
  const hops = hopsAlong(index, network.routerId, links)
  const { vlan } = network
  for (const [place, { link, ...ends }] of hops.entries()) {
    if (isVlanAware(ends.near.device)) {
      const mode = modeFor(index, ends.near.device, ends.near.ref, link)
      wire = egressTag(mode, vlan)
      const isRead = () => isTagRead(index, need, hops.slice(place), vlan)
      // Over Wi-Fi both ends drop the same: whoever has joined is told of.
      const isToldAtFar = link.medium.kind === 'wifi' && isVlanAware(ends.far.device)
      if (wire === null && !isToldAtFar) drops.push({ ref: ends.near.ref, link, mend: tagMend(mode, isRead) })
    }
    if (isVlanAware(ends.far.device)) {
      const mode = modeFor(index, ends.far.device, ends.far.ref, link)
      const arrives = wire !== UNTAGGED
      if (egressTag(mode, vlan) === null)
        drops.push({ ref: ends.far.ref, link, mend: tagMend(mode, () => arrives) })
      else if (wire !== null && ingressVid(mode, wire) !== vlan)
        drops.push({ ref: ends.far.ref, link, mend: null })
      wire = UNTAGGED
    } else if (
      isHost(ends.far.device) &&
      need.deviceId === ends.far.device.id &&
      wire !== null &&
      wire !== need.node.tag
    ) {
      drops.push({ ref: ends.near.ref, link, mend: null })
    }
  }
  return drops
}

/**
 * The VLAN gaps of a plan: ports that stop a VLAN short of where it is needed.
 * Needs whose cable itself is missing or failed are left out; they have no port to blame.
 */
const vlanGapsStage = defineStage('VLAN gaps', findVlanGaps, { keyText: scenarioText })
export const vlanGaps = (index: PlanIndex, scenario: FailureScenario): readonly VlanGap[] =>
  index.get(vlanGapsStage, scenario)

function findVlanGaps(index: PlanIndex, scenario: FailureScenario): readonly VlanGap[] {
  const layer2 = layer2Of(index, scenario)
  const gaps = new Map<string, { gap: VlanGap; affected: Set<string> }>()
  for (const need of vlanDemands(index)) {
    const network = index.networkHeads.get(need.networkId)
    if (!network || bothWays(layer2, need.node, bridgeNode(network.routerId, network.vlan))) continue
    const links = cablePath(index, layer2.failed, network.routerId, need.deviceId)
    if (!links) continue
    for (const drop of droppingPorts(index, network, need, links)) {
      const key = `${network.id}|${drop.ref.deviceId}/${drop.ref.portId}`
      const entry = gaps.get(key)
      if (entry) {
        entry.affected.add(need.deviceId)
        if (drop.mend === null) entry.gap = { ...entry.gap, mend: null }
      } else {
        const gap: VlanGap = {
          networkId: network.id,
          vlan: network.vlan,
          port: drop.ref,
          linkId: drop.link.id,
          affected: [],
          mend: drop.mend,
        }
        gaps.set(key, { gap, affected: new Set([need.deviceId]) })
      }
    }
  }
  return [...gaps.values()]
    .map(({ gap, affected }) => ({ ...gap, affected: [...affected].sort() }))
    .sort(
      by(
        (k) => k.vlan,
        (k) => k.port.deviceId,
        (k) => k.port.portId,
      ),
    )
}

/** VIDs that a link carries from its end a, and from its end b, with the tag on the wire. */
export interface VlanOnLink {
  readonly linkId: LinkId
  readonly vlan: number
  readonly tag: number
  readonly fromA: boolean
  readonly fromB: boolean
}

/** The carried VLANs: for each link the VLANs that arrive over it, and from which end. */
export function vlansOnLinks(index: PlanIndex, scenario: FailureScenario): VlanOnLink[] {
  const { failed, vlanGraph } = layer2Of(index, scenario)
  const out: VlanOnLink[] = []
  for (const network of [...index.networkHeads.values()].sort(by((n) => n.vlan))) {
    const mine = new Map<
      number,
      { linkId: LinkId; vlan: number; tag: number; fromA: boolean; fromB: boolean }
    >()
    const router = index.devices.get(network.routerId)
    if (!router || failed.has(router.id)) continue
    for (const vertex of reachableFrom(vlanGraph, vlanGraph.bridge(router.id, network.vlan))) {
      for (let e = vlanGraph.first[vertex] as number; e < (vlanGraph.first[vertex + 1] as number); e++) {
        const link = vlanGraph.link[e] as number
        const was = mine.get(link)
        const fromA = vlanGraph.fromA[e] === 1
        if (!was)
          mine.set(link, {
            linkId: index.plan.links[link]?.id ?? '',
            vlan: network.vlan,
            tag: vlanGraph.tag[e] as number,
            fromA,
            fromB: !fromA,
          })
        else if (fromA) was.fromA = true
        else was.fromB = true
      }
    }
    for (const carriedVlans of mine.values()) out.push(carriedVlans)
  }
  return out.sort(
    by(
      (c) => c.linkId,
      (c) => c.vlan,
    ),
  )
}
