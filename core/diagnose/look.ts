// Question: what can somebody on site see besides a test that passes or fails?
import type { Plan, PortRef, DeviceId, LinkId, PeerId, UplinkId } from '#core/schema'

/** What can be looked at. */
export type Look =
  /** The address that a host has. */
  | { readonly kind: 'address'; readonly deviceId: DeviceId }
  /** The speed that a cable's lights tell. */
  | { readonly kind: 'link'; readonly linkId: LinkId }
  /** The port of a switch that a device's MAC address is learnt on. */
  | { readonly kind: 'mac'; readonly deviceId: DeviceId; readonly on: string }
  /** The address that the gateway has on an uplink. */
  | { readonly kind: 'uplink'; readonly uplinkId: UplinkId }
  /** Whether a peer's handshakes arrive, and are taken. */
  | { readonly kind: 'handshake'; readonly peerId: PeerId }
  /** One flow that was tried: `10.61.1.4 to 10.61.2.10 tcp 22`. */
  | { readonly kind: 'flow'; readonly text: string }

/**
 * What was seen there.
 * Of an address: `none` (169.254), `foreign` (of no network of the plan), or a network's id.
 * Of a link: `none`, or Mb/s.
 * Of a MAC: a port's id, or `nowhere`.
 * Of an uplink: `none`, `planned`, `private`, or `ours` (of a network of the site's own).
 * Of a handshake: `recent`, `refused` (packets arrive and are not answered), or `silent`.
 * Of a flow: `passes` or `stopped`.
 */
export type Fact = Look & { readonly got: string }

/** The same for the same thing looked at. */
export function lookId(look: Look): string {
  switch (look.kind) {
    case 'address':
      return `address ${look.deviceId}`
    case 'link':
      return `link ${look.linkId}`
    case 'mac':
      return `mac ${look.deviceId} ${look.on}`
    case 'uplink':
      return `uplink ${look.uplinkId}`
    case 'handshake':
      return `handshake ${look.peerId}`
    case 'flow':
      return `flow ${look.text}`
  }
}

/** The port that a device's cable is planned to end in on another; null where there is none. */
export function plannedPort(plan: Plan, deviceId: DeviceId, on: string): PortRef | null {
  for (const { a: first, b: second } of plan.links) {
    if (first.deviceId === deviceId && second.deviceId === on) return second
    if (second.deviceId === deviceId && first.deviceId === on) return first
  }
  return null
}
