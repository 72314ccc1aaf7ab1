import type { PlanNews, WorkerAnswer, WorkerRequest } from '#contracts/worker'
import { changesBetween } from '#core/edit'
import type { Plan } from '#core/schema'

/** Changes beyond which the whole plan is sent instead. */
const MOST_CHANGES = 200

/** Answers to what was asked in the queue; all others are to questions beside it. */
const QUEUED: readonly WorkerAnswer['kind'][] = ['found', 'analysis', 'lost', 'defect']

type Question = (number: number, news: PlanNews) => WorkerRequest
interface Asking {
  readonly plan: Plan
  readonly question: Question
}

/**
 * One worker that holds a copy of the plan.
 * While it works only the newest question waits, so that a late answer never
 * replaces a newer one; it is told changes, and the whole plan where it has lost it.
 */
export function keepAsking(hear: (answer: WorkerAnswer) => void) {
  let worker: Worker | undefined
  let sent: Plan | null = null
  let number = 0
  let busy = false
  let asked: Asking | null = null
  let waiting: Asking | null = null

  function start(): Worker {
    if (worker) return worker
    worker = new Worker(new URL('../workers/analysis.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = (event: MessageEvent<WorkerAnswer>) => receive(event.data)
    return worker
  }

  function newsOf(plan: Plan): PlanNews {
    const changes = sent ? changesBetween(sent, plan) : null
    sent = plan
    return changes && changes.length <= MOST_CHANGES ? { kind: 'changes', changes } : { kind: 'whole', plan }
  }

  function next(): void {
    if (busy || !waiting) return
    busy = true
    const now = waiting
    asked = now
    waiting = null
    start().postMessage(now.question(++number, newsOf(now.plan)))
  }

  function receive(answer: WorkerAnswer): void {
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
      next()
    },
    /** Asks beside the queue, about the plan last sent. */
    send(make: (number: number) => WorkerRequest): number {
      start().postMessage(make(++number))
      return number
    },
  }
}
