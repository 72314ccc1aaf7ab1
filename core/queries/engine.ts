// Question: what of the answers about a plan still holds after an edit?
// Method: an answer is made by a stage.
// What the stage reads of the plan (its top-level parts) and of other stages is recorded while it reads; the
// answer holds for every plan in which all of that is the same.
// Parts are compared by identity, since plans are never changed in place; a stage may say when two of its
// answers are equal, and what hangs on it is then not made anew.
// Source: incremental computation by recorded dependencies with early cut-off, common practice in build
// systems.
import type { Plan } from '#core/schema'
import { makePlanIndex, type Asker, type IndexedPlan, type PlanIndex, type Stage } from './plan-index'

/** Owns all that is remembered of plans. */
export interface Engine {
  index(plan: Plan): PlanIndex
}

type Part = keyof IndexedPlan
const partsOf = (plan: IndexedPlan): ReadonlySet<Part> =>
  new Set([...(Object.keys(plan) as Part[]), 'projection'])

// Stages of all types stand in one map; whoever asks for one knows its type.
type AnyStage = Stage<unknown, never>

/** Answers of one key kept at a time: of a plan and its IPv6 projection, each before an edit and after it. */
const ANSWERS_KEPT = 4

interface Dependency {
  readonly stage: AnyStage
  readonly key: never
  readonly value: unknown
}

/** Most stages have no key and are asked often: no text is made for them. */
const textOfKey = (stage: AnyStage, key: never): string => (key === undefined ? '' : stage.keyText(key))

/** An answer of a stage, and what it was made from. */
class Answer {
  value: unknown = undefined
  /** The plan it was last found to hold for. */
  holdsFor: IndexedPlan
  readonly parts = new Map<Part, unknown>()
  readonly dependencies: Dependency[] = []
  /**
   * Parts in which a later plan that it held for differs from the one it was made from: none of them was
   * read.
   */
  private readonly passedOver = new Set<Part>()
  private readonly asked = new Map<AnyStage, Map<string, Dependency>>()

  constructor(
    private readonly name: string,
    private readonly plan: IndexedPlan,
  ) {
    this.holdsFor = plan
  }

  /** The plan as the stage sees it: what it reads is recorded. */
  recordingPlan(): IndexedPlan {
    return new Proxy(this.plan, { get: (_, part) => this.read(part as Part) })
  }

  /**
   * @throws where a closure in the answer reads a part only now, and a plan that it is used for has another:
   * a defect of the stage.
   */
  private read(part: Part): unknown {
    const value = this.plan[part]
    if (this.parts.has(part)) return value
    if (this.passedOver.has(part)) throw new Error(`stage "${this.name}" reads ${part} too late`)
    this.parts.set(part, value)
    return value
  }

  /** What another stage answered before; undefined where it was not asked. */
  recalled(stage: AnyStage, key: never): Dependency | undefined {
    return this.asked.get(stage)?.get(textOfKey(stage, key))
  }

  /** Remembers what another stage answered. */
  remember(stage: AnyStage, key: never, value: unknown): Dependency {
    let known = this.asked.get(stage)
    if (!known) this.asked.set(stage, (known = new Map()))
    const dependency = { stage, key, value }
    known.set(textOfKey(stage, key), dependency)
    this.dependencies.push(dependency)
    return dependency
  }

  usedFor(plan: IndexedPlan): void {
    this.holdsFor = plan
    for (const part of partsOf(plan))
      if (plan[part] !== this.plan[part] && !this.parts.has(part)) this.passedOver.add(part)
  }
}

export function createEngine(): Engine {
  const answers = new Map<AnyStage, Map<string, Answer[]>>()
  const indexes = new WeakMap<IndexedPlan, PlanIndex>()

  function holds(answer: Answer, plan: IndexedPlan): boolean {
    if (answer.holdsFor === plan) return true
    for (const [part, value] of answer.parts) if (plan[part] !== value) return false
    for (const { stage, key, value } of answer.dependencies) if (ask(stage, plan, key) !== value) return false
    answer.usedFor(plan)
    return true
  }

  function make(stage: AnyStage, plan: IndexedPlan, key: never): Answer {
    const answer = new Answer(stage.name, plan)
    const get = (other: AnyStage, otherKey: never) =>
      (answer.recalled(other, otherKey) ?? answer.remember(other, otherKey, ask(other, plan, otherKey))).value
    answer.value = stage.compute(makePlanIndex(answer.recordingPlan(), askerOf(get)), key)
    return answer
  }

  /** The answers of one key, the newest first. */
  function keptOf(stage: AnyStage, keyText: string): Answer[] {
    let byKey = answers.get(stage)
    if (!byKey) answers.set(stage, (byKey = new Map()))
    const kept = byKey.get(keyText)
    if (kept && byKey.size === 1) return kept
    // The key that was asked for last stands last.
    if (kept) byKey.delete(keyText)
    const [oldest] = byKey.keys()
    if (byKey.size >= stage.keys && oldest !== undefined) byKey.delete(oldest)
    const list = kept ?? []
    byKey.set(keyText, list)
    return list
  }

  function ask(stage: AnyStage, plan: IndexedPlan, key: never): unknown {
    const kept = keptOf(stage, stage.keyText(key))
    for (const answer of kept) if (holds(answer, plan)) return answer.value
    const answer = make(stage, plan, key)
    const like = kept.find(({ value }) => stage.equal(value, answer.value))
    if (like) answer.value = like.value
    kept.unshift(answer)
    if (kept.length > ANSWERS_KEPT) kept.pop()
    return answer.value
  }

  const askerOf = (get: (stage: AnyStage, key: never) => unknown): Asker => ({
    get: get as unknown as Asker['get'],
    of: index,
  })

  function index(plan: IndexedPlan): PlanIndex {
    let known = indexes.get(plan)
    if (!known) {
      known = makePlanIndex(
        plan,
        askerOf((stage, key) => ask(stage, plan, key)),
      )
      indexes.set(plan, known)
    }
    return known
  }

  return { index }
}

/** A plan's things by id, with an engine of its own: for what is asked once, of one plan. */
export const indexPlan = (plan: IndexedPlan): PlanIndex => createEngine().index(plan)
