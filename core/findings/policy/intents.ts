// Question: does what passes differ from what is meant, at all well, under what intents are to survive, and
// at every time of the week?
// Method: the reach matrix against the intents.
import { formatServices, isNothing } from '#core/filter'
import {
  conditionOf,
  failableThings,
  atInstant,
  conditionText,
  scheduleInstants,
  schedulesHolding,
  type Condition,
  type PlanIndex,
} from '#core/queries'
import { vlanGaps } from '#core/layer2'
import {
  matrixOf,
  openSite,
  verdictsOf,
  type FlowRef,
  type IntentVerdict,
  type ReachabilityMatrix,
  type Site,
} from '#core/reachability'
import { draft, type Draft } from '../finding'
import { nameOfFlow, nameOfKey, nameOfThing } from '#core/reachability'
import type { Under } from './values'

/**
 * Devices whose trouble is already told as a gap of a VLAN or by an address finding; their lost intents are not told
 * twice.
 */
function explained(site: Site, blamed: ReadonlySet<string>): Set<string> {
  const out = new Set(vlanGaps(site.index, site.scenario).flatMap((gap) => gap.affected))
  for (const endpoint of site.endpoints) {
    if (endpoint.homeNetworkId !== null && blamed.has(endpoint.homeNetworkId)) out.add(endpoint.deviceId)
  }
  return out
}

function isExplained(site: Site, told: ReadonlySet<string>, flow: FlowRef | null): boolean {
  const deviceOf = (id: string) => site.endpoints.find((e) => e.id === id)?.deviceId ?? ''
  return flow !== null && (told.has(deviceOf(flow.from)) || told.has(deviceOf(flow.to)))
}

/** What a finding says of the condition it is found under; null at all well. */
function underOf(index: PlanIndex, condition: Condition | null): Under | null {
  switch (condition?.kind) {
    case 'down':
      return { kind: 'down', name: nameOfThing(index, condition.id) }
    case 'rain':
      return { kind: 'rain' }
    case 'instant': {
      const held = schedulesHolding(index.plan, [condition])
      const schedules = index.plan.schedules.filter((s) => held.has(s.id)).map((s) => s.name)
      return { kind: 'instant', minute: condition.minute, schedules }
    }
    default:
      return null
  }
}

function excessFindings(index: PlanIndex, matrix: ReachabilityMatrix, condition: Condition | null): Draft[] {
  return matrix.cells
    .filter((c) => c.judged && !isNothing(c.unexpected))
    .map((cell) =>
      draft('P01', 'blocker', ['cells', cell.from, cell.to], {
        kind: 'excess',
        from: nameOfKey(index, cell.from),
        to: nameOfKey(index, cell.to),
        services: formatServices(cell.unexpected),
        under: underOf(index, condition),
        key: condition ? `excess ${conditionText(condition)}` : 'excess',
      }),
    )
}

function missingFindings(
  site: Site,
  verdicts: readonly IntentVerdict[],
  told: ReadonlySet<string>,
  condition: Condition | null,
): Draft[] {
  return verdicts
    .filter((v) => !isNothing(v.missing) && !isExplained(site, told, v.example))
    .flatMap((verdict) => {
      const intent = site.index.plan.intents.find((i) => i.id === verdict.intentId)
      if (!intent) return []
      const values = {
        kind: 'missing' as const,
        intent: nameOfFlow(site.index, intent),
        services: formatServices(verdict.missing),
        under: underOf(site.index, condition),
        key: `missing ${condition ? conditionText(condition) : ''}`,
      }
      return [draft('P01', 'blocker', ['intents', intent.id], values)]
    })
}

/** Intents that a failure takes which they are to survive. */
function underFailures({ index }: Site, matrix: ReachabilityMatrix, told: ReadonlySet<string>): Draft[] {
  const { intents } = index.plan
  const missedAnyway = new Set(matrix.verdicts.filter((v) => !isNothing(v.missing)).map((v) => v.intentId))
  const known = new Set(failableThings(index.plan).map(({ id }) => id))
  return [...new Set(intents.flatMap((i) => i.survives))].sort().flatMap((id) => {
    const condition = conditionOf(id, known)
    const worse = openSite(index, [condition])
    const asked = intents.filter((i) => i.survives.includes(id))
    const missed = missingFindings(worse, verdictsOf(worse, asked), told, condition)
    return missed.filter((f) => !missedAnyway.has(f.place[1] ?? ''))
  })
}

const signOf = (d: Draft): string => `${d.place.join('/')} ${d.code === 'P01' ? d.values.services : ''}`

/**
 * At other times other rules are there, and other things are meant: what is wrong then and not at the usual
 * time.
 */
function atOtherTimes({ index }: Site, now: readonly Draft[], told: ReadonlySet<string>): Draft[] {
  const { schedules } = index.plan
  if (schedules.length === 0) return []
  const usual = new Set(now.map(signOf))
  const others = scheduleInstants(schedules).slice(1)
  return others.flatMap(({ minute }) => {
    const instant = atInstant(minute)
    const then = openSite(index, [instant])
    const matrix = matrixOf(then)
    const wrong = [
      ...excessFindings(index, matrix, instant),
      ...missingFindings(then, matrix.verdicts, told, instant),
    ]
    return wrong.filter((d) => !usual.has(signOf(d)))
  })
}

/**
 * What passes unasked, and what is asked and does not pass.
 * `blamed`: networks whose addressing is already found wrong.
 */
export function intentFindings(site: Site, matrix: ReachabilityMatrix, blamed: ReadonlySet<string>): Draft[] {
  const told = explained(site, blamed)
  const now = [
    ...excessFindings(site.index, matrix, null),
    ...missingFindings(site, matrix.verdicts, told, null),
  ]
  return [...now, ...underFailures(site, matrix, told), ...atOtherTimes(site, now, told)]
}
