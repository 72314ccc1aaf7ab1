import { describe, expect, it } from 'vitest'
import { device, hosts, plain, ports, ssid, trunk } from '#server/demo/build'
import type { Plan } from '#core/schema'
import { site, the, type LoosePlan } from '../../tests/plans'
import { joinSsid, joinedTo, sendersFor, setJoined, setSenders } from '.'

const done = (result: ReturnType<typeof setJoined>): LoosePlan => {
  if (!result.ok) throw new Error(JSON.stringify(result.problems))
  return result.value as LoosePlan
}
/** Three access points, of which the first sends, an extender, and telephones. */
const aired = (...senders: string[]) =>
  site((plan) => {
    const own = () => ports({ 1: trunk(99, 10), radio: { mode: 'radio' } })
    for (const id of ['ap1', 'ap2', 'ap3'])
      plan.devices.push(device(id, id, 'access-point', 'A2', 'Room', 'management', own()))
    plan.devices.push(
      device('ext', 'Extender', 'extender', 'E1', 'Hall', null, ports({ up: plain, down: plain })),
      device('far', 'Far', 'extender', 'E1', 'Hall', null, ports({ up: plain, down: plain })),
      hosts('phones', 'Phones', '', 'servers', 12),
    )
    plan.ssids.push(ssid({ id: 'air', name: 'Air', networkId: 'staff', isolation: false, apIds: senders }))
  })
const at = (plan: Plan, id: string) => joinedTo(plan, id as never)
const air = (deviceId: string) => ({ deviceId: deviceId as never, ssidId: 'air' as never })
const join = (plan: Plan, id: string, to: string) => setJoined(plan, id as never, air(to))
const leads = (plan: Plan) =>
  plan.links.filter(({ medium }) => medium.kind === 'wifi').map(({ a, b }) => [a, b])
const offered = (plan: Plan, id: string) =>
  sendersFor(plan, the(plan.devices, id)).map(({ deviceId }) => deviceId)

describe('joining by radio', () => {
  it('is by the first port of an extender, which sends on by its last, and by the radio of an access point', () => {
    const plan = done(join(done(join(aired('ap1', 'ap2'), 'ap2', 'ap1')), 'ext', 'ap2'))
    expect(leads(plan)).toEqual([
      [
        { deviceId: 'ap1', portId: 'pradio' },
        { deviceId: 'ap2', portId: 'pradio' },
      ],
      [
        { deviceId: 'ap2', portId: 'pradio' },
        { deviceId: 'ext', portId: 'pup' },
      ],
    ])
    expect([at(plan, 'ext'), at(plan, 'ap2'), at(plan, 'ap1')]).toEqual([air('ap2'), air('ap1'), null])
  })
  it('takes the cable out that leads to the same place, and no other, and is reached by the SSID’s network', () => {
    const cabled = site((plan) => {
      Object.assign(plan, structuredClone(aired('ap1', 'ap2')))
      for (const [id, port] of [
        ['ap1', 'p1'],
        ['ap2', 'p3'],
      ] as const)
        plan.links.push({
          ...structuredClone(plan.links[3]!),
          id: `to-${id}`,
          a: { deviceId: 'sw', portId: `p${id === 'ap1' ? 5 : 6}` },
          b: { deviceId: id, portId: port },
        })
      plan.links.push({
        ...structuredClone(plan.links[3]!),
        id: 'behind',
        a: { deviceId: 'ap2', portId: 'p4' },
        b: { deviceId: 'phones', portId: 'p1' },
      })
    })
    const cables = (plan: Plan) =>
      ['to-ap1', 'to-ap2', 'behind'].filter((id) => plan.links.some((one) => one.id === id))
    const joined = done(join(cabled, 'ap2', 'ap1'))
    expect([cables(cabled), cables(joined)]).toEqual([
      ['to-ap1', 'to-ap2', 'behind'],
      ['to-ap1', 'behind'],
    ])
    expect(the(joined.devices, 'ap2').homeNetworkId).toBe('staff')
    expect(the(done(setJoined(joined, 'ap2' as never, null)).devices, 'ap2').homeNetworkId).toBe('management')
    expect(done(setJoined(cabled, 'ap2' as never, null))).toEqual(cabled)
  })
  it('is offered where an SSID is sent, and never to what hangs on the device itself', () => {
    const plan = aired('ap1', 'ap2')
    expect([offered(plan, 'ap1'), offered(plan, 'ext')]).toEqual([['ap2'], ['ap1', 'ap2']])
    const joined = done(join(done(join(plan, 'ap2', 'ap1')), 'ext', 'ap2'))
    expect([offered(joined, 'ap1'), offered(joined, 'ap2'), offered(joined, 'ap3')]).toEqual([
      [],
      ['ap1'],
      ['ap1', 'ap2'],
    ])
    expect(join(joined, 'ap1', 'ap2')).toMatchObject({ ok: false, problems: [{ code: 'no-radio' }] })
    expect(join(joined, 'ext', 'ap3').ok).toBe(false)
    expect(join(joined, 'none', 'ap1')).toMatchObject({ ok: false, problems: [{ code: 'no-such-device' }] })
  })
  it('replaces what was joined before, keeps its frames, and can be given up', () => {
    const first = done(join(aired('ap1', 'ap2'), 'ext', 'ap1'))
    const { medium } = first.links.at(-1)!
    if (medium.kind === 'wifi') medium.fourAddress = true
    const moved = done(join(first, 'ext', 'ap2'))
    expect([leads(moved).length, moved.links.at(-1)?.medium]).toEqual([
      1,
      { kind: 'wifi', ssidId: 'air', fourAddress: true, suffix: '' },
    ])
    expect(leads(done(setJoined(moved, 'ext' as never, null)))).toEqual([])
  })
  it('stations hear what sends their SSID on, and lose it with it', () => {
    const phones = done(joinSsid(aired('ap1'), 'phones' as never, 'air' as never))
    const senders = (plan: Plan) =>
      plan.links.filter(({ b }) => b.deviceId === 'phones').map(({ a }) => `${a.deviceId} ${a.portId}`)
    const joined = done(join(phones, 'ext', 'ap1'))
    expect([senders(phones), senders(joined)]).toEqual([['ap1 pradio'], ['ap1 pradio', 'ext pdown']])
    expect(senders(done(setJoined(joined, 'ext' as never, null)))).toEqual(['ap1 pradio'])
  })
  it('ends where the SSID is not sent any more', () => {
    const plan = done(join(done(join(aired('ap1', 'ap2'), 'ext', 'ap1')), 'far', 'ext'))
    const left = done(setSenders(plan, 'air' as never, ['ap2' as never]))
    expect([at(left, 'ext'), at(left, 'far')]).toEqual([null, air('ext')])
    expect(the(left.ssids, 'air').apIds).toEqual(['ap2'])
  })
})
