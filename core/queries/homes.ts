// Question: in which networks does a device have interfaces of its own, and does it tag them?
// Method: a plain socket is in the network that the device wants, untagged; a socket that is a trunk has an
// interface in the network of each of its VLANs.
// Each answers for itself, by its own address and its own gateway, as with a routing table for each source.
// Source: IEEE 802.1Q-2022 (an end station may be VLAN-aware); common practice for the routing, no source.
import type { Device, NetworkId, Port } from '#core/schema'
import { isHost } from './device-kinds'
import { tags, vidsOf } from './lookup'
import type { NetworkHead, PlanIndex } from './plan-index'

/** One interface of a host; `tag` is 0 where it sends no tag. */
interface HostInterface {
  readonly port: Port
  /** Place of the socket among those of its device. */
  readonly nth: number
  readonly tag: number
  readonly network: NetworkHead
}

/** Interfaces of one socket of a host; none of what is no host, or wants no network. */
export function socketInterfaces(index: PlanIndex, device: Device, nth: number): HostInterface[] {
  const port = device.ports[nth]
  if (!port || !isHost(device) || device.homeNetworkId === null) return []
  const { mode } = port
  if (mode.mode !== 'trunk') {
    const network = index.networkHeads.get(device.homeNetworkId)
    return network ? [{ port, nth, tag: 0, network }] : []
  }
  const vids = mode.tagged === 'all' ? [...index.networkByVlan.keys()] : vidsOf(mode)
  return vids.flatMap((vid) => {
    if (vid !== mode.native && !tags(mode, vid)) return []
    const network = index.networkByVlan.get(vid)
    return network ? [{ port, nth, tag: tags(mode, vid) ? vid : 0, network }] : []
  })
}

/** Every interface of a host, socket by socket. */
export const hostInterfaces = (index: PlanIndex, device: Device): HostInterface[] =>
  device.ports.flatMap((_, nth) => socketInterfaces(index, device, nth))

/** The networks that a device has addresses in, the one it wants first. */
export function homesOf(index: PlanIndex, device: Device): NetworkId[] {
  if (device.homeNetworkId === null) return []
  return [...new Set([device.homeNetworkId, ...hostInterfaces(index, device).map((i) => i.network.id)])]
}
