// Question: do frames get from an uplink's port to the internet and back, and which VLANs carry them?
// Method: the port sends and takes frames with the tag that the provider asks for; from the far end of its cable they
// are followed as any frames are.
// Source: IEEE 802.1Q-2022 clause 8.6.
import { defineStage, farEnd, isVlanAware, portKey, type PlanIndex } from '#core/queries'
import type { Link, Uplink } from '#core/schema'
import { layer2Of, type Layer2 } from './layer2'
import { bridgeNode, egressTag, ingressVid, modeFor, UNTAGGED, type Layer2Node } from './tagging'

/** Where the frames of an uplink are when they have passed its own cable; null where they do not. */
function entryNode(index: PlanIndex, uplink: Uplink, link: Link): Layer2Node | null {
  const far = farEnd(link, uplink)
  const device = index.devices.get(far.deviceId)
  if (!device) return null
  const tag = uplink.tag ?? UNTAGGED
  const mode = modeFor(index, device, far, link)
  if (!isVlanAware(device)) return mode.mode === 'off' ? null : bridgeNode(device.id, tag)
  const vid = ingressVid(mode, tag)
  return vid !== null && egressTag(mode, vid) === tag ? bridgeNode(device.id, vid) : null
}

const linksOf = (index: PlanIndex, uplink: Uplink): readonly Link[] =>
  index.linksAt.get(portKey(uplink)) ?? []

const isCloud = (index: PlanIndex, { deviceId }: Layer2Node): boolean =>
  index.devices.get(deviceId)?.kind === 'cloud'

/** The first node of the way from an uplink to the internet by each of its cables that is whole. */
export function uplinkEntries(index: PlanIndex, layer2: Layer2, uplink: Uplink): Layer2Node[] {
  const { failed } = layer2
  if (failed.has(uplink.deviceId)) return []
  return linksOf(index, uplink).flatMap((link) => {
    const entry = entryNode(index, uplink, link)
    if (!entry || failed.has(link.id) || failed.has(entry.deviceId)) return []
    if (isCloud(index, entry)) return [entry]
    const tree = layer2.bfsTree(entry)
    // What leads there leads back where the last device before the internet and the first hear each other.
    const returns = tree.nodes.some((node) => {
      const last = tree.hopsTo(node).at(-2)?.node ?? entry
      return isCloud(index, node) && layer2.broadcastDomain(last) === layer2.broadcastDomain(entry)
    })
    return returns ? [entry] : []
  })
}

/** The links over which an uplink's frames come to the internet, its own cable first; none where they do not. */
export function uplinkLinks(index: PlanIndex, uplink: Uplink): Link[] {
  const layer2 = layer2Of(index, [])
  for (const link of linksOf(index, uplink)) {
    const entry = entryNode(index, uplink, link)
    if (!entry) continue
    if (isCloud(index, entry)) return [link]
    const tree = layer2.bfsTree(entry)
    const end = tree.nodes.find((node) => isCloud(index, node))
    if (end) return [link, ...tree.hopsTo(end).map((hop) => hop.link)]
  }
  return []
}

/** VIDs that carry uplinks through the site's own switches: they need no network. */
const uplinkVidsStage = defineStage(
  'VLANs of uplinks',
  (index): ReadonlySet<number> => {
    const layer2 = layer2Of(index, [])
    const entries = index.plan.uplinks.flatMap((uplink) =>
      linksOf(index, uplink).flatMap((link) => entryNode(index, uplink, link) ?? []),
    )
    const beyond = index.plan.devices
      .filter((device) => device.kind === 'cloud' || device.kind === 'modem')
      .flatMap(({ id }) =>
        [UNTAGGED, ...index.plan.uplinks.flatMap(({ tag }) => tag ?? [])].map((tag) => bridgeNode(id, tag)),
      )
    const crossed = [...entries, ...beyond].flatMap((start) => layer2.bfsTree(start).nodes)
    const inside = new Set(index.plan.networks.map(({ vlan }) => vlan))
    return new Set(
      crossed.flatMap(({ deviceId, tag }) => {
        const device = index.devices.get(deviceId)
        return device && isVlanAware(device) && tag !== UNTAGGED && !inside.has(tag) ? [tag] : []
      }),
    )
  },
  { equal: (a, b) => a.size === b.size && [...a].every((vid) => b.has(vid)) },
)
export const uplinkVids = (index: PlanIndex): ReadonlySet<number> => index.get(uplinkVidsStage)
