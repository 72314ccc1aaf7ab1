// Question: what do the flows between all pairs of places say of one pair of rows and columns?
// Method: the exact sets of the pairs are met and joined; of each sort the first flow stands as an example.
import {
  EVERYTHING,
  intersect,
  isNothing,
  minus,
  NOTHING,
  sample,
  union,
  type ServiceSet,
} from '#core/filter'
import type { AddressSample, SamplePair } from './equivalence-classes'
import { GATEWAY } from './zones'

/** One concrete flow, enough to walk it again. */
export interface FlowRef {
  readonly from: string
  readonly fromAddress: number
  readonly to: string
  readonly toAddress: number
  readonly proto: 'tcp' | 'udp' | 'icmp'
  readonly port: number
}

export interface MatrixCell {
  readonly from: string
  readonly to: string
  /** False where no intent is asked: inside one network, and from the gateway itself. */
  readonly judged: boolean
  /** True where nobody stands at one of its ends: then nothing can be said of it yet. */
  readonly isEmpty: boolean
  readonly intended: ServiceSet
  /** Passes between every pair of endpoints. */
  readonly allPairs: ServiceSet
  /** Passes between some pairs only. */
  readonly somePairs: ServiceSet
  /** Intended for a pair and does not pass. */
  readonly missing: ServiceSet
  /** Passes for a pair without being intended. */
  readonly unexpected: ServiceSet
  /** A flow to open first: one that contradicts the intent, else one that passes, else one that does not. */
  readonly example: FlowRef | null
}

export function refOf(from: AddressSample, to: AddressSample, set: ServiceSet): FlowRef | null {
  const one = sample(set)
  return (
    one && {
      from: from.principal.id,
      fromAddress: from.address,
      to: to.principal.id,
      toAddress: to.address,
      proto: one.proto,
      port: one.port,
    }
  )
}

/** True where a cell is judged, and something is missing or passes that nobody intended. */
export const isAgainstIntent = ({ judged, missing, unexpected }: MatrixCell): boolean =>
  judged && !(isNothing(missing) && isNothing(unexpected))

/** The keys of a cell, and whether intents are asked of it. */
export type CellKeys = Pick<MatrixCell, 'from' | 'to' | 'judged' | 'isEmpty'>

/** What the pairs of classes of one cell say, taken together. */
export class CellGathering {
  private allPairs = EVERYTHING
  private union = NOTHING
  private intended = NOTHING
  private missing = NOTHING
  private unexpected = NOTHING
  private pairs = 0
  private wrong: FlowRef | null = null
  private passing: FlowRef | null = null
  private blocked: FlowRef | null = null
  constructor(private readonly keys: CellKeys) {}

  add(passes: ServiceSet, intended: ServiceSet, [from, to]: SamplePair): void {
    // Most pairs of most sites: nothing is meant to pass, and nothing does.
    if (passes === NOTHING && intended === NOTHING && this.blocked && this.allPairs === NOTHING) return
    this.pairs++
    this.allPairs = intersect(this.allPairs, passes)
    this.union = union(this.union, passes)
    this.intended = union(this.intended, intended)
    const missing = minus(intended, passes)
    const unexpected = this.keys.judged ? minus(passes, intended) : NOTHING
    this.missing = union(this.missing, missing)
    this.unexpected = union(this.unexpected, unexpected)
    this.wrong ??= refOf(from, to, unexpected) ?? refOf(from, to, missing)
    this.passing ??= refOf(from, to, passes)
    this.blocked ??= refOf(from, to, minus(EVERYTHING, passes))
  }

  cell(): MatrixCell {
    const { from, to, judged, isEmpty } = this.keys
    const allPairs = this.pairs === 0 ? NOTHING : this.allPairs
    return {
      from,
      to,
      judged,
      isEmpty,
      intended: this.intended,
      allPairs,
      somePairs: minus(this.union, allPairs),
      missing: this.missing,
      unexpected: this.unexpected,
      example: this.wrong ?? this.passing ?? this.blocked,
    }
  }
}

/** A cell of one pair of classes that no rule and no intent matches: most cells of most sites. */
export function defaultCell(
  { from, to, judged, isEmpty }: CellKeys,
  [first, second]: SamplePair,
  passes: ServiceSet,
): MatrixCell {
  return {
    from,
    to,
    judged,
    isEmpty,
    intended: NOTHING,
    allPairs: passes,
    somePairs: NOTHING,
    missing: NOTHING,
    unexpected: judged ? passes : NOTHING,
    example: refOf(first, second, isNothing(passes) ? EVERYTHING : passes),
  }
}

/** Inside one network, and from the gateway itself, no intent is asked. */
export function isJudged(from: string, to: string): boolean {
  return from !== to && from !== GATEWAY
}
