// Question: what is an activity of the work on site, and how long does each kind take?
// Method: one table of kinds; a model's own times and this team's own come before it.
// Source: durations are common practice, without a published source; each is changed on the run sheet.
import type { ActivityKind, DeviceId, OwnDuration, Skill } from '#core/schema'

export type ActivityGroup = 'before' | 'bench' | 'site' | 'cut-over' | 'after'

/** Three points of a duration, whole minutes: least, usual and worst. */
export interface Duration {
  readonly leastMin: number
  readonly usualMin: number
  readonly worstMin: number
  readonly source: 'practice' | 'model' | 'own'
}

/** When an activity can be done at all. */
export type Limit = 'any' | 'daylight' | 'window'

export interface Activity {
  /** Stays the same while what it is about keeps its id. */
  readonly id: string
  readonly kind: ActivityKind
  readonly group: ActivityGroup
  /** Id of the device, cable, uplink or kind of test it is about; empty for the whole site. */
  readonly about: string
  /** A device at which it is done, for its name and place; null for none. */
  readonly deviceId: DeviceId | null
  /** Where it is done, as travel counts it; empty where that does not matter. */
  readonly place: string
  readonly duration: Duration
  /** Whether it needs a person from its start to its end; a wait does not. */
  readonly hands: boolean
  readonly skills: readonly Skill[]
  /** Activities that must have ended. */
  readonly after: readonly string[]
  /** Resources that it occupies from its start. */
  readonly takes: readonly string[]
  /** Resources that are free again at its end. */
  readonly frees: readonly string[]
  readonly limit: Limit
}

interface KindFacts {
  readonly group: ActivityGroup
  /** Least, usual and worst, minutes. */
  readonly minutes: readonly [least: number, usual: number, worst: number]
  readonly hands: boolean
  readonly skills: readonly Skill[]
}

const kind = (
  group: ActivityGroup,
  minutes: KindFacts['minutes'],
  { hands = true, skills = [] }: Partial<Pick<KindFacts, 'hands' | 'skills'>> = {},
): KindFacts => ({ group, minutes, hands, skills })
const wait = { hands: false }

/** Each kind's group, practice and needs. */
export const KINDS: Readonly<Record<ActivityKind, KindFacts>> = {
  ask: kind('before', [5, 15, 60]),
  order: kind('before', [10, 20, 60]),
  print: kind('before', [5, 10, 30]),
  download: kind('before', [5, 10, 30]),
  'back-up-old': kind('before', [5, 15, 45]),
  'agree-window': kind('before', [5, 10, 60]),
  unbox: kind('bench', [3, 5, 15]),
  claim: kind('bench', [1, 2, 5]),
  power: kind('bench', [1, 2, 5]),
  boot: kind('bench', [1, 2, 5], wait),
  'sign-in': kind('bench', [3, 5, 20]),
  firmware: kind('bench', [3, 6, 20], wait),
  settings: kind('bench', [3, 6, 20]),
  adopt: kind('bench', [2, 4, 15], wait),
  label: kind('bench', [1, 2, 5]),
  mount: kind('site', [10, 20, 60]),
  pull: kind('site', [5, 15, 60]),
  'test-cable': kind('site', [2, 3, 15]),
  bond: kind('site', [15, 30, 90], { skills: ['mains'] }),
  connect: kind('site', [2, 5, 20]),
  'place-extender': kind('site', [3, 5, 20]),
  aim: kind('site', [15, 30, 120], { skills: ['height'] }),
  'note-wiring': kind('cut-over', [5, 10, 20]),
  'gate-begin': kind('cut-over', [1, 2, 10]),
  unplug: kind('cut-over', [1, 3, 10]),
  'connect-uplink': kind('cut-over', [2, 5, 20]),
  'wait-uplink': kind('cut-over', [1, 3, 30], wait),
  'smoke-test': kind('cut-over', [5, 10, 30]),
  'gate-keep': kind('cut-over', [1, 2, 10]),
  channels: kind('after', [2, 5, 15]),
  prove: kind('after', [1, 2, 5]),
  failover: kind('after', [3, 6, 20]),
  'back-up': kind('after', [3, 5, 15]),
  'hand-over': kind('after', [15, 30, 90]),
}

/**
 * Practice of a kind, for so many of the same; this team's own time takes its place.
 * Of several alike, one after the other, not all are quick and not all are slow: what the least is less than usual, and
 * the worst more, grows by the root of their number, as the spread of a sum of independent times does.
 * Worked: 4 of 2, 10 and 30 min are 24, 40 and 80 min.
 * @param times how many alike are one activity, 1 or more
 */
export function durationOf(
  of: ActivityKind,
  own: ReadonlyMap<ActivityKind, OwnDuration>,
  times = 1,
): Duration {
  const mine = own.get(of)
  const [leastMin, usualMin, worstMin] = mine
    ? [mine.leastMin, mine.usualMin, mine.worstMin]
    : KINDS[of].minutes
  return {
    leastMin: Math.round(usualMin * times - (usualMin - leastMin) * Math.sqrt(times)),
    usualMin: usualMin * times,
    worstMin: Math.round(usualMin * times + (worstMin - usualMin) * Math.sqrt(times)),
    source: mine ? 'own' : 'practice',
  }
}

/** A model's own time: from 0.8 of it to twice as long (common practice); whole minutes, at least 1. */
export function modelDuration(seconds: number): Duration {
  const usual = seconds / 60
  const whole = (minutes: number) => Math.max(1, Math.ceil(minutes))
  return {
    leastMin: whole(0.8 * usual),
    usualMin: whole(usual),
    worstMin: whole(2 * usual),
    source: 'model',
  }
}
