// Question: which signal is there at each place of a floor?
// Method: free space between antenna and place, and the loss of every wall and floor on the straight line; a wall that
// two rooms share counts once. An estimate: levels on site scatter around it by some 8 dB.
// Source: ITU-R P.525-4 (free space), P.2040-3 (walls), P.1238-11 table 4 (floors, offices; from memory).
import { freeSpaceLossDb, sectorLossDb, wallLossDb } from '#core/radio'
import type { Band, DeviceId, WallKind } from '#core/schema'
import { wallsOf, type DrawnRoom, type Floor, type KnownPlacement, type Wall } from './floors'
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
  readonly placement: KnownPlacement
  readonly mhz: number
}
export interface Place {
  readonly xM: number
  readonly yM: number
  readonly heightM: number
}

/** Walls that run one way, number by number: they are looked at millions of times. */
interface WallList {
  readonly atM: Float64Array
  readonly fromM: Float64Array
  readonly toM: Float64Array
  readonly lossDb: Float64Array
}
/** A floor made ready: its walls with their losses at one frequency. */
export interface Obstacles {
  readonly floor: number
  /** Along x, each at a y. */
  readonly alongX: WallList
  /** Along y, each at an x. */
  readonly alongY: WallList
}

export const emittersOf = (
  radios: readonly ApRadio[],
  placements: readonly KnownPlacement[],
  { buildingId }: Floor,
): Emitter[] => {
  const hangs = new Map(placements.map((placement) => [placement.deviceId, placement]))
  return radios.flatMap((radio) => {
    const placement = hangs.get(radio.deviceId)
    return placement && !radio.isSilent && placement.buildingId === buildingId
      ? [{ radio, placement, mhz: radioMhz(radio) }]
      : []
  })
}

function wallList(walls: readonly Wall[], losses: ReadonlyMap<WallKind, number>): WallList {
  const numbers = (of: (wall: Wall) => number) => Float64Array.from(walls, of)
  return {
    atM: numbers(({ atM }) => atM),
    fromM: numbers(({ fromM }) => fromM),
    toM: numbers(({ toM }) => toM),
    lossDb: numbers(({ kind }) => losses.get(kind) ?? 0),
  }
}

export function obstaclesOf({ floor, rooms }: Floor, mhz: number): Obstacles {
  const all = rooms.flatMap(wallsOf).filter(({ kind }) => kind !== 'open')
  const losses = new Map(
    [...new Set(all.map(({ kind }) => kind))].map((kind) => [kind, wallLossDb(kind, mhz)]),
  )
  return {
    floor,
    alongX: wallList(
      all.filter(({ isAlongX }) => isAlongX),
      losses,
    ),
    alongY: wallList(
      all.filter(({ isAlongX }) => !isAlongX),
      losses,
    ),
  }
}

/** A wall that a line meets: at which part of its length from 0 to 1, and what it loses. */
type Met = readonly [part: number, lossDb: number]

/**
 * Adds the walls that a line meets; `across` are its ends towards the walls, `beside` along them.
 * What only touches one with its end meets it as well.
 */
function meet(
  { atM, fromM, toM, lossDb }: WallList,
  across: readonly [from: number, to: number],
  beside: readonly [from: number, to: number],
  met: Met[],
): void {
  const [start, end] = across
  if (start === end) return
  for (let i = 0; i < atM.length; i++) {
    const at = atM[i] as number
    if (at < start === at < end && at !== start && at !== end) continue
    const part = (at - start) / (end - start)
    const where = beside[0] + part * (beside[1] - beside[0])
    if (where >= (fromM[i] as number) && where <= (toM[i] as number)) met.push([part, lossDb[i] as number])
  }
}

function wallsBetweenDb({ alongX, alongY }: Obstacles, from: Place, to: Place): number {
  const met: Met[] = []
  const [x, y] = [[from.xM, to.xM] as const, [from.yM, to.yM] as const]
  meet(alongX, y, x, met)
  meet(alongY, x, y, met)
  if (met.length === 0) return 0
  const lengthM = Math.hypot(to.xM - from.xM, to.yM - from.yM)
  met.sort((a, b) => a[0] - b[0])
  let [sum, groupAt, groupDb] = [0, -Infinity, 0]
  for (const [part, lossDb] of met) {
    if (part * lengthM - groupAt > SAME_WALL_M) {
      sum += groupDb
      groupAt = part * lengthM
      groupDb = lossDb
    } else groupDb = Math.max(groupDb, lossDb)
  }
  return sum + groupDb
}

const DEG = 180 / Math.PI
/** An angle as -180 to 180 degrees. */
const turned = (deg: number): number => deg - 360 * Math.round(deg / 360)
/** What an antenna that does not send all around sends less towards a place that is `upM` below it, dB. */
function besideBeamDb({ radio, placement }: Emitter, place: Place, upM: number): number {
  const { beam } = placement
  if (!beam) return 0
  const [rightM, downM] = [place.xM - placement.xM, place.yM - placement.yM]
  // Straight under it there is no direction seen from above.
  const across = rightM === 0 && downM === 0 ? 0 : turned(DEG * Math.atan2(rightM, -downM) - beam.azimuthDeg)
  const up = -DEG * Math.atan2(upM, Math.hypot(rightM, downM)) - beam.tiltDeg
  return sectorLossDb({ widthDeg: beam.widthDeg, gainDbi: radio.gainDbi }, across, up)
}

/** Level that a receiver without gain has at a place of a floor, dBm. */
export function levelAt(obstacles: Obstacles, emitter: Emitter, place: Place): number {
  const { radio, placement, mhz } = emitter
  const storeys = Math.abs(placement.floor - obstacles.floor)
  const upM = (placement.floor - obstacles.floor) * STOREY_M + placement.heightM - place.heightM
  const distanceM = Math.max(LEAST_M, Math.hypot(placement.xM - place.xM, placement.yM - place.yM, upM))
  const lossDb =
    freeSpaceLossDb(mhz, distanceM / 1000) +
    storeys * FLOOR_DB[radio.band] +
    wallsBetweenDb(obstacles, placement, place) +
    besideBeamDb(emitter, place, upM)
  return eirpDbm(radio) - lossDb
}

export interface LevelGrid {
  readonly columns: number
  readonly rows: number
  readonly stepM: number
  /** Of the loudest access point at the middle of each square, row by row, dBm; -Infinity where there is none. */
  readonly levelsDbm: readonly number[]
}

/** A floor made ready for each frequency that some radios use. */
export const byMhz = (floor: Floor, emitters: readonly Emitter[]): ReadonlyMap<number, Obstacles> =>
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

/** Walls that are looked at for one place in each room of a floor, at most: beyond it is not predicted. */
const MOST_LOOKS = 5_000_000
export const isPredictable = ({ rooms }: Floor, emitters: number): boolean =>
  4 * rooms.length ** 2 * emitters <= MOST_LOOKS

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

/** One room by its worst tenth; `obstacles` of its floor at each emitter's frequency. */
export function signalOf(
  room: DrawnRoom,
  obstacles: ReadonlyMap<number, Obstacles>,
  emitters: readonly Emitter[],
  wishedM: number,
): RoomSignal {
  const { xM, yM, widthM, depthM } = room.outline
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
