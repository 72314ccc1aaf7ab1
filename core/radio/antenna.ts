// Question: what does an antenna do with power, and what does power do to people?
// Source: Balanis, Antenna Theory, 12.5 (gain of an aperture); ICNIRP 2020, table 5 (10 W/m2 for the public above
// 2 GHz).

const LIGHT_M_PER_S = 299_792_458
const wavelengthM = (mhz: number): number => LIGHT_M_PER_S / (mhz * 1e6)

/** Gain of a dish, dBi; `efficiency` usually 0.5 to 0.65. 0.65 m at 5,800 MHz with 0.6: 29.7. */
export const dishGainDbi = (diameterM: number, mhz: number, efficiency: number): number =>
  10 * Math.log10(efficiency * ((Math.PI * diameterM) / wavelengthM(mhz)) ** 2)

const PUBLIC_LIMIT_W_PER_M2 = 10
/** Nearest that people may stay in the beam, m. 36 dBm EIRP: 0.18; 50 dBm: 0.89. */
export const exposureM = (eirpDbm: number): number =>
  Math.sqrt(10 ** (eirpDbm / 10 - 3) / (4 * Math.PI * PUBLIC_LIMIT_W_PER_M2))
