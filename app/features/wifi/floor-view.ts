// What the Floors part shows: one floor, one band, and what is computed for them.
import {
  emittersOf,
  extendersOf,
  isPredictable,
  judgedDbm,
  stepWithin,
  UNCERTAINTY_DB,
  wifiSceneOf,
} from '#core/wifi'
import { rateAt } from '#core/radio'
import type { ApRadio, Floor, KnownPlacement, RoomSignal, WifiScene } from '#core/wifi'
import type { ComputedRef, Ref } from 'vue'
import type { Band, Device, Plan } from '#core/schema'
import type { RoomRow } from './room-columns'
import type { ExtenderRow } from './extender-columns'
import type { PlacementRow } from './placement-columns'
import { useCoverage } from './coverage'
import { BAND_WORDS, floorWords, rateWords } from './words'
import { usePlan } from '~/stores/plan'

/** Walls looked at in a blink. */
const LOOKS = 3_000_000
/** A usual telephone or laptop (common practice, without a source). */
const CLIENT_STREAMS = 2

/** The rate that nine tenths of a room have, with what an estimate may be wrong by. */
function rateIn(signal: RoomSignal, radios: readonly ApRadio[]): string {
  const radio = radios.find(({ deviceId }) => deviceId === signal.bestId)
  const level = judgedDbm(signal)
  if (!radio || level === null) return '—'
  const streams = Math.min(radio.streams, CLIENT_STREAMS)
  const mbps = rateAt(level, signal.room.readDbm === null ? UNCERTAINTY_DB : 0, { ...radio, streams })
  return rateWords(mbps)
}

/** Which floor and which band are looked at; the last band there is until somebody chooses. */
function useChoices(floors: ComputedRef<readonly Floor[]>, radios: ComputedRef<readonly ApRadio[]>) {
  const plan = usePlan()
  const buildingName = (id: string): string =>
    plan.draft?.brief.buildings.find((building) => building.id === id)?.name ?? id
  const floorChoices = computed(() =>
    floors.value.map((floor) => ({
      value: `${floor.buildingId} ${floor.floor}`,
      title: floorWords(buildingName(floor.buildingId), floor.floor),
      floor,
    })),
  )
  const bands = computed(() =>
    (['2.4', '5', '6'] as const)
      .filter((band) => radios.value.some((radio) => radio.band === band))
      .map((band) => ({ value: band, title: BAND_WORDS[band] })),
  )
  const [chosenFloor, chosenBand] = [ref(''), ref<Band | ''>('')]
  const band = computed({
    get: () =>
      bands.value.find(({ value }) => value === chosenBand.value)?.value ?? bands.value.at(-1)?.value ?? '5',
    set: (value: Band) => (chosenBand.value = value),
  })
  const shown = computed(
    () =>
      floorChoices.value.find(({ value }) => value === chosenFloor.value) ?? floorChoices.value[0] ?? null,
  )
  const floorKey = computed({
    get: () => shown.value?.value ?? '',
    set: (value: string) => (chosenFloor.value = value),
  })
  return {
    buildingName,
    floorChoices,
    bands,
    band,
    floorKey,
    floor: computed(() => shown.value?.floor ?? null),
  }
}

function whereWords(
  { place }: Device,
  placement: PlacementRow['placement'],
  nameOf: (id: string) => string,
): string {
  if (placement) return floorWords(nameOf(placement.buildingId), placement.floor)
  return place === '' ? 'no place yet' : `${place}: not a drawn room`
}

function placementRow(
  device: Device,
  known: readonly KnownPlacement[],
  nameOf: (id: string) => string,
): PlacementRow {
  const placement = known.find(({ deviceId }) => deviceId === device.id) ?? null
  return { id: device.id, device, placement, where: whereWords(device, placement, nameOf) }
}

function extenderRows(plan: Plan, scene: WifiScene, rowOf: (device: Device) => PlacementRow): ExtenderRow[] {
  const devices = new Map(plan.devices.map((device) => [device.id, device]))
  return extendersOf(scene).flatMap((signal) => {
    const device = devices.get(signal.deviceId)
    return device ? [{ ...rowOf(device), signal }] : []
  })
}

type Choices = ReturnType<typeof useChoices>
/** What is heard on the floors in the chosen band, and what of it is drawn. */
function useSignals(
  { band, floorChoices, floorKey }: Choices,
  scene: ComputedRef<WifiScene | null>,
  isMoving: Ref<boolean>,
) {
  const plan = usePlan()
  const ofBand = computed(() => (scene.value?.radios ?? []).filter((radio) => radio.band === band.value))
  /** Floors with what sends there; those that are too large are not predicted. */
  const floors = computed(() =>
    floorChoices.value.flatMap(({ value: key, floor }) => {
      const emitters = emittersOf(ofBand.value, scene.value?.placements ?? [], floor)
      if (!isPredictable(floor, emitters.length)) return []
      const looks = isMoving.value ? LOOKS / 8 : LOOKS
      return [{ key, floor, emitters, stepM: stepWithin(floor, emitters.length, looks) }]
    }),
  )
  const { coverage, failure } = useCoverage(() => ({ shown: floorKey.value, floors: floors.value }))
  const isPredicted = computed(() => floors.value.some(({ key }) => key === floorKey.value))
  const grid = computed(() =>
    isPredicted.value && coverage.value?.shown === floorKey.value ? coverage.value.grid : null,
  )
  const rooms = computed((): RoomRow[] => {
    const byRoom = new Map((coverage.value?.signals ?? []).map((signal) => [signal.room.id, signal]))
    return (plan.draft?.brief.rooms ?? []).map((room) => {
      const signal = byRoom.get(room.id) ?? null
      return { ...room, signal, rateText: signal ? rateIn(signal, ofBand.value) : '—' }
    })
  })
  return { failure, grid, isPredicted, rooms }
}

export function useFloorView() {
  const plan = usePlan()
  const isMoving = ref(false)
  const scene = computed(() => (plan.draft ? wifiSceneOf(plan.draft) : null))
  const choices = useChoices(
    computed(() => scene.value?.floors ?? []),
    computed(() => scene.value?.radios ?? []),
  )
  const signals = useSignals(choices, scene, isMoving)
  const rowOf = (device: Device): PlacementRow =>
    placementRow(device, scene.value?.placements ?? [], choices.buildingName)
  const accessPoints = computed(() =>
    (plan.draft?.devices ?? []).filter(({ kind }) => kind === 'access-point').map(rowOf),
  )
  const extenders = computed(() =>
    plan.draft && scene.value ? extenderRows(plan.draft, scene.value, rowOf) : [],
  )
  const onFloor = computed(() => {
    const one = choices.floor.value
    const alone = extenders.value.filter(({ signal }) => signal.isExtender)
    return [...accessPoints.value, ...alone].filter(
      ({ placement }) =>
        placement && placement.buildingId === one?.buildingId && placement.floor === one.floor,
    )
  })
  return {
    ...choices,
    ...signals,
    isMoving,
    accessPoints,
    extenders,
    onFloor,
  }
}
