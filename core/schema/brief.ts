// Question: what is gathered of a site before anything is unplugged?
// Method: plain data with ids.
// Source: common practice of site surveys, without a source.
import { z } from 'zod'
import { MOST_BUILDINGS } from '#core/format'
import {
  buildingId,
  deviceId,
  heightM,
  id,
  list,
  mac,
  metres,
  name,
  networkId,
  percent,
  prefix,
  short,
  vid,
  type Frozen,
  line,
} from './common'
import { outline } from './wifi'

/** On WGS 84, degrees; north and east are positive. */
const position = z.strictObject({
  latDeg: z.number().min(-90).max(90),
  lonDeg: z.number().min(-180).max(180),
})

const onGridM = z.number().min(-200_000).max(200_000)

const building = z.strictObject({
  id: buildingId,
  name,
  /** Null where nobody has read it off. */
  position: position.nullable(),
  /** From any point of the site, towards east and north; null where nobody has paced it. */
  grid: z.strictObject({ eastM: onGridM, northM: onGridM }).nullable(),
  /** Height of the ground there; null where nobody has read it off. */
  groundM: heightM.nullable(),
})

const span = z.strictObject({
  id,
  a: buildingId,
  b: buildingId,
  distanceM: metres,
  crosses: z.enum(['nothing', 'ground', 'road', 'water']),
})

const room = z.strictObject({
  id,
  name,
  buildingId,
  /** People at work there; null where nobody has counted. */
  people: z.number().int().min(0).max(100_000).nullable(),
  /** Where it lies; null while it is not drawn. */
  outline: outline.nullable(),
  /** Level of Wi-Fi that was read where it is weakest, dBm; null where nobody has read one. */
  readDbm: z.number().min(-120).max(0).nullable(),
})

const needLine = z.strictObject({
  id,
  name,
  count: z.number().int().min(0).max(1_000_000),
  growthPct: percent,
  /** VLAN number wished for; null for the next free one. */
  vlan: vid.nullable(),
  /** The network made for it; null while there is none. */
  networkId: networkId.nullable(),
})

const farSite = z.strictObject({
  id,
  name,
  subnets: list(prefix, 100) /** Subnet inside the tunnel; null for none. */,
  tunnel: prefix.nullable(),
})

const existing = z.strictObject({ id, what: name, disposition: z.enum(['keep', 'replace', 'unknown']) })

const equipment = z.strictObject({
  id,
  model: short,
  serial: short,
  mac: mac.nullable(),
  deviceId: deviceId.nullable(),
})

export const brief = z.strictObject({
  buildings: list(building, MOST_BUILDINGS),
  spans: list(span, 2000),
  rooms: list(room, 2000),
  needs: list(needLine, 500),
  far: list(farSite, 500),
  existing: list(existing, 1000),
  equipment: list(equipment, 5000),
  /** How to get onto the internet while the lines are down; empty while nobody has said. */
  otherWay: line(200),
})

export interface Position extends Frozen<z.infer<typeof position>> {}
export interface Building extends Frozen<z.infer<typeof building>> {}
/** The distance between two buildings and what lies between. */
export interface Span extends Frozen<z.infer<typeof span>> {}
export interface Room extends Frozen<z.infer<typeof room>> {}
/** A group of devices that must be connected, before it has a network. */
export interface NeedLine extends Frozen<z.infer<typeof needLine>> {}
/** Another site that tunnels lead to. */
export interface FarSite extends Frozen<z.infer<typeof farSite>> {}
/** Something that stands on the site already. */
export interface Existing extends Frozen<z.infer<typeof existing>> {}
/** One piece of equipment: its label read off, and the device of the plan it will be. */
export interface Equipment extends Frozen<z.infer<typeof equipment>> {}
/** What is gathered before anything is unplugged. */
export interface Brief extends Frozen<z.infer<typeof brief>> {}
