// What the Radios part shows: each radio with what is permitted, who is heard on its channel, and beacons.
import { beaconsAt, eirpDbm, limitOf, loudestOn, siteChannels, spotsOf, type SiteChannels } from '#core/wifi'
import type { Band, Plan } from '#core/schema'
import type { PlanIndex } from '#core/queries'
import { beaconWords, permittedWords, reasonWords } from './words'
import type { RadioRow } from './radio-columns'

const BANDS: readonly Band[] = ['2.4', '5', '6']

export const channelsByBand = (index: PlanIndex): SiteChannels[] =>
  BANDS.flatMap((band) => siteChannels(index, band) ?? [])

/** Who is heard on the channel that a radio has now. */
function heardWords(channels: SiteChannels, place: number): string {
  const { radios, problem, hears } = channels
  const own = radios[place]?.channel ?? null
  const chosen = radios.map(({ channel }) => channel ?? 0)
  const all = problem.map((radio, i) => ({
    ...radio,
    choices: [...new Set([...radio.choices, ...(chosen[i] ? [chosen[i]] : [])])],
  }))
  return reasonWords(loudestOn(all, chosen, hears, place), own)
}

export function radioRows(plan: Plan, bands: readonly SiteChannels[]): RadioRow[] {
  const spots = spotsOf(plan)
  const { country } = plan.site
  const rows = bands.flatMap((channels) =>
    channels.radios.map((radio, i): RadioRow => {
      const verdict = limitOf(radio, country, spots.get(radio.deviceId)?.outdoors ?? false)
      return {
        ...radio,
        permitted: permittedWords(radio, verdict, country, eirpDbm(radio)),
        isTrouble: (verdict?.trouble ?? null) !== null,
        heard: heardWords(channels, i),
        beacons: beaconWords(beaconsAt(plan, channels, i)),
      }
    }),
  )
  const order = new Map(plan.devices.map(({ id }, i) => [id, i]))
  return rows.sort((a, b) => (order.get(a.deviceId) ?? 0) - (order.get(b.deviceId) ?? 0))
}
