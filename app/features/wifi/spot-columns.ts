// Access points: where they hang.
import { problem, refuse, type Result } from '#core/util'
import { spotsOf, type PlacedSpot } from '#core/wifi'
import type { Device, Plan } from '#core/schema'
import { placeTyped } from './typed'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { amongYesAndNo, columnsOver, decimal, useColumns, type Column, type Put } from '~/ui/columns'

export interface SpotRow {
  readonly id: string
  readonly device: Device
  readonly spot: PlacedSpot | null
  readonly where: string
}
type SpotDraft = PlanDraft['wifi']['spots'][number]
const spotColumn = columnsOver<SpotRow, SpotDraft>()
const hangingFirst = <Value>(row: SpotRow, read: () => Result<Value>) =>
  row.spot ? read() : refuse(problem('no-room-drawn', ''))
const SPOT_COLUMNS = [
  spotColumn({
    key: 'at',
    head: 'From left, top, m',
    mono: true,
    read: ({ spot }) => (spot ? `${spot.xM}, ${spot.yM}` : '—'),
    parse: (text, row) => hangingFirst(row, () => placeTyped(text)),
    write: (spot, place) => void Object.assign(spot, place),
    words: (text) => `hangs at ${text} m`,
  }),
  spotColumn({
    key: 'height',
    head: 'Height, m',
    num: true,
    mono: true,
    read: ({ spot }) => (spot ? String(spot.heightM) : '—'),
    parse: (text, row) => hangingFirst(row, () => decimal(50)(text)),
    write: (spot, heightM) => void (spot.heightM = heightM),
    words: (text) => `hangs ${text} m high`,
  }),
  spotColumn({
    key: 'outdoors',
    head: 'Outdoors',
    read: ({ spot }) => (spot?.outdoors ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: (spot, outdoors) => void (spot.outdoors = outdoors),
    words: (text) => `outdoors ${text}`,
  }),
]

/** What is said of where an access point hangs; what was assumed is written with it. */
export function spotIn(draft: PlanDraft, deviceId: string): SpotDraft | null {
  const known = draft.wifi.spots.find((spot) => spot.deviceId === deviceId)
  if (known) return known
  const assumed = spotsOf(draft as unknown as Plan).get(deviceId as Device['id'])
  if (!assumed) return null
  const { isAssumed: _, ...spot } = assumed
  draft.wifi.spots.push({ ...spot })
  return draft.wifi.spots.at(-1) ?? null
}

export function useSpotColumns(): readonly Column<SpotRow>[] {
  const plan = usePlan()
  const put: Put<SpotRow, SpotDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.device.name}: ${words}`, session, (draft) => {
      const spot = spotIn(draft, row.id)
      if (spot) recipe(spot, draft)
    })
  return [
    { key: 'name', head: 'Access point', strong: true, get: ({ device }) => device.name },
    { key: 'where', head: 'Place', wraps: true, get: ({ where }) => where },
    ...useColumns(SPOT_COLUMNS, put),
  ]
}
