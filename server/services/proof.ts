import type { Proof, ProofResult } from '#contracts/api'
import type { Plan } from '#core/schema'
import { isContradicted, readingProblem, vantageProblem, type AcceptanceTest } from '#core/prove'
import { faultOf } from '#server/repo/lab'
import { addResults, newestResultId, newestResults, type KeptResult } from '#server/repo/proof'
import { now } from '#server/platform/clock'
import { keeper } from '#server/platform/keeper'
import { database } from '#server/platform/database'
import { askHeavy } from '#server/platform/heavy'
import { tell } from '#server/platform/news'
import { Refused, refused } from '#server/platform/route'
import { siteAndPlan, taken } from './plans'
import { enqueueWebhooks } from './webhooks'

/** The tests of a plan, made once for each document that is kept. */
const made = new WeakMap<Plan, readonly AcceptanceTest[]>()
async function testsFor(plan: Plan): Promise<readonly AcceptanceTest[]> {
  const tests = made.get(plan) ?? taken(await askHeavy('listTests', plan))
  made.set(plan, tests)
  return tests
}

const keep = keeper<Proof>()

/** A result as it counts: one that was recorded as passed has failed where its reading says otherwise. */
function judged(plan: Plan, test: AcceptanceTest | undefined, result: KeptResult): ProofResult {
  const contradicted = result.passed && test !== undefined && isContradicted(plan, test, result.value)
  return { ...result, contradicted, passed: result.passed && !contradicted }
}

export async function proofOf(slug: string): Promise<Proof> {
  const {
    siteId,
    current: { plan, revision, savedAt },
  } = await siteAndPlan(slug)
  const mark = `${revision} ${savedAt} ${await newestResultId(database(), siteId)}`
  return keep(siteId, mark, async () => {
    const tests = await testsFor(plan)
    const results = await newestResults(database(), siteId)
    const byId = new Map(tests.map((test) => [test.id, test]))
    return {
      revision,
      tests,
      results: results.map((result) => judged(plan, byId.get(result.testId), result)),
    }
  })
}

/** Tries every test on the lab's copy of the site, which may differ from the plan. */
export async function askLab(slug: string, revision: number, who: string): Promise<Proof> {
  const { siteId, current } = await siteAndPlan(slug)
  if (current.revision !== revision)
    throw refused(409, 'plan-moved-on', '', { yours: revision, now: current.revision })
  const seen = taken(await askHeavy('tryInLab', current.plan, await faultOf(database(), siteId)))
  const at = now()
  await database().transaction(async (tx) => {
    await addResults(
      tx,
      seen.map((observation) => ({
        siteId,
        ...observation,
        revision,
        who,
        at,
        vantage: 'lab',
        note: '',
        source: 'lab' as const,
      })),
    )
    await tell(tx, { site: slug, topic: 'proof' })
    const results = seen.map(({ testId, passed }) => ({ test: testId, passed }))
    await enqueueWebhooks(tx, siteId, 'proof.recorded', { site: slug, revision, source: 'lab', who, results })
  })
  return proofOf(slug)
}

export interface HandResult {
  readonly key?: string | undefined
  readonly testId: string
  readonly revision: number
  readonly passed: boolean
  readonly vantage: string
  readonly value: string
  readonly note: string
}

export async function recordResult(slug: string, result: HandResult, who: string): Promise<Proof> {
  const {
    siteId,
    current: { plan, revision },
  } = await siteAndPlan(slug)
  if (result.revision > revision)
    throw refused(400, 'no-such-revision', 'revision', { text: result.revision })
  const test = (await testsFor(plan)).find(({ id }) => id === result.testId)
  if (!test) throw refused(409, 'no-such-test', 'testId', { text: result.testId })
  const inside = vantageProblem(plan, test, result.vantage)
  if (inside) throw new Refused(400, [inside])
  const unread = result.passed ? readingProblem(plan, test, result.value) : null
  if (unread) throw new Refused(400, [unread])
  await database().transaction(async (tx) => {
    await addResults(tx, [{ siteId, ...result, who, at: now(), source: 'hand' }])
    await tell(tx, { site: slug, topic: 'proof' })
    await enqueueWebhooks(tx, siteId, 'proof.recorded', {
      site: slug,
      revision: result.revision,
      source: 'hand',
      who,
      results: [{ test: test.id, passed: result.passed }],
    })
  })
  return proofOf(slug)
}
