// Question: how fast is a Wi-Fi radio of a generation at a given level?
// Source: IEEE 802.11-2020, 19.5 (n), 21.5 (ac); 802.11ax-2021, 27.5 (rates), 27.3.20.2 (least sensitivity);
// 802.11be, 36.5 (320 MHz).
import type { ChannelWidth, Generation } from '#core/schema'
import { MCS, sensitivityDbm, type Mcs } from './rates'

const more = (index: number, name: string, bits: number, coding: number, dBm: number): Mcs => ({
  index,
  name,
  bitsPerSymbol: bits,
  coding,
  sensitivityDbm: dBm,
})
/** Beyond 256-QAM; the sensitivities of 4096-QAM are from memory. */
const WIFI_MCS: readonly Mcs[] = [
  ...MCS,
  more(10, '1024-QAM 3/4', 10, 3 / 4, -54),
  more(11, '1024-QAM 5/6', 10, 5 / 6, -52),
  more(12, '4096-QAM 3/4', 12, 3 / 4, -49),
  more(13, '4096-QAM 5/6', 12, 5 / 6, -46),
]

interface Modulation {
  /** Carriers of data by width, MHz. */
  readonly carriers: Readonly<Partial<Record<ChannelWidth, number>>>
  /** With a guard interval of 800 ns. */
  readonly symbolUs: number
  readonly mostMcs: number
}
const NARROW = { 20: 52, 40: 108 }
const HE = { 20: 234, 40: 468, 80: 980, 160: 1960 }
const MODULATIONS: Readonly<Record<Generation, Modulation>> = {
  n: { carriers: NARROW, symbolUs: 4, mostMcs: 7 },
  ac: { carriers: { ...NARROW, 80: 234, 160: 468 }, symbolUs: 4, mostMcs: 9 },
  ax: { carriers: HE, symbolUs: 13.6, mostMcs: 11 },
  be: { carriers: { ...HE, 320: 3920 }, symbolUs: 13.6, mostMcs: 13 },
}

/** Rate on the air, Mb/s; null for a width that a generation does not know. */
export function rateMbps(
  generation: Generation,
  widthMhz: ChannelWidth,
  streams: number,
  mcs: Mcs,
): number | null {
  const { carriers, symbolUs } = MODULATIONS[generation]
  const count = carriers[widthMhz]
  return count === undefined ? null : (count * mcs.bitsPerSymbol * mcs.coding * streams) / symbolUs
}

export const mcsOf = (generation: Generation): readonly Mcs[] =>
  WIFI_MCS.slice(0, MODULATIONS[generation].mostMcs + 1)

/** How something is sent, and heard. */
export interface Sending {
  readonly generation: Generation
  readonly widthMhz: ChannelWidth
  readonly streams: number
  /** As `sensitivityDbm` takes it of the receiver; absent for the standard's. */
  readonly ownDbm?: readonly number[]
}

/** Rate on the air at a level with a margin, Mb/s; 0 where not even the slowest is received. */
export function rateAt(
  levelDbm: number,
  marginDb: number,
  { generation, widthMhz, streams, ownDbm }: Sending,
): number {
  const fastest = mcsOf(generation).findLast(
    (one) => levelDbm - marginDb >= sensitivityDbm(one, widthMhz, ownDbm),
  )
  return fastest ? (rateMbps(generation, widthMhz, streams, fastest) ?? 0) : 0
}
