import { describe, expect, it } from 'vitest'
import type { BuildingId, DeviceId } from '#core/schema'
import { betterServed } from './better-served'
import { roomSignals, type Emitter } from './coverage'
import type { DrawnRoom, Floor } from './floors'
import { wifiSceneOf } from './scene'
import { site } from '../../tests/plans'
import { radios } from '../../tests/findings/wifi'

const HOUSE = 'house' as BuildingId
const OPEN = { top: 'open', right: 'open', bottom: 'open', left: 'open' } as const
const room = (name: string, xM: number): DrawnRoom => ({
  id: name,
  name,
  buildingId: HOUSE,
  people: 2,
  outline: { floor: 0, xM, yM: 0, widthM: 2, depthM: 2, walls: OPEN },
  readDbm: null,
})
/** An access point of 18 dBm EIRP on 5,180 MHz in the first of some rooms without walls. */
function floorOf(...rooms: readonly DrawnRoom[]): { floor: Floor; emitters: Emitter[] } {
  const [radio] = wifiSceneOf(site((plan) => radios(plan, {}))).radios
  if (!radio) throw new Error('the plan has a radio')
  const placement = {
    deviceId: 'ap1' as DeviceId,
    buildingId: HOUSE,
    floor: 0,
    xM: 1,
    yM: 1,
    heightM: 2.5,
    outdoors: false,
    beam: null,
    isAssumed: false,
  }
  const widthM = Math.max(...rooms.map(({ outline }) => outline.xM + outline.widthM))
  return {
    floor: { buildingId: HOUSE, floor: 0, rooms, widthM, depthM: 2 },
    emitters: [{ radio, placement, mhz: 5180 }],
  }
}
/** Of rooms so far from the access point, what would serve each. */
function better(country: string, ...farM: readonly number[]) {
  const rooms = [room('hall', 0), ...farM.map((xM) => room(`at ${xM}`, xM))]
  const { floor, emitters } = floorOf(...rooms)
  const wanting = roomSignals(floor, emitters, 1).filter(({ worstTenthDbm }) => (worstTenthDbm ?? 0) < -75)
  return Object.fromEntries(betterServed(floor, emitters, wanting, { country, stepM: 1 }))
}

// Free space (P.525): 18 dBm are -75 dBm after 205 m, and one dB less after 230 m.
describe('a room in which next to nothing is heard', () => {
  it('is served by as much more power as it lacks, where that is permitted', () => {
    expect(better('GB', 206)).toEqual({ 'at 206': { kind: 'power', device: 'AP a', byDb: 1 } })
    expect(better('GB', 236)).toEqual({ 'at 236': { kind: 'power', device: 'AP a', byDb: 2 } })
  })
  it('is served by one more access point where no rule is known, or too much power is asked for', () => {
    expect(better('', 206)).toEqual({ 'at 206': { kind: 'place', room: 'at 206', rooms: 1 } })
    expect(better('GB', 470)).toEqual({ 'at 470': { kind: 'place', room: 'at 470', rooms: 1 } })
    // Permitted are 23 dBm EIRP on this channel: 6 dB more than 18 are too many, 5 are not.
    expect(better('GB', 360)).toEqual({ 'at 360': { kind: 'power', device: 'AP a', byDb: 5 } })
    expect(better('GB', 380)).toEqual({ 'at 380': { kind: 'place', room: 'at 380', rooms: 1 } })
  })
  it('is told of the one place that serves most of such rooms', () => {
    const place = { kind: 'place', room: 'at 600', rooms: 3 }
    expect(better('', 420, 600, 780)).toEqual({ 'at 420': place, 'at 600': place, 'at 780': place })
    // From no room all of these are heard: the first of those that serve most is told, and the others have no remedy.
    expect(Object.keys(better('', 300, 900))).toHaveLength(1)
  })
  it('is served by nothing where none hangs there yet, and nothing is looked for where all are served', () => {
    expect(better('GB', 100)).toEqual({})
    const { floor } = floorOf(room('hall', 0))
    const [signal] = roomSignals(floor, [], 1)
    expect(betterServed(floor, [], signal ? [signal] : [], { country: 'GB', stepM: 1 }).size).toBe(0)
  })
})
