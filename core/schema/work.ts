// Question: who does the work, when, and what takes longer or is left out on this site?
// Method: plain data; what is to be done is computed from the rest of the plan, never written down here.
// Source: none; common practice of planning work on site.
import { z } from 'zod'
import { isCalendarDate, MOST_MINUTES } from '#core/format'
import { personId, list, name, short, timeOfDay, line, id, type Frozen } from './common'

/** What not everybody may do. */
const skill = z.enum(['mains', 'height', 'driving'])

/** Every kind of activity, in the usual order of the work. */
export const activityKind = z.enum([
  'ask',
  'order',
  'print',
  'download',
  'back-up-old',
  'agree-window',
  'unbox',
  'claim',
  'power',
  'boot',
  'sign-in',
  'firmware',
  'settings',
  'adopt',
  'label',
  'mount',
  'pull',
  'test-cable',
  'bond',
  'connect',
  'place-extender',
  'aim',
  'note-wiring',
  'gate-begin',
  'unplug',
  'connect-uplink',
  'wait-uplink',
  'smoke-test',
  'gate-keep',
  'channels',
  'prove',
  'failover',
  'back-up',
  'hand-over',
])

const minutes = z.number().int().min(0).max(MOST_MINUTES)
const date = z.string().max(10).refine(isCalendarDate, 'date')

const person = z.strictObject({
  id: personId,
  /** A role rather than a name: who it is may change. */
  name,
  skills: list(skill, 3),
  /** Days of work: 1 is Monday, 7 Sunday. */
  days: list(z.number().int().min(1).max(7), 7),
  from: timeOfDay,
  to: timeOfDay,
})

const journey = z.strictObject({ id, a: short, b: short, minutes })

/** How long a kind of activity takes this team. */
const ownDuration = z.strictObject({
  kind: activityKind,
  leastMin: minutes,
  usualMin: minutes,
  worstMin: minutes,
})

/** What somebody changed in the computed run sheet; it stays while its activity does. */
const adjustment = z.strictObject({
  activityId: line(200, 1),
  /** Who is to do it; null where anybody may. */
  personId: personId.nullable(),
  /** Minutes from midnight of the first day; null for as soon as can be. */
  notBeforeMin: minutes.nullable(),
  isLeftOut: z.boolean(),
})

export const work = z.strictObject({
  /** First day of work, ISO 8601; null while it is not agreed. */
  startDate: date.nullable(),
  /** IANA name of the site's time zone; empty while it is not said. */
  timeZone: line(60),
  people: list(person, 20),
  /** Devices that can stand on the bench at once. */
  benchPorts: z.number().int().min(1).max(64),
  /** Place of the bench; empty where travel to it counts for nothing. */
  benchPlace: short,
  journeys: list(journey, 500),
  /** When the old line may be unplugged; null where any time will do. */
  cutOver: z.strictObject({ date, from: timeOfDay, to: timeOfDay }).nullable(),
  /** Wind beyond which nobody works outdoors at height, m/s; null while nobody has said. */
  windLimitMps: z.number().min(0).max(60).nullable(),
  durations: list(ownDuration, 50),
  /** Kinds that this site needs none of, such as cables that lie already. */
  leftOut: list(activityKind, 50),
  adjustments: list(adjustment, 2000),
})

export type Skill = z.infer<typeof skill>
export type ActivityKind = z.infer<typeof activityKind>
export interface Person extends Frozen<z.infer<typeof person>> {}
export interface Journey extends Frozen<z.infer<typeof journey>> {}
export interface OwnDuration extends Frozen<z.infer<typeof ownDuration>> {}
export interface Adjustment extends Frozen<z.infer<typeof adjustment>> {}
/** Who works when on a site, and what was changed of the computed run sheet. */
export interface WorkFacts extends Frozen<z.infer<typeof work>> {}
