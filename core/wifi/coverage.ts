// Question: which signal is there at each place of a floor?
// Method: free space between antenna and place, and the loss of every wall and floor on the straight line; a wall that
// two rooms share counts once. An estimate: levels on site scatter around it by some 8 dB.
// Source: ITU-R P.525-4 (free space), P.2040-3 (walls), P.1238-11 table 4 (floors, offices; from memory).
import { freeSpaceLossDb, wallLossDb } from '#core/radio'
import type { Band, DeviceId } from '#core/schema'
import { wallsOf, type DrawnRoom, type Floor, type PlacedSpot, type Wall } from './floors'
import { eirpDbm, radioMhz, type ApRadio } from './radios'

/** Standard deviation of what is measured around what is computed, dB (common practice, without a source). */
export const UNCERTAINTY_DB = 8
/** Worst tenth of a room: from here on it is served well, or at all (common practice, without a source). */
export const WELL_DBM = -65
export const WEAK_DBM = -75
/** A level as devices show it, %: 2 (dBm + 100), from 0 to 100 (common practice, without a source). */
export const signalPercent = (dBm: number): number => Math.round(Math.max(0, Math.min(100, 2 * (dBm + 100))))
/** A hand above a table. */
const CLIENT_HEIGHT_M = 1
const STOREY_M = 3
/** Of one floor between both, dB. */
const FLOOR_DB: Readonly<Record<Band, number>> = { '2.4': 14, '5': 16, '6': 16 }
/** Closer than this free space is no longer what is between both. */
const LEAST_M = 0.5
/** Walls so near to each other on a line are one wall, drawn by both its rooms. */
const SAME_WALL_M = 0.3

export interface Emitter {
  readonly radio: ApRadio
  readonly spot: PlacedSpot
  readonly mhz: number
}
export interface Place {
  readonly xM: number
  readonly yM: number
  readonly heightM: number
}

/** A floor made ready: its walls with their losses at a band's frequencies. */
export interface Obstacles {
  readonly floor: number
  readonly walls: readonly (Wall & { readonly lossDb: number })[]
}

export const emittersOf = (
  radios: readonly ApRadio[],
  spots: ReadonlyMap<DeviceId, PlacedSpot>,
  { buildingId }: Floor,
): Emitter[] =>
  radios.flatMap((radio) => {
    const spot = spots.get(radio.deviceId)
    return spot && spot.buildingId === buildingId ? [{ radio, spot, mhz: radioMhz(radio) }] : []
  })

export function obstaclesOf({ floor, rooms }: Floor, mhz: number): Obstacles {
  const walls = rooms.flatMap(wallsOf).map((wall) => ({ ...wall, lossDb: wallLossDb(wall.kind, mhz) }))
  return { floor, walls: walls.filter(({ lossDb }) => lossDb > 0) }
}

/** Where a line meets a wall, as a part of its length from 0 to 1; negative where it does not. */
function meets({ isAlongX, atM, fromM, toM }: Wall, from: Place, to: Place): number {
  const [start, end] = isAlongX ? [from.yM, to.yM] : [from.xM, to.xM]
  if (start === end) return -1
  const part = (atM - start) / (end - start)
  if (part < 0 || part > 1) return -1
  const beside = isAlongX ? from.xM + part * (to.xM - from.xM) : from.yM + part * (to.yM - from.yM)
  return beside >= fromM && beside <= toM ? part : -1
}

function wallsBetweenDb({ walls }: Obstacles, from: Place, to: Place): number {
  const lengthM = Math.hypot(to.xM - from.xM, to.yM - from.yM)
  const met: (readonly [atM: number, lossDb: number])[] = []
  for (const wall of walls) {
    const part = meets(wall, from, to)
    if (part >= 0) met.push([part * lengthM, wall.lossDb])
  }
  met.sort((a, b) => a[0] - b[0])
  let [sum, groupAt, groupDb] = [0, -Infinity, 0]
  for (const [atM, lossDb] of met) {
    if (atM - groupAt > SAME_WALL_M) {
      sum += groupDb
      groupAt = atM
      groupDb = lossDb
    } else groupDb = Math.max(groupDb, lossDb)
  }
  return sum + groupDb
}

/** Level that a receiver without gain has at a place of a floor, dBm. */
export function levelAt(obstacles: Obstacles, { radio, spot, mhz }: Emitter, place: Place): number {
  const storeys = Math.abs(spot.floor - obstacles.floor)
  const upM = (spot.floor - obstacles.floor) * STOREY_M + spot.heightM - place.heightM
  const distanceM = Math.max(LEAST_M, Math.hypot(spot.xM - place.xM, spot.yM - place.yM, upM))
  const lossDb =
    freeSpaceLossDb(mhz, distanceM / 1000) +
    storeys * FLOOR_DB[radio.band] +
    wallsBetweenDb(obstacles, { ...spot }, place)
  return eirpDbm(radio) - lossDb
}

export interface LevelGrid {
  readonly columns: number
  readonly rows: number
  readonly stepM: number
  /** Of the loudest access point at the middle of each square, row by row, dBm; -Infinity where there is none. */
  readonly levelsDbm: readonly number[]
}

const byMhz = (floor: Floor, emitters: readonly Emitter[]): ReadonlyMap<number, Obstacles> =>
  new Map([...new Set(emitters.map(({ mhz }) => mhz))].map((mhz) => [mhz, obstaclesOf(floor, mhz)]))

/** Levels of all emitters at a place, loudest first; of an access point only its loudest radio. */
function levelsAt(
  obstacles: ReadonlyMap<number, Obstacles>,
  emitters: readonly Emitter[],
  place: Place,
): readonly (readonly [deviceId: DeviceId, dBm: number])[] {
  const loudest = new Map<DeviceId, number>()
  for (const emitter of emitters) {
    const around = obstacles.get(emitter.mhz)
    if (!around) continue
    const level = levelAt(around, emitter, place)
    const id = emitter.radio.deviceId
    if (level > (loudest.get(id) ?? -Infinity)) loudest.set(id, level)
  }
  return [...loudest].sort((a, b) => b[1] - a[1])
}

const MOST_SQUARES = 40_000
/** The wished step, or a coarser one where a floor would have too many squares. */
const stepFor = (areaM2: number, stepM: number): number => Math.max(stepM, Math.sqrt(areaM2 / MOST_SQUARES))

const FINEST_M = 0.5
/** A step, m, at which so many walls are looked at for a whole floor; never finer than half a metre. */
export function stepWithin({ widthM, depthM, rooms }: Floor, emitters: number, mostLooks: number): number {
  const walls = 4 * Math.max(1, rooms.length)
  const squares = Math.max(1, mostLooks / (walls * Math.max(1, emitters)))
  return Math.max(FINEST_M, Math.sqrt((widthM * depthM) / squares))
}

/** The floor in squares; the step in m. */
export function levelGrid(floor: Floor, emitters: readonly Emitter[], wishedM: number): LevelGrid {
  const stepM = stepFor(floor.widthM * floor.depthM, wishedM)
  const [columns, rows] = [Math.ceil(floor.widthM / stepM), Math.ceil(floor.depthM / stepM)]
  const obstacles = byMhz(floor, emitters)
  const levelsDbm: number[] = []
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const place = { xM: (column + 0.5) * stepM, yM: (row + 0.5) * stepM, heightM: CLIENT_HEIGHT_M }
      levelsDbm.push(levelsAt(obstacles, emitters, place)[0]?.[1] ?? -Infinity)
    }
  return { columns, rows, stepM, levelsDbm }
}

export interface RoomSignal {
  readonly room: DrawnRoom
  /** Nine tenths of the room have more, dBm; null where nothing sends. */
  readonly worstTenthDbm: number | null
  /** The same of the second best access point, to roam to. */
  readonly secondDbm: number | null
  /** Loudest in most of the room. */
  readonly bestId: DeviceId | null
}

/** The level that nine tenths of a list exceed; null of an empty one. */
function worstTenth(levels: readonly number[]): number | null {
  const sorted = [...levels].sort((a, b) => a - b)
  return sorted[Math.floor(sorted.length / 10)] ?? null
}

function signalOf(
  room: DrawnRoom,
  obstacles: ReadonlyMap<number, Obstacles>,
  emitters: readonly Emitter[],
  wishedM: number,
): RoomSignal {
  const { xM, yM, widthM, depthM } = room.plot
  const stepM = stepFor(widthM * depthM, wishedM)
  const [columns, rows] = [Math.max(1, Math.round(widthM / stepM)), Math.max(1, Math.round(depthM / stepM))]
  const [best, second] = [[] as number[], [] as number[]]
  const wins = new Map<DeviceId, number>()
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const place = {
        xM: xM + ((column + 0.5) * widthM) / columns,
        yM: yM + ((row + 0.5) * depthM) / rows,
        heightM: CLIENT_HEIGHT_M,
      }
      const [first, next] = levelsAt(obstacles, emitters, place)
      if (first) {
        best.push(first[1])
        wins.set(first[0], (wins.get(first[0]) ?? 0) + 1)
      }
      if (next) second.push(next[1])
    }
  const bestId = [...wins].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null
  return { room, worstTenthDbm: worstTenth(best), secondDbm: worstTenth(second), bestId }
}

/** Every room of a floor by its worst tenth. */
export function roomSignals(floor: Floor, emitters: readonly Emitter[], stepM: number): RoomSignal[] {
  const obstacles = byMhz(floor, emitters)
  return floor.rooms.map((room) => signalOf(room, obstacles, emitters, stepM))
}
