// Question: what breaks, and for whom, when one thing fails?
// Method: the intents are judged under each single failure; what they miss then and did not miss before, that
// failure broke.
// Source: single points of failure by exhaustive single-fault analysis, as common practice has it.
import { isNothing, minus, NOTHING, type ServiceSet } from '#core/filter'
import {
  atInstant,
  conditionText,
  defineStage,
  down,
  indexPlan,
  RAIN,
  scheduleInstants,
  upstreamDown,
  type Condition,
  type FailureScenario,
  type PlanIndex,
} from '#core/queries'
import { knowsRain } from '#core/radio'
import type { Plan } from '#core/schema'
import type { FlowRef } from './cell'
import { verdictsOf } from './matrix'
import { openSite } from './data-plane'

export interface IntentLoss {
  readonly intentId: string
  readonly services: ServiceSet
  /** A flow that fails now and passed before. */
  readonly example: FlowRef | null
}

/**
 * Everything whose failure is tried alone: devices that others depend on, cables and radio links, providers'
 * lines; heavy rain where radio links are held against it; and the other times of the week, which a failure may
 * be one of.
 */
export function singleFailures(plan: Plan): Condition[] {
  const ends = new Set(plan.devices.filter((d) => d.kind === 'hosts').map((d) => d.id))
  const devices = plan.devices.filter((d) => d.kind !== 'hosts' && d.kind !== 'cloud').map((d) => d.id)
  // A lead to a single host fails that host alone and says nothing of the site.
  const links = plan.links
    .filter(
      (link) =>
        link.medium.kind !== 'wifi' &&
        link.medium.kind !== 'line' &&
        !ends.has(link.a.deviceId) &&
        !ends.has(link.b.deviceId),
    )
    .map((l) => l.id)
  return [
    ...plan.uplinks.map((u) => down(u.id)),
    ...plan.uplinks.map((u) => upstreamDown(u.id)),
    ...plan.tunnels.flatMap((t) => t.peers.map((p) => down(p.id))),
    ...devices.map(down),
    ...links.map(down),
    ...(knowsRain(indexPlan(plan)) ? [RAIN] : []),
    ...scheduleInstants(plan.schedules)
      .slice(1)
      .map((instant) => atInstant(instant.minute)),
  ]
}

/** The single failures of a plan, by their texts. */
export const singleFailuresByText = (plan: Plan): ReadonlyMap<string, Condition> =>
  new Map(singleFailures(plan).map((condition) => [conditionText(condition), condition]))

const missingWhenWell = defineStage(
  'intents when all is well',
  (index) => new Map(verdictsOf(openSite(index, []), index.plan.intents).map((v) => [v.intentId, v.missing])),
)

/**
 * What a failure takes from the intents; empty where nothing is lost.
 * Intents that fail anyway are not blamed on it.
 */
export function impactOf(index: PlanIndex, scenario: FailureScenario): IntentLoss[] {
  const before = index.get(missingWhenWell)
  return verdictsOf(openSite(index, scenario), index.plan.intents).flatMap((verdict) => {
    const known = before.get(verdict.intentId)
    const services = known ? minus(verdict.missing, known) : verdict.missing
    return isNothing(services) ? [] : [{ intentId: verdict.intentId, services, example: verdict.example }]
  })
}

/** What a pair of failures takes that neither takes alone. */
export function jointOnlyImpact(
  pair: readonly IntentLoss[],
  ...singles: readonly (readonly IntentLoss[])[]
): IntentLoss[] {
  return pair.flatMap((lost) => {
    const services = singles.reduce(
      (left, single) => minus(left, single.find((l) => l.intentId === lost.intentId)?.services ?? NOTHING),
      lost.services,
    )
    return isNothing(services) ? [] : [{ ...lost, services }]
  })
}

/** Every pair of some things, each once, in their order. */
export function pairsOf<T>(things: readonly T[]): (readonly [T, T])[] {
  return things.flatMap((a, i) => things.slice(i + 1).map((b) => [a, b] as const))
}
