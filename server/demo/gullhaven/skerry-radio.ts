import { BLANK_RADIO } from '#core/edit'
import type { RadioSettings } from '#core/schema'
import type { Variant } from './places'

const END = {
  powerDbm: 13,
  gainDbi: 23,
  feederDb: 0.5,
  readDbm: null,
  solar: { panelW: null, sunHours: null, batteryWh: null, drawW: null },
  asSet: BLANK_RADIO.ends.a.asSet,
  // A grid of 13 dBi on a broomstick.
  survey: { readDbm: -68, gainDbi: 13 },
  mounting: { dishM: 0.4, mastM: 3, footM: null },
}

/**
 * The bridge over the water: a dish at each end, heights above the mean sea, surveyed from the boat.
 * In the demo the far mast is too low for the rock on the way.
 */
export const skerryRadio = ({ clean }: Pick<Variant, 'clean'>): RadioSettings => ({
  mhz: 5600,
  widthMhz: 40,
  networkName: 'skerry-water',
  security: 'wpa3',
  gustMps: 42,
  generation: 'ac',
  streams: 2,
  rangeSetM: 3500,
  neededMbps: 40,
  polarization: 'vertical',
  rainMmPerHour: 32,
  marginDb: 10,
  ends: {
    a: {
      ...END,
      antennaM: 14,
      role: 'access-point',
      seen: 'the left edge of the beacon rock',
      protection: 'surge protector at the eaves, mast bonded to the main earth',
    },
    b: {
      ...END,
      antennaM: clean ? 11 : 9,
      role: 'station',
      seen: 'the boathouse gable',
      protection: 'surge protector in the hut, mast bonded to the earth plate in the sea',
      // A panel of 200 W for what the hut's radio, switch and cameras take is more than the dark month asks.
      solar: { panelW: 400, sunHours: 1.1, batteryWh: 2400, drawW: 12 },
    },
  },
  profile: [
    { id: 'shore', atM: 60, groundM: 4, obstacleM: 2, growsM: 0 },
    { id: 'water', atM: 150, groundM: 0, obstacleM: 0, growsM: 0 },
    { id: 'rock-foot', atM: 2280, groundM: 0, obstacleM: 0, growsM: 0 },
    { id: 'beacon-rock', atM: 2350, groundM: 2, obstacleM: 5.5, growsM: 0 },
    { id: 'rock-back', atM: 2420, groundM: 0, obstacleM: 0, growsM: 0 },
    { id: 'skerry', atM: 3290, groundM: 0, obstacleM: 0, growsM: 0 },
    { id: 'landing', atM: 3340, groundM: 3, obstacleM: 0, growsM: 0 },
  ],
})
