// Question: how much of the settings at each radio do beacons take?
// Method: every SSID of every radio that is heard on the channel sends one each 102.4 ms at the slowest rate it may.
// Source: IEEE 802.11-2020, 10.3.2.8 (medium busy from -82 dBm in 20 MHz).
import type { Ssid } from '#core/schema'
import { beaconShare } from './airtime'
import { overlap } from './channels'
import { spanOf, type ApRadio } from './radios'
import type { WifiScene } from './scene'
import type { SiteChannels } from './site-channels'

const BUSY_DBM = -82
/** The slowest there is: 802.11b in 2.4 GHz, OFDM beyond, Mb/s. */
const SLOWEST_MBPS = { '2.4': 1, '5': 6, '6': 6 } as const

/** SSIDs that a radio sends. */
const ssidsOn = ({ ssids }: WifiScene, { deviceId, band }: ApRadio): Ssid[] =>
  ssids.filter(({ apIds, settings }) => apIds.includes(deviceId) && settings.bands.includes(band))

const shareOf = (scene: WifiScene, radio: ApRadio): number =>
  ssidsOn(scene, radio).reduce(
    (sum, { settings }) => sum + beaconShare(1, settings.leastMbps ?? SLOWEST_MBPS[radio.band]),
    0,
  )

/** Share of the settings around a radio that beacons take, its own and those heard on its channel, 0 to 1 and more. */
export function beaconsAt(scene: WifiScene, { radios, hears }: SiteChannels, place: number): number {
  const own = radios[place]
  if (!own) return 0
  const span = spanOf(own)
  return radios.reduce((sum, radio, i) => {
    const other = spanOf(radio)
    const isShared = span !== null && other !== null && overlap(span, other) > 0
    return i === place || (isShared && hears(i, place) >= BUSY_DBM) ? sum + shareOf(scene, radio) : sum
  }, 0)
}
