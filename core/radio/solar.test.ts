import { describe, expect, it } from 'vitest'
import { solarDays } from './solar'

// A balance of energy worked by hand; what is passed on and drawn is common practice without a source.

const supply = { panelW: 160, sunHours: 3, batteryWh: 2400, drawW: 12 }

describe('an end that is fed by the sun', () => {
  it('lasts, where the darkest month brings what is taken, as long as the battery does without any', () => {
    // 160 W x 3 h x 0.7 = 336 Wh come, 12 W x 24 h = 288 Wh go; 2400 Wh x 0.8 / 288 Wh = 6.67.
    expect(solarDays(supply)).toEqual({ kind: 'dark', days: 6.6 })
  })
  it('runs down slowly where each day brings less than it takes', () => {
    // 50 W x 5 h x 0.7 = 175 Wh come; 288 - 175 = 113 Wh a day are missing; 1920 / 113 = 16.99.
    expect(solarDays({ ...supply, panelW: 50, sunHours: 5 })).toEqual({ kind: 'short', days: 16.9 })
  })
  it('is balanced where it brings just what it takes', () => {
    // 100 W x 3 h x 0.7 = 210 Wh = 8.75 W x 24 h.
    expect(solarDays({ ...supply, panelW: 100, drawW: 8.75 })?.kind).toBe('dark')
    expect(solarDays({ ...supply, panelW: 100, drawW: 8.76 })?.kind).toBe('short')
  })
  it('says nothing while something is not said, or nothing is drawn', () => {
    for (const key of Object.keys(supply)) expect(solarDays({ ...supply, [key]: null }), key).toBeNull()
    expect(solarDays({ ...supply, drawW: 0 })).toBeNull()
  })
})
