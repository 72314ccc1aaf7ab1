// Access points: where they hang.
import { problem, refuse, type Result } from '#core/util'
import { placementsOf, type KnownPlacement } from '#core/wifi'
import type { Device, Plan } from '#core/schema'
import { useJoinColumn } from './join-column'
import { beamText, beamTyped, placeTyped } from './typed'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { amongYesAndNo, columnsOver, decimal, useColumns, type Column, type Put } from '~/ui/columns'

export interface PlacementRow {
  readonly id: string
  readonly device: Device
  readonly placement: KnownPlacement | null
  readonly where: string
}
type PlacementDraft = PlanDraft['wifi']['placements'][number]
const placementColumn = columnsOver<PlacementRow, PlacementDraft>()
const hangingFirst = <Value>(row: PlacementRow, read: () => Result<Value>) =>
  row.placement ? read() : refuse(problem('no-room-drawn', ''))
const PLACEMENT_COLUMNS = [
  placementColumn({
    key: 'at',
    head: 'From left, top, m',
    mono: true,
    read: ({ placement }) => (placement ? `${placement.xM}, ${placement.yM}` : '—'),
    parse: (text, row) => hangingFirst(row, () => placeTyped(text)),
    write: (placement, place) => void Object.assign(placement, place),
    words: (text) => `hangs at ${text} m`,
  }),
  placementColumn({
    key: 'height',
    head: 'Height, m',
    num: true,
    mono: true,
    read: ({ placement }) => (placement ? String(placement.heightM) : '—'),
    parse: (text, row) => hangingFirst(row, () => decimal(50)(text)),
    write: (placement, heightM) => void (placement.heightM = heightM),
    words: (text) => `hangs ${text} m high`,
  }),
  placementColumn({
    key: 'beam',
    head: 'Azimuth, width, tilt',
    mono: true,
    wraps: true,
    read: ({ placement }) => (placement ? beamText(placement.beam) : '—'),
    parse: (text, row) => hangingFirst(row, () => beamTyped(text)),
    write: (placement, beam) => void (placement.beam = beam),
    words: (text) => `sends ${text}`,
  }),
  placementColumn({
    key: 'outdoors',
    head: 'Outdoors',
    read: ({ placement }) => (placement?.outdoors ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: (placement, outdoors) => void (placement.outdoors = outdoors),
    words: (text) => `outdoors ${text}`,
  }),
]

/** Where an access point hangs, as the plan writes it; what was assumed is written with the first change. */
export function placementIn({ wifi, ...rest }: PlanDraft, deviceId: string): PlacementDraft | null {
  const now = placementsOf({ wifi, ...rest } as unknown as Plan).get(deviceId as Device['id'])
  if (!now) return null
  const known = wifi.placements.find((one) => one.deviceId === deviceId)
  const { isAssumed, ...placement } = now
  if (known && !isAssumed) return known
  wifi.placements = [...wifi.placements.filter((one) => one.deviceId !== deviceId), placement]
  return wifi.placements.at(-1) ?? null
}

/** Where something hangs; to be typed. */
export function usePlaceColumns(): readonly Column<PlacementRow>[] {
  const plan = usePlan()
  const put: Put<PlacementRow, PlacementDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.device.name}: ${words}`, session, (draft) => {
      const placement = placementIn(draft, row.id)
      if (placement) recipe(placement, draft)
    })
  return useColumns(PLACEMENT_COLUMNS, put)
}

export const usePlacementColumns = (): readonly Column<PlacementRow>[] => [
  { key: 'name', head: 'Access point', strong: true, get: ({ device }) => device.name },
  { key: 'where', head: 'Place', wraps: true, get: ({ where }) => where },
  useJoinColumn('Fed by'),
  ...usePlaceColumns(),
]
