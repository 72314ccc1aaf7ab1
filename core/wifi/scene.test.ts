import { describe, expect, it } from 'vitest'
import { freeSpaceLossDb, wallLossDb } from '#core/radio'
import type { Plan } from '#core/schema'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { the, type LoosePlan } from '../../tests/plans'
import { beaconShare } from './airtime'
import { beaconsAt } from './beacons'
import { emittersOf } from './coverage'
import { floorsOf, placementsOf } from './floors'
import { hearingOf } from './hearing'
import { apRadios } from './radios'
import { wifiSceneOf } from './scene'
import { siteChannels } from './site-channels'

describe('the plan’s access points', () => {
  const plan = gullhavenPlan()
  it('hang where it is said, else in the middle of their room; one in no drawn room hangs nowhere', () => {
    const placements = placementsOf(plan)
    expect(placements.get('lab-ap-1' as never)).toMatchObject({ xM: 4, yM: 4, isAssumed: false })
    expect(placements.get('lab-ap-2' as never)).toMatchObject({
      xM: 19,
      yM: 4,
      isAssumed: true,
      buildingId: 'lab',
    })
    expect(placements.has('boat-ap' as never)).toBe(false)
  })
  const moved = (change: (loose: LoosePlan) => void) => {
    const loose = structuredClone(plan) as LoosePlan
    change(loose)
    return placementsOf(loose as Plan).get('lab-ap-1' as never)
  }
  it('that are moved to a room of another floor or building hang in its middle', () => {
    const place = (room: string) => (loose: LoosePlan) => void (the(loose.devices, 'lab-ap-1').place = room)
    expect(moved(place('Wet laboratory'))).toMatchObject({ xM: 4, isAssumed: false })
    expect(moved(place('Café'))).toMatchObject({ xM: 8, yM: 4.5, buildingId: 'visit', isAssumed: true })
    // In no drawn room what was said stays; without its building there is nothing left of it.
    expect(moved(place('Roof'))).toMatchObject({ xM: 4, isAssumed: false })
    expect(moved((loose) => (place('Roof')(loose), void (loose.brief.buildings = [])))).toBeUndefined()
  })
  it('of two rooms of one name hang in the first, as buildings are told', () => {
    const twice = moved((loose) => {
      loose.wifi.placements = []
      loose.brief.rooms.push({ ...the(loose.brief.rooms, 'cafe'), id: 'second', name: 'Offices' })
    })
    expect(twice).toMatchObject({ buildingId: 'lab', xM: 7 })
  })
  it('hear each other by their walls, by their buildings’ distance, and loudly where nobody knows', () => {
    const scene = wifiSceneOf(plan)
    const radios = scene.radios.filter(({ band }) => band === '2.4')
    const hears = hearingOf(scene, radios)
    const at = (id: string) => radios.findIndex(({ deviceId }) => deviceId === id)
    // 17 dBm EIRP over 15 m at 2,437 MHz and one wall of plasterboard (P.525, P.2040).
    const free = 17 - freeSpaceLossDb(2437, 0.015)
    expect(hears(at('lab-ap-1'), at('lab-ap-2'))).toBeCloseTo(free - wallLossDb('plasterboard', 2437), 2)
    // The visitor room is 45 m away.
    expect(hears(at('lab-ap-1'), at('visit-ap'))).toBeCloseTo(17 - freeSpaceLossDb(2437, 0.045), 6)
    expect(hears(at('lab-ap-1'), at('boat-ap'))).toBe(-60)
  })
  it('have the radios that their model is shipped with, and what was typed', () => {
    const radios = apRadios(plan)
    expect(radios.filter(({ deviceId }) => deviceId === 'lab-ap-1')).toMatchObject([
      { band: '2.4', channel: 6, isTyped: true },
      { band: '5', channel: 36, isTyped: true },
    ])
    expect(radios.filter(({ deviceId }) => deviceId === 'boat-ap')).toMatchObject([
      { band: '2.4', channel: null, isTyped: false },
      { band: '5', channel: null, isTyped: false },
    ])
  })
  it('are seen by building, and only by their own', () => {
    const [lab] = floorsOf(plan)
    const seen = lab && emittersOf(apRadios(plan), [...placementsOf(plan).values()], lab)
    expect(new Set(seen?.map((one) => one.radio.deviceId))).toEqual(new Set(['lab-ap-1', 'lab-ap-2']))
  })
})

describe('beacons at a radio', () => {
  it('are its own and those heard on its channel, at the slowest rate of each SSID', () => {
    const plan = gullhavenPlan()
    const scene = wifiSceneOf(plan)
    const channels = siteChannels(scene, '2.4')
    if (!channels) throw new Error('no radios')
    const two = 2 * beaconShare(1, 6)
    // Two SSIDs each, at 6 Mb/s; both laboratory access points are on channel 6.
    expect(beaconsAt(scene, channels, 0)).toBeCloseTo(2 * two, 9)
    const apart = {
      ...channels,
      radios: channels.radios.map((one, i) => (i === 0 ? { ...one, channel: 1 } : one)),
    }
    expect(beaconsAt(scene, apart, 0)).toBeCloseTo(two, 9)
    const slow = {
      ...scene,
      ssids: scene.ssids.map((ssid) => ({ ...ssid, settings: { ...ssid.settings, leastMbps: null } })),
    }
    expect(beaconsAt(slow, apart, 0)).toBeCloseTo(2 * beaconShare(1, 1), 9)
    const elsewhere = {
      ...scene,
      ssids: scene.ssids.map((ssid) => ({ ...ssid, settings: { ...ssid.settings, bands: ['5' as const] } })),
    }
    expect(beaconsAt(elsewhere, channels, 0)).toBe(0)
  })
})
