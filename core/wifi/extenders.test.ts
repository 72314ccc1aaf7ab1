import { describe, expect, it } from 'vitest'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { device, link, plain, ports, wifi } from '#server/demo/build'
import type { Draft, Plan } from '#core/schema'
import { emittersOf } from './coverage'
import { extendersOf, oneAfterOther } from './extenders'
import { apRadios } from './radios'
import { repeatsOf } from './repeats'
import { siteChannels } from './site-channels'
import { wifiSceneOf } from './scene'

const BRICK = { top: 'brick', right: 'brick', bottom: 'brick', left: 'brick' } as const

/** Three rooms in a row, an access point in the first and an extender of it somewhere. */
function row(place: string, change: (plan: Draft<Plan>) => void = () => undefined): Plan {
  const plan = structuredClone(gullhavenPlan()) as Draft<Plan>
  const [house] = plan.brief.buildings
  const [first] = plan.ssids
  const access = plan.devices.find(({ id }) => id === 'lab-ap-1')
  if (!house || !first || !access) throw new Error('the demo has a building, an SSID and access points')
  plan.devices = [{ ...access, place: 'A' }]
  plan.links = []
  plan.wifi = { ...plan.wifi, placements: [], radios: plan.wifi.radios.filter(({ id }) => id === 'lab-1-5') }
  plan.brief.rooms = ['A', 'B', 'C', 'D'].map((name, i) => ({
    id: name,
    name,
    buildingId: house.id,
    people: null,
    outline: { floor: 0, xM: 20 * i, yM: 0, widthM: 20, depthM: 6, walls: BRICK },
    readDbm: null,
  }))
  plan.devices.push(device('ext', 'Extender', 'extender', '', place, null, ports({ up: plain, down: plain })))
  plan.links.push(link('ext:up', 'lab-ap-1:radio', wifi(first.id)))
  change(plan)
  return plan
}
const only = (plan: Plan) => {
  const [extender, ...rest] = extendersOf(wifiSceneOf(plan))
  if (!extender || rest.length > 0) throw new Error('one extender is expected')
  return extender
}

describe('an extender', () => {
  it('leaves half of two equal rates on one radio, and the slower one of two radios', () => {
    expect(oneAfterOther(100, 100)).toBe(50)
    expect(oneAfterOther(300, 150)).toBe(100)
    expect([oneAfterOther(0, 100), oneAfterOther(100, 0)]).toEqual([0, 0])
    const { heard } = only(row('A'))
    expect(heard?.twoRadiosMbps).toBeGreaterThan(0)
    expect(heard?.oneRadioMbps).toBeLessThan(heard?.twoRadiosMbps ?? 0)
    // A cable keeps all that its own radio gives; a power-line pair 100 Mb/s of it (common practice).
    expect(heard?.cabledMbps).toBeGreaterThanOrEqual(heard?.twoRadiosMbps ?? Infinity)
    expect(heard?.powerLineMbps).toBe(100)
  })
  it('hears less the more walls stand between, and is told where it still hears enough', () => {
    const rooms = ['A', 'B', 'C', 'D'].map((place) => only(row(place)))
    const levels = rooms.map(({ heard }) => heard?.levelDbm ?? 0)
    expect(levels).toEqual(levels.toSorted((one, other) => other - one))
    const [near, , , far] = rooms
    expect([near?.from?.name, near?.better]).toEqual(['Laboratory AP 1', null])
    // The room farthest away that hears 65 % of the access point, which is farther than its own.
    const enough = ['A', 'B', 'C', 'D'].filter((_, i) => (levels[i] ?? 0) >= -67.5)
    expect(far?.better?.room.name).toBe(enough.at(-1))
    expect(enough.length).toBeLessThan(4)
  })
  it('is not judged without a place, without a radio on a band of its SSID, or joined to nothing', () => {
    expect(only(row('nowhere')).heard).toBeNull()
    expect(
      only(row('B', ({ ssids }) => ssids.forEach(({ settings }) => void (settings.bands = ['6'])))).heard,
    ).toBeNull()
    expect(only(row('B', (plan) => void (plan.links = [])))).toMatchObject({ from: null, heard: null })
  })
  it('repeats its access point, and not what stands behind it, whichever is joined first', () => {
    const plan = row('B', (loose) => {
      const [first] = loose.links
      if (!first) throw new Error('it is joined')
      loose.devices.push(device('next', 'Next', 'extender', '', 'C', null, ports({ up: plain, down: plain })))
      const behind = link('next:up', 'ext:down', { ...first.medium })
      loose.links = [behind, first]
    })
    const from = extendersOf(wifiSceneOf(plan)).map((one) => one.from?.name)
    expect(from).toEqual(['Laboratory AP 1', 'Extender'])
  })
  it('behind another one says so', () => {
    const chained = row('B', (plan) => {
      const [first] = plan.links
      if (!first) throw new Error('it is joined')
      plan.devices.push(
        device('first', 'First', 'extender', '', 'A', null, ports({ up: plain, down: plain })),
      )
      plan.links = [{ ...first, b: { deviceId: 'first' as never, portId: 'down' as never } }]
    })
    expect(extendersOf(wifiSceneOf(chained)).find(({ name }) => name === 'Extender')?.from).toMatchObject({
      name: 'First',
      isExtender: true,
    })
  })
})

describe('what has joined another', () => {
  const plan = (change: (plan: Draft<Plan>) => void = () => undefined) =>
    row('B', (loose) => {
      const access = loose.devices.find(({ id }) => id === 'lab-ap-1')
      const [first] = loose.ssids
      if (!access || !first) throw new Error('the demo has an access point and an SSID')
      loose.devices.push({ ...structuredClone(access), id: 'second' as never, name: 'Second', place: 'C' })
      loose.links.push(link('lab-ap-1:radio', 'second:radio', wifi(first.id)))
      for (const ssid of loose.ssids) ssid.apIds = ['lab-ap-1' as never]
      first.settings.bands = ['5']
      change(loose)
    })
  const radiosOf = (one: Plan, id: string) =>
    apRadios(one)
      .filter(({ deviceId }) => deviceId === id)
      .map(({ band, channel, follows, isSilent }) => [band, channel, follows, isSilent])

  it('is a client, a repeater where it sends an SSID itself, and a bridge with four-address frames', () => {
    const modeIn = (one: Plan) => repeatsOf(one).find(({ deviceId }) => deviceId === 'second')?.mode
    expect(modeIn(plan())).toBe('client')
    expect(modeIn(plan(({ ssids }) => ssids.at(-1)?.apIds.push('second' as never)))).toBe('repeater')
    const bridge = plan(({ links }) => {
      const { medium } = links.at(-1) ?? {}
      if (medium?.kind === 'wifi') medium.fourAddress = true
    })
    expect(modeIn(bridge)).toBe('bridge')
    expect(repeatsOf(bridge).map(({ name, mode }) => [name, mode])).toEqual([
      ['Extender', 'repeater'],
      ['Second', 'bridge'],
    ])
    expect(repeatsOf(plan(({ links }) => void links.pop())).map(({ name }) => name)).toEqual(['Extender'])
  })
  it('has the channel of the access point in the band of the SSID, and one of its own beside it', () => {
    const [own] = radiosOf(plan(), 'lab-ap-1').filter(([band]) => band === '5')
    const joined = radiosOf(plan(), 'second')
    expect(joined).toEqual([
      ['2.4', null, null, false],
      ['5', own?.[1], 'Laboratory AP 1', false],
    ])
    expect(typeof own?.[1]).toBe('number')
  })
  it('is left out where channels are planned, and counted where signal is', () => {
    const scene = wifiSceneOf(plan(({ devices }) => devices.forEach((one) => void (one.model = 'A2'))))
    expect(siteChannels(scene, '5')?.radios.map(({ deviceId }) => deviceId)).toEqual(['lab-ap-1'])
    const [floor] = scene.floors
    if (!floor) throw new Error('there is a floor')
    const sending = emittersOf(scene.radios, scene.placements, floor).map(({ radio }) => radio.deviceId)
    expect(sending).toContain('second')
  })
  it('sends nothing as an extender that has joined nothing', () => {
    const loose = (isJoined: boolean) =>
      plan((one) => {
        Object.assign(one.devices.find(({ id }) => id === 'ext') ?? {}, { model: 'E2' })
        if (!isJoined) one.links = []
      })
    expect(radiosOf(loose(false), 'ext')).toEqual([['5', null, null, true]])
    expect(radiosOf(loose(true), 'ext')).toMatchObject([['5', expect.any(Number), 'Laboratory AP 1', false]])
    const sending = (one: Plan) => {
      const { floors, placements, radios } = wifiSceneOf(one)
      return floors
        .flatMap((floor) => emittersOf(radios, placements, floor))
        .map(({ radio }) => radio.deviceId)
    }
    expect([
      sending(loose(false)).includes('ext' as never),
      sending(loose(true)).includes('ext' as never),
    ]).toEqual([false, true])
  })
  it('is not followed for ever where two have joined each other', () => {
    const circle = plan(({ links, devices, ssids }) => {
      const [first] = ssids
      const third = structuredClone(devices.find(({ id }) => id === 'second'))
      if (!third || !first) throw new Error('there are two')
      devices.push({ ...third, id: 'third' as never, name: 'Third' })
      links.splice(0, links.length, link('second:radio', 'third:radio', wifi(first.id)))
      links.push(link('third:radio', 'second:radio', wifi(first.id)))
    })
    expect(radiosOf(circle, 'second').map(([, channel]) => channel)).toEqual([null, null])
  })
})
