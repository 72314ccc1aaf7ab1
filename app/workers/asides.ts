import { memoOn } from '#core/base'
import { simulateAlarms } from '#core/failover'
import { withRepairs } from '#core/findings'
import { indexPlan, type Plan, type Weather } from '#core/model'
import { hitsOf } from '#core/policy'
import {
  callsFromInside,
  computeGrid,
  currentFlow,
  flowsChanged,
  flowTyped,
  gridOf,
  lostUnder,
  openSite,
  openSix,
  walkFlow,
} from '#core/reach'
import type { WorkerAnswer, WorkerRequest } from '#contracts/worker'

// What is asked beside edits, of the plan that is held then. It is loaded when first asked for: the first page does without.

/** Questions that bring no news of the plan. */
export type Aside = Exclude<WorkerRequest, { readonly kind: 'find' | 'analyse' }>

/** The plan as its gateways see it before their probes have noticed anything. */
const blindOf = memoOn((plan: Plan): Plan => ({
  ...plan,
  uplinks: plan.uplinks.map((u) => ({ ...u, probe: null })),
}))

const siteUnder = (plan: Plan | null, weather: Weather, six: boolean) =>
  !plan ? null : six ? openSix(plan, weather) : openSite(indexPlan(plan), weather)

export function answerAside(request: Aside, plan: Plan | null): WorkerAnswer {
  const { number } = request
  switch (request.kind) {
    case 'walk': {
      const site = siteUnder(plan, request.weather, request.six)
      const flow =
        site &&
        (request.typed ? flowTyped(site, request.flow, request.typed) : currentFlow(site, request.flow))
      return { kind: 'walked', number, walk: site && flow && walkFlow(site, flow) }
    }
    case 'storm':
      return {
        kind: 'stormed',
        number,
        lost: plan ? lostUnder(request.blind ? blindOf(plan) : plan, request.weather) : null,
      }
    case 'grid': {
      const site = siteUnder(plan, request.weather, request.six)
      return { kind: 'gridded', number, grid: site && gridOf(site) }
    }
    case 'repair':
      return {
        kind: 'repaired',
        number,
        findings: plan ? withRepairs(plan, request.findings).filter((f) => f.mend) : [],
      }
    case 'calls': {
      const site = siteUnder(plan, request.weather, false)
      return { kind: 'called', number, calls: site ? callsFromInside(site) : [] }
    }
    case 'hits':
      return { kind: 'hit', number, hits: plan ? hitsOf(indexPlan(plan), request.deviceId) : [] }
    case 'difference':
      return {
        kind: 'different',
        number,
        flows: flowsChanged(
          computeGrid(indexPlan(request.before), []),
          computeGrid(indexPlan(request.after), []),
        ),
      }
    case 'alarms':
      return { kind: 'alarmed', number, run: simulateAlarms(request.probe, request.lossPct, request.seed) }
  }
}
