import { randomUUID } from 'node:crypto'
import type { z } from 'zod'
import type { StepRecord, stepRecordSchema } from '#contracts/api'
import type { Plan } from '#core/schema'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { askHeavy } from '#server/platform/heavy'
import { tell } from '#server/platform/news'
import { refused } from '#server/platform/route'
import { addStepRecord, countStepRecords, stepRecordsOf } from '#server/repo/steps'
import { holdSite } from '#server/repo/plans'
import { siteAndPlan, taken } from './plans'

/** @param after id after which records are wanted: what was read before is not read again */
export async function listSteps(slug: string, after: number): Promise<StepRecord[]> {
  const { siteId } = await siteAndPlan(slug)
  return stepRecordsOf(database(), siteId, after)
}

/** Most records that are kept of a site: some ten of each step of a large one. */
const MOST_RECORDS = 20_000
/** A clock may be so far ahead before what it says is refused, ms. */
const AHEAD_MS = 10 * 60_000

/** Ids of the steps of a plan, made once for each document that is kept. */
const made = new WeakMap<Plan, ReadonlySet<string>>()
async function stepsOf(plan: Plan): Promise<ReadonlySet<string>> {
  const ids = made.get(plan) ?? new Set(taken(await askHeavy('listSteps', plan)))
  made.set(plan, ids)
  return ids
}

/** What is told of a step must be of one that the plan has, and not of the future. */
export async function checkTold(
  plan: Plan,
  told: { readonly activityId: string; readonly at: string },
): Promise<Date> {
  if (!(await stepsOf(plan)).has(told.activityId))
    throw refused(409, 'no-such-step', 'activityId', { text: told.activityId })
  const at = new Date(told.at)
  if (at.getTime() > now().getTime() + AHEAD_MS) throw refused(400, 'clock-ahead', 'at', { text: told.at })
  return at
}

/** Keeps what became of a step, and answers with it; refused where the plan has no such step, or for the future. */
export async function recordStep(
  slug: string,
  told: z.infer<typeof stepRecordSchema>,
  who: string,
): Promise<StepRecord[]> {
  const { siteId, current } = await siteAndPlan(slug)
  const at = await checkTold(current.plan, told)
  return database().transaction(async (tx) => {
    await holdSite(tx, siteId)
    if ((await countStepRecords(tx, siteId)) >= MOST_RECORDS)
      throw refused(409, 'too-many-records', 'activityId', { most: MOST_RECORDS })
    const key = told.key ?? randomUUID()
    const kept = await addStepRecord(tx, { siteId, ...told, key, at, receivedAt: now(), who })
    await tell(tx, { site: slug, topic: 'steps' })
    return kept
  })
}
