// Question: how do the rooms of a building lie, and where do its access points hang?
// Method: rooms that are drawn, by building and floor; an access point whose place is a drawn room hangs in its middle
// until somebody says better.
import { groupBy } from '#core/util'
import type { BuildingId, DeviceId, Plan, Plot, Room, Spot, WallKind } from '#core/schema'

export interface DrawnRoom extends Room {
  readonly plot: Plot
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

const isDrawn = (room: Room): room is DrawnRoom => room.plot !== null

/** Floors with a drawn room, by building in the plan's order and from the lowest. */
export function floorsOf({ brief }: Plan): Floor[] {
  const byFloor = groupBy(
    brief.rooms.filter(isDrawn),
    ({ buildingId, plot }) => `${buildingId} ${plot.floor}`,
  )
  const order = new Map(brief.buildings.map(({ id }, i) => [id, i]))
  return [...byFloor.values()]
    .flatMap((rooms): Floor[] => {
      const [first] = rooms
      if (!first) return []
      return [
        {
          buildingId: first.buildingId,
          floor: first.plot.floor,
          rooms,
          widthM: Math.max(...rooms.map(({ plot }) => plot.xM + plot.widthM)),
          depthM: Math.max(...rooms.map(({ plot }) => plot.yM + plot.depthM)),
        },
      ]
    })
    .sort((a, b) => (order.get(a.buildingId) ?? 0) - (order.get(b.buildingId) ?? 0) || a.floor - b.floor)
}

export function wallsOf({ plot }: DrawnRoom): Wall[] {
  const { xM, yM, widthM, depthM, walls } = plot
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

export interface PlacedSpot extends Spot {
  /** Nobody has said where it hangs: the middle of its room is taken. */
  readonly isAssumed: boolean
}

/** Where access points hang, of those that have a place. */
export function spotsOf({ devices, brief, wifi }: Plan): ReadonlyMap<DeviceId, PlacedSpot> {
  const rooms = new Map(brief.rooms.filter(isDrawn).map((room) => [room.name, room]))
  const spots = new Map<DeviceId, PlacedSpot>()
  for (const { id, kind, place } of devices) {
    const room = rooms.get(place)
    if (kind !== 'access-point' || !room) continue
    const { floor, xM, yM, widthM, depthM } = room.plot
    spots.set(id, {
      deviceId: id,
      buildingId: room.buildingId,
      floor,
      xM: xM + widthM / 2,
      yM: yM + depthM / 2,
      heightM: USUAL_HEIGHT_M,
      outdoors: false,
      isAssumed: true,
    })
  }
  for (const spot of wifi.spots) spots.set(spot.deviceId, { ...spot, isAssumed: false })
  return spots
}
