// Question: which kinds of devices are there, and what is said of a model?
// Method: plain data; the catalogue fills it, and planners do for models of their own.
// Source: PoE classes as in IEEE 802.3-2022 clauses 33 and 145.
import { z } from 'zod'
import { interface4, list, mbps, name, short, watts, type Frozen, line } from './common'

export const deviceKind = z.enum([
  'gateway',
  'switch',
  'unmanaged',
  'access-point',
  'bridge-radio',
  'extender',
  'modem',
  'controller',
  'injector',
  'telephone',
  'hosts',
  'cloud',
])

const poeClass = z.number().int().min(0).max(8)
const volts = z.number().min(1).max(60)

const poeSource = z.discriminatedUnion('standard', [
  z.strictObject({ standard: z.literal('ieee'), class: poeClass }),
  z.strictObject({ standard: z.literal('passive'), volts, mostW: watts }),
])

const poeLoad = z.discriminatedUnion('standard', [
  z.strictObject({ standard: z.literal('ieee'), class: poeClass, typicalW: watts }),
  z.strictObject({ standard: z.literal('passive'), leastV: volts, mostV: volts, typicalW: watts }),
])

const portGroup = z.strictObject({
  /** Names and spans of numbers: `1-24`, `lan`, `1, 3-4`. */
  names: line(80, 1),
  kind: z.enum(['copper', 'sfp', 'radio']),
  speedsMbps: list(mbps, 10),
  /** What the maker ships the port as. `network` and `powered` are an injector's two sides. */
  role: z.enum(['lan', 'wan', 'any', 'network', 'powered']),
  /** Shipped switched off, or in need of a licence. */
  locked: z.boolean(),
  source: poeSource.nullable(),
  load: poeLoad.nullable(),
})

const factory = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('dhcp-server'), address: interface4 }),
  z.strictObject({ kind: z.literal('fixed'), address: interface4 }),
  /** A base address, and a knob whose setting is added. */
  z.strictObject({
    kind: z.literal('channel'),
    address: interface4,
    /** The base of an end that joins another; null where both ends have the same. */
    stationAddress: interface4.nullable(),
    channel: z.number().int().min(0).max(64),
  }),
  z.strictObject({ kind: z.literal('dhcp-client') }),
])

export const model = z.strictObject({
  name,
  label: short,
  kind: deviceKind,
  /** Oldest firmware that can be adopted; empty where it is not managed. */
  minFirmware: line(30),
  /** The firmware a plan brings it to; empty where it is not managed. */
  plannedFirmware: line(30),
  /** From power-on to an answer on the network, s (practice). */
  bootS: z.number().min(0).max(86_400),
  /** From the first request to in sync, s (practice). */
  adoptS: z.number().min(0).max(86_400),
  ports: list(portGroup, 64),
  /** Power it can give to all its ports together, W; null where it gives none. */
  poeBudgetW: watts.nullable(),
  /** Own draw without what it gives to others, W. */
  idleW: watts,
  factory,
  /** How it is first signed in to: a password on its label, one that all of them share, or none. */
  credentials: z.enum(['label', 'common', 'none']),
  lights: list(z.strictObject({ shows: short, means: short }), 20),
  /** Speaks the spanning tree protocol. */
  stp: z.boolean(),
  /** Devices it can manage; null where it manages none. */
  capacity: z
    .strictObject({
      accessPoints: z.number().int().min(0).max(100_000),
      switches: z.number().int().min(0).max(100_000),
    })
    .nullable(),
  /**
   * Where client isolation keeps stations apart: at one access point, or across all of them; null where it
   * has none.
   */
  isolation: z.enum(['access-point', 'network']).nullable(),
  /** Throughput with inspection on, Mb/s; null where it has none. */
  inspectionMbps: mbps.nullable(),
  /** Least level at which its radio receives each MCS in 20 MHz, dBm; the standard's from where the list ends. */
  sensitivityDbm: list(z.number().min(-120).max(0), 14),
  /** Wi-Fi that it sends as it comes; empty where it sends none. */
  factorySsid: line(32),
})

export type DeviceKind = z.infer<typeof deviceKind>
/** What a port gives. Passive power is a fixed voltage that asks nobody. */
export type PoeSource = Frozen<z.infer<typeof poeSource>>
/** What a port takes. */
export type PoeLoad = Frozen<z.infer<typeof poeLoad>>
/** Ports that are alike. */
export interface PortGroup extends Frozen<z.infer<typeof portGroup>> {}
/** Where a device is when it comes from the factory. */
export type Factory = Frozen<z.infer<typeof factory>>
export interface Model extends Frozen<z.infer<typeof model>> {}
