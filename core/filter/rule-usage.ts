// Question: which intents is each rule of a list there for, which of them does it decide, and what does it
// refuse?
// Method: the rules that speak of a side are known as bits: those of any side an intent speaks of, at both
// ends, are there for it.
// What each then decides is asked for every pair of sides that the rules tell apart, with every schedule and
// with none.
// Source: first match, as in rules.ts.
import { bitsWhere, bothBits, eachShared, eitherBits, groupByRows, type BitRow } from '#core/util'
import type { Intent, Rule, DeviceId, RuleId } from '#core/schema'
import type { PlanIndex } from '#core/queries'
import { decideMarked, policiesOf, type CompiledPolicy, type Decision, type RuleMatchBits } from './rules'
import { matcherOf, type PacketEnd } from './selectors'
import { intersect, isNothing, servicesOf, type ServiceSet } from './services'
import { packetEnds } from './packet-ends'

export interface RuleUsage {
  readonly ruleId: RuleId
  /** Intents it speaks of with some of their services, by id; of a rule that refuses none. */
  readonly meant: readonly string[]
  /** Those of which it decides something. */
  readonly decided: readonly string[]
  /** Interfaces from which it refuses something: network ids, `uplink`, tunnels' interfaces. */
  readonly refusedFrom: readonly string[]
}

/** Sides of which the same rules speak, at one end. */
interface EndClass {
  readonly marks: RuleMatchBits
  readonly sides: readonly PacketEnd[]
}
interface UsageSets {
  readonly meant: Set<string>
  readonly decided: Set<string>
  readonly refusedFrom: Set<string>
}

/** Ends of a gateway's packets as its rules tell them apart, and what is decided between them. */
class UsageClasses {
  /** Ends of what comes from somebody else. */
  readonly callers: readonly EndClass[]
  /** Ends of what goes to the gateway itself, or through it. */
  readonly called: Readonly<Record<Rule['chain'], readonly EndClass[]>>
  private readonly known = {
    forward: new Map<EndClass, Map<EndClass, readonly Decision[]>>(),
    input: new Map<EndClass, Map<EndClass, readonly Decision[]>>(),
  }

  constructor(
    index: PlanIndex,
    private readonly compiled: CompiledPolicy,
  ) {
    const all = bitsWhere(compiled.policy.rules.length, () => true)
    const sides = packetEnds(index).map((side) => ({ side, marks: compiled.matchBits(side) }))
    const classesOf = (end: keyof RuleMatchBits): EndClass[] =>
      groupByRows(sides, [{ mask: all, rows: sides.map((s) => s.marks[end]) }]).map((group) => ({
        marks: (group[0] as (typeof sides)[number]).marks,
        sides: group.map((s) => s.side),
      }))
    const targets = classesOf('to')
    this.callers = among(classesOf('from'), (s) => s.via !== 'self')
    this.called = {
      input: among(targets, (s) => s.via === 'self'),
      forward: among(targets, (s) => s.via !== 'self'),
    }
  }

  decisions(from: EndClass, to: EndClass, chain: Rule['chain']): readonly Decision[] {
    let row = this.known[chain].get(from)
    if (!row) this.known[chain].set(from, (row = new Map()))
    let made = row.get(to)
    if (!made) row.set(to, (made = decideMarked(this.compiled, chain, from.marks, to.marks)))
    return made
  }
}

/** Of some classes, the ends that something speaks of. */
const among = (classes: readonly EndClass[], speaks: (side: PacketEnd) => boolean): EndClass[] =>
  classes.flatMap((one): EndClass[] => {
    const left = one.sides.filter(speaks)
    if (left.length === 0) return []
    return [left.length === one.sides.length ? one : { marks: one.marks, sides: left }]
  })

/** Pairs of classes with a pair of ends that the gateway stands between. */
function eachPair(
  first: readonly EndClass[],
  second: readonly EndClass[],
  visit: (from: EndClass, to: EndClass) => void,
): void {
  for (const from of first)
    for (const to of second)
      if (from.sides.some((x) => to.sides.some((y) => x.via !== y.via))) visit(from, to)
}

/** Which rules speak of an intent, and which decide something of it. */
function collectIntent(
  index: PlanIndex,
  compiled: CompiledPolicy,
  classes: UsageClasses,
  intent: Intent,
  told: ReadonlyMap<string, UsageSets>,
): void {
  const wanted = servicesOf(intent.services, index.services)
  const chain = intent.to.kind === 'gateway' ? 'input' : 'forward'
  const first = among(classes.callers, matcherOf(index, intent.from))
  const second = among(classes.called[chain], matcherOf(index, intent.to))
  if (first.length === 0 || second.length === 0) return
  const speaking = bothBits(
    eitherBits(first.map((c) => c.marks.from)),
    eitherBits(second.map((c) => c.marks.to)),
  )
  if (!speaking) return
  const isMeant = (services: ServiceSet) => !isNothing(intersect(services, wanted))
  eachShared(speaking, speaking, (i) => {
    const entry = compiled.rules[i]
    if (entry?.rule.chain === chain && entry.rule.action === 'accept' && isMeant(entry.services))
      told.get(entry.rule.id)?.meant.add(intent.id)
    return true
  })
  eachPair(first, second, (from, to) => {
    for (const { rule, services } of classes.decisions(from, to, chain))
      if (rule && isMeant(services)) told.get(rule.id)?.decided.add(intent.id)
  })
}

/** From where a rule refuses something. */
function collectRefusals(
  classes: UsageClasses,
  rule: Rule,
  own: BitRow,
  refusedFrom: Set<string> | undefined,
): void {
  const speaking = (list: readonly EndClass[], end: keyof RuleMatchBits) =>
    list.filter((c) => bothBits(c.marks[end], own))
  const callers = speaking(classes.callers, 'from')
  eachPair(callers, speaking(classes.called[rule.chain], 'to'), (from, to) => {
    if (!classes.decisions(from, to, rule.chain).some((d) => d.rule === rule)) return
    for (const { via } of from.sides) if (to.sides.some((y) => y.via !== via)) refusedFrom?.add(via)
  })
}

function collectUsage(
  index: PlanIndex,
  compiled: CompiledPolicy,
  told: ReadonlyMap<string, UsageSets>,
): void {
  const { rules } = compiled.policy
  const classes = new UsageClasses(index, compiled)
  for (const intent of index.plan.intents) collectIntent(index, compiled, classes, intent, told)
  rules.forEach((rule, i) => {
    if (rule.action === 'accept') return
    const own = bitsWhere(rules.length, (other) => other === i)
    collectRefusals(classes, rule, own, told.get(rule.id)?.refusedFrom)
  })
}

/** Of each rule of a gateway's list, in its order, what it is there for. */
export function ruleUsage(index: PlanIndex, deviceId: DeviceId): RuleUsage[] {
  const rules = index.plan.policies.find((p) => p.deviceId === deviceId)?.rules ?? []
  const told = new Map(
    rules.map((rule): [string, UsageSets] => [
      rule.id,
      { meant: new Set(), decided: new Set(), refusedFrom: new Set() },
    ]),
  )
  const { schedules } = index.plan
  for (const holding of schedules.length === 0 ? [[]] : [[], schedules.map((s) => s.id)]) {
    const compiled = policiesOf(index, new Set(holding)).get(deviceId)
    if (compiled) collectUsage(index, compiled, told)
  }
  return [...told].map(([ruleId, usageSets]) => ({
    ruleId,
    meant: [...usageSets.meant],
    decided: [...usageSets.decided],
    refusedFrom: [...usageSets.refusedFrom],
  }))
}
