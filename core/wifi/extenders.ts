// Question: does an extender hang where it hears enough, what is left of the rate behind it, and where would it hang
// better?
// Method: the loudest radio of the access point that it repeats, by the same prediction as for rooms. One radio sends
// everything twice, so that the times add up; of two the slower one decides.
// Source: 65 % of signal, or half-way at 50 %, are common practice without a source.
import { rateAt } from '#core/radio'
import { endsOf } from '#core/queries'
import type { DeviceId, Plan } from '#core/schema'
import { emittersOf, levelAt, obstaclesOf, UNCERTAINTY_DB, type Emitter } from './coverage'
import type { DrawnRoom, Floor, KnownPlacement } from './floors'
import type { WifiScene } from './scene'

/** 65 %. */
export const EXTENDER_DBM = -67.5
/** Of who stands beside the extender. */
const BESIDE_DBM = -45
const CLIENT_STREAMS = 2

export interface ExtenderSignal {
  readonly deviceId: DeviceId
  readonly name: string
  /** What it repeats; null where it is joined to no access point. */
  readonly from: { readonly id: DeviceId; readonly name: string; readonly isExtender: boolean } | null
  /** Null where one of both has no place, or nothing sends on a band of the SSID. */
  readonly heard: {
    readonly levelDbm: number
    /** On the air to the access point, and what is left behind it with one radio for both ways, and with two; Mb/s. */
    readonly rateMbps: number
    readonly oneRadioMbps: number
    readonly twoRadiosMbps: number
  } | null
  /** The drawn room whose middle hears just enough; null where it hangs well, or there is none. */
  readonly better: { readonly room: DrawnRoom; readonly levelDbm: number } | null
}

/** Two ways one after the other over one radio, Mb/s: 100 and 100 leave 50. */
export const oneAfterOther = (first: number, second: number): number =>
  first > 0 && second > 0 ? 1 / (1 / first + 1 / second) : 0

const margined = ({ radio }: Emitter, levelDbm: number, marginDb: number): number =>
  rateAt(levelDbm, marginDb, radio.generation, radio.widthMhz, Math.min(radio.streams, CLIENT_STREAMS))

/** The device at the other end of the air, and the SSID between both. */
function repeated({ devices, links }: Plan, id: DeviceId) {
  for (const link of links) {
    const { medium } = link
    const ends = endsOf(link).map(({ deviceId }) => deviceId)
    if (medium.kind !== 'wifi' || !ends.includes(id)) continue
    const far = devices.find((device) => device.id !== id && ends.includes(device.id))
    if (far && (far.kind === 'access-point' || far.kind === 'extender')) return { far, ssidId: medium.ssidId }
  }
  return null
}

const emptyFloor = ({ buildingId, floor }: KnownPlacement): Floor => ({
  buildingId,
  floor,
  rooms: [],
  widthM: 0,
  depthM: 0,
})

/** Level of the loudest of some radios at a place of a floor; null where none sends there. */
function loudestAt(
  emitters: readonly Emitter[],
  floor: Floor,
  place: { xM: number; yM: number; heightM: number },
) {
  let loudest: { readonly emitter: Emitter; readonly levelDbm: number } | null = null
  for (const emitter of emitters) {
    const levelDbm = levelAt(obstaclesOf(floor, emitter.mhz), emitter, place)
    if (!loudest || levelDbm > loudest.levelDbm) loudest = { emitter, levelDbm }
  }
  return loudest
}

const middleOf = ({ outline }: DrawnRoom, heightM: number) => ({
  xM: outline.xM + outline.widthM / 2,
  yM: outline.yM + outline.depthM / 2,
  heightM,
})

/** As far from the access point as it still hears enough: it is to carry its signal further. */
function betterRoom(emitters: readonly Emitter[], floor: Floor, heightM: number): ExtenderSignal['better'] {
  const heard = floor.rooms.flatMap((room) => {
    const levelDbm = loudestAt(emitters, floor, middleOf(room, heightM))?.levelDbm ?? -Infinity
    return levelDbm >= EXTENDER_DBM ? [{ room, levelDbm }] : []
  })
  return heard.sort((one, other) => one.levelDbm - other.levelDbm)[0] ?? null
}

/** Every extender of a plan, in its order. */
export function extendersOf(plan: Plan, scene: WifiScene): ExtenderSignal[] {
  const placeOf = (id: DeviceId) => scene.placements.find(({ deviceId }) => deviceId === id)
  return plan.devices.flatMap(({ id, name, kind }): ExtenderSignal[] => {
    if (kind !== 'extender') return []
    const joined = repeated(plan, id)
    const from = joined && {
      id: joined.far.id,
      name: joined.far.name,
      isExtender: joined.far.kind === 'extender',
    }
    const placement = placeOf(id)
    const bands = scene.ssids.find((ssid) => ssid.id === joined?.ssidId)?.settings.bands ?? []
    const radios = scene.radios.filter(({ deviceId, band }) => deviceId === from?.id && bands.includes(band))
    if (!placement || radios.length === 0) return [{ deviceId: id, name, from, heard: null, better: null }]
    const floor =
      scene.floors.find(
        ({ buildingId, floor }) => buildingId === placement.buildingId && floor === placement.floor,
      ) ?? emptyFloor(placement)
    const emitters = emittersOf(radios, scene.placements, floor)
    const loudest = loudestAt(emitters, floor, placement)
    if (!loudest) return [{ deviceId: id, name, from, heard: null, better: null }]
    const { emitter, levelDbm } = loudest
    const rateMbps = margined(emitter, levelDbm, UNCERTAINTY_DB)
    const besideMbps = margined(emitter, BESIDE_DBM, 0)
    const heard = {
      levelDbm,
      rateMbps,
      oneRadioMbps: oneAfterOther(rateMbps, besideMbps),
      twoRadiosMbps: Math.min(rateMbps, besideMbps),
    }
    const better = levelDbm < EXTENDER_DBM ? betterRoom(emitters, floor, placement.heightM) : null
    return [{ deviceId: id, name, from, heard, better }]
  })
}
