// Question: what must be done to build this plan, and what waits for what?
// Method: each part of the work from the plan; what is left out hands its order on to what came after it.
// Source: none beyond those of the parts.
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import type { Activity } from './activity'
import { activitiesAfter, activitiesBefore, cutOverActivities } from './around'
import { activityMaker } from './draft'
import { benchActivities } from './on-bench'
import { siteActivities } from './on-site'

/** Without what is left out: what came after it comes after what it came after. */
function without(activities: readonly Activity[], isLeftOut: (activity: Activity) => boolean): Activity[] {
  const byId = new Map(activities.map((activity) => [activity.id, activity]))
  const known = new Map<string, readonly string[]>()
  /** What an activity stands for: itself, or all that it waited for. */
  const kept = (id: string): readonly string[] => {
    const activity = byId.get(id)
    if (!activity) return []
    if (!isLeftOut(activity)) return [id]
    const earlier = known.get(id) ?? activity.after.flatMap(kept)
    known.set(id, earlier)
    return earlier
  }
  return activities
    .filter((activity) => !isLeftOut(activity))
    .map((activity) => ({ ...activity, after: [...new Set(activity.after.flatMap(kept))] }))
}

/** Bench resources whose taking or freeing activity was left out are not held at all. */
function withMatchedHolds(activities: readonly Activity[]): Activity[] {
  const held = (activity: Activity, resource: string) => `${activity.about} ${resource}`
  const taken = new Set(activities.flatMap((each) => each.takes.map((resource) => held(each, resource))))
  const freed = new Set(activities.flatMap((each) => each.frees.map((resource) => held(each, resource))))
  return activities.map((each) => ({
    ...each,
    takes: each.takes.filter((resource) => freed.has(held(each, resource))),
    frees: each.frees.filter((resource) => taken.has(held(each, resource))),
  }))
}

/** Every activity of a plan's work, in an order that breaks no precedence; empty where nothing is to be built. */
export function activitiesOf(plan: Plan): Activity[] {
  const maker = activityMaker(indexPlan(plan))
  const [bench, site, cutOver] = [benchActivities(maker), siteActivities(maker), cutOverActivities(maker)]
  const built = [...bench, ...site, ...cutOver]
  if (built.length === 0) return []
  const waitedFor = new Set(built.flatMap(({ after }) => after))
  const stands = built.filter(({ id }) => !waitedFor.has(id)).map(({ id }) => id)
  const all = [...activitiesBefore(maker), ...built, ...activitiesAfter(maker, stands)]
  const leftOut = new Set(
    plan.work.adjustments.filter((each) => each.isLeftOut).map(({ activityId }) => activityId),
  )
  const kinds = new Set(plan.work.leftOut)
  return inOrder(withMatchedHolds(without(all, ({ id, kind }) => leftOut.has(id) || kinds.has(kind))))
}

/** What waits for nothing first, each as early as its own order allows. */
function inOrder(activities: readonly Activity[]): Activity[] {
  const done = new Set<string>()
  const ordered: Activity[] = []
  let left = [...activities]
  while (left.length > 0) {
    const ready = left.filter(({ after }) => after.every((id) => done.has(id)))
    // A circle cannot arise from the parts above.
    if (ready.length === 0) throw new Error('activities wait for each other')
    for (const activity of ready) done.add(activity.id)
    ordered.push(...ready)
    left = left.filter(({ id }) => !done.has(id))
  }
  return ordered
}
