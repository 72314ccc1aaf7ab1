// Question: how fast is a radio of a generation of IEEE 802.11 at a given level?
// Source: IEEE 802.11-2020, 19.5 (n), 21.5 (ac), 20.6 (ad: blocks of 448 symbols of data in 512, at 1,760 million a
// second); 802.11ax-2021, 27.5 (rates), 27.3.20.2 (least sensitivity); 802.11be, 36.5 (320 MHz).
import type { ChannelWidth, Generation, LinkGeneration, LinkWidth } from '#core/schema'
import { FAST_MCS, MCS, MCS_60, sensitivityDbm, WIDTH_60_MHZ, type Mcs } from './rates'

type Width = ChannelWidth | LinkWidth
interface Modulation {
  /** Carriers of data by width, MHz; near 60 GHz symbols of data in a block. */
  readonly carriers: Readonly<Partial<Record<Width, number>>>
  /** With a guard interval of 800 ns; near 60 GHz of a block. */
  readonly symbolUs: number
  /** Slowest first. */
  readonly mcs: readonly Mcs[]
}
const WIFI_MCS = [...MCS, ...FAST_MCS]
const NARROW = { 20: 52, 40: 108 }
const HE = { 20: 234, 40: 468, 80: 980, 160: 1960 }
const MODULATIONS: Readonly<Record<LinkGeneration, Modulation>> = {
  n: { carriers: NARROW, symbolUs: 4, mcs: WIFI_MCS.slice(0, 8) },
  ac: { carriers: { ...NARROW, 80: 234, 160: 468 }, symbolUs: 4, mcs: MCS },
  ax: { carriers: HE, symbolUs: 13.6, mcs: WIFI_MCS.slice(0, 12) },
  be: { carriers: { ...HE, 320: 3920 }, symbolUs: 13.6, mcs: WIFI_MCS },
  ad: { carriers: { [WIDTH_60_MHZ]: 448 }, symbolUs: 512 / 1760, mcs: MCS_60 },
}

/**
 * Rate on the air, Mb/s; null for a width that a generation does not know.
 * 802.11ac, 80 MHz, MCS 9, two streams: 780; 802.11ad, MCS 12: 4,620.
 */
export function rateMbps(
  generation: LinkGeneration,
  widthMhz: Width,
  streams: number,
  mcs: Mcs,
): number | null {
  const { carriers, symbolUs } = MODULATIONS[generation]
  const count = carriers[widthMhz]
  return count === undefined ? null : (count * mcs.bitsPerSymbol * mcs.coding * streams) / symbolUs
}

export const mcsOf = (generation: Generation): readonly Mcs[] => MODULATIONS[generation].mcs
export const knowsWidth = (generation: LinkGeneration, widthMhz: Width): boolean =>
  MODULATIONS[generation].carriers[widthMhz] !== undefined
/** Near 60 GHz a radio sends one stream (IEEE 802.11-2020, 20); of others a plan can say four. */
export const mostStreams = (generation: LinkGeneration): number => (generation === 'ad' ? 1 : 4)

/** How something is sent, and heard. */
export interface Sending {
  readonly generation: LinkGeneration
  readonly widthMhz: Width
  readonly streams: number
  /** As `sensitivityDbm` takes it of the receiver; absent for the standard's. */
  readonly ownDbm?: readonly number[]
}

/** The fastest that is received with a margin; null where not even the slowest is. */
export function fastestAt(
  levelDbm: number,
  marginDb: number,
  { generation, widthMhz, ownDbm }: Omit<Sending, 'streams'>,
): Mcs | null {
  const isHeard = (one: Mcs) => levelDbm - marginDb >= sensitivityDbm(one, widthMhz, ownDbm)
  return MODULATIONS[generation].mcs.findLast(isHeard) ?? null
}

/** Rate on the air at a level with a margin, Mb/s; 0 where not even the slowest is received. */
export function rateAt(levelDbm: number, marginDb: number, sending: Sending): number {
  const { generation, widthMhz, streams } = sending
  const fastest = fastestAt(levelDbm, marginDb, sending)
  return fastest ? (rateMbps(generation, widthMhz, streams, fastest) ?? 0) : 0
}
