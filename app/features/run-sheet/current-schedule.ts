import { useTimestamp, watchDebounced } from '@vueuse/core'
import { firstDayOf, happenedIn, minutesOf } from '#core/schedule'
import { usePlan } from '~/stores/plan'
import { useSchedule } from '~/stores/schedule'
import { useSite } from '~/stores/site'

/** While work goes on, what is left is laid out anew this often. */
const EVERY_MS = 5 * 60_000

/** Keeps the schedule of the plan that is open up to date, with what has happened on site. */
export function useCurrentSchedule() {
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
  watch(
    [rested, happened, nowMin],
    () => rested.value && schedule.ask(rested.value, happened.value, nowMin.value),
    { immediate: true },
  )
  const startDate = computed(() => (work.value ? firstDayOf(work.value, site.steps) : null))
  return { schedule, rested, startDate, nowMs }
}
