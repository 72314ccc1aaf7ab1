import { nameOfKey, nameOfThing } from '#core/reachability'
import {
  indexPlan,
  schedulesHolding,
  type Condition,
  type FailureScenario,
  type PlanIndex,
} from '#core/queries'
import type { Plan, PortRef, Selector } from '#core/schema'
import { instantName } from './instants'

/** As much as falls for 0.01 % of a year, or more. */
const HEAVY_RAIN = 'Heavy rain, 53 min a year'

/** What is not as usual: a thing that is down, an uplink beyond which nothing answers, a time. */
function conditionName(index: PlanIndex, condition: Condition): string {
  switch (condition.kind) {
    case 'down':
      return nameOfThing(index, condition.id)
    case 'upstream-down':
      return `${nameOfThing(index, condition.uplinkId)}, beyond the uplink`
    case 'rain':
      return HEAVY_RAIN
    case 'instant': {
      const held = schedulesHolding(index.plan, [condition])
      const schedules = index.plan.schedules.filter((s) => held.has(s.id))
      return instantName(
        condition.minute,
        schedules.map((s) => s.name),
      )
    }
  }
}
/** `Harbour fibre down`, `no answer beyond Harbour fibre`, `Monday 08:00, Office hours`. */
export function conditionWords(condition: Condition, names: Names): string {
  switch (condition.kind) {
    case 'down':
      return `${names.thing(condition.id)} down`
    case 'upstream-down':
      return `no answer beyond ${names.uplink(condition.uplinkId)}`
    case 'rain':
    case 'instant':
      return names.condition(condition)
  }
}
/** The same of all that is not as usual at once. */
export const scenarioWords = (scenario: FailureScenario, names: Names): string =>
  scenario.map((condition) => conditionWords(condition, names)).join(' and ') || 'everything well'

export type Names = ReturnType<typeof namesIn>

/** Names of a plan's things, for sentences. */
export function namesIn(plan: Plan) {
  const index = indexPlan(plan)
  const device = (id: string) => index.devices.get(id)?.name ?? id
  const port = (ref: PortRef) =>
    index.devices.get(ref.deviceId)?.ports.find((p) => p.id === ref.portId)?.name ?? ref.portId
  const tunnelOf = (id: string) => plan.tunnels.find((t) => t.id === id)?.name ?? id
  const peerOf = (id: string) => plan.tunnels.flatMap((t) => t.peers).find((p) => p.id === id)?.name ?? id
  return {
    device,
    port,
    tunnel: tunnelOf,
    peer: peerOf,
    choice: (id: string) => plan.policyRoutes.find((r) => r.id === id)?.note || id,
    forward: (id: string) => plan.forwards.find((f) => f.id === id),
    network: (id: string) => index.networks.get(id)?.name ?? id,
    uplink: (id: string) => plan.uplinks.find((u) => u.id === id)?.name ?? id,
    key: (key: string) => nameOfKey(index, key),
    thing: (id: string) => nameOfThing(index, id),
    condition: (condition: Condition) => conditionName(index, condition),
    selector: (selector: Selector): string => {
      switch (selector.kind) {
        case 'any':
          return 'anything'
        case 'inside':
          return 'every network'
        case 'network':
          return index.networks.get(selector.id)?.name ?? selector.id
        case 'device':
          return device(selector.id)
        case 'prefix':
          return selector.prefix
        case 'internet':
          return 'the internet'
        case 'gateway':
          return 'the gateway'
        case 'tunnel':
          return `anyone in ${tunnelOf(selector.id)}`
        case 'peer':
          return peerOf(selector.id)
        case 'group':
          return index.groups.get(selector.id)?.name ?? selector.id
      }
    },
  }
}

/** Who stands at an end of a flow: an endpoint's device, a peer, the gateway or the internet. */
export const partyWords = (id: string, names: Names): string => {
  if (id === 'gateway') return 'Gateway'
  if (id === 'internet') return 'Internet'
  if (id.startsWith('peer:')) return names.peer(id.slice(5))
  return names.device(id.split('~')[0] ?? id)
}
