// Where the antennas of a radio link point, from the positions of their buildings.
import type { RadioLink } from '#core/radio'
import { endBuildings } from '#core/brief'
import { usePlan } from '~/stores/plan'

export interface Bearings {
  readonly lengthM: number
  /** From north over east, of both ends. */
  readonly trueDeg: readonly [number, number]
  /** As a compass shows them today; null where no model says. */
  readonly compassDeg: readonly [number, number] | null
}

/** Computed once the model of the earth is loaded; null where a position is not known. */
export function useBearings(link: () => RadioLink | null) {
  const plan = usePlan()
  const ends = computed(() => {
    const one = link()
    return one && plan.draft ? endBuildings(plan.draft, one.link) : ([null, null] as const)
  })
  const geodesy = shallowRef<typeof import('#core/geodesy') | null>(null)
  const isPlaced = computed(() => ends.value.every((building) => building?.position ?? building?.grid))
  // The sheet is shown first; where its antennas point follows.
  const load = async () => {
    if (isPlaced.value && !geodesy.value) geodesy.value = await import('#core/geodesy')
  }
  onNuxtReady(load)
  watch(isPlaced, load)
  const bearings = computed((): Bearings | null => {
    const earth = geodesy.value
    const between = earth?.betweenBuildings(...ends.value) ?? null
    if (!earth || !between) return null
    const { lengthM, bearingsDeg } = between
    const today = Date.now()
    const shown = ends.value.map((building, i) => {
      const declination = building?.position ? earth.declinationDeg(building.position, today) : null
      return declination === null ? null : earth.compassDeg(bearingsDeg[i] ?? 0, declination)
    })
    const [first = null, second = null] = shown
    return {
      lengthM,
      trueDeg: bearingsDeg,
      compassDeg: first === null || second === null ? null : [first, second],
    }
  })
  /** Buildings of which the position is not known yet. */
  const unknown = computed(() =>
    isPlaced.value
      ? []
      : ends.value.flatMap((building) => (building?.position === null ? [building.name] : [])),
  )
  return { bearings, unknown }
}
