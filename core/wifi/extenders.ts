// Question: does an extender hang where it hears enough, what is left of the rate behind it, and where would it hang
// better?
// Method: the loudest radio of the access point that it has joined, by the same prediction as for rooms. One radio
// sends everything twice, so that the times add up; of two the slower one decides.
// Source: 65 % of signal, or half-way at 50 %, are common practice without a source.
import { rateAt } from '#core/radio'
import {
  byMhz,
  emittersOf,
  isPredictable,
  levelAt,
  UNCERTAINTY_DB,
  type Emitter,
  type Obstacles,
  type Place,
} from './coverage'
import { floorUnder, middleOf, type DrawnRoom, type Floor } from './floors'
import type { Repeat } from './repeats'
import type { WifiScene } from './scene'

/** 65 %. */
export const EXTENDER_DBM = -67.5
/** Of who stands beside the extender. */
const BESIDE_DBM = -45
const CLIENT_STREAMS = 2
/** What a pair of power-line adapters carries in a house, Mb/s (common practice, without a source). */
const POWER_LINE_MBPS = 100

export interface ExtenderSignal extends Repeat {
  /** Null where one of both has no place, or nothing sends on a band of the SSID. */
  readonly heard: {
    readonly levelDbm: number
    /** What is left behind it with one radio for both ways, and with one for each, Mb/s. */
    readonly oneRadioMbps: number
    readonly twoRadiosMbps: number
    /** The same where a cable feeds it, or a pair of power-line adapters. */
    readonly cabledMbps: number
    readonly powerLineMbps: number
  } | null
  /** The drawn room whose middle hears just enough; null where it hangs well, or there is none. */
  readonly better: { readonly room: DrawnRoom; readonly levelDbm: number } | null
}

/** Two ways one after the other over one radio, Mb/s: 100 and 100 leave 50. */
export const oneAfterOther = (first: number, second: number): number =>
  first > 0 && second > 0 ? 1 / (1 / first + 1 / second) : 0

const margined = ({ radio }: Emitter, levelDbm: number, marginDb: number): number =>
  rateAt(levelDbm, marginDb, { ...radio, streams: Math.min(radio.streams, CLIENT_STREAMS) })

type Heard = { readonly emitter: Emitter; readonly levelDbm: number }
type Around = ReadonlyMap<number, Obstacles>

/** The loudest of some radios at a place; null where none sends there. */
function loudestAt(emitters: readonly Emitter[], around: Around, place: Place): Heard | null {
  const heard = emitters.flatMap((emitter): Heard[] => {
    const obstacles = around.get(emitter.mhz)
    return obstacles ? [{ emitter, levelDbm: levelAt(obstacles, emitter, place) }] : []
  })
  return heard.toSorted((one, other) => other.levelDbm - one.levelDbm)[0] ?? null
}

function signalOf({ emitter, levelDbm }: Heard): NonNullable<ExtenderSignal['heard']> {
  const rateMbps = margined(emitter, levelDbm, UNCERTAINTY_DB)
  const besideMbps = margined(emitter, BESIDE_DBM, 0)
  return {
    levelDbm,
    oneRadioMbps: oneAfterOther(rateMbps, besideMbps),
    twoRadiosMbps: Math.min(rateMbps, besideMbps),
    cabledMbps: besideMbps,
    powerLineMbps: Math.min(POWER_LINE_MBPS, besideMbps),
  }
}

/** As far from the access point as it still hears enough: it is to carry its signal further. */
function betterRoom(
  emitters: readonly Emitter[],
  around: Around,
  { rooms }: Floor,
  heightM: number,
): ExtenderSignal['better'] {
  const heard = rooms.flatMap((room) => {
    const levelDbm = loudestAt(emitters, around, { ...middleOf(room), heightM })?.levelDbm ?? -Infinity
    return levelDbm >= EXTENDER_DBM ? [{ room, levelDbm }] : []
  })
  return heard.toSorted((one, other) => one.levelDbm - other.levelDbm)[0] ?? null
}

/** Every extender and joined access point of a plan, in its order. On floors with too many rooms none is looked for. */
export function extendersOf({ repeats, placements, ssids, radios, floors }: WifiScene): ExtenderSignal[] {
  const hangs = new Map(placements.map((placement) => [placement.deviceId, placement]))
  return repeats.map((repeat): ExtenderSignal => {
    const placement = hangs.get(repeat.deviceId)
    if (!placement) return { ...repeat, heard: null, better: null }
    const bands = ssids.find(({ id }) => id === repeat.ssidId)?.settings.bands ?? []
    const sending = radios.filter(
      ({ deviceId, band }) => deviceId === repeat.from?.id && bands.includes(band),
    )
    const floor = floorUnder(floors, placement)
    const emitters = emittersOf(sending, placements, floor)
    const around = byMhz(floor, emitters)
    const loudest = loudestAt(emitters, around, placement)
    if (!loudest) return { ...repeat, heard: null, better: null }
    const isSought = loudest.levelDbm < EXTENDER_DBM && isPredictable(floor, emitters.length * repeats.length)
    const better = isSought ? betterRoom(emitters, around, floor, placement.heightM) : null
    return { ...repeat, heard: signalOf(loudest), better }
  })
}
