import { roomForMore, standardLoad, type Source } from '#core/power'
import { MODELS, type PlanIndex } from '#core/queries'
import type { Model, Plan } from '#core/schema'
import { groupBy } from '#core/util'
import { roomWords } from '~/wording/power'

/** Models that take standard power over a cable, a plan's own first. */
const loadsOf = (plan: Plan): readonly Model[] => [...plan.models, ...MODELS].filter((m) => standardLoad(m))

/** The access point that a site has most of; else the first that there is. */
function usualLoad(plan: Plan): string | null {
  const names = loadsOf(plan).map(({ name }) => name)
  const there = plan.devices.filter(({ kind, model }) => kind === 'access-point' && names.includes(model))
  const [most] = [...groupBy(there, ({ model }) => model)].sort(([, a], [, b]) => b.length - a.length)
  return most?.[0] ?? names[0] ?? null
}

/** How many more of one model each source takes. */
export function useRoomForMore(index: () => PlanIndex | null) {
  const chosen = ref<string | null>(null)
  const loads = computed(() => {
    const now = index()
    return now ? loadsOf(now.plan) : []
  })
  const model = computed({
    get: () => {
      const now = index()
      return chosen.value ?? (now && usualLoad(now.plan))
    },
    set: (name) => (chosen.value = name),
  })
  function roomIn(source: Source): string {
    const now = index()
    const found = loads.value.find(({ name }) => name === model.value)
    const load = found && standardLoad(found)
    return now && load
      ? roomWords(found.name, roomForMore(now, source, load, now.plan.site.poeHeadroomPct))
      : ''
  }
  return { loads, model, roomIn }
}
