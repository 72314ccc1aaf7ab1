import { describe, expect, it } from 'vitest'
import { gullhavenClean } from '#server/demo/gullhaven'
import { indexPlan } from '#core/queries'
import type { ActivityKind } from '#core/schema'
import { activitiesOf, changedValues, laptopLines, stepCard, stepReadingProblem } from '.'

const plan = gullhavenClean()
const index = indexPlan(plan)
const cardOf = (id: string) => {
  const step = activitiesOf(plan).find((each) => each.id === id)
  if (!step) throw new Error(`no step ${id}`)
  return { step, card: stepCard(index, step) }
}
const valueOf = (id: string, field: string) =>
  cardOf(id).card.values.find((value) => value.field === field)?.value

describe('the card of a step', () => {
  it('has the addresses of a first access, and what may not be on beside it', () => {
    const { bench } = cardOf('sign-in:bridge-a').card
    expect(bench).toMatchObject({
      open: '192.168.88.100',
      laptop: '192.168.88.254/24',
      notWith: ['bridge-b'],
    })
    expect(cardOf('mount:bridge-a').card.bench).toBeNull()
  })
  it('has the name, the address, the gateway and the VLAN to be set', () => {
    const device = plan.devices.find(({ id }) => id === 'boat-switch')
    const network = plan.networks.find(({ id }) => id === device?.homeNetworkId)
    expect(valueOf('settings:boat-switch', 'name')).toBe(device?.name)
    expect(valueOf('settings:boat-switch', 'vlan')).toBe(String(network?.vlan))
    expect(valueOf('settings:boat-switch', 'gateway')).toBe(network?.gateway)
    expect(valueOf('settings:boat-switch', 'address')).toContain('10.61.0.')
  })
  it('has each cable of a device with its port and the far end', () => {
    const ports = cardOf('connect:boat-switch').card.values.filter(({ field }) => field === 'port')
    const cables = plan.links.filter(
      ({ a, b, medium }) => [a.deviceId, b.deviceId].includes('boat-switch') && medium.kind !== 'wifi',
    )
    expect(ports).toHaveLength(cables.length)
    expect(ports.some(({ value }) => value.includes('from Laboratory switch, port'))).toBe(true)
  })
  it('has what a provider wants', () => {
    expect(valueOf('connect-uplink:fibre', 'tag')).toBe('132')
    expect(valueOf('connect-uplink:fibre', 'assignment')).toBe('pppoe')
  })
  it('says what is to be read, and what the lights mean', () => {
    expect(cardOf('firmware:gateway').card).toMatchObject({ reading: 'version' })
    expect(cardOf('boot:gateway').card.lights.length).toBeGreaterThan(0)
    expect(cardOf('mount:gateway').card).toMatchObject({ reading: null, lights: [] })
  })
  it('of every step of the demo can be shown', () => {
    for (const step of activitiesOf(plan)) expect(() => stepCard(index, step)).not.toThrow()
  })
})

describe('a reading', () => {
  const codeOf = (kind: ActivityKind, about: string, text: string) => {
    const step = activitiesOf(plan).find((each) => each.kind === kind && each.about === about)
    if (!step) return 'no such step'
    return stepReadingProblem(index, step, stepCard(index, step).reading, text)?.code ?? null
  }
  const cable = plan.links.find(({ medium }) => medium.kind === 'copper' && medium.lengthM >= 10)
  const lengthM = cable?.medium.kind === 'copper' ? cable.medium.lengthM : 0
  it.each<readonly [ActivityKind, string, string, string | null]>([
    ['claim', 'gateway', 'GH-7A05-K5RZ', null],
    ['claim', 'gateway', 'GH-7A05-K5RX', 'wrong-check'],
    ['unbox', 'gateway', 'anything', null],
    // The catalogue's G4 is brought to 3.4.2.
    ['firmware', 'gateway', '3.4.2', null],
    ['firmware', 'gateway', '3.4.1', 'other-version'],
    ['firmware', 'gateway', 'newest', 'not-a-version'],
    ['connect', 'lab-ap-1', '1000', null],
    ['connect', 'lab-ap-1', '1 G', null],
    ['connect', 'lab-ap-1', '100 M', 'slow-link'],
    ['connect', 'lab-ap-1', 'green', 'not-a-link-speed'],
    ['wait-uplink', 'fibre', '203.0.113.20', null],
    ['wait-uplink', 'fibre', '203.0.113.256', 'not-ipv4'],
    ['test-cable', cable?.id ?? '', 'pass', null],
    ['test-cable', cable?.id ?? '', `${lengthM} m`, null],
    ['test-cable', cable?.id ?? '', `${2 * lengthM} m`, 'longer-cable'],
    ['test-cable', cable?.id ?? '', 'fine', 'not-a-cable-test'],
    ['mount', 'gateway', 'anything', null],
    // The demo's limit outdoors is 12 m/s.
    ['mount', 'bridge-a', '12', null],
    ['mount', 'bridge-a', '12.1 m/s', 'too-windy'],
    ['mount', 'bridge-a', 'a gale', 'not-a-wind'],
    ['mount', 'bridge-a', '75', 'not-a-wind'],
  ])('at %s of %s, %s: %s', (kind, about, text, code) => {
    expect(codeOf(kind, about, text)).toBe(code)
  })
})

describe('the wind', () => {
  it('is read outdoors alone, and only where a limit is agreed', () => {
    const readingOf = (id: string, windLimitMps: number | null) => {
      const agreed = indexPlan({ ...plan, work: { ...plan.work, windLimitMps } })
      return stepCard(agreed, cardOf(id).step).reading
    }
    expect(readingOf('mount:bridge-a', 12)).toBe('wind')
    expect(readingOf('mount:bridge-a', null)).toBeNull()
    expect(readingOf('mount:gateway', 12)).toBeNull()
  })
})

describe('what has changed on a card since it was seen', () => {
  const address = (value: string) => ({ field: 'address', value })
  it('is told by field, with what came and what went', () => {
    expect(
      changedValues([address('10.61.0.3')], [address('10.61.0.5'), { field: 'vlan', value: '10' }]),
    ).toEqual([
      { field: 'address', before: '10.61.0.3', after: '10.61.0.5' },
      { field: 'vlan', before: null, after: '10' },
    ])
    expect(changedValues([address('10.61.0.3')], [])).toEqual([
      { field: 'address', before: '10.61.0.3', after: null },
    ])
  })
  it('is nothing where all is as it was; several of one field are told apart by their order', () => {
    const ports = ['LAN1: C-01', 'LAN2: C-02'].map((value) => ({ field: 'port', value }))
    expect(changedValues(ports, ports)).toEqual([])
    expect(changedValues(ports, ports.slice(0, 1))).toEqual([
      { field: 'port', before: 'LAN2: C-02', after: null },
    ])
  })
})

describe('the lines for the laptop', () => {
  it('have the mask of the length, and a way back', () => {
    const lines = laptopLines('192.168.88.254/24')
    expect(lines.find(({ command }) => command === 'netsh')?.set).toContain('192.168.88.254 255.255.255.0')
    expect(laptopLines('10.0.0.2/30').at(-1)?.set).toContain('255.255.255.252')
    expect(lines.map(({ back }) => back).every((line) => /dhcp|del/.test(line))).toBe(true)
    expect(laptopLines('nowhere')).toEqual([])
  })
})
