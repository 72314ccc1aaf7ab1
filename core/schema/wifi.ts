// Question: what is known of a site's Wi-Fi: its radios, where they hang, how rooms lie, and who else is on the air?
// Method: plain data; null where nobody has said. What a model brings by itself is not written twice.
import { z } from 'zod'
import { buildingId, deviceId, id, line, list, timeOfDay, type Frozen } from './common'

export const band = z.enum(['2.4', '5', '6'])
const widthMhz = z.union([z.literal(20), z.literal(40), z.literal(80), z.literal(160), z.literal(320)])
const channel = z.number().int().min(1).max(233)
/** On a floor, from its upper left corner, m. */
const alongM = z.number().min(0).max(1000)

/** Amendments of IEEE 802.11 by their letters: n, ac, ax, be. */
export const generation = z.enum(['n', 'ac', 'ax', 'be'])

const accessRadio = z.strictObject({
  id,
  deviceId,
  band,
  generation,
  streams: z.number().int().min(1).max(16),
  /** Primary channel; null where the device chooses. */
  channel: channel.nullable(),
  widthMhz,
  powerDbm: z.number().min(-10).max(40),
  gainDbi: z.number().min(-10).max(40),
})

/** Where an access point hangs. */
const placement = z.strictObject({
  deviceId,
  buildingId,
  floor: z.number().int().min(-20).max(200),
  xM: alongM,
  yM: alongM,
  /** Above the floor. */
  heightM: z.number().min(0).max(50),
  outdoors: z.boolean(),
  /** Where it sends to; null where it sends all around. */
  beam: z
    .strictObject({
      /** From the top of the drawing, clockwise. */
      azimuthDeg: z.number().min(0).lt(360),
      /** Upwards. */
      tiltDeg: z.number().min(-90).max(90),
      /** Between the directions of half the power, seen from above. */
      widthDeg: z.number().min(5).max(180),
    })
    .nullable(),
})

/** What a wall is made of; `open`: there is none. */
export const wall = z.enum(['open', 'plasterboard', 'wood', 'glass', 'brick', 'concrete', 'metal'])

/** A room as a rectangle on its floor, with its four sides as one looks at the drawing. */
export const outline = z.strictObject({
  floor: z.number().int().min(-20).max(200),
  xM: alongM,
  yM: alongM,
  widthM: z.number().min(0.5).max(500),
  depthM: z.number().min(0.5).max(500),
  walls: z.strictObject({ top: wall, right: wall, bottom: wall, left: wall }),
})

/** A network of somebody else's that is heard here. */
const foreignNetwork = z.strictObject({
  id,
  name: line(32),
  band,
  channel,
  widthMhz,
  /** As heard at `deviceId`. */
  levelDbm: z.number().min(-120).max(0),
  deviceId,
})

export const wifi = z.strictObject({
  radios: list(accessRadio, 5000),
  placements: list(placement, 5000),
  foreign: list(foreignNetwork, 1000),
})

/** How an SSID is sent; null: nobody has said. */
export const ssidSettings = z.strictObject({
  /** `owe`: open, and each station encrypted by itself (RFC 8110). `enterprise`: 802.1X. */
  security: z.enum(['open', 'owe', 'wpa2', 'wpa2-wpa3', 'wpa3', 'enterprise']).nullable(),
  bands: list(band, 3),
  hidden: z.boolean(),
  /** Slowest rate at which it speaks, Mb/s; null for the slowest there is. */
  leastMbps: z.union([z.literal(6), z.literal(12), z.literal(24)]).nullable(),
  /** Access points move stations to the better band; else each station chooses. */
  steering: z.boolean(),
  /** A page that stations are shown first; null for none. */
  portal: z
    .strictObject({
      /** It asks to agree to terms of use. */
      terms: z.boolean(),
      /** How long somebody may stay before it is shown again; null for ever. */
      minutes: z.number().int().min(1).max(43_200).nullable(),
    })
    .nullable(),
  /** Stations join at the press of a button, or by eight digits. */
  wps: z.boolean(),
  /** Only stations on a list of MAC addresses are let in. */
  macList: z.boolean(),
  /** When it is sent; null for always. To before from: over midnight. */
  hours: z.strictObject({ from: timeOfDay, to: timeOfDay }).nullable(),
})

export type Band = z.infer<typeof band>
export type Generation = z.infer<typeof generation>
export type ChannelWidth = z.infer<typeof widthMhz>
export type WallKind = z.infer<typeof wall>
export type Outline = Frozen<z.infer<typeof outline>>
export interface AccessRadio extends Frozen<z.infer<typeof accessRadio>> {}
export interface Placement extends Frozen<z.infer<typeof placement>> {}
export interface ForeignNetwork extends Frozen<z.infer<typeof foreignNetwork>> {}
export interface WifiFacts extends Frozen<z.infer<typeof wifi>> {}
/** Which way an access point sends. */
export type Beam = NonNullable<Placement['beam']>
export type SsidSettings = Frozen<z.infer<typeof ssidSettings>>
