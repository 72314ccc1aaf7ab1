// Question: what does one port do to the tag of a frame?
// Method: an access port has one VLAN untagged, a trunk its native VLAN untagged and others tagged; all else
// is dropped.
// Source:
// IEEE 802.1Q-2022 clause 8.6 (ingress, egress), acceptable frame types as in clause 6.9.
import { findPort, joiningEnd, tags, type PlanIndex } from '#core/queries'
import type { Device, Link, PortMode, PortRef, DeviceId, PortId } from '#core/schema'

/** No tag on the wire. VIDs run from 1, so 0 is free for it. */
export const UNTAGGED = 0

/** Where a frame can be: in a bridge, on one VLAN, or at a port that ends it. */
export interface Layer2Node {
  readonly deviceId: DeviceId
  /** Null inside a bridge. */
  readonly portId: PortId | null
  /** VID of a VLAN-aware device, tag on the wire of a plain one. */
  readonly tag: number
  /** One text for each node, to look it up by; never taken apart. */
  readonly key: string
}

/** Node of a VLAN-aware device for a VID, or of a plain one for the tag a frame carries. */
export const bridgeNode = (deviceId: DeviceId, tag: number): Layer2Node => ({
  deviceId,
  portId: null,
  tag,
  key: `${deviceId}#${tag}`,
})

/**
 * Node where frames end: a host's interface by the tag that it sends, or a routed port.
 * Nothing is forwarded between them at this layer.
 */
export const endNode = (deviceId: DeviceId, portId: PortId, tag = UNTAGGED): Layer2Node => ({
  deviceId,
  portId,
  tag,
  key: tag === UNTAGGED ? `${deviceId}/${portId}` : `${deviceId}/${portId}#${tag}`,
})

/** True where a host's socket has an interface for frames with a tag. */
export function hostTakes(mode: PortMode, tag: number): boolean {
  if (mode.mode !== 'trunk') return mode.mode !== 'off' && tag === UNTAGGED
  return tag === UNTAGGED ? mode.native !== null : tags(mode, tag)
}

const hasJoined = (index: PlanIndex, device: Device, link: Link): boolean =>
  joiningEnd(link, (id) => index.devices.get(id)).deviceId === device.id

/**
 * The mode in force at a port for a link: over Wi-Fi an access point's radio is an access port of the SSID's VLAN,
 * whether it sends the SSID or has joined it; between bridges that speak four-address frames, all others are tagged.
 */
export function modeFor(index: PlanIndex, device: Device, ref: PortRef, link: Link): PortMode {
  if (link.medium.kind === 'wifi' && device.kind === 'access-point') {
    const ssid = index.ssids.get(link.medium.ssidId)
    const vlan = ssid && index.networkHeads.get(ssid.networkId)?.vlan
    const isSent = ssid?.apIds.includes(device.id) || hasJoined(index, device, link)
    if (!isSent || vlan === undefined) return { mode: 'off' }
    return link.medium.fourAddress ? { mode: 'trunk', native: vlan, tagged: 'all' } : { mode: 'access', vlan }
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
