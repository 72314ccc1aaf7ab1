// Question: what is known of a radio link between two antennas?
// Method: what its radios are set to, where the antennas stand, and what was surveyed between them; null where nobody
// has said.
import { z } from 'zod'
import { id, list, type Frozen } from './common'

/** Above the sea, or above anything else that all heights of a link are measured from, m. */
const heightM = z.number().min(-500).max(9000)
const dB = (least: number, most: number) => z.number().min(least).max(most)

const radioEnd = z.strictObject({
  antennaM: heightM.nullable(),
  powerDbm: dB(-30, 60).nullable(),
  gainDbi: dB(-10, 60).nullable(),
  /** Loss of cables and connectors between radio and antenna. */
  feederDb: dB(0, 60).nullable(),
})

const surveyedPoint = z.strictObject({
  id,
  /** From the link's first end. */
  atM: z.number().min(0).max(200_000),
  groundM: heightM,
  /** What stands on the ground there. */
  obstacleM: z.number().min(0).max(500),
})

/** Settings of a radio link; its ends are called as the link's own. */
export const radioPath = z.strictObject({
  mhz: z.number().int().min(400).max(90_000).nullable(),
  widthMhz: z.union([z.literal(20), z.literal(40), z.literal(80), z.literal(160)]).nullable(),
  polarization: z.enum(['horizontal', 'vertical']),
  /** The heaviest rain that the link is to stand. */
  rainMmPerHour: z.number().min(0).max(250).nullable(),
  /** What is to be left over the least sensitivity, dB. */
  marginDb: dB(0, 60),
  ends: z.strictObject({ a: radioEnd, b: radioEnd }),
  profile: list(surveyedPoint, 500),
})

export type RadioSettings = Frozen<z.infer<typeof radioPath>>
export type RadioEndSettings = RadioSettings['ends']['a']
export type SurveyPoint = RadioSettings['profile'][number]
