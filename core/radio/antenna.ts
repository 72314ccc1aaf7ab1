// Question: what does an antenna do with power, and what does power do to people?
// Source: Balanis, Antenna Theory, 12.5 (gain of an aperture); 3GPP TR 36.814, table A.2.1.1-2 (sector pattern) and
// ITU-R F.1336-5, recommends 3.3 (height of a sector's beam), both from memory; ICNIRP 2020, table 5 (10 W/m2 for the
// public above 2 GHz).

const LIGHT_M_PER_S = 299_792_458
const wavelengthM = (mhz: number): number => LIGHT_M_PER_S / (mhz * 1e6)

/** Gain of a dish, dBi; `efficiency` usually 0.5 to 0.65. 0.65 m at 5,800 MHz with 0.6: 29.7. */
export const dishGainDbi = (diameterM: number, mhz: number, efficiency: number): number =>
  10 * Math.log10(efficiency * ((Math.PI * diameterM) / wavelengthM(mhz)) ** 2)

/** Beam of an antenna that does not send all around, by its directions of half the power. */
export interface Sector {
  readonly widthDeg: number
  readonly gainDbi: number
}
/** What a sector sends backwards and sideways, at most so much less than ahead, dB. */
const MOST_BEHIND_DB = 25
const MOST_ABOVE_DB = 20

/** Seen from the side, degrees; the narrower, the more gain. 16 dBi over 90 degrees: 8.65. */
export const sectorHeightDeg = ({ widthDeg, gainDbi }: Sector): number =>
  Math.min(180, (31_000 * 10 ** (-gainDbi / 10)) / widthDeg)

/**
 * How much less a sector sends beside its axis than along it, dB: 3 at half its width.
 * @param acrossDeg off the axis seen from above, -180 to 180
 * @param upDeg off the axis seen from the side, -180 to 180
 */
export function sectorLossDb(sector: Sector, acrossDeg: number, upDeg: number): number {
  const across = Math.min(MOST_BEHIND_DB, 12 * (acrossDeg / sector.widthDeg) ** 2)
  const up = Math.min(MOST_ABOVE_DB, 12 * (upDeg / sectorHeightDeg(sector)) ** 2)
  return Math.min(MOST_BEHIND_DB, across + up)
}

const PUBLIC_LIMIT_W_PER_M2 = 10
/** Nearest that people may stay in the beam, m. 36 dBm EIRP: 0.18; 50 dBm: 0.89. */
export const exposureM = (eirpDbm: number): number =>
  Math.sqrt(10 ** (eirpDbm / 10 - 3) / (4 * Math.PI * PUBLIC_LIMIT_W_PER_M2))
