// Question: what of a plan does its Wi-Fi hang on?
// Method: radios with what is known of them, where access points hang, rooms as they lie, what extenders repeat, SSIDs
// and neighbours; nothing of ports, addresses or rules, so that what is computed of Wi-Fi stays while those are edited.
import { defineStage, endsOf } from '#core/queries'
import type { ForeignNetwork, Network, Plan, Room, Span, Ssid } from '#core/schema'
import { floorsOf, placementsOf, type Floor, type KnownPlacement } from './floors'
import { apRadios, type ApRadio } from './radios'
import { repeatsOf, type Repeat } from './repeats'

export interface WifiScene {
  readonly siteName: string
  readonly country: string
  readonly radios: readonly ApRadio[]
  readonly placements: readonly KnownPlacement[]
  readonly floors: readonly Floor[]
  readonly undrawn: readonly Room[]
  readonly repeats: readonly Repeat[]
  /** Distances between buildings. */
  readonly spans: readonly Span[]
  readonly ssids: readonly Ssid[]
  readonly foreign: readonly ForeignNetwork[]
  /** What SSIDs lead to, and how many are expected there who come by no cable. */
  readonly networks: readonly (Pick<Network, 'id' | 'name'> & { readonly stations: number })[]
}

/** Networks with whom they expect, less the hosts that are cabled to them. */
function stationsOf({ devices, links, networks }: Plan): WifiScene['networks'] {
  const onAir = new Set(
    links.flatMap((link) =>
      link.medium.kind === 'wifi' ? endsOf(link).map(({ deviceId }) => deviceId) : [],
    ),
  )
  const cabled = new Map<string, number>()
  for (const { id, kind, homeNetworkId, count } of devices)
    if (kind !== 'gateway' && homeNetworkId !== null && !onAir.has(id))
      cabled.set(homeNetworkId, (cabled.get(homeNetworkId) ?? 0) + count)
  return networks.map(({ id, name, expected }) => ({
    id,
    name,
    stations: Math.max(0, expected - (cabled.get(id) ?? 0)),
  }))
}

export const wifiSceneOf = (plan: Plan): WifiScene => ({
  siteName: plan.site.name,
  country: plan.site.country,
  radios: apRadios(plan),
  placements: [...placementsOf(plan).values()],
  floors: floorsOf(plan),
  undrawn: plan.brief.rooms.filter(({ outline }) => outline === null),
  repeats: repeatsOf(plan),
  spans: plan.brief.spans,
  ssids: plan.ssids,
  foreign: plan.wifi.foreign,
  networks: stationsOf(plan),
})

/** Plain data: equal where it reads alike. */
export const wifiScene = defineStage('wifi scene', ({ plan }): WifiScene => wifiSceneOf(plan), {
  equal: (earlier, later) => JSON.stringify(earlier) === JSON.stringify(later),
})
