// Question: what would serve rooms in which next to nothing is heard: more power, or one more access point, and where?
// Method: power first, as much as a room lacks and its country permits; else the middle of each drawn room of the floor
// is tried with a radio as there is one already, and the one that serves most such rooms is told.
// Source: no more than 6 dB are asked of a radio, common practice without a source.
import { byMhz, signalOf, WEAK_DBM, type Emitter, type RoomSignal } from './coverage'
import { middleOf, USUAL_HEIGHT_M, type DrawnRoom, type Floor } from './floors'
import { limitOf } from './radios'

/** What of a floor would serve a room. */
export type Served =
  | { readonly kind: 'power'; readonly device: string; readonly byDb: number }
  | { readonly kind: 'place'; readonly room: string; readonly rooms: number }

const MOST_MORE_DB = 6

/** Whole dB that would bring a room to the least level; null where they are too many, or not permitted. */
function morePower(
  { worstTenthDbm, bestId }: RoomSignal,
  emitters: readonly Emitter[],
  country: string,
): Served | null {
  const best = emitters.find(({ radio }) => radio.deviceId === bestId)
  if (!best || worstTenthDbm === null) return null
  const byDb = Math.ceil(WEAK_DBM - worstTenthDbm)
  if (byDb > MOST_MORE_DB) return null
  const { radio, placement } = best
  const limit = limitOf({ ...radio, powerDbm: radio.powerDbm + byDb }, country, placement.outdoors)
  return limit && !limit.trouble ? { kind: 'power', device: radio.deviceName, byDb } : null
}

/** The room in whose middle one more access point serves most of some rooms; null where it serves none. */
function onePlace(
  floor: Floor,
  emitters: readonly Emitter[],
  wanting: readonly DrawnRoom[],
  stepM: number,
): { readonly room: DrawnRoom; readonly serves: ReadonlySet<DrawnRoom> } | null {
  const [like] = emitters
  if (!like) return null
  const obstacles = byMhz(floor, [like])
  const tried = floor.rooms.map((room) => {
    const placement = {
      ...like.placement,
      ...middleOf(room),
      floor: floor.floor,
      heightM: USUAL_HEIGHT_M,
      outdoors: false,
      beam: null,
    }
    const hears = (one: DrawnRoom) =>
      signalOf(one, obstacles, [{ ...like, placement }], stepM).worstTenthDbm ?? -Infinity
    return { room, serves: new Set(wanting.filter((one) => hears(one) >= WEAK_DBM)) }
  })
  const [best] = tried.toSorted((one, other) => other.serves.size - one.serves.size)
  return best && best.serves.size > 0 ? best : null
}

/** What would serve each of some rooms of a floor, by the room's id; a room that is not named has no remedy here. */
export function betterServed(
  floor: Floor,
  emitters: readonly Emitter[],
  wanting: readonly RoomSignal[],
  { country, stepM }: { readonly country: string; readonly stepM: number },
): ReadonlyMap<string, Served> {
  const found = new Map<string, Served>()
  for (const signal of wanting) {
    const power = morePower(signal, emitters, country)
    if (power) found.set(signal.room.id, power)
  }
  const rest = wanting.map(({ room }) => room).filter(({ id }) => !found.has(id))
  const place = rest.length > 0 ? onePlace(floor, emitters, rest, stepM) : null
  for (const { id } of place?.serves ?? [])
    found.set(id, { kind: 'place', room: place?.room.name ?? '', rooms: place?.serves.size ?? 0 })
  return found
}
