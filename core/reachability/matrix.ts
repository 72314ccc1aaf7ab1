// Question: who reaches whom, against what was intended, for every pair of zones?
// Method: the path of every pair of forwarding classes is traced once; what the rules on it let through is
// evaluated for every pair of endpoint classes that the rules and intents which match both ends tell apart.
// The exact sets are gathered to one cell.
// Source: all-pairs reachability of packet sets, as in header space analysis (Kazemian, Varghese and McKeown,
// 2012, from memory).
import { bitsWhere, bothBits, eachShared, sharesAny } from '#core/util'
import type { Intent } from '#core/schema'
import type { PlanIndex, FailureScenario } from '#core/queries'
import {
  accepted,
  byDefault,
  decideMarked,
  evaluate,
  EVERYTHING,
  isNothing,
  minus,
  NOTHING,
  servicesOf,
  union,
  type CompiledPolicy,
  type FilterRef,
  type ServiceSet,
} from '#core/filter'
import {
  CellGathering,
  defaultCell,
  isJudged,
  refOf,
  type MatrixCell,
  type CellKeys,
  type FlowRef,
} from './cell'
import { classPairsOf, type ClassPair } from './class-pairs'
import { openSite } from './data-plane'
import type { Site } from './plane'
import {
  jointAnswers,
  jointMatches,
  matchBoth,
  MatchBitCache,
  refine,
  representativePair,
  type EndpointClass,
  type JointMatches,
  type SamplePair,
} from './equivalence-classes'
import { intentBitsOf } from './intent-index'

/** An intent and what is missing from it under the matrix's scenario. */
export interface IntentVerdict {
  readonly intentId: string
  readonly missing: ServiceSet
  readonly example: FlowRef | null
}

export interface ReachabilityMatrix {
  /** Zones in the order they are shown: networks by VLAN, peers, then the gateway, then the internet. */
  readonly keys: readonly string[]
  /** Row by row in the order of the keys. */
  readonly cells: readonly MatrixCell[]
  readonly verdicts: readonly IntentVerdict[]
}

interface Shortfall {
  readonly missing: ServiceSet
  readonly example: FlowRef | null
}
/** What intents miss in some cells, by the intent's id. */
type Shortfalls = Map<string, Shortfall>

function addShortfall(shortfalls: Shortfalls, intentId: string, more: Shortfall): void {
  const known = shortfalls.get(intentId)
  shortfalls.set(intentId, {
    missing: union(known?.missing ?? NOTHING, more.missing),
    example: known?.example ?? more.example,
  })
}

/** The rules of one gateway, and which of them match each class by each interface. */
class FilterMatches {
  private readonly byInterface = new Map<string, MatchBitCache>()
  constructor(readonly compiled: CompiledPolicy) {}

  at(via: string): MatchBitCache {
    let bits = this.byInterface.get(via)
    if (!bits) {
      bits = new MatchBitCache(({ address }) => this.compiled.matchBits({ via, address }))
      this.byInterface.set(via, bits)
    }
    return bits
  }
}

/** Evaluates the cells of one site. */
class CellEvaluator {
  readonly pairs
  private readonly intents: readonly Intent[]
  private readonly intentBits: MatchBitCache
  /** Services of each intent now: one whose schedule does not hold asks for nothing. */
  private readonly wanted: readonly ServiceSet[]
  private readonly filters: ReadonlyMap<string, FilterMatches>
  /** By zone: nobody is there. */
  private readonly empty: readonly boolean[]

  constructor({ index, scenario, holding, policies }: Site) {
    this.intents = index.plan.intents
    this.pairs = classPairsOf(index, scenario)
    this.empty = this.pairs.zones.map((_, zone) => this.pairs.classesOf(zone).length === 0)
    this.intentBits = intentBitsOf(index)
    this.wanted = this.intents.map(({ when, services }) =>
      when === null || holding.has(when) ? servicesOf(services, index.services) : NOTHING,
    )
    this.filters = new Map([...policies].map(([id, compiled]) => [id, new FilterMatches(compiled)]))
  }

  private readonly defaultOf = ({ deviceId, chain }: FilterRef): ServiceSet => {
    const filter = this.filters.get(deviceId)
    return filter ? byDefault(filter.compiled, chain) : EVERYTHING
  }

  private decisionOf(
    { deviceId, chain, from, to, isReply }: FilterRef,
    fromZone: EndpointClass,
    toZone: EndpointClass,
  ): ServiceSet {
    const filter = this.filters.get(deviceId)
    if (!filter) return EVERYTHING
    const [sender, receiver] = isReply ? [toZone, fromZone] : [fromZone, toZone]
    return accepted(
      decideMarked(filter.compiled, chain, filter.at(from).ofClass(sender), filter.at(to).ofClass(receiver)),
    )
  }

  /** The rules that match both ends of a pair, by the filters on its path. */
  private rulesMatching({ from, to, refs }: ClassPair): readonly JointMatches[] {
    const found: JointMatches[] = []
    for (const ref of refs) {
      const own = this.filters.get(ref.deviceId)
      const match = ref.isReply ? jointAnswers : jointMatches
      const joint = own && match(own.at(ref.from), from, own.at(ref.to), to)
      if (joint) found.push(joint)
    }
    return found
  }

  /** True where some rule or intent matches both ends of a pair. */
  private isSpokenOf({ from, to, refs }: ClassPair): boolean {
    if (matchBoth(this.intentBits, from, this.intentBits, to)) return true
    for (const ref of refs) {
      const own = this.filters.get(ref.deviceId)
      const [sender, receiver] = ref.isReply ? [to, from] : [from, to]
      if (own && matchBoth(own.at(ref.from), sender, own.at(ref.to), receiver)) return true
    }
    return false
  }

  private keysOf(from: number, to: number): CellKeys {
    const [fromZone, toZone] = [this.pairs.zones[from] ?? '', this.pairs.zones[to] ?? '']
    const isEmpty = this.empty[from] === true || this.empty[to] === true
    return { from: fromZone, to: toZone, judged: isJudged(fromZone, toZone), isEmpty }
  }

  /** One cell; what intents miss in it is added to `shortfalls`. */
  cell(from: number, to: number, shortfalls: Shortfalls): MatrixCell {
    const keys = this.keysOf(from, to)
    const pairs = this.pairs.between(from, to)
    const [only] = pairs
    // Most cells of most sites: one pair, of which no rule and no intent speaks.
    if (only && pairs.length === 1 && !this.isSpokenOf(only)) {
      const ends = representativePair(only.from.whole, only.to.whole) as SamplePair
      return defaultCell(keys, ends, evaluate(only.filter, this.defaultOf))
    }
    const gathering = new CellGathering(keys)
    for (const pair of pairs) {
      const asked = jointMatches(this.intentBits, pair.from, this.intentBits, pair.to)
      const rules = this.rulesMatching(pair)
      if (asked || rules.length > 0) this.gatherClasses(gathering, pair, asked, rules, shortfalls)
      else {
        const passes = evaluate(pair.filter, this.defaultOf)
        const ends = representativePair(pair.from.whole, pair.to.whole) as SamplePair
        gathering.add(passes, NOTHING, ends)
      }
    }
    return gathering.cell()
  }

  private gatherClasses(
    gathering: CellGathering,
    pair: ClassPair,
    asked: JointMatches | null,
    rules: readonly JointMatches[],
    shortfalls: Shortfalls,
  ): void {
    const joint = asked ? [asked, ...rules] : rules
    const sources = refine(pair.from, joint, 'from')
    for (const toZone of refine(pair.to, joint, 'to'))
      for (const fromZone of sources) {
        const ends = representativePair(fromZone, toZone)
        if (!ends) continue
        const passes = evaluate(pair.filter, (ref) => this.decisionOf(ref, fromZone, toZone))
        const intended = asked ? this.intendedFor(fromZone, toZone, ends, passes, shortfalls) : NOTHING
        gathering.add(passes, intended, ends)
      }
  }

  /** What all intents ask for between two classes; what they miss is added to `shortfalls`. */
  private intendedFor(
    fromZone: EndpointClass,
    toZone: EndpointClass,
    ends: SamplePair,
    passes: ServiceSet,
    shortfalls: Shortfalls,
  ): ServiceSet {
    let intended: ServiceSet = NOTHING
    eachShared(this.intentBits.ofClass(fromZone).from, this.intentBits.ofClass(toZone).to, (place) => {
      const wanted = this.wanted[place] as ServiceSet
      intended = union(intended, wanted)
      const missing = minus(wanted, passes)
      if (!isNothing(missing))
        addShortfall(shortfalls, this.intents[place]?.id ?? '', { missing, example: refOf(...ends, missing) })
      return true
    })
    return intended
  }

  /** Evaluates every cell that some of the intents match. @param ids of the intents */
  cellsForIntents(ids: ReadonlySet<string>, shortfalls: Shortfalls): void {
    const mask = bitsWhere(this.intents.length, (place) => ids.has(this.intents[place]?.id ?? ''))
    const zones = this.pairs.zones.map((_, zone) => this.intentBits.ofZone(this.pairs.classesOf(zone)))
    zones.forEach((source, from) => {
      const asked = bothBits(source.from, mask)
      if (asked)
        zones.forEach((target, to) => {
          if (sharesAny(asked, target.to)) this.cell(from, to, shortfalls)
        })
    })
  }
}

const verdictsFrom = (shortfalls: Shortfalls, intents: readonly Intent[]): IntentVerdict[] =>
  intents.map(({ id }) => {
    const { missing, example } = shortfalls.get(id) ?? { missing: NOTHING, example: null }
    return { intentId: id, missing, example }
  })

/** The matrix of a plan under a failure scenario. */
export function computeMatrix(index: PlanIndex, scenario: FailureScenario): ReachabilityMatrix {
  return matrixOf(openSite(index, scenario))
}

export function matrixOf(site: Site): ReachabilityMatrix {
  const evaluator = new CellEvaluator(site)
  const { zones, shown } = evaluator.pairs
  const shortfalls: Shortfalls = new Map()
  const cells: MatrixCell[] = []
  zones.forEach((_, from) =>
    zones.forEach((__, to) => {
      const cell = evaluator.cell(from, to, shortfalls)
      if (from < shown && to < shown) cells.push(cell)
    }),
  )
  return {
    keys: zones.slice(0, shown),
    cells,
    verdicts: verdictsFrom(shortfalls, site.index.plan.intents),
  }
}

/**
 * The verdicts of some of a plan's intents alone, as `gridOf` would give them: cells that none of them
 * matches are not evaluated.
 */
export function verdictsOf(site: Site, asked: readonly Intent[]): IntentVerdict[] {
  const shortfalls: Shortfalls = new Map()
  new CellEvaluator(site).cellsForIntents(new Set(asked.map((intent) => intent.id)), shortfalls)
  return verdictsFrom(shortfalls, asked)
}
