import { useTimestamp, watchDebounced } from '@vueuse/core'
import { firstDayOf, happenedIn, minutesOf, type Timetable } from '#core/schedule'
import { keepAnswer, recall } from '~/stores/kept-answers'
import { usePlan } from '~/stores/plan'
import { useSchedule } from '~/stores/schedule'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'

/** While work goes on, what is left is laid out anew this often. */
const EVERY_MS = 5 * 60_000

/**
 * Shows at once what was laid out last on this device, where the plan is still the same, until it is laid out anew:
 * on a telephone that takes a second.
 */
function useKeptTimetable(schedule: ReturnType<typeof useSchedule>): void {
  interface Kept {
    /** Another build may know a timetable of another shape. */
    readonly build: string
    readonly revision: number
    readonly timetable: Timetable
  }
  const plan = usePlan()
  const person = useSession().me?.name ?? ''
  const { buildId: build } = useRuntimeConfig().app
  const path = () => `sites/${plan.slug}/timetable`
  watch(
    () => plan.slug,
    async (slug) => {
      const kept = await recall<Kept>(person, path())
      if (!kept || kept.build !== build || plan.slug !== slug || plan.state !== 'saved') return
      if (plan.saved?.revision === kept.revision) schedule.timetable ??= kept.timetable
    },
    { immediate: true },
  )
  watch(
    () => schedule.seeking,
    (isSeeking) => {
      const { timetable } = schedule
      if (isSeeking || !timetable || !plan.saved || plan.state !== 'saved') return
      void keepAnswer(person, path(), { build, revision: plan.saved.revision, timetable } satisfies Kept)
    },
  )
}

/**
 * Keeps the schedule of the plan that is open up to date, with what has happened on site.
 * @param withChances tells how likely it ends when, too: a telephone on site does without
 */
export function useCurrentSchedule({ withChances = false } = {}) {
  const plan = usePlan()
  const site = useSite()
  const schedule = useSchedule()
  const nowMs = useTimestamp({ interval: 30_000 })
  const work = computed(() => plan.draft?.work)
  const happened = computed(() => (work.value ? [...happenedIn(work.value, site.steps)] : []))
  /** While nothing has happened, the plan is laid out from its first day on. */
  const nowMin = computed(() => {
    const [first] = site.steps
    if (!first || !work.value) return 0
    const now = Math.floor(nowMs.value / EVERY_MS) * EVERY_MS
    return minutesOf(work.value, Date.parse(first.at))(now)
  })
  // While one types, only what has come to rest is laid out.
  const rested = shallowRef(plan.draft)
  watchDebounced(
    () => plan.draft,
    (now) => (rested.value = now),
    { debounce: 300 },
  )
  watch(
    () => plan.slug,
    () => {
      schedule.forget()
      rested.value = plan.draft
    },
  )
  useKeptTimetable(schedule)
  watch(
    [rested, happened, nowMin],
    () => {
      if (!rested.value) return
      schedule.ask({ plan: rested.value, happened: happened.value, nowMin: nowMin.value, withChances })
    },
    { immediate: true },
  )
  const startDate = computed(() => (work.value ? firstDayOf(work.value, site.steps) : null))
  return { schedule, rested, startDate, nowMs }
}
