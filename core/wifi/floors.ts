// Question: how do the rooms of a building lie, and where do its access points hang?
// Method: rooms that are drawn, by building and floor; an access point whose place is a drawn room hangs in its middle
// until somebody says better.
import { groupBy } from '#core/util'
import type { BuildingId, DeviceId, Plan, Outline, Room, Placement, WallKind } from '#core/schema'

export interface DrawnRoom extends Room {
  readonly outline: Outline
}

export interface Floor {
  readonly buildingId: BuildingId
  readonly floor: number
  readonly rooms: readonly DrawnRoom[]
  /** As far as its rooms reach, m. */
  readonly widthM: number
  readonly depthM: number
}

/** One wall: along x at a y, or along y at an x. */
export interface Wall {
  readonly isAlongX: boolean
  readonly atM: number
  readonly fromM: number
  readonly toM: number
  readonly kind: WallKind
}

/** Under the ceiling of a usual room (common practice, without a source). */
export const USUAL_HEIGHT_M = 2.5

const isDrawn = (room: Room): room is DrawnRoom => room.outline !== null

/** Floors with a drawn room, by building in the plan's order and from the lowest. */
export function floorsOf({ brief }: Plan): Floor[] {
  const byFloor = groupBy(
    brief.rooms.filter(isDrawn),
    ({ buildingId, outline }) => `${buildingId} ${outline.floor}`,
  )
  const order = new Map(brief.buildings.map(({ id }, i) => [id, i]))
  return [...byFloor.values()]
    .flatMap((rooms): Floor[] => {
      const [first] = rooms
      if (!first) return []
      return [
        {
          buildingId: first.buildingId,
          floor: first.outline.floor,
          rooms,
          widthM: Math.max(...rooms.map(({ outline }) => outline.xM + outline.widthM)),
          depthM: Math.max(...rooms.map(({ outline }) => outline.yM + outline.depthM)),
        },
      ]
    })
    .sort((a, b) => (order.get(a.buildingId) ?? 0) - (order.get(b.buildingId) ?? 0) || a.floor - b.floor)
}

/** The floor that something hangs on; one without rooms where none is drawn. */
export const floorUnder = (floors: readonly Floor[], { buildingId, floor }: KnownPlacement): Floor =>
  floors.find((one) => one.buildingId === buildingId && one.floor === floor) ?? {
    buildingId,
    floor,
    rooms: [],
    widthM: 0,
    depthM: 0,
  }

/** From the floor's upper left corner, m. */
export const middleOf = ({ outline: { xM, yM, widthM, depthM } }: DrawnRoom) => ({
  xM: xM + widthM / 2,
  yM: yM + depthM / 2,
})

export function wallsOf({ outline }: DrawnRoom): Wall[] {
  const { xM, yM, widthM, depthM, walls } = outline
  const along = (atM: number, kind: WallKind): Wall => ({
    isAlongX: true,
    atM,
    fromM: xM,
    toM: xM + widthM,
    kind,
  })
  const across = (atM: number, kind: WallKind): Wall => ({
    isAlongX: false,
    atM,
    fromM: yM,
    toM: yM + depthM,
    kind,
  })
  return [
    along(yM, walls.top),
    across(xM + widthM, walls.right),
    along(yM + depthM, walls.bottom),
    across(xM, walls.left),
  ]
}

export interface KnownPlacement extends Placement {
  /** Nobody has said where it hangs: the middle of its room is taken. */
  readonly isAssumed: boolean
}

const assumedIn = (deviceId: DeviceId, room: DrawnRoom): KnownPlacement => ({
  deviceId,
  buildingId: room.buildingId,
  floor: room.outline.floor,
  ...middleOf(room),
  heightM: USUAL_HEIGHT_M,
  outdoors: false,
  beam: null,
  isAssumed: true,
})

/**
 * Where access points and extenders hang, of those that have a place. What was said of one stays true on its floor
 * alone: who is moved to a room of another hangs in that room's middle.
 */
export function placementsOf({ devices, brief, wifi }: Plan): ReadonlyMap<DeviceId, KnownPlacement> {
  const buildings = new Set(brief.buildings.map(({ id }) => id))
  const said = new Map(wifi.placements.map((placement) => [placement.deviceId, placement]))
  const placements = new Map<DeviceId, KnownPlacement>()
  for (const { id, kind, place } of devices) {
    if (kind !== 'access-point' && kind !== 'extender') continue
    // Of rooms that are called alike the first is meant, as everywhere.
    const room = brief.rooms.find(({ name }) => name === place)
    const own = said.get(id)
    const drawn = room && isDrawn(room) ? room : undefined
    const isThere =
      own !== undefined &&
      buildings.has(own.buildingId) &&
      (!drawn || (own.buildingId === drawn.buildingId && own.floor === drawn.outline.floor))
    if (isThere) placements.set(id, { ...own, isAssumed: false })
    else if (drawn) placements.set(id, assumedIn(id, drawn))
  }
  return placements
}
