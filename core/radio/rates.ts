// Question: from which level on does a radio receive each rate?
// Source: IEEE 802.11-2020, 21.3.18.1 (least sensitivity at 20 MHz; 3 dB more for each doubling), table 20-3 (60 GHz).

export interface Mcs {
  readonly index: number
  readonly name: string
  readonly bitsPerSymbol: number
  readonly coding: number
  /** Least level at which a radio of the standard receives it in 20 MHz, near 60 GHz in 2,160 MHz, dBm. */
  readonly sensitivityDbm: number
}

const mcs = (
  index: number,
  name: string,
  bitsPerSymbol: number,
  coding: number,
  sensitivityDbm: number,
): Mcs => ({ index, name, bitsPerSymbol, coding, sensitivityDbm })

const SLOWEST = mcs(0, 'BPSK 1/2', 1, 1 / 2, -82)
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
/** Beyond 256-QAM; the sensitivities of 4096-QAM are from memory. */
export const FAST_MCS: readonly Mcs[] = [
  mcs(10, '1024-QAM 3/4', 10, 3 / 4, -54),
  mcs(11, '1024-QAM 5/6', 10, 5 / 6, -52),
  mcs(12, '4096-QAM 3/4', 12, 3 / 4, -49),
  mcs(13, '4096-QAM 5/6', 12, 5 / 6, -46),
]
/** The first sends each bit twice. */
const SLOWEST_60 = mcs(1, 'BPSK 1/2, twice', 1, 1 / 4, -68)
/** One carrier near 60 GHz; its MCS 0 carries no data. From memory. */
export const MCS_60: readonly Mcs[] = [
  SLOWEST_60,
  mcs(2, 'BPSK 1/2', 1, 1 / 2, -66),
  mcs(3, 'BPSK 5/8', 1, 5 / 8, -65),
  mcs(4, 'BPSK 3/4', 1, 3 / 4, -64),
  mcs(5, 'BPSK 13/16', 1, 13 / 16, -62),
  mcs(6, 'QPSK 1/2', 2, 1 / 2, -63),
  mcs(7, 'QPSK 5/8', 2, 5 / 8, -62),
  mcs(8, 'QPSK 3/4', 2, 3 / 4, -61),
  mcs(9, 'QPSK 13/16', 2, 13 / 16, -59),
  mcs(10, '16-QAM 1/2', 4, 1 / 2, -55),
  mcs(11, '16-QAM 5/8', 4, 5 / 8, -54),
  mcs(12, '16-QAM 3/4', 4, 3 / 4, -53),
]

/** Width of a channel near 60 GHz, MHz. */
export const WIDTH_60_MHZ = 2160
export const slowestIn = (widthMhz: number): Mcs => (widthMhz === WIDTH_60_MHZ ? SLOWEST_60 : SLOWEST)

/**
 * Least level at which a rate is received, dBm.
 * @param own the receiver's own of each MCS in 20 MHz, near 60 GHz in 2,160 MHz, dBm; the standard's from where it ends
 */
export function sensitivityDbm(one: Mcs, widthMhz: number, own: readonly number[] = []): number {
  const leastDbm = own[one.index] ?? one.sensitivityDbm
  return widthMhz === WIDTH_60_MHZ ? leastDbm : leastDbm + 3 * Math.log2(widthMhz / 20)
}
