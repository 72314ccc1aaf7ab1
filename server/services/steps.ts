import type { StepRecord } from '#contracts/api'
import { activitiesOf } from '#core/schedule'
import type { Plan } from '#core/schema'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { refused } from '#server/platform/route'
import { addStepRecord, countStepRecords, stepRecordsOf } from '#server/repo/steps'
import { siteAndPlan, withinLimits } from './plans'

export async function listSteps(slug: string): Promise<StepRecord[]> {
  const { siteId } = await siteAndPlan(slug)
  return stepRecordsOf(database(), siteId)
}

/** Most records that are kept of a site: some ten of each step of a large one. */
const MOST_RECORDS = 20_000
/** A clock may be so far ahead before what it says is refused, ms. */
const AHEAD_MS = 10 * 60_000

/** Ids of the steps of a plan, made once for each document that is kept. */
const made = new WeakMap<Plan, ReadonlySet<string>>()
function stepsOf(plan: Plan): ReadonlySet<string> {
  const ids = made.get(plan) ?? new Set(activitiesOf(withinLimits(plan)).map(({ id }) => id))
  made.set(plan, ids)
  return ids
}

export interface ToldStep {
  readonly key?: string | undefined
  readonly activityId: string
  readonly state: StepRecord['state']
  readonly at: string
  readonly reading: string
  readonly note: string
  readonly person: string
}

/** Keeps what became of a step. A step that the plan has no more is refused, and so is one of the future. */
export async function recordStep(slug: string, told: ToldStep, who: string): Promise<StepRecord[]> {
  await database().transaction(async (tx) => {
    const { siteId, current } = await siteAndPlan(slug, tx)
    if (!stepsOf(current.plan).has(told.activityId))
      throw refused(409, 'no-such-step', 'activityId', { text: told.activityId })
    const [at, receivedAt] = [new Date(told.at), now()]
    if (at.getTime() > receivedAt.getTime() + AHEAD_MS)
      throw refused(400, 'clock-ahead', 'at', { text: told.at })
    if ((await countStepRecords(tx, siteId)) >= MOST_RECORDS)
      throw refused(409, 'too-many-records', 'activityId', { most: MOST_RECORDS })
    await addStepRecord(tx, { siteId, ...told, at, receivedAt, who })
    await tell(tx, { site: slug, topic: 'steps' })
  })
  return listSteps(slug)
}
