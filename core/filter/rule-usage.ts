// Question: which intents is each rule of a list there for, which of them does it decide, and what does it
// refuse?
// Method: the rules that speak of a side are known as bits: those of any side an intent speaks of, at both
// ends, are there for it.
// What each then decides is asked for every pair of sides that the rules tell apart, with every schedule and
// with none.
// Source: first match, as in rules.ts.
import { bitsWhere, bothBits, eachShared, eitherBits, groupByRows } from '#core/util'
import type { Intent, PlanIndex, Rule } from '#core/model'
import { decideMarked, policiesOf, type CompiledPolicy, type Decision, type RuleMatchBits } from './rules'
import { matcherOf, type PacketEnd } from './selectors'
import { intersect, isNothing, servicesOf, type ServiceSet } from './services'
import { packetEnds } from './packet-ends'

export interface RuleUsage {
  readonly ruleId: string
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

function collectUsage(
  index: PlanIndex,
  compiled: CompiledPolicy,
  told: ReadonlyMap<string, UsageSets>,
): void {
  const { rules } = compiled.policy
  const all = bitsWhere(rules.length, () => true)
  const sides = packetEnds(index).map((side) => ({ side, marks: compiled.matchBits(side) }))
  const classesOf = (end: keyof RuleMatchBits): EndClass[] =>
    groupByRows(sides, [{ mask: all, rows: sides.map((s) => s.marks[end]) }]).map((group) => ({
      marks: (group[0] as (typeof sides)[number]).marks,
      sides: group.map((s) => s.side),
    }))
  const [froms, tos] = [classesOf('from'), classesOf('to')]
  const known = {
    forward: new Map<EndClass, Map<EndClass, readonly Decision[]>>(),
    input: new Map<EndClass, Map<EndClass, readonly Decision[]>>(),
  }
  const decisions = (from: EndClass, to: EndClass, chain: Rule['chain']) => {
    let row = known[chain].get(from)
    if (!row) known[chain].set(from, (row = new Map()))
    let made = row.get(to)
    if (!made) row.set(to, (made = decideMarked(compiled, chain, from.marks, to.marks)))
    return made
  }
  /** Pairs of classes with a pair of sides that the gateway stands between. */
  const pairs = (
    first: readonly EndClass[],
    second: readonly EndClass[],
    visit: (from: EndClass, to: EndClass) => void,
  ) => {
    for (const from of first)
      for (const to of second)
        if (from.sides.some((x) => to.sides.some((y) => x.via !== y.via))) visit(from, to)
  }
  const among = (classes: readonly EndClass[], speaks: (side: PacketEnd) => boolean) =>
    classes.flatMap((one): EndClass[] => {
      const left = one.sides.filter(speaks)
      return left.length === 0
        ? []
        : [left.length === one.sides.length ? one : { marks: one.marks, sides: left }]
    })
  /** What comes from somebody else, and goes to the gateway itself or through it. */
  const [callers, called] = [
    among(froms, (s) => s.via !== 'self'),
    { input: among(tos, (s) => s.via === 'self'), forward: among(tos, (s) => s.via !== 'self') },
  ]
  const asked = (intent: Intent, wanted: ServiceSet) => {
    const chain = intent.to.kind === 'gateway' ? 'input' : 'forward'
    const [first, second] = [
      among(callers, matcherOf(index, intent.from)),
      among(called[chain], matcherOf(index, intent.to)),
    ]
    const speaking =
      first.length > 0 && second.length > 0
        ? bothBits(eitherBits(first.map((c) => c.marks.from)), eitherBits(second.map((c) => c.marks.to)))
        : null
    if (!speaking) return
    eachShared(speaking, speaking, (i) => {
      const entry = compiled.rules[i]
      if (
        entry?.rule.chain === chain &&
        entry.rule.action === 'accept' &&
        !isNothing(intersect(entry.services, wanted))
      )
        told.get(entry.rule.id)?.meant.add(intent.id)
      return true
    })
    pairs(first, second, (from, to) => {
      for (const { rule, services } of decisions(from, to, chain))
        if (rule && !isNothing(intersect(services, wanted))) told.get(rule.id)?.decided.add(intent.id)
    })
  }
  for (const intent of index.plan.intents) asked(intent, servicesOf(intent.services, index.services))
  rules.forEach((rule, i) => {
    if (rule.action === 'accept') return
    const one = bitsWhere(rules.length, (n) => n === i)
    const speaking = (classes: readonly EndClass[], end: keyof RuleMatchBits) =>
      classes.filter((c) => bothBits(c.marks[end], one))
    pairs(speaking(callers, 'from'), speaking(called[rule.chain], 'to'), (from, to) => {
      if (decisions(from, to, rule.chain).some((d) => d.rule === rule))
        for (const { via } of from.sides)
          if (to.sides.some((y) => y.via !== via)) told.get(rule.id)?.refusedFrom.add(via)
    })
  })
}

/** Of each rule of a gateway's list, in its order, what it is there for. */
export function ruleUsage(index: PlanIndex, deviceId: string): RuleUsage[] {
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
