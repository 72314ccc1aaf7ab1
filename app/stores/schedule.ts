import type { Crew, Timetable } from '#core/schedule'
import type { ScheduleAnswer, ScheduleAttempt, ScheduleRequest, SpreadTold } from '#contracts/worker'
import type { Plan } from '#core/schema'
import { whenIdle } from './idle'

/** How a plan ends. */
interface Attempted {
  readonly endMin: number
  readonly undone: number
}

/** The schedule of the plan that is open, as its worker has found it so far. */
export const useSchedule = defineStore('schedule', () => {
  const timetable = shallowRef<Timetable | null>(null)
  const spread = shallowRef<SpreadTold | null>(null)
  const crews = shallowRef<readonly Crew[]>([])
  /** A better order is still being sought. */
  const seeking = ref(false)
  const defect = ref('')
  /** More activities than are laid out, where it is so. */
  const tooMany = shallowRef<{ readonly count: number; readonly most: number } | null>(null)
  let worker: Worker | undefined
  let number = 0
  let asked: Omit<ScheduleRequest, 'number'> | null = null

  /** Who waits for an attempt; the newest alone. */
  let attempts = 0
  let attempted: ((end: Attempted | null) => void) | undefined

  function receive(answer: ScheduleAnswer): void {
    if (answer.kind === 'attempted') {
      if (answer.number === attempts) attempted?.(answer)
      return
    }
    if (answer.number !== number) return
    if (answer.kind === 'defect') {
      defect.value = answer.message
      seeking.value = false
    } else if (answer.kind === 'too-many') {
      tooMany.value = answer
      timetable.value = null
      seeking.value = false
    } else if (answer.kind === 'timetable') {
      timetable.value = answer.timetable
      seeking.value = !answer.isLast
    } else if (answer.kind === 'spread') spread.value = answer.spread
    else crews.value = answer.crews
  }

  /** The same plan at the same time, with no more to tell of it. */
  const isAsked = ({ plan, happened, nowMin, withChances }: Omit<ScheduleRequest, 'number'>) =>
    asked?.plan === plan &&
    asked.happened === happened &&
    asked.nowMin === nowMin &&
    (asked.withChances || !withChances)

  /** Asks for the schedule of a plan; what was asked before is given up, and the same is not asked again. */
  function ask(wanted: Omit<ScheduleRequest, 'number'>): void {
    if (isAsked(wanted)) return
    asked = wanted
    defect.value = ''
    tooMany.value = null
    seeking.value = true
    spread.value = null
    const request: ScheduleRequest = { number: ++number, ...wanted }
    // A timetable that is known from before is drawn first.
    if (worker) worker.postMessage(request)
    else whenIdle(() => request.number === number && started().postMessage(request))
  }

  function started(): Worker {
    if (worker) return worker
    worker = new Worker(new URL('../workers/schedule.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = (event: MessageEvent<ScheduleAnswer>) => receive(event.data)
    return worker
  }

  /** How another plan would end, at a first look; null where a later attempt came between. */
  function attempt(plan: Plan): Promise<Attempted | null> {
    attempted?.(null)
    return new Promise((done) => {
      if (!worker || !asked) return done(null)
      attempted = done
      const { happened, nowMin } = asked
      worker.postMessage({
        kind: 'attempt',
        number: ++attempts,
        plan,
        happened,
        nowMin,
      } satisfies ScheduleAttempt)
    })
  }

  /** Another site: nothing of the one before is shown. */
  function forget(): void {
    number++
    asked = null
    timetable.value = spread.value = null
    crews.value = []
  }

  return { timetable, spread, crews, seeking, defect, tooMany, ask, attempt, forget }
})
