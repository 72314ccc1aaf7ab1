// Question: which channel should each radio of a site take, and is what was chosen worse than need be?
// Method: the radios of a band with what they hear of each other and of neighbours, and the channels that their country
// permits them.
import type { Band } from '#core/schema'
import { channelsOf, overlap } from './channels'
import { costAsSet, planChannels, settledChannels, type ChannelPlan, type ChannelRadio } from './channel-plan'
import { hearingOf, type Hearing } from './hearing'
import { limitOf, spanOf, type ApRadio } from './radios'
import type { WifiScene } from './scene'

export interface SiteChannels {
  readonly radios: readonly ApRadio[]
  readonly problem: readonly ChannelRadio[]
  readonly hears: Hearing
  /** Of how many nobody knows where they hang. */
  readonly unplaced: number
}

/** Channels that a radio may take: those without any trouble, else those of its country, else those of its band. */
function choicesFor(radio: ApRadio, country: string, isOutdoors: boolean): number[] {
  const all = channelsOf(radio.band, radio.widthMhz).map((channel) => ({
    channel,
    trouble: limitOf({ ...radio, channel }, country, isOutdoors)?.trouble ?? null,
  }))
  const right = all.filter(({ trouble }) => trouble === null)
  const quieter = all.filter(({ trouble }) => trouble === null || trouble === 'too-strong')
  const chosen = [right, quieter, all].find((list) => list.length > 0) ?? []
  return chosen.map(({ channel }) => channel)
}

/**
 * Radios of a band that have channels of their own, or those of them that are meant, with what they hear; null where
 * there are none.
 */
export function siteChannels(
  scene: WifiScene,
  band: Band,
  isMeant: (radio: ApRadio) => boolean = () => true,
): SiteChannels | null {
  const isOwn = ({ follows, isSilent }: ApRadio) => follows === null && !isSilent
  const radios = scene.radios.filter((radio) => radio.band === band && isOwn(radio) && isMeant(radio))
  if (radios.length === 0) return null
  const outdoors = new Map(scene.placements.map(({ deviceId, outdoors: isOut }) => [deviceId, isOut]))
  const problem = radios.map((radio): ChannelRadio => ({
    id: radio.id,
    band,
    widthMhz: radio.widthMhz,
    choices: choicesFor(radio, scene.country, outdoors.get(radio.deviceId) ?? false),
    fixed: null,
    foreign: scene.foreign.filter(({ deviceId }) => deviceId === radio.deviceId),
  }))
  return {
    radios,
    problem,
    hears: hearingOf(scene, radios),
    unplaced: radios.filter(({ deviceId }) => !outdoors.has(deviceId)).length,
  }
}

/** The best channels of a band's radios. */
export const bestChannels = ({ problem, hears }: SiteChannels): ChannelPlan => planChannels(problem, hears)

export interface ChannelConflict {
  /** The two that disturb each other most. */
  readonly loudest: { readonly first: ApRadio; readonly second: ApRadio; readonly dBm: number }
  /** What a better choice changes. */
  readonly moves: readonly { readonly radio: ApRadio; readonly channel: number }[]
}

/** A choice that is better by less than this is not worth a change, dB. */
const WORTH_DB = 1
/** Radios of a band that are looked at; of more each pair would take too long, with every edit. */
export const MOST_JUDGED = 200

function loudestPair(radios: readonly ApRadio[], hears: Hearing): ChannelConflict['loudest'] | null {
  let loudest: ChannelConflict['loudest'] | null = null
  const spans = radios.map(spanOf)
  for (const [i, first] of radios.entries())
    for (let j = i + 1; j < radios.length; j++) {
      const [one, other, second] = [spans[i], spans[j], radios[j]]
      if (!one || !other || !second || overlap(one, other) === 0) continue
      const dBm = Math.max(hears(i, j), hears(j, i))
      if (!loudest || dBm > loudest.dBm) loudest = { first, second, dBm }
    }
  return loudest
}

/**
 * Radios of a band whose channels were typed and of which everybody knows where they hang, where another choice has
 * less disturbance; null where there is none, or where they are more than `MOST_JUDGED`.
 */
export function conflictOf(scene: WifiScene, band: Band): ChannelConflict | null {
  const placed = new Set(scene.placements.map(({ deviceId }) => deviceId))
  const channels = siteChannels(
    scene,
    band,
    ({ channel, isTyped, deviceId }) => isTyped && channel !== null && placed.has(deviceId),
  )
  if (!channels || channels.radios.length > MOST_JUDGED) return null
  const { radios, problem, hears } = channels
  const now = costAsSet(
    problem.map((radio, i) => ({ ...radio, fixed: radios[i]?.channel ?? null })),
    hears,
  )
  const loudest = loudestPair(radios, hears)
  // Where nobody disturbs another there is nothing to look for.
  if (!loudest || now < WORTH_DB) return null
  const better = settledChannels(problem, hears)
  if (now < better.cost + WORTH_DB) return null
  const moves = radios.flatMap((radio, i) => {
    const channel = better.channels[i] ?? radio.channel
    return channel === null || channel === radio.channel ? [] : [{ radio, channel }]
  })
  return { loudest, moves }
}
