import {
  compile,
  createSearch,
  crewsOf,
  doneBy,
  projectOf,
  shareDoneBy,
  spreadOf,
  timetableOf,
  type Compiled,
  type Found,
} from '#core/schedule'
import type { ScheduleAnswer, ScheduleAttempt, ScheduleRequest, SpreadTold } from '#contracts/worker'

// The first schedule is told at once, then better ones; a newer question ends the work on an older one.

/** Every machine looks as long as any other, so that all show the same schedule of one plan. */
const SEED = 20_261_207
const RUNS = 10_000
/** Activities laid out in all while a better order is sought. */
const WORK = 240_000
/** The same once no schedule can end sooner, and only what breaks ties can still be better. */
const WORK_ON_TIES = 80_000
/** Activities laid out between two looks for a newer question. */
const SLICE = 4_000
const POINTS = 50
/** Some 500 devices with their cables: the first schedule of them takes a few seconds. */
const MOST_ACTIVITIES = 4000

let newest = 0
const say = (answer: ScheduleAnswer) => postMessage(answer)
const pause = () => new Promise((done) => setTimeout(done))

function told(compiled: Compiled, { layout }: Found): SpreadTold {
  const spread = spreadOf(compiled, layout, RUNS, SEED)
  const { activities } = compiled.project
  return {
    doneBy: Array.from({ length: POINTS + 1 }, (_, i) => Math.round(doneBy(spread, i / POINTS))),
    asPlanned: shareDoneBy(spread, layout.endMin),
    withinWindow: spread.withinWindow,
    criticality: Object.fromEntries(
      activities.flatMap(({ id }, i) => {
        const share = spread.criticality[i] ?? 0
        return share >= 0.01 ? [[id, share]] : []
      }),
    ),
  }
}

async function answer({ number, plan, happened, nowMin, withChances }: ScheduleRequest): Promise<void> {
  const compiled = compile(projectOf(plan, { happened: new Map(happened), nowMin }))
  const count = compiled.minutes.length
  if (count > MOST_ACTIVITIES) return say({ kind: 'too-many', number, count, most: MOST_ACTIVITIES })
  const search = createSearch(compiled, SEED)
  const tell = (isLast: boolean) =>
    say({ kind: 'timetable', number, timetable: timetableOf(compiled, search.best), isLast })
  tell(false)
  const tries = Math.max(1, Math.floor(SLICE / Math.max(1, count)))
  const isEnough = (done: number) => done >= (search.best.isProven ? WORK_ON_TIES : WORK)
  for (let done = 0; !isEnough(done) && count > 1; done += tries * count) {
    await pause()
    if (number !== newest) return
    if (search.improve(tries)) tell(false)
  }
  tell(true)
  await pause()
  if (number !== newest || !withChances) return
  if (count > 0) say({ kind: 'spread', number, spread: told(compiled, search.best) })
  await pause()
  if (number !== newest || nowMin > 0) return
  say({ kind: 'crews', number, crews: count > 0 ? crewsOf(plan, SEED) : [] })
}

/** A first look at another plan; the work on the one that is shown goes on. */
function attempt({ number, plan, happened, nowMin }: ScheduleAttempt): void {
  const compiled = compile(projectOf(plan, { happened: new Map(happened), nowMin }))
  const { layout } = createSearch(compiled, SEED).best
  say({ kind: 'attempted', number, endMin: layout.endMin, undone: layout.unplaced.size })
}

addEventListener('message', ({ data }: MessageEvent<ScheduleRequest | ScheduleAttempt>) => {
  if ('kind' in data) return attempt(data)
  newest = data.number
  answer(data).catch((error: unknown) =>
    say({
      kind: 'defect',
      number: data.number,
      message: error instanceof Error ? error.message : 'unknown',
    }),
  )
})
