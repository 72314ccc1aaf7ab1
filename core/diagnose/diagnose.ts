// Question: which mistakes explain what was observed, and what should be tried next to tell them apart?
// Method: each mistake, then pairs of those that explain something, is laid on the plan and the observed
// tests are tried on it; what differs from the observations counts against it.
// Of the tests still open the one whose answers split the explanations that are left most evenly is the next.
// Source: consistency-based diagnosis, R.
// Reiter, Artificial Intelligence 32 (1987); information as entropy in bits, C.
// Shannon (1948).
import { applyChanges } from '#core/edit'
import { indexPlan, type PlanIndex } from '#core/queries'
import type { Plan } from '#core/schema'
import { testsOf, tryTests, type AcceptanceTest } from '#core/prove'
import { looksOf, sceneOf, seenThere } from './facts'
import { lookId, type Fact, type Look } from './look'
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
export type Next = {
  readonly bits: number
  /** How many of the explanations that fit as well are left after it, as may be expected. */
  readonly left: number
} & ({ readonly testId: string } | { readonly look: Look })
export interface Diagnosis {
  /** Best first: fewest observations against it, fewest mistakes, most common. */
  readonly explanations: readonly Explanation[]
  /** How many explain it as well as the first. */
  readonly alike: number
  /**
   * The open test, or the thing to look at, that tells most, and how much, in bits; null where none would
   * tell anything.
   */
  readonly next: Next | null
  /** Failures that the plan itself foresees, without any mistake. */
  readonly foreseen: readonly string[]
  /** Sites tried. */
  readonly tried: number
}

/** What tells less than so many bits tells nothing. */
const LEAST_BITS = 1e-9
/** Singles from which pairs are made, and explanations that are told; those alike are shown as one. */
const MOST_SINGLES = 28
const MOST_TOLD = 60

/** The plan with mistakes laid on it; null where they do not fit on each other. */
export function withMistakes(plan: Plan, mistakes: readonly Mistake[]): Plan | null {
  const laid = applyChanges(
    plan,
    mistakes.flatMap((m) => m.changes),
  )
  return laid.ok ? laid.value : null
}

/** What may be seen of each thing, by its id: any one of a list; null where it cannot be foretold. */
type Shown = ReadonlyMap<string, readonly string[] | null>
const verdict = (passed: boolean): string => (passed ? 'passed' : 'failed')

/** What each test and each look would show on a site with these mistakes; null where they do not fit. */
function shows(
  index: PlanIndex,
  mistakes: readonly Mistake[],
  tests: readonly AcceptanceTest[],
  looks: readonly Look[],
): Shown | null {
  const built = withMistakes(index.plan, mistakes)
  if (!built) return null
  const scene = sceneOf(index.of(built), mistakes)
  return new Map<string, readonly string[] | null>([
    ...tryTests(scene.site.index, tests, scene.failed).map((o) => [o.testId, [verdict(o.passed)]] as const),
    ...looks.map((look) => [lookId(look), seenThere(scene, look)] as const),
  ])
}

/** Something that was seen, by the id of the test or of the look. */
interface Seen {
  readonly id: string
  readonly got: string
}
function againstIt(observed: readonly Seen[], shown: Shown): string[] {
  return observed.filter((o) => shown.get(o.id)?.includes(o.got) === false).map((o) => o.id)
}

const common = (e: Explanation) => e.mistakes.reduce((sum, m) => sum + m.commonness, 0) / e.mistakes.length
const better = (first: Explanation, second: Explanation) =>
  first.against.length - second.against.length ||
  first.mistakes.length - second.mistakes.length ||
  common(second) - common(first)

function nextTest(
  index: PlanIndex,
  best: readonly Explanation[],
  open: readonly AcceptanceTest[],
  looks: readonly Look[],
): Diagnosis['next'] {
  if (best.length < 2) return null
  const answers = best.flatMap((explanation) => {
    const shown = shows(index, explanation.mistakes, open, looks)
    return shown ? [{ weight: common(explanation), shown }] : []
  })
  const total = answers.reduce((sum, a) => sum + a.weight, 0)
  const worthOf = (id: string): Pick<Next, 'bits' | 'left'> => {
    const [weights, counts] = [new Map<string, number>(), new Map<string, number>()]
    for (const { weight, shown } of answers) {
      const told = shown.get(id)?.join() ?? ''
      weights.set(told, (weights.get(told) ?? 0) + weight / total)
      counts.set(told, (counts.get(told) ?? 0) + 1)
    }
    return {
      bits: -[...weights.values()].reduce((sum, share) => sum + share * Math.log2(share), 0),
      left: [...weights].reduce((sum, [told, share]) => sum + share * (counts.get(told) ?? 0), 0),
    }
  }
  let next: Diagnosis['next'] = null
  // Of what tells as much, a test is named before a look: it proves something besides.
  for (const test of open) {
    const worth = worthOf(test.id)
    if (worth.bits > (next?.bits ?? LEAST_BITS)) next = { testId: test.id, ...worth }
  }
  for (const look of looks) {
    const worth = worthOf(lookId(look))
    if (worth.bits > (next?.bits ?? 0) + LEAST_BITS) next = { look, ...worth }
  }
  return next
}

/**
 * Explains what was seen of a plan's tests, and facts besides.
 * Observations that agree with the plan count as much as those that do not.
 * @param facts what else was seen
 * @param ignore how many observations may be wrong themselves
 * @param progress told how many sites were tried, of about how many
 */
export function diagnose(
  plan: Plan,
  observed: readonly Observed[],
  facts: readonly Fact[] = [],
  ignore = 0,
  progress: (tried: number, of: number) => void = () => undefined,
): Diagnosis {
  const index = indexPlan(plan)
  const all = testsOf(plan)
  const tests = all.filter((t) => observed.some((o) => o.testId === t.id))
  const told = toldBy(observed, tests, facts)
  const plain = shows(index, [], tests, facts)
  const foreseen = observed
    .filter((o) => !o.passed && plain?.get(o.testId)?.includes('failed'))
    .map((o) => o.testId)
  const strange = plain ? againstIt(told, plain) : []
  if (strange.length === 0) return { explanations: [], alike: 0, next: null, foreseen, tried: 1 }
  const isStrange = (id: string) => strange.includes(id)
  const strangeSeen = told.filter((o) => isStrange(o.id))
  // Most mistakes explain nothing, which the few strange observations tell, and much sooner than all of them.
  const strangeOnes = [
    tests.filter((t) => isStrange(t.id)),
    facts.filter((fact) => isStrange(lookId(fact))),
  ] as const
  const search: Search = {
    against: (mistakes) => {
      const first = shows(index, mistakes, ...strangeOnes)
      // What explains nothing is no explanation, however little speaks against it.
      if (!first || !strangeSeen.some((o) => first.get(o.id)?.includes(o.got) !== false)) return null
      const shown = shows(index, mistakes, tests, facts)
      return shown && againstIt(told, shown)
    },
    ignore,
    progress,
  }
  const { explained, tried } = explanationsFor(search, mistakesOf(plan, facts))
  const { good, best } = bestOf(explained, ignore)
  const isOpen = (id: string) => !told.some((o) => o.id === id)
  const next = nextTest(
    index,
    best.slice(0, MOST_TOLD_APART),
    all.filter((t) => isOpen(t.id)),
    looksOf(plan).filter((look) => isOpen(lookId(look))),
  )
  return { explanations: good.slice(0, MOST_TOLD), alike: best.length, next, foreseen, tried }
}

/** Of so many explanations that are alike the next test tells some from others. */
const MOST_TOLD_APART = 24

/** Everything that was seen, of tests that the plan has and of facts. */
function toldBy(
  observed: readonly Observed[],
  tests: readonly AcceptanceTest[],
  facts: readonly Fact[],
): Seen[] {
  const known = observed.filter((o) => tests.some((t) => t.id === o.testId))
  return [
    ...known.map((o) => ({ id: o.testId, got: verdict(o.passed) })),
    ...facts.map((f) => ({ id: lookId(f), got: f.got })),
  ]
}

interface Search {
  /** What speaks against mistakes; null where they explain nothing, or cannot all be made. */
  readonly against: (mistakes: readonly Mistake[]) => readonly string[] | null
  readonly ignore: number
  readonly progress: (tried: number, of: number) => void
}

/** Every mistake by itself, and pairs of the useful ones where one does not say it all; best first. */
function explanationsFor(
  search: Search,
  singles: readonly Mistake[],
): { readonly explained: readonly Explanation[]; readonly tried: number } {
  let tried = 0
  const explained: Explanation[] = []
  for (const mistake of singles) {
    search.progress(++tried, singles.length)
    const against = search.against([mistake])
    if (against) explained.push({ mistakes: [mistake], against })
  }
  explained.sort(better)
  // Where one mistake says it all, two are not asked for.
  if ((explained[0]?.against.length ?? 0) <= search.ignore) return { explained, tried }
  const pairs = pairsOf(explained.slice(0, MOST_SINGLES))
  for (const { mistakes, alone } of pairs) {
    search.progress(++tried, singles.length + pairs.length)
    const against = search.against(mistakes)
    // Two that explain no more than one of them does are one too many.
    if (against && against.length < alone) explained.push({ mistakes, against })
  }
  return { explained: explained.sort(better), tried }
}

/** Pairs of explanations, each with what speaks at least against one of the two alone. */
const pairsOf = (explanations: readonly Explanation[]) =>
  explanations.flatMap((first, i) =>
    explanations.slice(i + 1).map((second) => ({
      mistakes: [...first.mistakes, ...second.mistakes],
      alone: Math.min(first.against.length, second.against.length),
    })),
  )

/** Those that may be told, and those of them that nothing tells apart. */
function bestOf(explaining: readonly Explanation[], ignore: number) {
  const least = explaining[0]?.against.length ?? 0
  const good = explaining.filter((e) => e.against.length <= Math.max(least, ignore))
  return { good, best: good.filter((e) => e.against.length === least) }
}
