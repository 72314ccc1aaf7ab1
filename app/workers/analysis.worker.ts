import { memoOn } from '#core/base'
import { simulateAlarms } from '#core/failover'
import { analyse, findWired, withRepairs } from '#core/findings'
import { applyChanges, indexPlan, type Plan, type Weather } from '#core/model'
import { hitsOf } from '#core/policy'
import { callsFromInside, computeGrid, currentFlow, flowsChanged, flowTyped, gridOf, lostUnder, openSite, openSix, walkFlow } from '#core/reach'
import type { PlanNews, WorkerAnswer, WorkerRequest } from '#contracts/worker'

// Typed request and response around core: no Vue here. The plan is kept between requests, so that unchanged parts stay
// the same objects and what core remembers of them still holds.

let held: Plan | null = null

/** The plan after the news; null where changes do not fit what is held. */
function hear(news: PlanNews): Plan | null {
  if (news.kind === 'whole') return (held = news.plan)
  const next = held ? applyChanges(held, news.changes) : null
  return (held = next?.ok ? next.value : null)
}

/** The plan as its gateways see it before their probes have noticed anything. */
const blindOf = memoOn((plan: Plan): Plan => ({ ...plan, uplinks: plan.uplinks.map((u) => ({ ...u, probe: null })) }))

/** The plan held, under a weather, of one family. */
const siteUnder = (weather: Weather, six: boolean) => (!held ? null : six ? openSix(held, weather) : openSite(indexPlan(held), weather))

function answer(request: WorkerRequest): WorkerAnswer {
  const { number } = request
  const start = performance.now()
  if (request.kind === 'walk') {
    const site = siteUnder(request.weather, request.six)
    const flow = site && (request.typed ? flowTyped(site, request.flow, request.typed) : currentFlow(site, request.flow))
    return { kind: 'walked', number, walk: site && flow && walkFlow(site, flow) }
  }
  if (request.kind === 'storm') return { kind: 'stormed', number, lost: held ? lostUnder(request.blind ? blindOf(held) : held, request.weather) : null }
  if (request.kind === 'grid') {
    const site = siteUnder(request.weather, request.six)
    return { kind: 'gridded', number, grid: site && gridOf(site) }
  }
  if (request.kind === 'repair') return { kind: 'repaired', number, findings: held ? withRepairs(held, request.findings).filter((f) => f.mend) : [] }
  if (request.kind === 'calls') {
    const site = siteUnder(request.weather, false)
    return { kind: 'called', number, calls: site ? callsFromInside(site) : [] }
  }
  if (request.kind === 'hits') return { kind: 'hit', number, hits: held ? hitsOf(indexPlan(held), request.deviceId) : [] }
  if (request.kind === 'difference') return { kind: 'different', number, flows: flowsChanged(computeGrid(indexPlan(request.before), []), computeGrid(indexPlan(request.after), [])) }
  if (request.kind === 'alarms') return { kind: 'alarmed', number, run: simulateAlarms(request.probe, request.lossPct, request.seed) }
  const plan = hear(request.news)
  if (!plan) return { kind: 'lost', number }
  if (request.kind === 'find') return { kind: 'found', number, findings: findWired(plan), tookMs: performance.now() - start }
  const analysis = analyse(plan, request.weather)
  return { kind: 'analysis', number, analysis, tookMs: performance.now() - start }
}

addEventListener('message', (event: MessageEvent<WorkerRequest>) => {
  try {
    postMessage(answer(event.data))
  } catch (error) {
    postMessage({ kind: 'defect', number: event.data.number, message: error instanceof Error ? error.message : 'unknown' } satisfies WorkerAnswer)
  }
})
