import { simulateAlarms } from '#core/failover'
import { withRepairs } from '#core/findings'
import type { Engine, Plan, PlanIndex, Weather } from '#core/model'
import { ruleUsage } from '#core/filter'
import {
  callsFromInside,
  computeMatrix,
  currentFlow,
  flowsChanged,
  flowTyped,
  matrixOf,
  impactOf,
  openSite,
  openSix,
  walkFlow,
} from '#core/reachability'
import type { WorkerAnswer, WorkerRequest } from '#contracts/worker'

// What is asked beside edits, of the plan that is held then.
// It is loaded when first asked for: the first page does without.

/** Questions that bring no news of the plan. */
export type Aside = Exclude<WorkerRequest, { readonly kind: 'find' | 'analyse' }>

/** The plan as its gateways see it before their probes have noticed anything. */
const unprobed = (index: PlanIndex): PlanIndex =>
  index.of({ ...index.plan, uplinks: index.plan.uplinks.map((u) => ({ ...u, probe: null })) })

const siteUnder = (index: PlanIndex, weather: Weather, six: boolean) =>
  six ? openSix(index, weather) : openSite(index, weather)

export function answerAside(request: Aside, engine: Engine, plan: Plan | null): WorkerAnswer {
  const { number } = request
  const index = plan && engine.index(plan)
  switch (request.kind) {
    case 'walk': {
      const site = index && siteUnder(index, request.weather, request.six)
      const flow =
        site &&
        (request.typed ? flowTyped(site, request.flow, request.typed) : currentFlow(site, request.flow))
      return { kind: 'walked', number, walk: site && flow && walkFlow(site, flow) }
    }
    case 'storm':
      return {
        kind: 'stormed',
        number,
        lost: index && impactOf(request.blind ? unprobed(index) : index, request.weather),
      }
    case 'grid': {
      const site = index && siteUnder(index, request.weather, request.six)
      return { kind: 'gridded', number, grid: site && matrixOf(site) }
    }
    case 'repair':
      return {
        kind: 'repaired',
        number,
        findings: index ? withRepairs(index, request.findings).filter((f) => f.mend) : [],
      }
    case 'calls': {
      const site = index && siteUnder(index, request.weather, false)
      return { kind: 'called', number, calls: site ? callsFromInside(site) : [] }
    }
    case 'hits':
      return { kind: 'hit', number, hits: index ? ruleUsage(index, request.deviceId) : [] }
    case 'difference':
      return {
        kind: 'different',
        number,
        flows: flowsChanged(
          computeMatrix(engine.index(request.before), []),
          computeMatrix(engine.index(request.after), []),
        ),
      }
    case 'alarms':
      return { kind: 'alarmed', number, run: simulateAlarms(request.probe, request.lossPct, request.seed) }
  }
}
