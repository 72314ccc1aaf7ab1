// Question: what can a device do by its kind alone?
// Method: one table; whoever asks names the trait, never a list of kinds.
// Source: IEEE 802.1Q for who sorts and forwards frames; common practice for the rest, without a source.
import type { Device, DeviceKind } from '#core/schema'

export type DeviceTrait =
  /** Sorts frames by VLAN; others pass frames on as they are, or end them. */
  | 'vlan-aware'
  /** Passes frames between its ports. */
  | 'forwards'
  /** Frames end in it: it forwards nothing between its ports. */
  | 'host'
  /** Transmits by itself: a country must be set on it. */
  | 'radio'
  /** Has an address of its own in a network, by which it is managed. */
  | 'addressed'
  /** Is brought under management; the controller itself is what manages. */
  | 'managed'
  /** Is configured on the bench, and has a serial on its label. */
  | 'configured'
  /** Has entries in the catalogue. */
  | 'modelled'
  /** Is put up in its place by whoever builds the site. */
  | 'mounted'
  /** Is put on the site by the planner. */
  | 'placed'

/** What every managed box with radios is. */
const RADIO_BOX: readonly DeviceTrait[] = [
  'forwards',
  'radio',
  'addressed',
  'managed',
  'configured',
  'modelled',
  'placed',
  'mounted',
]

/** In the order in which they are offered. */
const TRAITS: Readonly<Record<DeviceKind, readonly DeviceTrait[]>> = {
  gateway: ['vlan-aware', 'forwards', 'managed', 'configured', 'modelled', 'placed', 'mounted'],
  switch: ['vlan-aware', 'forwards', 'addressed', 'managed', 'configured', 'modelled', 'placed', 'mounted'],
  unmanaged: ['forwards', 'modelled', 'placed', 'mounted'],
  'access-point': ['vlan-aware', ...RADIO_BOX],
  'bridge-radio': RADIO_BOX,
  extender: ['radio', 'addressed', 'configured', 'modelled', 'placed'],
  injector: ['forwards', 'modelled', 'placed', 'mounted'],
  modem: ['placed'],
  controller: ['host', 'addressed', 'configured', 'modelled', 'placed', 'mounted'],
  // A small switch with an address of its own: the network on one socket, a computer on the other.
  telephone: ['vlan-aware', 'forwards', 'modelled', 'placed'],
  hosts: ['host', 'modelled', 'placed'],
  cloud: [],
}

export const hasTrait = ({ kind }: Pick<Device, 'kind'>, trait: DeviceTrait): boolean =>
  TRAITS[kind].includes(trait)

/** The kinds that have a trait, in the order in which they are offered. */
export const kindsWith = (trait: DeviceTrait): DeviceKind[] =>
  (Object.keys(TRAITS) as DeviceKind[]).filter((kind) => hasTrait({ kind }, trait))

export const isVlanAware = (device: Device): boolean => hasTrait(device, 'vlan-aware')
export const isHost = (device: Device): boolean => hasTrait(device, 'host')
export const isRadio = (device: Device): boolean => hasTrait(device, 'radio')
