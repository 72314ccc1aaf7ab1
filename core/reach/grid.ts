// Question: who reaches whom, against what was intended, for every pair of groups?
// Method: places that no wire, route or mask tells apart share a way, which is walked once for each pair of ways; on it, places
// that no rule or intent (as bits) tells apart are one kind. The exact service set of every pair of kinds is gathered to one cell
// for each pair of networks, peers, the gateway and the internet. A cell hangs on the roads, on who
// stands at its ends, and on the rules and intents that speak of both; a row on those that speak of it. Where those are the same objects
// as last time, so is the cell, or the row.
import { bitsWhere, bothBits, eachShared, memoOnParts, sharesAny, type BitRow } from '#core/base'
import type { Intent, PlanIndex, Rule, Weather } from '#core/model'
import {
  accepted,
  byDefault,
  decideMarked,
  EVERYTHING,
  isNothing,
  minus,
  NOTHING,
  paid,
  rulesIn,
  servicesOf,
  union,
  type CompiledPolicy,
  type Marks,
  type RulesToll,
  type ServiceSet,
} from '#core/policy'
import {
  cellFrom,
  fresh,
  gather,
  isJudged,
  quietCell,
  refOf,
  type Cell,
  type Ends,
  type FlowRef,
  type Named,
} from './cell'
import { meet, partsOf, sharedBits, Speech, type Kind, type Way } from './kinds'
import { lotsOf, sharesEntry, tollsOf, type Lot, type WayPair } from './lots'
import {
  Listing,
  lossesOf,
  NO_LOSS,
  recall,
  type Lost,
  type Row,
  type RowMemory,
  type Settled,
} from './memory'
import { openSite, type Site } from './passage'
import { speechOf } from './speech'

/** An intent and what is missing from it under the grid's weather. */
export interface IntentVerdict {
  readonly intentId: string
  readonly missing: ServiceSet
  readonly example: FlowRef | null
}

export interface Grid {
  /** Keys in drawing order: networks by VLAN, then the gateway, then the internet. */
  readonly keys: readonly string[]
  /** Row by row in the order of the keys. */
  readonly cells: readonly Cell[]
  readonly verdicts: readonly IntentVerdict[]
}

/** A row or column: its ways, and which intents speak of it. */
interface End {
  readonly ways: readonly Way[]
  readonly meant: Marks
}
const NO_ROW: BitRow = []
/** Kept with the ways: which intents, and which rules, speak of each. */
const meantOn = memoOnParts<Speech>(2)
const ruledOn = memoOnParts<Map<string, Speech>>(4)
/** Judges the cells of one site. */
function makeBench(site: Site) {
  const { index } = site
  const { intents } = index.plan
  const lots = lotsOf(site)
  const known = recall(site, lots)
  const memoryOf = (row: number): RowMemory => known[row] as RowMemory
  const meant = meantOn(lots, [intents, index.plan.groups], () => speechOf(index, intents))
  const holds = ({ when }: Rule | Intent) => when === null || site.holding.has(when)
  // An intent that is not meant now asks for nothing.
  const services = intents.map((intent) =>
    holds(intent) ? servicesOf(intent.services, index.services) : NOTHING,
  )
  const ifHeld = <T extends Rule | Intent>(it: T | undefined): T | undefined =>
    it && holds(it) ? it : undefined
  const lists = new Map(
    [...site.policies].map(([deviceId, compiled]) => [
      deviceId,
      { compiled, speeches: ruledOn(lots, [compiled.marks], () => new Map()) },
    ]),
  )
  const ruled = (
    { compiled, speeches }: { readonly compiled: CompiledPolicy; readonly speeches: Map<string, Speech> },
    via: string,
  ): Speech => {
    let speech = speeches.get(via)
    if (!speech)
      speeches.set(via, (speech = new Speech((place) => compiled.marks({ via, address: place.address }))))
    return speech
  }
  const sides = ({ deviceId, from, to }: RulesToll) => {
    const list = lists.get(deviceId)
    return list && { compiled: list.compiled, from: ruled(list, from), to: ruled(list, to) }
  }
  /** What the cell or row that is asked for hangs on, in order: intents, then for each list of rules its default and its rules. */
  const items = new Listing()
  const ends: End[] = []
  const endOf = (row: number): End =>
    (ends[row] ??= { ways: lots.ways(row), meant: meant.ofRow(lots.ways(row)) })
  /** Finds the rules and intents that speak of both ends of a lot. True where there are none. */
  const hangsOn = (lot: Lot, near: End, far: End): boolean => {
    const asking = near.meant.from
    const asked = far.meant.to
    items.start()
    let quiet = true
    if (sharesAny(asking, asked)) {
      quiet = false
      eachShared(asking, asked, (i) => items.add(ifHeld(intents[i])))
    }
    for (const toll of tollsOf(lot)) {
      const list = lists.get(toll.deviceId)
      items.add(list?.compiled.policy[toll.chain])
      if (!list) continue
      const from = ruled(list, toll.from).ofRow(near.ways).from
      const to = ruled(list, toll.to).ofRow(far.ways).to
      if (!sharesAny(from, to)) continue
      quiet = false
      eachShared(from, to, (i) => items.add(ifHeld(list.compiled.rules[i]?.rule)))
    }
    return quiet
  }
  /** The rules and intents that speak of a row, whatever they say of the columns: while they are the same, so is all of the row. */
  const rowHangsOn = (row: number): void => {
    const near = endOf(row)
    items.start()
    eachShared(near.meant.from, near.meant.from, (i) => items.add(ifHeld(intents[i])))
    for (const toll of memoryOf(row).entries) {
      const list = lists.get(toll.deviceId)
      items.add(list?.compiled.policy[toll.chain])
      const from = list ? ruled(list, toll.from).ofRow(near.ways).from : NO_ROW
      eachShared(from, from, (i) => items.add(ifHeld(list?.compiled.rules[i]?.rule)))
    }
  }
  const decidedBy = (toll: RulesToll, a: Kind, b: Kind): ServiceSet => {
    const ends = sides(toll)
    return ends
      ? accepted(decideMarked(ends.compiled, toll.chain, ends.from.of(a), ends.to.of(b)))
      : EVERYTHING
  }
  // Lists of one thing are the same list: most cells hang on one default alone.
  const ones = new Map<unknown, readonly unknown[]>()
  const alone = (item: unknown): readonly unknown[] => {
    let list = ones.get(item)
    if (!list) ones.set(item, (list = [item]))
    return list
  }
  const byDefaults = (toll: RulesToll) => {
    const list = lists.get(toll.deviceId)
    return list ? byDefault(list.compiled, toll.chain) : EVERYTHING
  }
  const settle = (lot: Lot, named: Named, on: readonly unknown[], quiet: boolean): Settled => {
    const { judged } = named
    if (quiet && lot.length === 1)
      return {
        hangsOn: on,
        cell: quietCell(named, lot[0] as WayPair, paid((lot[0] as WayPair).toll, byDefaults)),
        lost: NO_LOSS,
      }
    const gathering = fresh()
    if (quiet) {
      for (const { from, to, toll } of lot)
        gather(gathering, paid(toll, byDefaults), NOTHING, meet(from.whole, to.whole) as Ends, judged)
      return { hangsOn: on, cell: cellFrom(named, gathering), lost: NO_LOSS }
    }
    const lost = new Map<string, Lost>()
    for (const pair of lot) {
      const asked = sharedBits(meant, pair.from, meant, pair.to)
      const shared = [asked, ...rulesShared(pair)].filter((s) => s !== null)
      const froms = partsOf(pair.from, shared, 'from')
      for (const b of partsOf(pair.to, shared, 'to')) {
        for (const a of froms) {
          const ends = meet(a, b)
          if (!ends) continue
          const passes = paid(pair.toll, (t) => decidedBy(t, a, b))
          let allowed: ServiceSet = NOTHING
          if (asked)
            eachShared(meant.of(a).from, meant.of(b).to, (i) => {
              const wanted = services[i] as ServiceSet
              allowed = union(allowed, wanted)
              const missing = minus(wanted, passes)
              const id = intents[i]?.id ?? ''
              const known = lost.get(id)
              if (!isNothing(missing))
                lost.set(id, {
                  missing: union(known?.missing ?? NOTHING, missing),
                  example: known?.example ?? refOf(...ends, missing),
                })
              return true
            })
          gather(gathering, passes, allowed, ends, judged)
        }
      }
    }
    return { hangsOn: on, cell: cellFrom(named, gathering), lost: lost.size === 0 ? NO_LOSS : lost }
  }
  const rulesShared = ({ from, to, toll }: WayPair) =>
    rulesIn(toll).map((t) => {
      const ends = sides(t)
      return ends ? sharedBits(ends.from, from, ends.to, to) : null
    })
  const nameOf = (row: number, column: number): Named => {
    const from = lots.keys[row] ?? ''
    const to = lots.keys[column] ?? ''
    return { from, to, judged: isJudged(from, to) }
  }
  const enter = ({ entries }: RowMemory, lot: Lot): void => {
    for (const t of tollsOf(lot)) if (!entries.some((e) => sharesEntry(e, t))) entries.push(t)
  }
  const settled = (from: number, to: number): Settled => {
    const lot = lots.at(from, to)
    const quiet = hangsOn(lot, endOf(from), endOf(to))
    const row = memoryOf(from)
    const held = row.cells[to]
    if (held && items.are(held.hangsOn)) return held
    enter(row, lot)
    row.hangsOn = null
    return (row.cells[to] = settle(
      lot,
      nameOf(from, to),
      items.one === undefined ? items.list() : alone(items.one),
      quiet,
    ))
  }
  const settledRow = (from: number): Row => {
    const row = memoryOf(from)
    if (!row.whole) lots.keys.forEach((_, to) => row.cells[to] ?? enter(row, lots.at(from, to)))
    rowHangsOn(from)
    const as = row.hangsOn && items.are(row.hangsOn) ? row.hangsOn : null
    if (as && row.whole) return row.whole
    const hangsOn = as ?? items.list()
    const all = lots.keys.map((_, to) => (as && row.cells[to]) || settled(from, to))
    row.hangsOn = hangsOn
    return (row.whole = { cells: all.slice(0, lots.drawn).map((s) => s.cell), losses: lossesOf(all) })
  }
  /** The cells of which some of the intents speak. */
  const meantBy = (mask: BitRow): Settled[] => {
    const found: Settled[] = []
    for (let from = 0; from < lots.keys.length; from++) {
      const asked = bothBits(endOf(from).meant.from, mask)
      if (!asked) continue
      for (let to = 0; to < lots.keys.length; to++)
        if (sharesAny(asked, endOf(to).meant.to)) found.push(settled(from, to))
    }
    return found
  }
  const verdicts = (losses: readonly Settled['lost'][], asked: readonly Intent[]): IntentVerdict[] => {
    const all = new Map<string, Lost>(asked.map(({ id }) => [id, { missing: NOTHING, example: null }]))
    for (const lost of losses) {
      for (const [id, here] of lost) {
        const known = all.get(id)
        if (known)
          all.set(id, { missing: union(known.missing, here.missing), example: known.example ?? here.example })
      }
    }
    return [...all].map(([intentId, lost]) => ({ intentId, ...lost }))
  }
  return { lots, settledRow, meantBy, verdicts }
}

/** The grid of a plan under a weather. */
export function computeGrid(index: PlanIndex, weather: Weather): Grid {
  return gridOf(openSite(index, weather))
}

export function gridOf(site: Site): Grid {
  const bench = makeBench(site)
  const { keys, drawn } = bench.lots
  const rows = keys.map((_, from) => bench.settledRow(from))
  const cells: Cell[] = []
  for (const row of rows.slice(0, drawn)) cells.push(...row.cells)
  return {
    keys: keys.slice(0, drawn),
    cells,
    verdicts: bench.verdicts(
      rows.flatMap((row) => row.losses),
      site.index.plan.intents,
    ),
  }
}

/** The verdicts of some of a plan's intents alone, as `gridOf` would give them: cells that none of them speaks of are not walked. */
export function verdictsOf(site: Site, asked: readonly Intent[]): IntentVerdict[] {
  const bench = makeBench(site)
  const { intents } = site.index.plan
  const ids = new Set(asked.map((i) => i.id))
  const mask = bitsWhere(intents.length, (i) => ids.has(intents[i]?.id ?? ''))
  return bench.verdicts(lossesOf(bench.meantBy(mask)), asked)
}
