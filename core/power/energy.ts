// Question: how long does the battery last, and what does a year cost?
// Method: watts over time; losses of supplies and inverter as stated shares.
// Source: kWh = W h / 1000; efficiencies are common practice, without a published source, and can be typed
// over.

/** Share of mains power that a device's own supply passes on (practice). */
export const SUPPLY_EFFICIENCY = 0.9
const HOURS_A_YEAR = 8760

/** Energy of a steady load in a year, kWh. Worked: 100 W -> 876 kWh. */
export function yearlyKwh(loadW: number): number {
  return (loadW * HOURS_A_YEAR) / 1000
}

/**
 * Minutes that a battery carries a load.
 * Formula:
 * Wh x efficiency / W x 60.
 * Worked: 600 Wh, 0.9, 120 W -> 270 min.
 * Null where nothing is drawn. @param efficiency of the inverter, 0 to 1
 */
export function runTimeMin(batteryWh: number, efficiency: number, loadW: number): number | null {
  return loadW <= 0 ? null : (batteryWh * efficiency * 60) / loadW
}

/**
 * Yearly energy from a reading of a meter.
 * Worked: 0.1 kWh in 44 h -> 19.9 kWh, at 0.11 a kWh 2.19 a year.
 */
export function yearlyFromReading(kwh: number, hours: number): number {
  return hours <= 0 ? 0 : (kwh / hours) * HOURS_A_YEAR
}
