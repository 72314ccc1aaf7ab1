import { simulateAlarms } from '#core/failover'
import { withRepairs } from '#core/findings'
import type { Engine, PlanIndex, FailureScenario } from '#core/queries'
import type { Plan } from '#core/schema'
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
  openIpv6Site,
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

const siteUnder = (index: PlanIndex, scenario: FailureScenario, ipv6: boolean) =>
  ipv6 ? openIpv6Site(index, scenario) : openSite(index, scenario)

type Question<Kind extends Aside['kind']> = Extract<Aside, { readonly kind: Kind }>

/** What each question answers, of the plan that is held; null while none is. */
const ANSWERS: {
  readonly [Kind in Aside['kind']]: (
    question: Question<Kind>,
    index: PlanIndex | null,
    engine: Engine,
  ) => WorkerAnswer
} = {
  walk: ({ number, scenario, ipv6, flow, typed }, index) => {
    const site = index && siteUnder(index, scenario, ipv6)
    const now = site && (typed ? flowTyped(site, flow, typed) : currentFlow(site, flow))
    return { kind: 'walked', number, walk: site && now && walkFlow(site, now) }
  },
  impact: ({ number, scenario, blind }, index) => ({
    kind: 'impact',
    number,
    lost: index && impactOf(blind ? unprobed(index) : index, scenario),
  }),
  grid: ({ number, scenario, ipv6 }, index) => {
    const site = index && siteUnder(index, scenario, ipv6)
    return { kind: 'gridded', number, grid: site && matrixOf(site) }
  },
  repair: ({ number, findings }, index) => ({
    kind: 'repaired',
    number,
    findings: index ? withRepairs(index, findings).filter((f) => f.mend) : [],
  }),
  calls: ({ number, scenario }, index) => {
    const site = index && siteUnder(index, scenario, false)
    return { kind: 'called', number, calls: site ? callsFromInside(site) : [] }
  },
  hits: ({ number, deviceId }, index) => ({
    kind: 'hit',
    number,
    hits: index ? ruleUsage(index, deviceId) : [],
  }),
  difference: ({ number, before, after }, _, engine) => ({
    kind: 'different',
    number,
    flows: flowsChanged(computeMatrix(engine.index(before), []), computeMatrix(engine.index(after), [])),
  }),
  alarms: ({ number, probe, lossPct, seed }) => ({
    kind: 'alarmed',
    number,
    run: simulateAlarms(probe, lossPct, seed),
  }),
}

export function answerAside(request: Aside, engine: Engine, plan: Plan | null): WorkerAnswer {
  const answer = ANSWERS[request.kind] as (
    question: Aside,
    index: PlanIndex | null,
    engine: Engine,
  ) => WorkerAnswer
  return answer(request, plan && engine.index(plan), engine)
}
