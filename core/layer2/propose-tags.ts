// Question: what is the least set of VLANs that each trunk must carry, so that every edge is served?
// Method: cables of which any may stand in for any other are one block; blocks hang together as a tree, and a
// VLAN must be on every cable of each block between its gateway and a place that needs it.
// Source:
// IEEE 802.1Q-2022 clause 8.6 (egress); pruning is common practice; biconnected parts:
// Hopcroft and Tarjan 1973.
import { farEnd, findPort, isHost, isVlanAware, portKey, type PlanIndex } from '#core/queries'
import type { Device, Link, PortMode, PortRef, PortId } from '#core/schema'
import { vlanDemands } from './vlan-coverage'

export interface TrunkProposal {
  readonly port: PortRef
  readonly before: PortMode
  readonly after: PortMode
  /** VLANs to tag that are not, and VLANs that are tagged for nobody. */
  readonly add: readonly number[]
  readonly prune: readonly number[]
}

interface Step {
  readonly to: string
  readonly link: Link
}

/** A device, or one socket of a group of hosts: frames do not pass from socket to socket. */
const placeOf = (device: Device, ref: PortRef): string => (isHost(device) ? portKey(ref) : device.id)

/**
 * Who is cabled to whom, whatever the VLANs; frames end at hosts, and lines to providers lead out of the
 * site.
 */
function neighbours(index: PlanIndex, failed: ReadonlySet<string>): Map<string, Step[]> {
  const out = new Map<string, Step[]>()
  const add = (from: string, to: string, link: Link) => {
    const known = out.get(from)
    if (known) known.push({ to, link })
    else out.set(from, [{ to, link }])
  }
  for (const link of index.plan.links) {
    const [first, second] = [index.devices.get(link.a.deviceId), index.devices.get(link.b.deviceId)]
    if (!first || !second || failed.has(link.id) || failed.has(first.id) || failed.has(second.id)) continue
    if ([link.a, link.b].some((ref) => findPort(index, ref)?.mode.mode === 'wan')) continue
    add(placeOf(first, link.a), placeOf(second, link.b), link)
    add(placeOf(second, link.b), placeOf(first, link.a), link)
  }
  return out
}

/**
 * Cables of which any may stand in for any other, and the device through which frames from the root come in.
 */
interface Biconnected {
  readonly articulation: string
  readonly links: Link[]
}

/** The block through which each device is reached from a root; the root itself has none. */
function biconnectedFrom(
  around: ReadonlyMap<string, readonly Step[]>,
  root: string,
): Map<string, Biconnected> {
  const order = new Map<string, number>([[root, 0]])
  const low = new Map<string, number>([[root, 0]])
  const came = new Map<string, Step>()
  const next = new Map<string, number>()
  const path = [root]
  const open: { readonly link: Link; readonly below: string }[] = []
  const blockOf = new Map<string, Biconnected>()
  while (path.length > 0) {
    const at = path[path.length - 1] as string
    const i = next.get(at) ?? 0
    const step = around.get(at)?.[i]
    if (step) {
      next.set(at, i + 1)
      if (step.link === came.get(at)?.link) continue
      const seen = order.get(step.to)
      if (seen === undefined) {
        order.set(step.to, order.size)
        low.set(step.to, order.get(step.to) as number)
        came.set(step.to, { to: at, link: step.link })
        open.push({ link: step.link, below: step.to })
        path.push(step.to)
      } else if (seen < (order.get(at) as number)) {
        open.push({ link: step.link, below: at })
        low.set(at, Math.min(low.get(at) as number, seen))
      }
      continue
    }
    path.pop()
    const up = came.get(at)
    if (!up) continue
    low.set(up.to, Math.min(low.get(up.to) as number, low.get(at) as number))
    if ((low.get(at) as number) < (order.get(up.to) as number)) continue
    // Nothing below leads back above: what is open since this cable is one block.
    const block: Biconnected = { articulation: up.to, links: [] }
    for (let entry = open.pop(); entry; entry = open.pop()) {
      block.links.push(entry.link)
      blockOf.set(entry.below, block)
      if (entry.link === up.link) break
    }
  }
  return blockOf
}

/** VLANs that must cross each link, by link id. */
export function vlansNeededOnLinks(index: PlanIndex, failed: ReadonlySet<string>): Map<string, Set<number>> {
  const around = neighbours(index, failed)
  const needed = new Map<string, Set<number>>()
  const mark = (link: Link, vlan: number) => {
    const known = needed.get(link.id)
    if (known) known.add(vlan)
    else needed.set(link.id, new Set([vlan]))
  }
  const views = new Map<string, Map<string, Biconnected>>()
  const crossed = new Map<number, Set<Biconnected>>()
  for (const need of vlanDemands(index)) {
    const network = index.networkHeads.get(need.networkId)
    if (!network || !index.devices.has(network.routerId)) continue
    const view = views.get(network.routerId) ?? biconnectedFrom(around, network.routerId)
    views.set(network.routerId, view)
    const done = crossed.get(network.vlan) ?? new Set()
    crossed.set(network.vlan, done)
    for (
      let block = view.get(need.why === 'hosts' && need.port ? portKey(need.port) : need.deviceId);
      block && !done.has(block);
      block = view.get(block.articulation)
    ) {
      done.add(block)
      for (const link of block.links) mark(link, network.vlan)
    }
  }
  return needed
}

/** True where the far end of a cable leads on to more than one place: it is a trunk's end, not a host's. */
function isBackbone(index: PlanIndex, link: Link, ref: PortRef): boolean {
  const far = index.devices.get(farEnd(link, ref).deviceId)
  return (
    far !== undefined &&
    far.kind !== 'hosts' &&
    far.kind !== 'controller' &&
    link.medium.kind !== 'wifi' &&
    link.medium.kind !== 'line'
  )
}

function proposalFor(
  index: PlanIndex,
  needed: ReadonlyMap<string, ReadonlySet<number>>,
  device: Device,
  portId: PortId,
  mode: PortMode,
): TrunkProposal | null {
  if (mode.mode !== 'trunk' || mode.tagged === 'all') return null
  const ref = { deviceId: device.id, portId }
  const links = (index.linksAt.get(portKey(ref)) ?? []).filter((link) => isBackbone(index, link, ref))
  if (links.length === 0) return null
  const only = links.length === 1 ? needed.get(links[0]?.id ?? '') : undefined
  const wanted = only ?? new Set(links.flatMap((link) => [...(needed.get(link.id) ?? [])]))
  // Most ports are right: then as many are tagged as are wanted, and each of them is.
  const count = wanted.size - (mode.native !== null && wanted.has(mode.native) ? 1 : 0)
  if (mode.tagged.length === count && mode.tagged.every((vid) => wanted.has(vid) && vid !== mode.native))
    return null
  const has = new Set(mode.tagged)
  const known = new Set([...index.networkHeads.values()].map((network) => network.vlan))
  // A native VLAN that is tagged as well stays so: it is nobody's to prune.
  const tagged = [...wanted].filter((vid) => vid !== mode.native || has.has(vid)).sort((a, b) => a - b)
  const add = tagged.filter((vid) => !has.has(vid))
  const prune = mode.tagged.filter((vid) => !wanted.has(vid) && known.has(vid)).sort((a, b) => a - b)
  if (add.length === 0 && prune.length === 0) return null
  const kept = mode.tagged.filter((vid) => !known.has(vid))
  return {
    port: ref,
    before: mode,
    after: { ...mode, tagged: [...tagged, ...kept].sort((a, b) => a - b) },
    add,
    prune,
  }
}

/** What would change on each trunk, in the order of devices and ports. Ports that are right are left out. */
export function trunkProposals(index: PlanIndex, failed: ReadonlySet<string>): TrunkProposal[] {
  const needed = vlansNeededOnLinks(index, failed)
  const out: TrunkProposal[] = []
  for (const device of index.plan.devices) {
    if (!isVlanAware(device)) continue
    for (const port of device.ports) {
      const proposal =
        port.mode.mode === 'trunk' ? proposalFor(index, needed, device, port.id, port.mode) : null
      if (proposal) out.push(proposal)
    }
  }
  return out
}

/** The VLAN of untagged frames; null where there is none. */
const untaggedOf = (mode: PortMode): number | null => {
  if (mode.mode === 'access') return mode.vlan
  return mode.mode === 'trunk' ? mode.native : null
}

/**
 * What both ends of a cable are to have untagged: what a trunk at either end says, else what a device at its end is
 * managed in, else the first end's.
 */
function agreedNative(ends: readonly [PortMode, PortMode], homes: readonly number[]): number | null {
  const trunk = ends.find(({ mode }) => mode === 'trunk')
  const managed = ends.find((mode) => homes.some((vlan) => vlan === untaggedOf(mode)))
  return untaggedOf(trunk ?? managed ?? ends[0]) ?? untaggedOf(ends[1])
}

function conversionFor(
  index: PlanIndex,
  link: Link,
  ref: PortRef,
  needed: ReadonlySet<number>,
): TrunkProposal | null {
  const far = farEnd(link, ref)
  const [own, other] = [ref, far].map((end) => findPort(index, end)?.mode)
  const devices = [ref, far].map(({ deviceId }) => index.devices.get(deviceId))
  const sorts = devices.every((device) => device && isVlanAware(device) && device.kind !== 'telephone')
  if (!own || !other || !sorts || (own.mode !== 'access' && own.mode !== 'off')) return null
  const isServed = own.mode === 'access' && [...needed].every((vlan) => vlan === own.vlan)
  if (isServed || (other.mode !== 'access' && other.mode !== 'off' && other.mode !== 'trunk')) return null
  const homes = devices.flatMap((device) => index.networkHeads.get(device?.homeNetworkId ?? '')?.vlan ?? [])
  const native = agreedNative(ref === link.a ? [own, other] : [other, own], homes)
  const tagged = [...needed].filter((vlan) => vlan !== native).sort((first, second) => first - second)
  return { port: ref, before: own, after: { mode: 'trunk', native, tagged }, add: tagged, prune: [] }
}

/**
 * Access ports, and ports that are off, between two devices that sort VLANs, which must become trunks for what is
 * beyond them; in the order of links.
 * What both ends have untagged stays so.
 */
export function trunkConversions(index: PlanIndex, failed: ReadonlySet<string>): TrunkProposal[] {
  const needed = vlansNeededOnLinks(index, failed)
  return index.plan.links.flatMap((link) => {
    const vlans = needed.get(link.id)
    if (!vlans || link.medium.kind === 'wifi' || link.medium.kind === 'line') return []
    return [link.a, link.b].flatMap((ref) => conversionFor(index, link, ref, vlans) ?? [])
  })
}
