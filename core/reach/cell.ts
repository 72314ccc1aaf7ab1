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
} from '#core/policy'
import { meet, type Place } from './kinds'
import { GATEWAY, type WayPair } from './lots'

/** One concrete flow, enough to walk it again. */
export interface FlowRef {
  readonly from: string
  readonly fromAddress: number
  readonly to: string
  readonly toAddress: number
  readonly proto: 'tcp' | 'udp' | 'icmp'
  readonly port: number
}

export interface Cell {
  readonly from: string
  readonly to: string
  /** False where no intent is asked: inside one network, and from the gateway itself. */
  readonly judged: boolean
  readonly intended: ServiceSet
  /** Passes between every pair of endpoints. */
  readonly everywhere: ServiceSet
  /** Passes between some pairs only. */
  readonly somewhere: ServiceSet
  /** Intended for a pair and does not pass. */
  readonly missing: ServiceSet
  /** Passes for a pair without being intended. */
  readonly excess: ServiceSet
  /** A flow to open first: one that contradicts the intent, else one that passes, else one that does not. */
  readonly example: FlowRef | null
}

export type Ends = readonly [Place, Place]

interface Gathering {
  everywhere: ServiceSet
  union: ServiceSet
  intended: ServiceSet
  missing: ServiceSet
  excess: ServiceSet
  pairs: number
  wrong: FlowRef | null
  passing: FlowRef | null
  blocked: FlowRef | null
}

export const fresh = (): Gathering => ({
  everywhere: EVERYTHING,
  union: NOTHING,
  intended: NOTHING,
  missing: NOTHING,
  excess: NOTHING,
  pairs: 0,
  wrong: null,
  passing: null,
  blocked: null,
})

export function refOf(from: Place, to: Place, set: ServiceSet): FlowRef | null {
  const one = sample(set)
  return (
    one && {
      from: from.subject.id,
      fromAddress: from.address,
      to: to.subject.id,
      toAddress: to.address,
      proto: one.proto,
      port: one.port,
    }
  )
}

export function gather(
  cell: Gathering,
  passes: ServiceSet,
  allowed: ServiceSet,
  [from, to]: Ends,
  judged: boolean,
): void {
  // Most cells of most sites: nothing is meant to pass, and nothing does.
  if (passes === NOTHING && allowed === NOTHING && cell.blocked && cell.everywhere === NOTHING) return
  cell.pairs++
  cell.everywhere = intersect(cell.everywhere, passes)
  cell.union = union(cell.union, passes)
  cell.intended = union(cell.intended, allowed)
  const missing = minus(allowed, passes)
  const excess = judged ? minus(passes, allowed) : NOTHING
  cell.missing = union(cell.missing, missing)
  cell.excess = union(cell.excess, excess)
  cell.wrong ??= refOf(from, to, excess) ?? refOf(from, to, missing)
  cell.passing ??= refOf(from, to, passes)
  cell.blocked ??= refOf(from, to, minus(EVERYTHING, passes))
}

/** The keys of a cell, and whether intents are asked of it. */
export type Named = Pick<Cell, 'from' | 'to' | 'judged'>
export function cellFrom({ from, to, judged }: Named, g: Gathering): Cell {
  const everywhere = g.pairs === 0 ? NOTHING : g.everywhere
  return {
    from,
    to,
    judged,
    intended: g.intended,
    everywhere,
    somewhere: minus(g.union, everywhere),
    missing: g.missing,
    excess: g.excess,
    example: g.wrong ?? g.passing ?? g.blocked,
  }
}

/** A cell of one pair of ways of which no rule and no intent speaks: most cells of most sites. */
export function quietCell({ from, to, judged }: Named, pair: WayPair, passes: ServiceSet): Cell {
  let a: Place = pair.from.whole
  let b: Place = pair.to.whole
  if (a.subject.id === b.subject.id) [a, b] = meet(pair.from.whole, pair.to.whole) as Ends
  const open = !isNothing(passes)
  return {
    from,
    to,
    judged,
    intended: NOTHING,
    everywhere: passes,
    somewhere: NOTHING,
    missing: NOTHING,
    excess: judged ? passes : NOTHING,
    example: refOf(a, b, open ? passes : EVERYTHING),
  }
}

/** Inside one network, and from the gateway itself, no intent is asked. */
export function isJudged(from: string, to: string): boolean {
  return from !== to && from !== GATEWAY
}
