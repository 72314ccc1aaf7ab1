// Where the antennas of a radio link point, from the positions of their buildings.
import type { RadioLink } from '#core/radio'
import type { Building, Plan } from '#core/schema'
import { buildingOf } from '#core/brief'
import { usePlan } from '~/stores/plan'

export interface Bearings {
  readonly lengthM: number
  /** From north over east, of both ends. */
  readonly trueDeg: readonly [number, number]
  /** As a compass shows them today; null where no model says. */
  readonly compassDeg: readonly [number, number] | null
}

/** The buildings at both ends; null for an end in none. */
export function buildingsOf(plan: Plan, { link }: RadioLink): readonly [Building | null, Building | null] {
  const at = (deviceId: string): Building | null => {
    const place = plan.devices.find(({ id }) => id === deviceId)?.place ?? ''
    const id = buildingOf(plan, place)
    return plan.brief.buildings.find((building) => building.id === id) ?? null
  }
  return [at(link.a.deviceId), at(link.b.deviceId)]
}

/** Computed once the model of the earth is loaded; null where a position is not known. */
export function useBearings(link: () => RadioLink | null) {
  const plan = usePlan()
  const ends = computed(() => {
    const one = link()
    return one && plan.draft ? buildingsOf(plan.draft, one) : ([null, null] as const)
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
