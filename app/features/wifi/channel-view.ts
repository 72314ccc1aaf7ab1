// What the Radios part shows: each radio with what is permitted, who is heard on its channel, and beacons.
import {
  beaconsAt,
  eirpDbm,
  limitOf,
  loudestOn,
  MOST_JUDGED,
  siteChannels,
  type ApRadio,
  type SiteChannels,
  type WifiScene,
} from '#core/wifi'
import type { Band, Device } from '#core/schema'
import { beaconWords, followsWords, permittedWords, reasonWords } from './words'
import type { RadioRow } from './radio-columns'

const BANDS: readonly Band[] = ['2.4', '5', '6']

export const channelsByBand = (scene: WifiScene): SiteChannels[] =>
  BANDS.flatMap((band) => siteChannels(scene, band) ?? [])

/** Who is heard on the channels that the radios of a band have now, and what beacons take. */
function heardOf(
  scene: WifiScene,
  channels: SiteChannels,
): (place: number) => Pick<RadioRow, 'heard' | 'beacons'> {
  const { radios, problem, hears } = channels
  if (radios.length > MOST_JUDGED) return () => ({ heard: 'too many to compare', beacons: '—' })
  const chosen = radios.map(({ channel }) => channel ?? 0)
  const all = problem.map((radio, i) => ({
    ...radio,
    choices: [...new Set([...radio.choices, ...(chosen[i] ? [chosen[i]] : [])])],
  }))
  return (place) => ({
    heard: reasonWords(loudestOn(all, chosen, hears, place), radios[place]?.channel ?? null),
    beacons: beaconWords(beaconsAt(scene, channels, place)),
  })
}

/** Rows in the order of the devices; `devices` of the plan. */
export function radioRows(
  scene: WifiScene,
  bands: readonly SiteChannels[],
  devices: readonly Device[],
): RadioRow[] {
  const outdoors = new Map(scene.placements.map(({ deviceId, outdoors: isOut }) => [deviceId, isOut]))
  const rowOf = (radio: ApRadio, heard: Pick<RadioRow, 'heard' | 'beacons'>): RadioRow => {
    const verdict = limitOf(radio, scene.country, outdoors.get(radio.deviceId) ?? false)
    const permitted = permittedWords(radio, verdict, scene.country, eirpDbm(radio))
    return { ...radio, ...heard, permitted, isTrouble: (verdict?.trouble ?? null) !== null }
  }
  const planned = bands.flatMap((channels) => {
    const heard = heardOf(scene, channels)
    return channels.radios.map((radio, i) => rowOf(radio, heard(i)))
  })
  const others = scene.radios
    .filter(({ follows, isSilent }) => follows !== null || isSilent)
    .map((radio) => rowOf(radio, { heard: followsWords(radio), beacons: '—' }))
  const rows = [...planned, ...others]
  const order = new Map(devices.map(({ id }, i) => [id, i]))
  return rows.sort(
    (a, b) => (order.get(a.deviceId) ?? 0) - (order.get(b.deviceId) ?? 0) || Number(a.band) - Number(b.band),
  )
}
