// Question: what is known of a radio link between two antennas?
// Method: what its radios are set to, where the antennas stand, and what was surveyed between them; null where nobody
// has said.
import { z } from 'zod'
import { heightM, id, line, list, mbps, type Frozen } from './common'
import { generation } from './wifi'

const mhz = z.number().int().min(400).max(90_000)
const dB = (least: number, most: number) => z.number().min(least).max(most)

/** An end that is fed by the sun; null where nobody has said. */
const solarSupply = z.strictObject({
  panelW: z.number().min(0).max(100_000).nullable(),
  /** Hours of full sun on a day of the darkest month. */
  sunHours: z.number().min(0).max(24).nullable(),
  batteryWh: z.number().min(0).max(10_000_000).nullable(),
  /** What the end takes, day and night. */
  drawW: z.number().min(0).max(100_000).nullable(),
})

/** `other`: a way of its maker's own. */
const linkSecurity = z.enum(['open', 'wpa2', 'wpa3', 'other'])

/** The last is that of the channels near 60 GHz. */
const linkWidthMhz = z.union([z.literal(20), z.literal(40), z.literal(80), z.literal(160), z.literal(2160)])
/** Those of Wi-Fi, and 802.11ad near 60 GHz. */
const linkGeneration = z.enum([...generation.options, 'ad'])

/** What its own page shows once it is set up; null, or empty, where nobody has looked. */
const asSet = z.strictObject({
  mhz: mhz.nullable(),
  widthMhz: linkWidthMhz.nullable(),
  networkName: line(32),
  security: linkSecurity.nullable(),
  /** `bridge`: frames pass as they are; `router`: it has a network on each side. */
  mode: z.enum(['bridge', 'router']).nullable(),
  /** Its key is the one that was given out for the link. */
  keyAsGiven: z.boolean().nullable(),
  /** As they stand in the fields of its page, right or wrong; empty where nobody has looked. */
  address: line(45),
  mask: line(45),
  gateway: line(45),
})

/** Heard with another antenna before the real one was up; null where nobody has listened. */
const survey = z.strictObject({ readDbm: dB(-120, 0).nullable(), gainDbi: dB(-10, 60).nullable() })

/** What the wind takes hold of; null where nobody has said. */
const mounting = z.strictObject({
  /** Diameter of the antenna, with its cover. */
  dishM: z.number().min(0).max(5).nullable(),
  /** From the foot of the mast up to the middle of the antenna. */
  mastM: z.number().min(0).max(100).nullable(),
  /** From the mast to the edge over which a stand that is not fixed would tip; null where it is fixed. */
  footM: z.number().min(0.1).max(10).nullable(),
})

const radioEnd = z.strictObject({
  antennaM: heightM.nullable(),
  powerDbm: dB(-30, 60).nullable(),
  gainDbi: dB(-10, 60).nullable(),
  /** Loss of cables and connectors between radio and antenna. */
  feederDb: dB(0, 60).nullable(),
  /** One end opens the network, the other joins it. */
  role: z.enum(['access-point', 'station']).nullable(),
  /** Level that its radio showed, once it was aimed and fixed. */
  readDbm: dB(-120, 0).nullable(),
  /** What is seen in the direction of the far end; empty where nobody has said. */
  seen: line(120),
  /** What bonds it to earth and keeps surges off; empty where nobody has said. */
  protection: line(120),
  solar: solarSupply,
  asSet,
  survey,
  mounting,
})

const surveyedPoint = z.strictObject({
  id,
  /** From the link's first end. */
  atM: z.number().min(0).max(200_000),
  groundM: heightM,
  /** What stands on the ground there. */
  obstacleM: z.number().min(0).max(500),
  /** How much it grows in a year: trees do, roofs do not. */
  growsM: z.number().min(0).max(10),
})

/** Settings of a radio link; its ends are called as the link's own. */
export const radioPath = z.strictObject({
  mhz: mhz.nullable(),
  widthMhz: linkWidthMhz.nullable(),
  /** Name that one end sends, and the other joins; empty where nobody has said. */
  networkName: line(32),
  /** How what is sent is encrypted. */
  security: linkSecurity.nullable(),
  /** Strongest gust that the antennas are to stand, m/s. */
  gustMps: z.number().min(0).max(100).nullable(),
  generation: linkGeneration.nullable(),
  streams: z.number().int().min(1).max(4).nullable(),
  /** Distance that the radios wait for an answer over, m; null where they find it themselves, or nobody has said. */
  rangeSetM: z.number().min(0).max(200_000).nullable(),
  /** What is to be carried, Mb/s. */
  neededMbps: mbps.nullable(),
  polarization: z.enum(['horizontal', 'vertical']),
  /** The heaviest rain that the link is to stand. */
  rainMmPerHour: z.number().min(0).max(250).nullable(),
  /** What is to be left over the least sensitivity, dB. */
  marginDb: dB(0, 60),
  ends: z.strictObject({ a: radioEnd, b: radioEnd }),
  profile: list(surveyedPoint, 500),
})

export type RadioSettings = Frozen<z.infer<typeof radioPath>>
export type LinkGeneration = z.infer<typeof linkGeneration>
export type LinkWidth = z.infer<typeof linkWidthMhz>
export type LinkSecurity = z.infer<typeof linkSecurity>
export type RadioEndSettings = RadioSettings['ends']['a']
export type Mounting = RadioEndSettings['mounting']
export type SolarSupply = RadioEndSettings['solar']
export type SurveyPoint = RadioSettings['profile'][number]
