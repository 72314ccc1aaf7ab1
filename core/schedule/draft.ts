// Question: how does one write down the activities of a site without saying twice what their kind says?
// Method: a maker that knows the plan, fills in what the table of kinds says, and gives ids.
// Source: none.
import { buildingOf } from '#core/brief'
import type { PlanIndex } from '#core/queries'
import type { ActivityKind, Device, DeviceId, OwnDuration } from '#core/schema'
import { durationOf, KINDS, type Activity } from './activity'

type Details = Partial<
  Pick<Activity, 'deviceId' | 'duration' | 'skills' | 'takes' | 'frees' | 'limit'> & { times: number }
>

export interface Maker {
  readonly index: PlanIndex
  /** This team's own durations. */
  readonly own: ReadonlyMap<ActivityKind, OwnDuration>
  /** One activity; empty `about` for the whole site. */
  readonly make: (kind: ActivityKind, about: string, after: readonly string[], details?: Details) => Activity
}

/** Id of an activity: its kind, and what it is about. */
export const activityId = (kind: ActivityKind, about = ''): string =>
  about === '' ? kind : `${kind}:${about}`

/** What an activity's id says: its kind, and what it is about. */
export function readActivityId(id: string): { readonly kind: string; readonly about: string } {
  const [kind = '', ...about] = id.split(':')
  return { kind, about: about.join(':') }
}

/** Where a device stands, as travel counts it: its building, or its place where that is in none. */
export function siteOf(index: PlanIndex, device: Device | undefined): string {
  if (!device) return ''
  const building = buildingOf(index.plan, device.place)
  return index.plan.brief.buildings.find(({ id }) => id === building)?.name ?? device.place
}

export function activityMaker(index: PlanIndex): Maker {
  const { work } = index.plan
  const own = new Map(work.durations.map((duration) => [duration.kind, duration]))
  const placeOf = (kind: ActivityKind, deviceId: DeviceId | null): string => {
    const isAtDesk = KINDS[kind].group === 'before' || KINDS[kind].group === 'bench' || deviceId === null
    return isAtDesk ? work.benchPlace : siteOf(index, index.devices.get(deviceId))
  }
  return {
    index,
    own,
    make: (kind, about, after, { times = 1, deviceId = null, ...details } = {}) => ({
      id: activityId(kind, about),
      kind,
      group: KINDS[kind].group,
      about,
      deviceId,
      place: placeOf(kind, deviceId),
      duration: durationOf(kind, own, times),
      hands: KINDS[kind].hands,
      skills: KINDS[kind].skills,
      after,
      takes: [],
      frees: [],
      limit: 'any',
      ...details,
    }),
  }
}
