import { analyse, findWired } from '#core/findings'
import { applyChanges } from '#core/edit'
import { createEngine } from '#core/queries'
import type { Plan } from '#core/schema'
import type { PlanNews, WorkerAnswer, WorkerRequest } from '#contracts/worker'
import type { Aside } from './worker-queries'

// Typed request and response around core: no Vue here.
// The plan is kept between requests, so that unchanged parts stay the same objects and what the engine knows
// of them still holds.

const engine = createEngine()
let held: Plan | null = null

/** The plan after the news; null where changes do not fit what is held. */
function hear(news: PlanNews): Plan | null {
  if (news.kind === 'whole') return (held = news.plan)
  const next = held ? applyChanges(held, news.changes) : null
  return (held = next?.ok ? next.value : null)
}

type Edit = Exclude<WorkerRequest, Aside>
const isEdit = (request: WorkerRequest): request is Edit =>
  request.kind === 'find' || request.kind === 'analyse'

function answer(request: Edit): WorkerAnswer {
  const { number } = request
  const start = performance.now()
  const plan = hear(request.news)
  if (!plan) return { kind: 'lost', number }
  if (request.kind === 'find')
    return {
      kind: 'found',
      number,
      findings: findWired(engine.index(plan)),
      tookMs: performance.now() - start,
    }
  const analysis = analyse(engine.index(plan), request.scenario)
  return { kind: 'analysis', number, analysis, tookMs: performance.now() - start }
}

addEventListener('message', async ({ data }: MessageEvent<WorkerRequest>) => {
  // Of the plan that is held now, whatever is heard while the answer's code is loaded.
  const plan = held
  try {
    postMessage(
      isEdit(data) ? answer(data) : (await import('./worker-queries')).answerAside(data, engine, plan),
    )
  } catch (error) {
    postMessage({
      kind: 'defect',
      number: data.number,
      message: error instanceof Error ? error.message : 'unknown',
    } satisfies WorkerAnswer)
  }
})
