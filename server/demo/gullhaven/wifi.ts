import type { Draft, Outline, WifiFacts } from '#core/schema'
import type { Variant } from './places'

const BRICK = { top: 'brick', right: 'brick', bottom: 'brick', left: 'brick' } as const

/** As paced out, on the ground floors. */
export const OUTLINES: Readonly<Record<string, Draft<Outline>>> = {
  office: {
    floor: 0,
    xM: 0,
    yM: 0,
    widthM: 14,
    depthM: 8,
    walls: { ...BRICK, right: 'plasterboard' },
  },
  'wet-lab': { floor: 0, xM: 14, yM: 0, widthM: 10, depthM: 8, walls: { ...BRICK, left: 'plasterboard' } },
  store: {
    floor: 0,
    xM: 24,
    yM: 2,
    widthM: 6,
    depthM: 6,
    walls: { top: 'concrete', right: 'concrete', bottom: 'concrete', left: 'concrete' },
  },
  cafe: { floor: 0, xM: 0, yM: 0, widthM: 16, depthM: 9, walls: { ...BRICK, bottom: 'glass' } },
}

const radio = (
  id: string,
  deviceId: string,
  band: '2.4' | '5',
  channel: number,
  powerDbm: number,
): Draft<WifiFacts>['radios'][number] => ({
  id,
  deviceId,
  band,
  generation: 'ax',
  streams: 2,
  channel,
  widthMhz: band === '2.4' ? 20 : 40,
  powerDbm,
  gainDbi: band === '2.4' ? 3 : 4,
})

/** In the demo both access points of the laboratory came with channel 6, and nobody has changed it. */
export const wifiFacts = ({ clean }: Variant): Draft<WifiFacts> => ({
  radios: [
    radio('lab-1-24', 'lab-ap-1', '2.4', clean ? 1 : 6, 14),
    radio('lab-1-5', 'lab-ap-1', '5', 36, 17),
    radio('lab-2-24', 'lab-ap-2', '2.4', 6, 14),
    radio('lab-2-5', 'lab-ap-2', '5', 44, 17),
  ],
  placements: [
    {
      deviceId: 'extender',
      buildingId: 'visit',
      floor: 0,
      xM: 14,
      yM: 7.5,
      heightM: 1,
      outdoors: false,
      beam: null,
    },
    {
      deviceId: 'lab-ap-1',
      buildingId: 'lab',
      floor: 0,
      xM: 4,
      yM: 4,
      heightM: 2.6,
      outdoors: false,
      beam: null,
    },
  ],
  foreign: [
    {
      id: 'harbour',
      name: 'Harbour Office',
      band: '2.4',
      channel: 11,
      widthMhz: 20,
      levelDbm: -71,
      deviceId: 'lab-ap-2',
    },
  ],
})
