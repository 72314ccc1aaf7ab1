// Question: how fast is a radio at a given level?
// Source: IEEE 802.11-2020, 19.5, 21.5 (rates), 21.3.18.1 (least sensitivity at 20 MHz; 3 dB more for each doubling).

export type WidthMhz = 20 | 40 | 80 | 160

export interface Mcs {
  readonly index: number
  readonly name: string
  readonly bitsPerSymbol: number
  readonly coding: number
  /** Least level at which a radio of the standard receives it in 20 MHz, dBm. */
  readonly sensitivityDbm: number
}

const mcs = (
  index: number,
  name: string,
  bitsPerSymbol: number,
  coding: number,
  sensitivityDbm: number,
): Mcs => ({ index, name, bitsPerSymbol, coding, sensitivityDbm })

export const SLOWEST = mcs(0, 'BPSK 1/2', 1, 1 / 2, -82)
export const MCS: readonly Mcs[] = [
  SLOWEST,
  mcs(1, 'QPSK 1/2', 2, 1 / 2, -79),
  mcs(2, 'QPSK 3/4', 2, 3 / 4, -77),
  mcs(3, '16-QAM 1/2', 4, 1 / 2, -74),
  mcs(4, '16-QAM 3/4', 4, 3 / 4, -70),
  mcs(5, '64-QAM 2/3', 6, 2 / 3, -66),
  mcs(6, '64-QAM 3/4', 6, 3 / 4, -65),
  mcs(7, '64-QAM 5/6', 6, 5 / 6, -64),
  mcs(8, '256-QAM 3/4', 8, 3 / 4, -59),
  mcs(9, '256-QAM 5/6', 8, 5 / 6, -57),
]

/** Carriers of data by width, MHz (21.3.6). */
const DATA_CARRIERS: Readonly<Record<WidthMhz, number>> = { 20: 52, 40: 108, 80: 234, 160: 468 }
/** With the usual guard interval of 800 ns, and with the short one of 400. */
const SYMBOL_US = { usual: 4, short: 3.6 } as const

/** Rate on the air, Mb/s. 20 MHz, MCS 7, one stream: 65; 80 MHz, MCS 9, two, short guard: 866.7. */
export const phyMbps = (
  { bitsPerSymbol, coding }: Mcs,
  widthMhz: WidthMhz,
  streams: number,
  guard: keyof typeof SYMBOL_US = 'usual',
): number => (DATA_CARRIERS[widthMhz] * bitsPerSymbol * coding * streams) / SYMBOL_US[guard]

/**
 * Least level at which a rate is received, dBm.
 * @param own the receiver's own of each MCS in 20 MHz, dBm; the standard's from where it ends
 */
export const sensitivityDbm = (one: Mcs, widthMhz: number, own: readonly number[] = []): number =>
  (own[one.index] ?? one.sensitivityDbm) + 3 * Math.log2(widthMhz / 20)

/** The fastest that is received with so much to spare; null where not even the slowest is. */
export const fastestAt = (
  levelDbm: number,
  widthMhz: WidthMhz,
  marginDb: number,
  own: readonly number[] = [],
): Mcs | null => MCS.findLast((one) => levelDbm - marginDb >= sensitivityDbm(one, widthMhz, own)) ?? null
