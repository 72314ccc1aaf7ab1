import fastJsonPatch from 'fast-json-patch'
import type { Operation } from 'fast-json-patch'
import type { PatchOp } from '#contracts/api'
import { parsePlan, parsePlanText, planToText } from '#contracts/plan'
import type { SiteDigest } from '#contracts/answers'
import { lacksOf, missingFacts } from '#core/brief'
import { countRuleLines, MOST_RULE_LINES, TABLES } from '#core/export'
import { analyse } from '#core/findings'
import { isManaged } from '#core/adopt'
import {
  countPassTests,
  isContradicted,
  MOST_TESTS,
  testsOf,
  tryTests,
  type AcceptanceTest,
  type Observation,
} from '#core/prove'
import { createEngine, indexPlan, type FailureScenario } from '#core/queries'
import { impactOf, isAgainstIntent, type IntentLoss } from '#core/reachability'
import { activitiesOf } from '#core/schedule'
import type { Plan, PortRef } from '#core/schema'
import { asBuilt, plugIn, type LabFault, type PlugIn } from '#core/simulator'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { judgedPassphrase, weaknessOf, type PassphraseWeakness } from '#core/wifi'
import { csvText } from '#server/platform/csv'

// Questions that may take long: they are answered in threads of their own, so that nobody else waits for one.
// Pure: what they need they are told, and a refusal is a value.

/**
 * Why a plan would keep everybody waiting: more tests than anybody tries, or more lines of rules than a gateway
 * loads; null where it does not.
 */
export function limitProblem(plan: Plan): Problem | null {
  const count = countPassTests(plan)
  if (count > MOST_TESTS) return problem('too-many-tests', 'intents', { count, most: MOST_TESTS })
  const lines = countRuleLines(indexPlan(plan))
  if (lines.count > MOST_RULE_LINES)
    return problem('too-many-rule-lines', lines.place, { count: lines.count, most: MOST_RULE_LINES })
  return null
}

function limited(read: Result<Plan>): Result<Plan> {
  const found = read.ok ? limitProblem(read.value) : null
  return found ? refuse(found) : read
}

/** What is computed of a plan, where the plan keeps to its limits. */
function ofPlan<Value>(plan: Plan, compute: () => Value): Result<Value> {
  const found = limitProblem(plan)
  return found ? refuse(found) : ok(compute())
}

const listTests = (plan: Plan): Result<readonly AcceptanceTest[]> => ofPlan(plan, () => testsOf(plan))

/** Ids of the steps that the work on a site consists of. */
const listSteps = (plan: Plan): Result<readonly string[]> =>
  ofPlan(plan, () => activitiesOf(plan).map(({ id }) => id))

/** Tries every test on the lab's copy of a site. @param fault how the lab was built otherwise than planned */
const tryInLab = (plan: Plan, fault: LabFault | null): Result<readonly Observation[]> =>
  ofPlan(plan, () => tryTests(indexPlan(asBuilt(plan, fault)), testsOf(plan)))

/** What a device meets that is plugged in at the lab. @param nth chooses among the addresses that are free */
const plugInLab = (plan: Plan, fault: LabFault | null, at: PortRef, nth: number): PlugIn =>
  plugIn(asBuilt(plan, fault), at, nth)

/** What each failure takes from the intents. */
function impactsOf(plan: Plan, scenarios: readonly FailureScenario[]): readonly (readonly IntentLoss[])[] {
  const index = indexPlan(plan)
  return scenarios.map((scenario) => impactOf(index, scenario))
}

/** A table of the plan as CSV, by its name; null where there is no such table. */
function tableText(plan: Plan, name: string): string | null {
  const table = Object.hasOwn(TABLES, name) ? TABLES[name] : undefined
  return table ? csvText([table.columns, ...table.rows(plan)]) : null
}

/** Reads a site file, as somebody sent it. */
const readPlan = (text: string): Result<Plan> => limited(parsePlanText(text))

/**
 * Applies patches one after the other; the result must be a plan in every part, of today's version or an older one.
 * @param isNew whether it is to be kept: then it has limits
 */
function patchPlan(
  document: unknown,
  patches: readonly (readonly PatchOp[])[],
  isNew: boolean,
): Result<Plan> {
  let after = document
  try {
    for (const patch of patches)
      after = fastJsonPatch.applyPatch(after, patch as Operation[], true, false).newDocument
  } catch {
    return refuse(problem('bad-patch', ''))
  }
  const read = parsePlan(after)
  return isNew ? limited(read) : read
}

/** A result of a test, as far as it matters to whether the test is proven. */
interface Tried {
  readonly testId: string
  readonly passed: boolean
  readonly value: string
}

/** What stands in a plan, and how much of it is proven. */
function digest(plan: Plan, results: readonly Tried[]): SiteDigest {
  const { findings, grid } = analyse(createEngine().index(plan), [])
  const judged = grid.cells.filter((cell) => cell.judged && !cell.isEmpty)
  const tests = limitProblem(plan) ? [] : testsOf(plan)
  const newest = new Map(results.map((result) => [result.testId, result]))
  const isProven = (test: (typeof tests)[number]) => {
    const result = newest.get(test.id)
    return result !== undefined && result.passed && !isContradicted(plan, test, result.value)
  }
  return {
    isEmpty: lacksOf(plan).length > 0,
    hasUplink: plan.uplinks.length > 0,
    facts: missingFacts(plan).length,
    blockers: findings.filter(({ severity }) => severity === 'blocker').length,
    warnings: findings.filter(({ severity }) => severity === 'warning').length,
    cells: judged.length,
    wrong: judged.filter(isAgainstIntent).length,
    isScheduled: plan.work.people.length > 0 && plan.work.startDate !== null,
    devices: plan.devices.filter(isManaged).length,
    tests: tests.length,
    proven: tests.filter(isProven).length,
  }
}

/** How soon a passphrase is guessed; `known` are names that anybody nearby can read. Seconds for an odd one. */
async function strengthOf(text: string, known: readonly string[]): Promise<'fine' | PassphraseWeakness> {
  const { guessesOf } = await import('#contracts/guesses')
  return weaknessOf(judgedPassphrase(text, guessesOf(text, known))) ?? 'fine'
}

export const QUESTIONS = {
  readPlan,
  patchPlan,
  planToText,
  tableText,
  digest,
  listTests,
  listSteps,
  tryInLab,
  plugInLab,
  impactsOf,
  strengthOf,
}
export type Questions = typeof QUESTIONS
