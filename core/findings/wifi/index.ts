// Question: do radios stay within what is permitted and out of each other's way, and is there signal where people are?
// Method: each radio against its country's rules, each band against its best channels, each drawn room by its worst
// tenth; what has no place, no channel or no country is not judged.
// Source: beacons above a tenth of the air, three access points as dense: common practice, without a source.
import { defineStage, type PlanIndex } from '#core/queries'
import type { Band, DeviceId, Room, Ssid } from '#core/schema'
import { groupBy } from '#core/util'
import {
  beaconsAt,
  betterServed,
  conflictOf,
  eirpDbm,
  emittersOf,
  EXTENDER_DBM,
  extendersOf,
  isPredictable,
  limitOf,
  MOST_JUDGED,
  judgedDbm,
  roomSignals,
  siteChannels,
  stepWithin,
  WEAK_DBM,
  wifiScene,
  type ApRadio,
  type LimitTrouble,
  type Floor,
  type Served,
  type WifiScene,
} from '#core/wifi'
import { ifFeetM } from '../feet'
import { draft, onSheet, set, type Draft, type Finding, type Mend } from '../finding'

const BANDS: readonly Band[] = ['2.4', '5', '6']
const MANY_BEACONS = 0.1
const DENSE = 3
const USUAL_LEAST_MBPS = 6
/** Walls looked at for a floor, of which only rooms that are far from served are told. */
const LOOKS = 200_000

const radioPlace = ({ id }: ApRadio, field: string): string[] => ['wifi', 'radios', id, field]

function ssidFindings({ id, name, settings, apIds }: Ssid): Draft[] {
  const place = (field: string) => ['ssids', id, 'settings', field]
  const show: Mend = {
    code: 'show-name',
    values: { ssid: name },
    changes: [set(place('hidden'), true, false)],
  }
  const noList: Mend = {
    code: 'drop-mac-list',
    values: { ssid: name },
    changes: [set(place('macList'), true, false)],
  }
  const wpsOff: Mend = {
    code: 'wps-off',
    values: { ssid: name },
    changes: [set(place('wps'), true, false)],
  }
  const faster: Mend = {
    code: 'least-rate',
    values: { ssid: name, mbps: USUAL_LEAST_MBPS },
    changes: [set(place('leastMbps'), null, USUAL_LEAST_MBPS)],
  }
  return [
    ...(settings.security === 'open' ? [draft('F01', 'warning', place('security'), { ssid: name })] : []),
    ...(settings.hidden
      ? [draft('F09', 'note', place('hidden'), { ssid: name, kind: 'hidden', key: 'hidden' }, show)]
      : []),
    ...(settings.macList
      ? [draft('F09', 'note', place('macList'), { ssid: name, kind: 'mac-list', key: 'mac-list' }, noList)]
      : []),
    ...(settings.wps ? [draft('F18', 'warning', place('wps'), { ssid: name }, wpsOff)] : []),
    ...(settings.leastMbps === null && apIds.length >= DENSE
      ? [draft('F12', 'note', place('leastMbps'), { ssid: name, accessPoints: apIds.length }, faster)]
      : []),
  ]
}

const networkName = ({ networks }: WifiScene, networkId: string): string =>
  networks.find(({ id }) => id === networkId)?.name ?? networkId

/** A network that is known by two names, one of which is steered: who knows the other is not moved. */
const nameFindings = (scene: WifiScene): Draft[] =>
  scene.ssids.flatMap((ssid): Draft[] => {
    if (!ssid.settings.steering) return []
    const sharesAir = (other: Ssid) =>
      other.id !== ssid.id &&
      other.networkId === ssid.networkId &&
      other.apIds.some((id) => ssid.apIds.includes(id))
    const other = scene.ssids.find(sharesAir)
    if (!other) return []
    const network = networkName(scene, ssid.networkId)
    const values = { ssid: ssid.name, other: other.name, network }
    return [draft('F13', 'note', ['ssids', ssid.id, 'settings', 'steering'], values)]
  })

/** Words of a site's name that tell nobody where it is (common practice, without a source). */
const COMMON_WORDS: ReadonlySet<string> = new Set(
  'office school guest guests station house network wifi site home building centre center hotel cafe main'.split(
    ' ',
  ),
)
const LEAST_LETTERS = 4
const wordsOf = (text: string): string[] => text.toLocaleLowerCase('en').match(/[\p{L}\p{N}]+/gu) ?? []

/** A name that has a word of the site's own: whoever hears it knows whose it is. */
function ownerFindings({ siteName, ssids }: WifiScene): Draft[] {
  const telling = wordsOf(siteName).filter((word) => word.length >= LEAST_LETTERS && !COMMON_WORDS.has(word))
  return ssids.flatMap(({ id, name }): Draft[] => {
    const word = telling.find((one) => wordsOf(name).includes(one))
    return word === undefined ? [] : [draft('F03', 'note', ['ssids', id, 'name'], { ssid: name, word })]
  })
}

function portalFindings({ id, name, settings: { portal } }: Ssid): Draft[] {
  if (!portal) return []
  const place = ['ssids', id, 'settings', 'portal']
  const told = (kind: 'terms' | 'minutes') => draft('F19', 'note', place, { ssid: name, kind, key: kind })
  return [...(portal.terms ? [] : [told('terms')]), ...(portal.minutes === null ? [told('minutes')] : [])]
}

/** Stations that one radio serves well (common practice, without a source). */
const MOST_CLIENTS = 40
/** Those expected on each SSID's network, shared out among the access points that send it. */
function crowdFindings({ networks, radios, ssids }: WifiScene): Draft[] {
  const expected = new Map(networks.map(({ id, stations }) => [id, stations]))
  const clients = new Map<DeviceId, number>()
  for (const { networkId, apIds } of ssids)
    for (const id of apIds)
      clients.set(id, (clients.get(id) ?? 0) + (expected.get(networkId) ?? 0) / apIds.length)
  const byDevice = groupBy(radios, ({ deviceId }) => deviceId)
  return [...byDevice].flatMap(([id, [first, ...others]]): Draft[] => {
    const most = (1 + others.length) * MOST_CLIENTS
    const here = Math.ceil(clients.get(id) ?? 0)
    if (!first || here <= most) return []
    return [draft('F10', 'warning', ['devices', id], { device: first.deviceName, clients: here, most })]
  })
}

/** The most power, in whole dBm, that keeps a limit; null where even the least a plan can say is too much. */
function powerWithin({ gainDbi }: ApRadio, mostDbm: number): number | null {
  const power = Math.floor(mostDbm - gainDbi)
  return power >= -10 ? power : null
}

/** The field that a trouble is about, where it is not the channel. */
const FIELDS: Readonly<Partial<Record<LimitTrouble, string>>> = {
  'too-strong': 'powerDbm',
  'no-width': 'widthMhz',
}

function limitFindings({ country }: WifiScene, radio: ApRadio, isOutdoors: boolean): Draft[] {
  const verdict = limitOf(radio, country, isOutdoors)
  if (!verdict?.trouble || radio.channel === null) return []
  const { trouble, permission } = verdict
  const mostDbm = permission?.eirpDbm ?? 0
  const power = trouble === 'too-strong' ? powerWithin(radio, mostDbm) : null
  const mend: Mend | null =
    power === null || !radio.isTyped
      ? null
      : {
          code: 'lower-power',
          values: { device: radio.deviceName, dBm: power },
          changes: [set(radioPlace(radio, 'powerDbm'), radio.powerDbm, power)],
        }
  const values = {
    device: radio.deviceName,
    band: radio.band,
    channel: radio.channel,
    kind: trouble,
    country,
    eirpDbm: eirpDbm(radio),
    mostDbm,
  }
  return [draft('F11', 'warning', radioPlace(radio, FIELDS[trouble] ?? 'channel'), values, mend)]
}

/** Radios with a channel of a band that could disturb each other less. */
function channelFindings(scene: WifiScene, band: Band): Draft[] {
  const conflict = conflictOf(scene, band)
  if (!conflict) return []
  const { loudest, moves } = conflict
  const mend: Mend = {
    code: 'plan-channels',
    values: { band, radios: moves.length },
    changes: moves.map(({ radio, channel }) => set(radioPlace(radio, 'channel'), radio.channel, channel)),
  }
  const values = {
    band,
    first: loudest.first.deviceName,
    second: loudest.second.deviceName,
    channel: loudest.first.channel ?? 0,
    dBm: Math.round(loudest.dBm),
    key: band,
  }
  return [draft('F06', 'warning', radioPlace(loudest.first, 'channel'), values, mend)]
}

function beaconFindings(scene: WifiScene, band: Band): Draft[] {
  const channels = siteChannels(scene, band)
  if (channels && channels.radios.length > MOST_JUDGED) return []
  return (channels?.radios ?? []).flatMap((radio, i): Draft[] => {
    const share = channels ? beaconsAt(scene, channels, i) : 0
    if (share <= MANY_BEACONS) return []
    const values = { device: radio.deviceName, band, percent: Math.round(share * 100), key: band }
    return [draft('F07', 'warning', ['devices', radio.deviceId], values)]
  })
}

const isWorkedIn = ({ people }: Room): boolean => (people ?? 0) > 0

const isUnserved = (room: Room, levelDbm: number | null): boolean =>
  isWorkedIn(room) && (levelDbm ?? -Infinity) < WEAK_DBM

/** @param better what would serve it; null where that is not known */
function servedFindings(room: Room, levelDbm: number | null, better: Served | null = null): Draft[] {
  if (!isUnserved(room, levelDbm)) return []
  const isRead = room.readDbm !== null
  const values = { room: room.name, dBm: levelDbm === null ? null : Math.round(levelDbm), isRead, better }
  return [draft('F17', 'warning', ['brief', 'rooms', room.id, 'outline'], values)]
}

const readFindings = (rooms: readonly Room[]): Draft[] =>
  rooms.flatMap((room) => (room.readDbm === null ? [] : servedFindings(room, room.readDbm)))

/** Rooms with people at work in which no band comes through: as it was read, else as it is predicted. */
const roomFindings = (scene: WifiScene): Draft[] => [
  ...readFindings(scene.undrawn),
  ...scene.floors
    .filter(({ rooms }) => rooms.some(isWorkedIn))
    .flatMap((floor) => floorFindings(scene, floor)),
]

/** Nothing is predicted of buildings in which nothing sends. */
function floorFindings({ radios, placements, country }: WifiScene, floor: Floor): Draft[] {
  const emitters = emittersOf(radios, placements, floor)
  if (emitters.length === 0 || !isPredictable(floor, emitters.length)) return readFindings(floor.rooms)
  const signals = roomSignals(floor, emitters, stepWithin(floor, emitters.length, LOOKS))
  // What was read is not computed, and so is not what would be better.
  const wanting = signals.filter(
    (signal) => signal.room.readDbm === null && isUnserved(signal.room, signal.worstTenthDbm),
  )
  const better = betterServed(floor, emitters, wanting, {
    country,
    stepM: stepWithin(floor, floor.rooms.length, LOOKS),
  })
  return signals.flatMap((signal) =>
    servedFindings(signal.room, judgedDbm(signal), better.get(signal.room.id)),
  )
}

/**
 * What has joined an SSID without four-address frames carries its network, and no other; an extender sorts no frames,
 * and carries one in any case.
 */
function repeaterFindings(scene: WifiScene): Draft[] {
  return scene.repeats.flatMap(({ deviceId, name, ssidId, mode, isExtender, linkId }) => {
    const repeated = scene.ssids.find(({ id }) => id === ssidId)
    if (!repeated || (mode === 'bridge' && !isExtender)) return []
    const mend: Mend | null =
      isExtender || linkId === null
        ? null
        : {
            code: 'four-address',
            values: {},
            changes: [set(['links', linkId, 'medium', 'fourAddress'], false, true)],
          }
    return scene.ssids
      .filter(({ apIds, networkId }) => apIds.includes(deviceId) && networkId !== repeated.networkId)
      .map((ssid) => {
        const network = networkName(scene, ssid.networkId)
        const repeats = networkName(scene, repeated.networkId)
        const values = { extender: name, ssid: ssid.name, network, repeats, key: ssid.id }
        return draft('F14', 'warning', ['devices', deviceId], values, mend)
      })
  })
}

/** An extender repeats no more than it hears. */
function extenderFindings(scene: WifiScene): Draft[] {
  return extendersOf(scene).flatMap(({ deviceId, name, from, heard, better }): Draft[] => {
    if (!from || !heard || heard.levelDbm >= EXTENDER_DBM) return []
    const values = {
      extender: name,
      from: from.name,
      dBm: Math.round(heard.levelDbm),
      room: better?.room.name ?? null,
      roomDbm: better ? Math.round(better.levelDbm) : null,
    }
    return [draft('F08', 'warning', ['devices', deviceId, 'place'], values)]
  })
}

/** One radio for both ways sends everything twice. */
const singleRadioFindings = (scene: WifiScene): Draft[] =>
  extendersOf(scene).flatMap(({ deviceId, name, from, heard, radios }): Draft[] => {
    if (!from || radios !== 1) return []
    const values = { extender: name, from: from.name, mbps: Math.round(heard?.oneRadioMbps ?? 0) }
    return [draft('F20', 'note', ['devices', deviceId], values)]
  })

/** Rooms are seldom higher, m (common practice, without a source): feet that were typed for metres are. */
const HIGH_M = 6
const heightFindings = ({ placements }: WifiScene, nameOf: (deviceId: DeviceId) => string): Draft[] =>
  placements.flatMap(({ deviceId, heightM, outdoors }): Draft[] => {
    if (outdoors || heightM <= HIGH_M) return []
    const values = { device: nameOf(deviceId), heightM, ifFeetM: ifFeetM(heightM) }
    return [draft('F21', 'note', ['devices', deviceId], values)]
  })

const ofWifi = defineStage('wifi findings', (index): Finding[] => {
  const scene = index.get(wifiScene)
  const outdoors = new Map(scene.placements.map(({ deviceId, outdoors: isOut }) => [deviceId, isOut]))
  return onSheet('wifi', [
    ...scene.ssids.flatMap((ssid) => [...ssidFindings(ssid), ...portalFindings(ssid)]),
    ...nameFindings(scene),
    ...ownerFindings(scene),
    ...crowdFindings(scene),
    ...scene.radios.flatMap((radio) => limitFindings(scene, radio, outdoors.get(radio.deviceId) ?? false)),
    ...BANDS.flatMap((band) => [...channelFindings(scene, band), ...beaconFindings(scene, band)]),
    ...roomFindings(scene),
    ...extenderFindings(scene),
    ...singleRadioFindings(scene),
    ...repeaterFindings(scene),
    ...heightFindings(scene, (deviceId) => index.devices.get(deviceId)?.name ?? deviceId),
  ])
})

export const checkWifi = (index: PlanIndex): Finding[] => index.get(ofWifi)
