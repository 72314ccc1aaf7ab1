import { isCounted, type Run, type RunLine, type RunRow, type StartRun } from '#contracts/api'
import { jointOnlyImpact, pairsOf, singleFailuresByText, type IntentLoss } from '#core/reachability'
import type { FailureScenario } from '#core/queries'
import type { Plan } from '#core/schema'
import {
  abandonedRuns,
  addRun,
  aloneWith,
  countOpenRuns,
  endRun,
  noteProgress,
  openRuns,
  runsOf,
  runWith,
} from '#server/repo/runs'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { askHeavy } from '#server/platform/heavy'
import { describeError, log } from '#server/platform/log'
import { tell } from '#server/platform/news'
import { enqueue, QUEUE } from '#server/platform/queue'
import { refused } from '#server/platform/route'
import { revisionOf, siteAndPlan, siteOf } from './plans'

/** Failure scenarios of one run at most. */
const MOST_SCENARIOS = 20_000
/** Runs of one person that wait or are under way: others wait behind them. */
const MOST_OPEN = 6
/** Scenarios that a thread is asked for at once: a stop is noticed between two such questions. */
const AT_ONCE = 24
/** How often progress is written down. */
const TOLD_EVERY_MS = 400

export async function listRuns(slug: string): Promise<RunLine[]> {
  return runsOf(database(), (await siteAndPlan(slug)).siteId)
}

async function ownRun(slug: string, runId: number) {
  await siteOf(database(), slug)
  const run = isCounted(runId) ? await runWith(database(), runId) : undefined
  if (!run || run.slug !== slug) throw refused(404, 'no-such-run', '', { text: String(runId) })
  return run
}

export async function runOf(slug: string, runId: number): Promise<Run> {
  const { line, result } = await ownRun(slug, runId)
  return { ...line, result }
}

/** Asks for a run of the newest revision; it is done when some server gets to it. */
export async function startRun(
  slug: string,
  { kind, things, revision }: StartRun,
  who: string,
): Promise<RunLine[]> {
  const { siteId, current } = await siteAndPlan(slug)
  if (current.revision !== revision)
    throw refused(409, 'plan-moved-on', '', { yours: revision, now: current.revision })
  const all = singleFailuresByText(current.plan)
  const chosen = kind === 'singles' ? [...all.keys()] : things
  const unknown = chosen.find((text) => !all.has(text))
  if (unknown !== undefined) throw refused(400, 'no-such-thing', 'things', { text: unknown })
  const total = kind === 'singles' ? chosen.length : (chosen.length * (chosen.length - 1)) / 2
  if (total > MOST_SCENARIOS)
    throw refused(400, 'too-many-scenarios', 'things', { count: total, most: MOST_SCENARIOS })
  if ((await countOpenRuns(database(), who)) >= MOST_OPEN)
    throw refused(409, 'too-many-runs', '', { most: MOST_OPEN })
  const id = await addRun(database(), {
    siteId,
    revision,
    kind,
    things: chosen,
    askedAt: now(),
    askedBy: who,
    total,
  })
  await enqueue(id)
  await tell(database(), { site: slug, topic: 'runs' })
  return listRuns(slug)
}

export async function stopRun(slug: string, runId: number): Promise<RunLine[]> {
  const { line } = await ownRun(slug, runId)
  if (!(await endRun(database(), line.id, 'stopped', now())))
    throw refused(409, 'run-has-ended', '', { text: String(runId) })
  await tell(database(), { site: slug, topic: 'runs' })
  return listRuns(slug)
}

/** What several failures take, some at a time; `go` says whether to go on. Null where it does not. */
async function impactsOf(
  plan: Plan,
  scenarios: readonly FailureScenario[],
  go: (tried: number) => Promise<boolean>,
): Promise<readonly (readonly IntentLoss[])[] | null> {
  const found: (readonly IntentLoss[])[] = []
  for (let at = 0; at < scenarios.length; at += AT_ONCE) {
    if (!(await go(at))) return null
    found.push(...(await askHeavy('impactsOf', plan, scenarios.slice(at, at + AT_ONCE))))
  }
  return found
}

/** Of failures, each by the things that fail, those that take something. */
const rowsOf = (failed: readonly (readonly string[])[], lost: readonly (readonly IntentLoss[])[]): RunRow[] =>
  failed.flatMap((things, i) => {
    const taken = lost[i] ?? []
    return taken.length > 0 ? [{ things, lost: taken }] : []
  })

/** Tries each thing alone, or each pair of them; `go` says whether to go on. */
async function tryThem(
  plan: Plan,
  kind: 'singles' | 'pairs',
  things: readonly string[],
  go: (tried: number) => Promise<boolean>,
): Promise<RunRow[] | null> {
  const conditions = singleFailuresByText(plan)
  const scenarioOf = (texts: readonly string[]) => texts.flatMap((text) => conditions.get(text) ?? [])
  const singles = things.map((id) => [id])
  const alone = await impactsOf(plan, singles.map(scenarioOf), kind === 'singles' ? go : () => go(0))
  if (!alone || kind === 'singles') return alone && rowsOf(singles, alone)
  const byThing = new Map(things.map((id, i) => [id, alone[i] ?? []]))
  const pairs = pairsOf(things)
  const both = await impactsOf(plan, pairs.map(scenarioOf), go)
  const joint = (lost: readonly IntentLoss[], i: number) =>
    jointOnlyImpact(lost, ...(pairs[i] ?? []).map((id) => byThing.get(id) ?? []))
  return both && rowsOf(pairs, both.map(joint))
}

/**
 * Does one run, in whichever server took it.
 * A run that was stopped, or done by another, is left as it is.
 */
export const doRun = async (runId: number): Promise<void> =>
  void (await aloneWith(runId, () => workOn(runId)))

async function workOn(runId: number): Promise<void> {
  const run = await runWith(database(), runId)
  if (!run || !['waiting', 'running'].includes(run.line.state)) return
  const { slug, line } = run
  let told = 0
  try {
    const { plan } = await revisionOf(slug, line.revision)
    const rows = await tryThem(plan, line.kind, line.things, async (tried) => {
      if (now().getTime() - told < TOLD_EVERY_MS) return true
      told = now().getTime()
      const open = await noteProgress(database(), runId, tried)
      if (open) await tell(database(), { site: slug, topic: 'runs' })
      return open
    })
    if (rows && (await endRun(database(), runId, 'done', now(), { result: rows, tried: line.total })))
      await tell(database(), { site: slug, topic: 'runs' })
  } catch (error) {
    log.error({ runId, error: describeError(error) }, 'run failed')
    if (await endRun(database(), runId, 'failed', now()))
      await tell(database(), { site: slug, topic: 'runs' })
  }
}

/** Puts back what waits, at a start: the queue may have been lost. What another works on is left to it. */
export async function takeUpRuns(): Promise<void> {
  for (const id of await openRuns(database())) await enqueue(id)
}

/** Puts back what a server left behind when it died. */
export async function takeUpAbandoned(): Promise<void> {
  for (const id of await abandonedRuns(database(), QUEUE)) await enqueue(id)
}
