// Rooms: how they lie, and what is heard in them.
import { ok, problem, refuse, type Result } from '#core/util'
import { parseReading, type RoomSignal } from '#core/wifi'
import type { Outline, Room } from '#core/schema'
import { nextPlace } from './floor-picture'
import { placeTyped, sizeTyped, wallsText, wallsTyped } from './typed'
import { levelWords, servedWords, signalWords } from './words'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { columnsOver, orNothing, useColumns, type Column, type Put } from '~/ui/columns'

export interface RoomRow extends Room {
  readonly signal: RoomSignal | null
  readonly rateText: string
}
type RoomDraft = PlanDraft['brief']['rooms'][number]
const roomColumn = columnsOver<RoomRow, RoomDraft>()
const WALLS = {
  top: 'plasterboard',
  right: 'plasterboard',
  bottom: 'plasterboard',
  left: 'plasterboard',
} as const

const onOutline = (room: RoomDraft, recipe: (outline: NonNullable<RoomDraft['outline']>) => void): void => {
  if (room.outline) recipe(room.outline)
}
/** What is said of the drawing of a room can be said once it has a size. */
const drawnFirst = <Value>(row: RoomRow, read: () => Result<Value>) =>
  row.outline ? read() : refuse(problem('not-drawn', ''))

const plotted = (row: RoomRow, text: (outline: Outline) => string): string =>
  row.outline ? text(row.outline) : '—'
const ROOM_COLUMNS = [
  roomColumn({
    key: 'read',
    head: 'Read, dBm',
    num: true,
    mono: true,
    read: ({ readDbm }) => (readDbm === null ? '—' : String(readDbm)),
    parse: orNothing<number>(['', '—'], parseReading),
    write: (room, dBm) => void (room.readDbm = dBm),
    words: (text) => `read ${text}`,
  }),
  roomColumn({
    key: 'size',
    head: 'Size, m',
    mono: true,
    read: (row) => plotted(row, ({ widthM, depthM }) => `${widthM} × ${depthM}`),
    parse: sizeTyped,
    write: (room, size, { brief }) => {
      if (size === null) room.outline = null
      else if (room.outline) Object.assign(room.outline, size)
      else {
        const beside = brief.rooms.flatMap(({ buildingId, outline }) =>
          outline && buildingId === room.buildingId && outline.floor === 0 ? [outline] : [],
        )
        room.outline = { floor: 0, ...nextPlace(beside), ...size, walls: { ...WALLS } }
      }
    },
    words: (text) => `${text} m`,
  }),
  roomColumn({
    key: 'at',
    head: 'Left, top, m',
    mono: true,
    read: (row) => plotted(row, ({ xM, yM }) => `${xM}, ${yM}`),
    parse: (text, row) => drawnFirst(row, () => placeTyped(text)),
    write: (room, place) => onOutline(room, (outline) => Object.assign(outline, place)),
    words: (text) => `at ${text} m`,
  }),
  roomColumn({
    key: 'floor',
    head: 'Floor',
    num: true,
    mono: true,
    read: (row) => plotted(row, ({ floor }) => String(floor)),
    parse: (text, row) => drawnFirst(row, () => floorTyped(text)),
    write: (room, floor) => onOutline(room, (outline) => void (outline.floor = floor)),
    words: (text) => `on floor ${text}`,
  }),
  roomColumn({
    key: 'walls',
    head: 'Walls',
    clips: true,
    read: (row) => plotted(row, ({ walls }) => wallsText(walls)),
    parse: (text, row) => drawnFirst(row, () => wallsTyped(text)),
    write: (room, walls) => onOutline(room, (outline) => void (outline.walls = walls)),
    words: (text) => `walls ${text}`,
  }),
]
/** -20 to 200; 0 is the ground floor. */
const floorTyped = (text: string) => {
  const floor = Number(text.replace('−', '-'))
  return /^[-−]?\d{1,3}$/.test(text) && floor >= -20 && floor <= 200
    ? ok(floor)
    : refuse(problem('out-of-range', '', { text, least: -20, most: 200 }))
}

export function useRoomSignalColumns(): readonly Column<RoomRow>[] {
  const plan = usePlan()
  const put: Put<RoomRow, RoomDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const room = draft.brief.rooms.find(({ id }) => id === row.id)
      if (room) recipe(room, draft)
    })
  const judgedWords = (row: RoomRow): string => {
    if (row.readDbm !== null) return `${servedWords(row.readDbm)}, as read`
    if (row.signal) return servedWords(level(row))
    return row.outline ? 'not predicted' : 'not drawn yet'
  }
  const level = ({ signal }: RoomRow) => signal?.worstTenthDbm ?? null
  return [
    { key: 'name', head: 'Room', strong: true, get: ({ name }) => name },
    {
      key: 'served',
      head: 'Judged',
      get: (row) => judgedWords(row),
    },
    { key: 'level', head: 'Worst tenth', mono: true, get: (row) => signalWords(level(row)) },
    {
      key: 'second',
      head: 'Second',
      mono: true,
      get: ({ signal }) => levelWords(signal?.secondDbm ?? null),
    },
    { key: 'rate', head: 'Rate', mono: true, get: ({ rateText }) => rateText },
    ...useColumns(ROOM_COLUMNS, put),
  ]
}
