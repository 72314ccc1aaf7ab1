// Question: which mistakes explain what was observed, and what should be tried next to tell them apart?
// Method: each mistake, then pairs of those that explain something, is laid on the plan and the observed tests are tried on it;
// what differs from the observations counts against it. Of the tests still open the one whose answers split the explanations that
// are left most evenly is the next.
// Source: consistency-based diagnosis, R. Reiter, Artificial Intelligence 32 (1987); information as entropy in bits, C. Shannon (1948).
import { applyChanges, type Plan } from '#core/model'
import { testsOf, tryTests, type AcceptanceTest } from '#core/prove'
import { mistakesOf, type Mistake } from './mistakes'

export interface Observed {
  readonly testId: string
  readonly passed: boolean
}
export interface Explanation {
  readonly mistakes: readonly Mistake[]
  /** Observations that it does not explain. */
  readonly against: readonly string[]
}
export interface Diagnosis {
  /** Best first: fewest observations against it, fewest mistakes, most common. */
  readonly explanations: readonly Explanation[]
  /** The open test that tells most, and how much, in bits; null where none would tell anything. */
  readonly next: { readonly testId: string; readonly bits: number } | null
  /** Failures that the plan itself foresees, without any mistake. */
  readonly foreseen: readonly string[]
  /** Sites tried. */
  readonly tried: number
}

/** Singles from which pairs are made, and explanations that are told. */
const MOST_SINGLES = 28
const MOST_TOLD = 12

/** The plan with mistakes laid on it; null where they do not fit on each other. */
export function withMistakes(plan: Plan, mistakes: readonly Mistake[]): Plan | null {
  const laid = applyChanges(plan, mistakes.flatMap((m) => m.changes))
  return laid.ok ? laid.value : null
}

/** What each test would show on a site with these mistakes; null where they do not fit. */
function shows(plan: Plan, mistakes: readonly Mistake[], tests: readonly AcceptanceTest[]): ReadonlyMap<string, boolean> | null {
  const built = withMistakes(plan, mistakes)
  if (!built) return null
  const failed = mistakes.flatMap((m) => m.failed)
  return new Map(tryTests(built, tests, failed).map((o) => [o.testId, o.passed]))
}

function againstIt(observed: readonly Observed[], seen: ReadonlyMap<string, boolean>): string[] {
  return observed.filter((o) => seen.get(o.testId) !== o.passed).map((o) => o.testId)
}

const common = (e: Explanation) => e.mistakes.reduce((sum, m) => sum + m.commonness, 0) / e.mistakes.length
const better = (a: Explanation, b: Explanation) => a.against.length - b.against.length || a.mistakes.length - b.mistakes.length || common(b) - common(a)

function nextTest(plan: Plan, best: readonly Explanation[], open: readonly AcceptanceTest[]): Diagnosis['next'] {
  if (best.length < 2 || open.length === 0) return null
  const answers = best.flatMap((e) => {
    const seen = shows(plan, e.mistakes, open)
    return seen ? [{ weight: common(e), seen }] : []
  })
  const total = answers.reduce((sum, a) => sum + a.weight, 0)
  let next: Diagnosis['next'] = null
  for (const test of open) {
    const p = answers.reduce((sum, a) => sum + (a.seen.get(test.id) ? a.weight : 0), 0) / total
    const bits = p <= 0 || p >= 1 ? 0 : -(p * Math.log2(p) + (1 - p) * Math.log2(1 - p))
    if (bits > (next?.bits ?? 0)) next = { testId: test.id, bits }
  }
  return next
}

/**
 * Explains observations of a plan's tests. Observations that agree with the plan count as much as those that do not.
 * @param ignore how many observations may be wrong themselves
 * @param progress told how many sites were tried, of about how many
 */
export function diagnose(plan: Plan, observed: readonly Observed[], ignore = 0, progress: (tried: number, of: number) => void = () => undefined): Diagnosis {
  const all = testsOf(plan)
  const tests = all.filter((t) => observed.some((o) => o.testId === t.id))
  const told = observed.filter((o) => tests.some((t) => t.id === o.testId))
  const plain = shows(plan, [], tests)
  const foreseen = told.filter((o) => !o.passed && plain?.get(o.testId) === false).map((o) => o.testId)
  if (!plain || againstIt(told, plain).length === 0) return { explanations: [], next: null, foreseen, tried: 1 }
  const strange = againstIt(told, plain)
  const singles = mistakesOf(plan)
  let tried = 0
  const explained: Explanation[] = []
  for (const mistake of singles) {
    progress(++tried, singles.length)
    const seen = shows(plan, [mistake], tests)
    if (seen) explained.push({ mistakes: [mistake], against: againstIt(told, seen) })
  }
  explained.sort(better)
  // Where one mistake says it all, two are not asked for.
  if ((explained[0]?.against.length ?? 0) > ignore) {
    const useful = explained.filter((e) => strange.some((id) => !e.against.includes(id))).slice(0, MOST_SINGLES)
    const pairs = useful.flatMap((a, i) => useful.slice(i + 1).map((b) => [...a.mistakes, ...b.mistakes]))
    for (const pair of pairs) {
      progress(++tried, singles.length + pairs.length)
      const seen = shows(plan, pair, tests)
      if (seen) explained.push({ mistakes: pair, against: againstIt(told, seen) })
    }
    explained.sort(better)
  }
  const least = explained[0]?.against.length ?? 0
  // What explains nothing is no explanation.
  const good = explained.filter((e) => e.against.length <= Math.max(least, ignore) && strange.some((id) => !e.against.includes(id)))
  const best = good.filter((e) => e.against.length === least && e.mistakes.length === (good[0]?.mistakes.length ?? 1))
  const open = all.filter((t) => !told.some((o) => o.testId === t.id))
  return { explanations: good.slice(0, MOST_TOLD), next: nextTest(plan, best.slice(0, 24), open), foreseen, tried }
}
