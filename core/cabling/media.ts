// Question: what speed does a medium allow over its length, and do both ends speak the same light?
// Method: the standards' reach tables as data; everything longer or other is refused.
// Source:
// IEEE 802.3-2022 clause 40 (1000BASE-T, 100 m), 126 (2.5G and 5GBASE-T), 55 (10GBASE-T: 55 m on Cat6, 100 m
// on Cat6A), 38 (1000BASE-SX and -LX), 52 (10GBASE-SR and -LR), 59 (1000BASE-LX10);
// ISO/IEC 11801-1 (100 m channel = 90 m fixed + 10 m of cords).
// Reach figures are from memory.
import type { FibreGrade, CopperCategory, OpticName } from '#core/schema'

/** Longest copper channel, m, and its fixed part. */
export const CHANNEL_M = 100

/**
 * Longest run at a speed on a category, m; 0 where the category is not made for it.
 * @param speedMbps 10 to 10,000
 */
export function copperReachM(category: CopperCategory, speedMbps: number): number {
  if (speedMbps <= 5000) return CHANNEL_M
  if (speedMbps > 10_000) return 0
  if (category === 'Cat6A') return CHANNEL_M
  if (category === 'Cat6') return 55
  return 0
}

export interface Optic {
  readonly speedMbps: number
  /** Nominal wavelength, nm: both ends must be alike. */
  readonly wavelengthNm: 850 | 1310
  /** Reach by fibre grade, m; 0 where it is not made for it. */
  readonly reachM: Readonly<Record<FibreGrade, number>>
}

export const OPTICS: Readonly<Record<OpticName, Optic>> = {
  '1000BASE-SX': { speedMbps: 1000, wavelengthNm: 850, reachM: { OM3: 550, OM4: 550, OS2: 0 } },
  '1000BASE-LX10': { speedMbps: 1000, wavelengthNm: 1310, reachM: { OM3: 0, OM4: 0, OS2: 10_000 } },
  '10GBASE-SR': { speedMbps: 10_000, wavelengthNm: 850, reachM: { OM3: 300, OM4: 400, OS2: 0 } },
  '10GBASE-LR': { speedMbps: 10_000, wavelengthNm: 1310, reachM: { OM3: 0, OM4: 0, OS2: 10_000 } },
}

/** The transceiver for a fibre at a speed; null where no kind known here reaches. */
export function opticFor(
  grade: FibreGrade,
  lengthM: number,
  speedsMbps: readonly number[],
): OpticName | null {
  const names = Object.keys(OPTICS) as OpticName[]
  const fitting = names.filter(
    (name) => OPTICS[name].reachM[grade] >= lengthM && speedsMbps.includes(OPTICS[name].speedMbps),
  )
  return fitting.sort((a, b) => OPTICS[b].speedMbps - OPTICS[a].speedMbps)[0] ?? null
}

/** Highest speed that both ends offer and the copper carries; null where there is none. */
export function copperSpeed(
  category: CopperCategory,
  lengthM: number,
  first: readonly number[],
  second: readonly number[],
): number | null {
  const common = first.filter((speed) => second.includes(speed) && lengthM <= copperReachM(category, speed))
  return common.length === 0 ? null : Math.max(...common)
}

/**
 * Share of the line rate that TCP over IPv4 carries at MTU 1500.
 * Formula: 1460 / 1538 (frame, preamble, gap).
 * Worked: 0.9493.
 */
export const TCP_SHARE = 1460 / 1538
