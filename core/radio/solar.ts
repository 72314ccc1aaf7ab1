// Question: how long does an end last that is fed by the sun?
// Method: what the panel brings on a day of the darkest month against what is taken day and night; of the battery, what
// may be drawn from it.
// Source: balance of energy; what panel, charger and battery pass on, and how deep a battery is emptied, common
// practice without a source.
import type { SolarSupply } from '#core/schema'

/** Of what a panel is rated for, what arrives at the load. */
const PASSED_ON = 0.7
/** Of a battery's energy, what is drawn from it. */
const DRAWN = 0.8
const HOURS_A_DAY = 24

export interface SolarDays {
  /** `short`: each day brings less than it takes; `dark`: it lasts so long without any sun. */
  readonly kind: 'short' | 'dark'
  readonly days: number
}

/** Null while something is not said. Worked: 12 W from 2,400 Wh without sun: 6.6 days, tenths cut off. */
export function solarDays({ panelW, sunHours, batteryWh, drawW }: SolarSupply): SolarDays | null {
  if (panelW === null || sunHours === null || batteryWh === null || drawW === null || drawW === 0) return null
  const takesWh = drawW * HOURS_A_DAY
  const shortWh = takesWh - panelW * sunHours * PASSED_ON
  const lasts = (each: number) => Math.floor((10 * batteryWh * DRAWN) / each) / 10
  return shortWh > 0 ? { kind: 'short', days: lasts(shortWh) } : { kind: 'dark', days: lasts(takesWh) }
}
