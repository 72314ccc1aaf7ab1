import type { Model } from '#core/schema'
import { describe, expect, it } from 'vitest'
import { BLANK_PLACE, BLANK_RADIO } from '#core/edit'
import { facts, draft, link } from '#server/demo/build'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import { benchLines, channelAddress } from '#core/adopt'
import { indexPlan } from '#core/queries'
import { site, the, type LoosePlan } from '../../tests/plans'
import { analyse } from '#core/findings'
import { carrowPlan, quaysidePlan } from '#server/demo/fleet'
import { addressesOf, beforeUnplug, buildingOf, fleetOverlaps, missingFacts } from '.'

// What must be known of a line before it is unplugged: common practice, without a published source.
const missing = (change: (p: LoosePlan) => void) => missingFacts(site(change)).map((f) => f.key)
const known = (plan: LoosePlan) =>
  void plan.brief.equipment.push(
    { id: 'b1', model: 'S8P', serial: 'x', mac: null, deviceId: 'sw' },
    { id: 'b2', model: '', serial: 'y', mac: null, deviceId: 'gate' },
  )

describe('missing facts', () => {
  it('a plan that has them all misses none; the demo names those it lacks and what they block', () => {
    expect(missing(known)).toEqual([])
    expect(missingFacts(gullhavenClean()).map((f) => f.key)).toEqual(['reservation-mac'])
    expect(missingFacts(gullhavenPlan()).map((f) => [f.key, f.blocks.join()])).toEqual([
      ['mac-lock', 'stage'],
      ['distance', 'plan'],
      ['serial', 'adopt'],
      ['reservation-mac', 'stage'],
      ['reservation-mac', 'stage'],
      ['country', 'stage'],
    ])
  })
  it('of an uplink depend on its kind', () => {
    const line = (change: Partial<LoosePlan['uplinks'][number]>) =>
      missing((plan) => {
        known(plan)
        Object.assign(the(plan.uplinks, 'line'), { facts: facts(), ...change })
      })
    const always = ['mac-lock', 'link-speed', 'data-cap', 'public-address', 'modem-mode']
    expect(line({ kind: 'pppoe' })).toEqual(['credentials', 'tagging', ...always])
    expect(line({ kind: 'static' })).toEqual(['static-address', 'static-dns', 'tagging', ...always])
    expect(line({ kind: 'dhcp', tag: 7 })).toEqual(['priority-tag', ...always])
    expect(line({ kind: 'dhcp', downMbps: 0 })).toContain('contracted-speed')
  })
  it.each<[string, (p: LoosePlan) => void]>([
    [
      'headcount',
      (plan) =>
        void (
          plan.brief.buildings.push({ id: 'h', name: 'House', ...BLANK_PLACE }),
          plan.brief.rooms.push({
            id: 'r',
            name: 'Room',
            buildingId: 'h',
            people: null,
            outline: null,
            readDbm: null,
          })
        ),
    ],
    ['clients', (p) => void (the(p.networks, 'staff').expected = 0)],
    ['far-subnets', (p) => void p.brief.far.push({ id: 'f', name: 'Office', subnets: [], tunnel: null })],
    ['other-way', (p) => void (p.brief.otherWay = '')],
    ['serial', (p) => void (p.brief.equipment = [])],
  ])('%s', (key, change) => expect(missing((p) => (known(p), change(p)))).toContain(key))
  it('a distance is asked for only between buildings that something joins', () => {
    const houses = (plan: LoosePlan) => {
      known(plan)
      plan.brief.buildings.push(
        { id: 'a', name: 'Room', ...BLANK_PLACE },
        { id: 'b', name: 'Barn', ...BLANK_PLACE },
      )
    }
    expect(missing(houses)).toEqual([])
    const joined = (p: LoosePlan) => (houses(p), void (the(p.devices, 'box').place = 'Barn'))
    expect(missing(joined)).toEqual(['distance'])
    expect(
      missing(
        (plan) => (
          joined(plan),
          void plan.brief.spans.push({ id: 's', a: 'b', b: 'a', distanceM: 40, crosses: 'nothing' })
        ),
      ),
    ).toEqual([])
    expect(buildingOf(gullhavenPlan(), 'Wet laboratory')).toBe('lab')
  })
})

describe('before you unplug', () => {
  it('a way out comes first; each uplink has its items; ids stay when facts change', () => {
    const items = beforeUnplug(gullhavenPlan())
    expect(items[0]?.code).toBe('other-way')
    expect(items.filter((i) => i.about === 'Fibre').map((i) => i.code)).toEqual([
      'kind',
      'credentials',
      'tag',
      'mac-lock',
      'link-speed',
      'speed-now',
      'modem',
    ])
    expect(items.filter((i) => i.about === '5G').map((i) => i.code)).toContain('cellular')
    expect(items.find((i) => i.id === 'fibre.tag')?.known).toBe('VLAN 132, priority 0')
    expect(items.find((i) => i.id === 'fibre.mac-lock')?.known).toBe('')
    expect(beforeUnplug(gullhavenClean()).map((i) => i.id)).toEqual(items.map((i) => i.id))
    expect(new Set(items.map((i) => i.id)).size).toBe(items.length)
  })
})

describe('the bench', () => {
  const lines = (change: (p: LoosePlan) => void) => benchLines(indexPlan(site(change)), (d) => d.model !== '')
  const radio = (id: string, model: string) => ({
    ...draft(the(gullhavenPlan().devices, 'bridge-a')),
    id,
    name: id,
    model,
    homeNetworkId: null,
  })
  it('gives the laptop another host of the factory subnet, never the device’s own', () => {
    const [line] = lines((p) => void p.devices.push(radio('r1', 'B5P'))).filter((l) => l.deviceId === 'r1')
    expect([line?.laptop, line?.open]).toEqual(['192.168.88.254/24', '192.168.88.20'])
    const own = lines((plan) => {
      plan.models.push({
        ...draft(radioModel),
        factory: { kind: 'fixed', address: '10.0.0.254/24' },
      })
      plan.devices.push(radio('r2', 'OWN'))
    }).find((l) => l.deviceId === 'r2')
    expect(own?.laptop).toBe('10.0.0.253/24')
  })
  it('takes an address from what hands one out, and looks up what takes one', () => {
    expect(lines(() => undefined).map((l) => [l.deviceId, l.laptop, l.open])).toEqual([['sw', null, null]])
  })
  it('keeps apart what has one address, and away from a site that uses it', () => {
    const found = lines((plan) => {
      plan.devices.push(radio('r1', 'B5'), radio('r2', 'B5'), radio('r3', 'B5P'))
      Object.assign(the(plan.networks, 'staff'), { subnet: '192.168.88.0/24', gateway: '192.168.88.100' })
    })
    expect(
      found
        .filter((l) => l.deviceId.startsWith('r'))
        .map((l) => [l.notWith.join(), l.notInto.join(), l.isGateway]),
    ).toEqual([
      ['r2', 'staff', true],
      ['r1', 'staff', true],
      ['', 'staff', false],
    ])
  })
  it('has another base for the end of a radio link that joins the other, where the model says so', () => {
    const open = lines((plan) => {
      plan.devices.push(radio('r1', 'B5P'), radio('r2', 'B5P'))
      const medium = { kind: 'radio' as const, lengthM: 100, radio: draft(BLANK_RADIO) }
      medium.radio.ends.b = { ...medium.radio.ends.b, role: 'station' }
      plan.links.push({ ...link('r1:radio', 'r2:radio', medium), id: 'hop' })
    }).filter(({ deviceId }) => deviceId.startsWith('r'))
    expect(open.map((line) => [line.open, line.notWith.join()])).toEqual([
      ['192.168.88.20', ''],
      ['192.168.88.120', ''],
    ])
  })
  it('says which Wi-Fi a device sends as it comes, where it does', () => {
    const ssids = new Map(
      benchLines(indexPlan(gullhavenPlan()), () => true).map((line) => [line.deviceId, line.ssid]),
    )
    expect(ssids.get('extender' as never)).toBe('E1-setup')
    expect(ssids.get('gateway' as never)).toBe('')
  })
  // Common practice: a base address, and the channel knob's setting added to it.
  it('adds the channel knob to the base', () =>
    expect([channelAddress('192.0.2.100/24', 4), channelAddress('x', 4)]).toEqual(['192.0.2.104/24', null]))
})

const radioModel: Model = {
  factory: { kind: 'dhcp-client' },
  name: 'OWN',
  label: 'own',
  kind: 'bridge-radio',
  minFirmware: '',
  plannedFirmware: '',
  bootS: 1,
  adoptS: 1,
  ports: [],
  poeBudgetW: null,
  idleW: 1,
  credentials: 'common',
  lights: [],
  stp: false,
  capacity: null,
  inspectionMbps: null,
  isolation: null,
  sensitivityDbm: [],
  factorySsid: '',
}

describe('the fleet', () => {
  it('names each pair of networks that share addresses, and none of a site with itself', () => {
    const mine = addressesOf('gullhaven', gullhavenPlan())
    const office = addressesOf('carrow', carrowPlan())
    // Both name the tunnel between them; that is one tunnel, not two that collide.
    expect(fleetOverlaps(mine, [mine, office])).toEqual([])
    const wide = addressesOf('carrow', {
      ...carrowPlan(),
      networks: carrowPlan().networks.map((n) => ({ ...n, subnet: '10.61.0.0/22' })),
    })
    expect(fleetOverlaps(mine, [wide]).map((o) => `${o.theirs} ${o.ours}`)).toEqual([
      'Office Management',
      'Office Staff',
      'Office Servers',
      'Office Instruments',
      'Office Cameras',
    ])
    expect(
      fleetOverlaps(mine, [addressesOf('other', gullhavenClean())]).filter((o) => o.ours === o.theirs),
    ).toHaveLength(7)
    expect(fleetOverlaps(mine, [addressesOf('stall', quaysidePlan())])).toEqual([])
  })
  it('its other sites are as right as they are meant to be', () => {
    expect(analyse(indexPlan(carrowPlan()), []).findings.map((f) => f.code)).toEqual([])
    expect(analyse(indexPlan(quaysidePlan()), []).findings.map((f) => [f.code, f.severity])).toEqual([
      ['W11', 'warning'],
    ])
  })
})
