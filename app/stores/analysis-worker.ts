import type { PlanNews, WorkerAnswer, WorkerRequest } from '#contracts/worker'
import { changesBetween } from '#core/edit'
import type { Plan } from '#core/schema'
import { whenIdle } from './idle'
import { createRetry } from './retry'

/** Changes beyond which the whole plan is sent instead. */
const MOST_CHANGES = 200

/** Answers to what was asked in the queue; all others are to questions beside it. */
const QUEUED: readonly WorkerAnswer['kind'][] = ['found', 'analysis', 'lost', 'defect']

type Question = (number: number, news: PlanNews) => WorkerRequest
interface Asking {
  readonly plan: Plan
  readonly question: Question
}

/** What a worker that knows one plan has to be told of another. */
function planNews(known: Plan | null, plan: Plan): PlanNews {
  const changes = known ? changesBetween(known, plan) : null
  return changes && changes.length <= MOST_CHANGES ? { kind: 'changes', changes } : { kind: 'whole', plan }
}

function analysisWorker(receive: (answer: WorkerAnswer) => void, fail: () => void): Worker {
  const worker = new Worker(new URL('../workers/analysis.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = (event: MessageEvent<WorkerAnswer>) => receive(event.data)
  worker.onerror = fail
  return worker
}

/**
 * One worker that holds a copy of the plan.
 * While it works only the newest question waits, so that a late answer never
 * replaces a newer one; it is told changes, and the whole plan where it has lost it.
 * @param hear what it answers
 * @param tell whether its program is there: without a network it may not be
 */
export function keepAsking(hear: (answer: WorkerAnswer) => void, tell: (isLoaded: boolean) => void) {
  let worker: Worker | undefined
  let sent: Plan | null = null
  let number = 0
  let busy = false
  let asked: Asking | null = null
  let waiting: Asking | null = null
  let isLoaded = false
  const retry = createRetry(() => next())

  const start = (): Worker => (worker ??= analysisWorker(receive, fail))

  /** Its program could not be fetched: another is tried in a while, with the question that was not answered. */
  function fail(): void {
    if (isLoaded) return
    worker = undefined
    sent = null
    busy = false
    waiting ??= asked
    tell(false)
    retry.later()
  }

  function next(): void {
    if (busy || !waiting) return
    busy = true
    const now = waiting
    asked = now
    waiting = null
    const news = planNews(sent, now.plan)
    sent = now.plan
    start().postMessage(now.question(++number, news))
  }

  function receive(answer: WorkerAnswer): void {
    if (!isLoaded) {
      isLoaded = true
      retry.stop()
      tell(true)
    }
    if (!QUEUED.includes(answer.kind)) return hear(answer)
    busy = false
    if (answer.kind === 'lost') {
      sent = null
      waiting ??= asked
    } else hear(answer)
    next()
  }

  return {
    /** Asks about a plan; a question that still waits is dropped for it. */
    ask(plan: Plan, question: Question): void {
      waiting = { plan, question }
      // The first question takes a worker and a copy of the plan: what is on screen is drawn before.
      if (worker) next()
      else whenIdle(next)
    },
    /** Asks beside the queue, about the plan last sent. */
    send(make: (number: number) => WorkerRequest): number {
      next()
      start().postMessage(make(++number))
      return number
    },
  }
}
