// Question: which devices stand on a site, and what joins their ports?
// Method: plain data with ids.
// Source: terms of IEEE 802.1Q (VLAN, native, tagged).
import { z } from 'zod'
import {
  deviceId,
  id,
  interface4,
  interface6,
  linkId,
  list,
  mbps,
  metres,
  name,
  networkId,
  portId,
  short,
  ssidId,
  vid,
  type Frozen,
  line,
} from './common'
import { deviceKind } from './product'
import { radioPath } from './radio'

export const portMode = z.discriminatedUnion('mode', [
  z.strictObject({ mode: z.literal('access'), vlan: vid }),
  z.strictObject({
    mode: z.literal('trunk'),
    native: vid.nullable(),
    tagged: z.union([z.literal('all'), list(vid, 4094)]),
  }),
  /** An address of its own and no bridge; `address6` the same of IPv6, null for none. */
  z.strictObject({ mode: z.literal('routed'), address: interface4, address6: interface6.nullable() }),
  z.strictObject({ mode: z.literal('radio') }),
  z.strictObject({ mode: z.literal('wan') }),
  z.strictObject({ mode: z.literal('plain') }),
  z.strictObject({ mode: z.literal('off') }),
])

const opticName = z.enum(['1000BASE-SX', '1000BASE-LX10', '10GBASE-SR', '10GBASE-LR'])

const port = z.strictObject({
  id: portId,
  name,
  mode: portMode,
  /** Speed forced on the port, Mb/s; null where it is negotiated. */
  speedMbps: mbps.nullable(),
  /** Transceiver in the port; null for none. */
  optic: opticName.nullable(),
  /** `off`: gives no power even where it could. */
  poe: z.enum(['auto', 'off']),
})

export const device = z.strictObject({
  id: deviceId,
  name,
  kind: deviceKind,
  /** Name in the catalogue; empty for what the site merely attaches. */
  model: short,
  place: short,
  /** Network its own address, or its hosts, belong to; null where it has none. */
  homeNetworkId: networkId.nullable(),
  /** How many alike endpoints a `hosts` device stands for; 1 otherwise. */
  count: z.number().int().min(1).max(100_000),
  /** Has a supply of its own plugged in, so that it asks its cable for no power. */
  mains: z.boolean(),
  /** Bridge priority of the spanning tree, 0 to 61440 in steps of 4096; null for the usual 32768. */
  stpPriority: z.number().int().min(0).max(61_440).multipleOf(4096).nullable(),
  ports: list(port, 1024),
})

const portRef = z.strictObject({ deviceId, portId })

const copperCategory = z.enum(['Cat5e', 'Cat6', 'Cat6A'])
const fibreGrade = z.enum(['OM3', 'OM4', 'OS2'])
const run = z.enum(['indoor', 'outdoor', 'between'])
const medium = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('copper'), category: copperCategory, lengthM: metres, run }),
  z.strictObject({ kind: z.literal('fibre'), grade: fibreGrade, lengthM: metres, run }),
  z.strictObject({ kind: z.literal('radio'), lengthM: metres, radio: radioPath }),
  /** `fourAddress`: whoever joins is a bridge, tags and addresses pass (IEEE 802.11, 9.3.2.1). */
  z.strictObject({
    kind: z.literal('wifi'),
    ssidId,
    fourAddress: z.boolean(),
    /** What an extender adds to the name that it sends on; empty where stations are to roam. */
    suffix: line(16),
  }),
  z.strictObject({ kind: z.literal('line') }),
])

export const link = z.strictObject({
  id: linkId,
  a: portRef,
  b: portRef,
  medium /** Name of the bundle (LAG) it is a member of; null for a cable by itself. */,
  lag: id.nullable(),
})

export const portTemplate = z.strictObject({
  id,
  name,
  model: short,
  ports: list(z.strictObject({ names: line(200, 1), mode: portMode }), 1024),
})

/**
 * Whether tagged frames may use a port, and as what untagged frames count.
 * `plain`: the device does no VLANs.
 */
export type PortMode = Frozen<z.infer<typeof portMode>>
export type OpticName = z.infer<typeof opticName>
export interface Port extends Frozen<z.infer<typeof port>> {}
export interface Device extends Frozen<z.infer<typeof device>> {}
export interface PortRef extends Frozen<z.infer<typeof portRef>> {}
export type CopperCategory = z.infer<typeof copperCategory>
export type FibreGrade = z.infer<typeof fibreGrade>
/** Where a cable lies; `between`: from one building to another. */
export type CableRun = z.infer<typeof run>
export type Medium = Frozen<z.infer<typeof medium>>
export interface Link extends Frozen<z.infer<typeof link>> {}
/** A switch's port map kept for the next one like it. */
export interface PortTemplate extends Frozen<z.infer<typeof portTemplate>> {}
