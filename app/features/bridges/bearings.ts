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
  const positions = computed(() => {
    const [first, second] = ends.value.map((building) => building?.position ?? null)
    return first && second ? ([first, second] as const) : null
  })
  // The sheet is shown first; where its antennas point follows.
  const load = async () => {
    if (positions.value && !geodesy.value) geodesy.value = await import('#core/geodesy')
  }
  onNuxtReady(load)
  watch(positions, load)
  const bearings = computed((): Bearings | null => {
    const [earth, known] = [geodesy.value, positions.value]
    if (!earth || !known) return null
    const { lengthM, bearingsDeg } = earth.pathBetween(...known)
    const today = Date.now()
    const shown = known.map((position, i) => {
      const declination = earth.declinationDeg(position, today)
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
    ends.value.flatMap((building) => (building && building.position === null ? [building.name] : [])),
  )
  return { bearings, unknown }
}
