// Question: which frequencies does a channel take, and which channels overlap?
// Source: IEEE 802.11-2020, 17.3.8.4 and 19.3.15 (centres and pairs), 21.3.14 (80 and 160 MHz), IEEE 802.11ax, 27.3.23
// (6 GHz).
import type { Band, ChannelWidth } from '#core/schema'

/** What a radio takes of the air, MHz. */
export interface Span {
  readonly fromMhz: number
  readonly toMhz: number
}

/** Where channel 0 would be, MHz; one channel number is 5 MHz further. */
const BASE_MHZ: Readonly<Record<Band, number>> = { '2.4': 2407, '5': 5000, '6': 5950 }
const STEP_MHZ = 5
const NARROW_MHZ = 20

/** Runs of neighbouring 20 MHz channels: first and last. Wider channels are cut from them from their beginning. */
const RUNS: Readonly<Record<Band, readonly (readonly [first: number, last: number])[]>> = {
  '2.4': [[1, 13]],
  '5': [
    [36, 64],
    [100, 144],
    [149, 177],
  ],
  '6': [[1, 233]],
}
/** Of the 2.4 GHz band, those that do not overlap in 20 MHz (common practice, without a source). */
const APART_24 = [1, 6, 11]

/** Widths that a band has room for, MHz. */
export const WIDTHS: Readonly<Record<Band, readonly ChannelWidth[]>> = {
  '2.4': [20, 40],
  '5': [20, 40, 80, 160],
  '6': [20, 40, 80, 160, 320],
}

export const centreMhz = (band: Band, channel: number): number => BASE_MHZ[band] + STEP_MHZ * channel

/** The channel whose 20 MHz lie around a frequency; null where there is none. */
export function channelAt(mhz: number): { readonly band: Band; readonly channel: number } | null {
  for (const band of ['2.4', '5', '6'] as const) {
    const channel = (mhz - BASE_MHZ[band]) / STEP_MHZ
    if (Number.isInteger(channel) && channelSpan(band, channel, NARROW_MHZ)) return { band, channel }
  }
  return null
}

/** In 2.4 GHz the second half lies above, or below where there is no room above. */
function spanOf24(channel: number, widthMhz: number): Span | null {
  const centre = centreMhz('2.4', channel)
  const narrow = { fromMhz: centre - NARROW_MHZ / 2, toMhz: centre + NARROW_MHZ / 2 }
  if (channel > 13 || widthMhz > 40) return null
  if (widthMhz === NARROW_MHZ) return narrow
  return channel <= 9
    ? { ...narrow, toMhz: narrow.toMhz + NARROW_MHZ }
    : { ...narrow, fromMhz: narrow.fromMhz - NARROW_MHZ }
}

/**
 * What a primary channel takes at a width; null where there is no such channel, or no room for the width.
 * 5 GHz, 36 in 80 MHz: 5,170 to 5,250; 100 in 160 MHz: 5,490 to 5,650.
 */
export function channelSpan(band: Band, channel: number, widthMhz: ChannelWidth): Span | null {
  if (band === '2.4') return spanOf24(channel, widthMhz)
  const between = NARROW_MHZ / STEP_MHZ
  const run = RUNS[band].find(([first, last]) => channel >= first && channel <= last)
  if (!run || (channel - run[0]) % between !== 0) return null
  const channels = widthMhz / NARROW_MHZ
  const place = Math.floor((channel - run[0]) / between / channels) * channels
  const [first, last] = [run[0] + place * between, run[0] + (place + channels - 1) * between]
  if (last > run[1]) return null
  return {
    fromMhz: centreMhz(band, first) - NARROW_MHZ / 2,
    toMhz: centreMhz(band, last) + NARROW_MHZ / 2,
  }
}

/** Primary channels to choose among at a width, one for each span; in 2.4 GHz those that leave each other alone. */
export function channelsOf(band: Band, widthMhz: ChannelWidth): number[] {
  if (band === '2.4') return widthMhz === NARROW_MHZ ? APART_24 : [1, 9]
  const step = widthMhz / STEP_MHZ
  return RUNS[band].flatMap(([first, last]) => {
    const count = Math.floor((last - first) / step) + 1
    return Array.from({ length: count }, (_, i) => first + i * step).filter(
      (channel) => channelSpan(band, channel, widthMhz) !== null,
    )
  })
}

/** The part of the first that the second takes as well, 0 to 1. */
export function overlap(first: Span, second: Span): number {
  const shared = Math.min(first.toMhz, second.toMhz) - Math.max(first.fromMhz, second.fromMhz)
  return Math.max(0, shared) / (first.toMhz - first.fromMhz)
}
