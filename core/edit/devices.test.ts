import { describe, expect, it } from 'vitest'
import { device, hosts, ports, trunk, ssid } from '#server/demo/build'
import { indexPlan } from '#core/queries'
import { analyse } from '#core/findings'
import type { Device, Plan } from '#core/schema'
import type { Result } from '#core/util'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import {
  addDevice,
  connect,
  joinSsid,
  renameDevice,
  setCount,
  setHome,
  setModel,
  setSenders,
  ssidOf,
} from '.'

const done = (result: Result<Plan>): Plan => {
  if (!result.ok) throw new Error(JSON.stringify(result.problems))
  return result.value
}
const codes = (result: Result<Plan>) => (result.ok ? 'done' : result.problems.map((p) => p.code))
const portNames = (plan: Plan, id: string) => the(plan.devices, id).ports.map(({ name }) => name)

describe('a device', () => {
  it('is renamed, but to no name that another has', () => {
    expect(the(done(renameDevice(site(), 'sw', ' Hall switch ')).devices, 'sw').name).toBe('Hall switch')
    expect(codes(renameDevice(site(), 'sw', 'GATEWAY'))).toEqual(['name-taken'])
    expect(codes(renameDevice(site(), 'sw', 'switch'))).toBe('done')
    expect([codes(renameDevice(site(), 'sw', ' ')), codes(renameDevice(site(), 'none', 'x'))]).toEqual([
      ['no-name'],
      ['no-such-device'],
    ])
  })
  it('gets the ports of another model and keeps what is set on those of the same name', () => {
    const larger = done(setModel(site(), 'sw', 'S24P'))
    expect(the(larger.devices, 'sw').ports.length).toBeGreaterThan(24)
    expect(portOf(larger as LoosePlan, 'sw', 'p1').mode).toEqual(trunk(99, 10, 20))
    expect(larger.links).toEqual(site().links)
    expect(codes(setModel(site(), 'sw', 'A2'))).toEqual(['not-a-choice'])
  })
  it('does not take a model that lacks a port which is in use', () => {
    const plan = done(setModel(site(), 'sw', 'S24P'))
    const cabled = site((draft) => {
      Object.assign(draft, structuredClone(plan))
      draft.links[3]!.a.portId = 'p20'
    })
    const refused = setModel(cabled, 'sw', 'S8P')
    expect(refused.ok ? [] : refused.problems.map((p) => [p.code, p.values['ports']])).toEqual([
      ['ports-in-use', '20'],
    ])
  })
  it('of no known model has what its kind usually has', () => {
    const made = (kind: Device['kind']) => {
      const added = addDevice(site(), {
        name: 'New',
        kind,
        model: '',
        place: '',
        homeNetworkId: 'staff',
        count: 1,
      })
      if (!added.ok) throw new Error(kind)
      return the(added.value.plan.devices, added.value.id).ports.map(
        ({ name, mode }) => `${name} ${mode.mode}`,
      )
    }
    expect(made('access-point')).toEqual(['1 access', 'radio radio'])
    expect(made('gateway')).toEqual(['1 wan', '2 access', '3 access', '4 access'])
    expect(made('switch').length).toBe(8)
    expect(made('modem')).toEqual(['line plain', 'lan plain'])
  })
})

describe('a group of hosts', () => {
  it('has a socket for each, and none is taken that a cable leads to', () => {
    const grown = done(setCount(site(), 'desk', 3))
    expect([the(grown.devices, 'desk').count, portNames(grown, 'desk')]).toEqual([3, ['1', '2', '3']])
    const second = connect(
      grown,
      { deviceId: 'sw', portId: 'p4' },
      { deviceId: 'desk', portId: 'p3' },
      {
        kind: 'copper',
        category: 'Cat6',
        lengthM: 1,
        run: 'indoor',
      },
    )
    expect(portNames(done(setCount(done(second), 'desk', 2)), 'desk')).toEqual(['1', '3'])
    expect(codes(setCount(done(second), 'desk', 1))).toEqual(['ports-in-use'])
  })
  it('moves to another network with the addresses that it has for good', () => {
    const moved = done(setHome(site(), 'box', 'staff'))
    expect(the(moved.networks, 'servers').fixed).toEqual([])
    expect(the(moved.networks, 'staff').fixed.map(({ ip, deviceId, how }) => [ip, deviceId, how])).toEqual([
      ['10.9.10.2', 'box', 'static'],
    ])
    expect(the(done(setHome(site(), 'box', null)).networks, 'servers').fixed).toEqual([])
    expect(codes(setHome(site(), 'box', 'none'))).toEqual(['no-such-network'])
  })
})

describe('Wi-Fi stations', () => {
  const aired = (...senders: string[]) =>
    site((plan) => {
      for (const id of ['ap1', 'ap2'])
        plan.devices.push(
          device(
            id,
            id,
            'access-point',
            'A2',
            'Room',
            'management',
            ports({ 1: trunk(99, 10), radio: { mode: 'radio' } }),
          ),
        )
      plan.links.push({
        ...structuredClone(plan.links[3]!),
        id: 'up',
        a: { deviceId: 'sw', portId: 'p4' },
        b: { deviceId: 'ap1', portId: 'p1' },
      })
      portOf(plan, 'sw', 'p4').mode = trunk(99, 10)
      plan.ssids.push(ssid({ id: 'air', name: 'Air', networkId: 'staff', isolation: false, apIds: senders }))
      plan.devices.push(hosts('phones', 'Phones', '', 'servers', 12))
    })
  it('join at every access point that sends the SSID, and are in its network', () => {
    const joined = done(joinSsid(aired('ap1', 'ap2'), 'phones', 'air'))
    expect(ssidOf(joined, 'phones')).toBe('air')
    expect([the(joined.devices, 'phones').homeNetworkId, portNames(joined, 'phones')]).toEqual([
      'staff',
      ['1', '2'],
    ])
    expect(joined.links.slice(-2).map(({ a, medium }) => [a.deviceId, medium])).toEqual([
      ['ap1', { kind: 'wifi', ssidId: 'air', fourAddress: false, suffix: '' }],
      ['ap2', { kind: 'wifi', ssidId: 'air', fourAddress: false, suffix: '' }],
    ])
    // Their number is theirs; sockets are the access points'.
    expect(portNames(done(setCount(joined, 'phones', 40)), 'phones')).toEqual(['1', '2'])
    const off = done(joinSsid(joined, 'phones', null))
    expect([ssidOf(off, 'phones'), portNames(off, 'phones').length]).toEqual([undefined, 12])
  })
  it('are reached then: nothing is said of them any more', () => {
    const of = (plan: Plan) =>
      analyse(indexPlan(plan), []).findings.filter((f) => f.code === 'E14' && f.place.includes('phones'))
        .length
    expect([of(aired('ap1')), of(done(joinSsid(aired('ap1'), 'phones', 'air')))]).toEqual([1, 0])
  })
  it('follow their SSID to other access points, and are off the air where nobody sends it', () => {
    const joined = done(joinSsid(aired('ap1'), 'phones', 'air'))
    const both = done(setSenders(joined, 'air', ['ap1', 'ap2']))
    expect(both.links.filter(({ medium }) => medium.kind === 'wifi').map(({ a }) => a.deviceId)).toEqual([
      'ap1',
      'ap2',
    ])
    const none = done(setSenders(both, 'air', []))
    expect([none.links.some(({ medium }) => medium.kind === 'wifi'), ssidOf(none, 'phones')]).toEqual([
      false,
      undefined,
    ])
  })
  it('do not join what nobody sends, nor while they hang on cables', () => {
    expect(codes(joinSsid(aired(), 'phones', 'air'))).toEqual(['no-radio'])
    expect(codes(joinSsid(aired('ap1'), 'phones', 'none'))).toEqual(['no-such-ssid'])
    expect(codes(joinSsid(aired('ap1'), 'desk', 'air'))).toEqual(['ports-in-use'])
  })
})
