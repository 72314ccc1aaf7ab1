import { describe, expect, it } from 'vitest'
import { parsePlan } from '#contracts/plan'
import { gullhavenPlan } from '#server/demo/gullhaven'
import type { DeviceId, Plan, UplinkId } from '#core/schema'
import { draft, wifi, ssid } from '#server/demo/build'
import { base, site, the, type LoosePlan } from '../../tests/plans'
import { removeDevice, removeUplink, withoutDangling } from '.'

const forward = {
  id: 'f',
  deviceId: 'gate',
  uplinkId: 'line',
  proto: 'tcp' as const,
  from: 443,
  to: 443,
  toAddress: '10.9.20.10',
  toPort: 443,
  hairpin: false,
  note: '',
}
const problemsOf = (change: (plan: LoosePlan) => void) => {
  const read = parsePlan(site(change))
  return read.ok ? [] : read.problems.map(({ code, place }) => `${code} ${place}`)
}

const PLACEMENT = { buildingId: 'x', floor: 0, xM: 1, yM: 1, heightM: 2, outdoors: false, beam: null }

describe('what names nothing is refused with its place', () => {
  it.each<[string, (plan: LoosePlan) => void, string]>([
    ['a cable to no device', (p) => void (p.links[3]!.b.deviceId = 'gone'), 'names-nothing links[3].b'],
    ['a cable to no port', (p) => void (p.links[3]!.a.portId = 'p9'), 'names-nothing links[3].a'],
    ['two cables in one port', (p) => void (p.links[4]!.a.portId = 'p2'), 'port-taken links[4].a'],
    [
      'a station of no SSID',
      (p) => void (p.links[3]!.medium = wifi('air')),
      'names-nothing links[3].medium.ssidId',
    ],
    [
      'a place of an access point that is gone',
      ({ wifi }) => void wifi.placements.push({ ...PLACEMENT, deviceId: 'gone' }),
      'names-nothing wifi.placements[0].deviceId',
    ],
    [
      'an SSID of no network',
      (p) => void p.ssids.push(ssid({ id: 's', name: 'S', networkId: 'gone', isolation: false, apIds: [] })),
      'names-nothing ssids[0].networkId',
    ],
    [
      'an SSID at no access point',
      ({ ssids }) =>
        void ssids.push(ssid({ id: 's', name: 'S', networkId: 'staff', isolation: false, apIds: ['gone'] })),
      'names-nothing ssids[0].apIds[0]',
    ],
    [
      'a forward on no uplink',
      (p) => void p.forwards.push({ ...forward, uplinkId: 'gone' }),
      'names-nothing forwards[0].uplinkId',
    ],
    [
      'a forward at no gateway',
      (p) => void p.forwards.push({ ...forward, deviceId: 'gone' }),
      'names-nothing forwards[0].deviceId',
    ],
    [
      'a forward that ends before it begins',
      (p) => void p.forwards.push({ ...forward, to: 442 }),
      'from-after-to forwards[0].to',
    ],
    [
      'a route at no gateway',
      (plan) =>
        void plan.routes.push({
          id: 'r',
          deviceId: 'gone',
          prefix: '10.0.0.0/8',
          via: '10.9.10.2',
          metric: 0,
        }),
      'names-nothing routes[0].deviceId',
    ],
    [
      'an intent that is to survive nothing',
      (p) => void (p.intents[0]!.survives = ['sw', 'gone']),
      'names-nothing intents[0].survives[1]',
    ],
  ])('%s', (_, change, problem) => {
    expect(problemsOf(change)).toEqual([problem])
  })

  it('and a right plan is not', () => {
    expect(problemsOf(() => undefined)).toEqual([])
    expect(parsePlan(gullhavenPlan()).ok).toBe(true)
  })
})

describe('what goes with something that is taken out', () => {
  const busy = (plan: LoosePlan) => {
    plan.forwards.push(draft({ ...forward }))
    plan.intents[0]!.survives = ['line', 'sw']
    plan.policyRoutes.push({
      id: 'c',
      deviceId: 'gate',
      from: { kind: 'any' },
      services: [],
      out: { kind: 'uplink', id: 'line' },
      orElse: 'next',
      note: '',
    })
  }

  it('with an uplink: its forwards, its policy routes, and the wish to survive it', () => {
    const left = withoutDangling(removeUplink(site(busy), 'line' as UplinkId))
    expect([left.forwards, left.policyRoutes]).toEqual([[], []])
    expect(left.intents[0]?.survives).toEqual(['sw'])
    expect(parsePlan(left).ok).toBe(true)
  })

  it('with a network: its SSIDs, and then the stations of these', () => {
    const withAir = site((plan) => {
      the(plan.devices, 'sw').kind = 'access-point'
      plan.ssids.push(ssid({ id: 'air', name: 'Air', networkId: 'staff', isolation: false, apIds: ['sw'] }))
      plan.links[3]!.medium = wifi('air')
    })
    const left = withoutDangling({
      ...withAir,
      networks: withAir.networks.filter(({ id }) => id !== 'staff'),
    })
    expect(left.ssids).toEqual([])
    expect(left.links).toHaveLength(4)
    expect(parsePlan(left).ok).toBe(true)
  })

  it('of the demo, any device and any uplink can go, and the rest is a plan', () => {
    const plan = gullhavenPlan()
    const rest = [
      ...plan.devices.map(({ id }): [string, Plan] => [id, removeDevice(plan, id as DeviceId)]),
      ...plan.uplinks.map(({ id }): [string, Plan] => [id, removeUplink(plan, id as UplinkId)]),
    ]
    for (const [id, left] of rest) expect([id, parsePlan(withoutDangling(left)).ok]).toEqual([id, true])
  })

  it('nothing, where nothing was taken out: the same object', () => {
    const plan = base()
    expect(withoutDangling(plan)).toBe(plan)
  })
})
