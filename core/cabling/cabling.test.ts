import { describe, expect, it } from 'vitest'
import { access, cat6, device, fibre, link, ports } from '#server/demo/build'
import { gullhavenClean } from '#server/demo/gullhaven'
import { indexPlan } from '#core/queries'
import type { Medium, OpticName } from '#core/schema'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import {
  cableLabels,
  cableSchedule,
  copperReachM,
  copperSpeed,
  linkSpeed,
  materials,
  opticFor,
  OPTICS,
  shortName,
  TCP_SHARE,
  unknownInRule,
} from '.'

describe('copper', () => {
  // IEEE 802.3 clause 40 and 126 (100 m to 5 Gb/s), clause 55 (10GBASE-T: 55 m on Cat6, 100 m on Cat6A);
  // ISO/IEC 11801-1.
  it.each([
    ['Cat5e', 1000, 100],
    ['Cat5e', 5000, 100],
    ['Cat5e', 10_000, 0],
    ['Cat6', 10_000, 55],
    ['Cat6A', 10_000, 100],
    ['Cat6A', 25_000, 0],
  ] as const)('%s carries %d Mb/s over %d m', (category, mbps, metres) => {
    expect(copperReachM(category, mbps)).toBe(metres)
  })
  it('comes up at the highest speed that both ends and the run allow', () => {
    expect(copperSpeed('Cat6', 50, [100, 1000, 10_000], [1000, 10_000])).toBe(10_000)
    expect(copperSpeed('Cat6', 56, [100, 1000, 10_000], [1000, 10_000])).toBe(1000)
    expect(copperSpeed('Cat6', 101, [100, 1000], [100, 1000])).toBeNull()
    expect(copperSpeed('Cat6', 10, [10], [1000])).toBeNull()
  })
  // Preamble 8, header 14, check 4, gap 12 around an IP packet of 1500 with 40 of IPv4 and TCP (IEEE 802.3,
  // RFC 9293).
  it('leaves TCP 94.93 % of the line', () =>
    expect(TCP_SHARE).toBeCloseTo((1500 - 40) / (1500 + 8 + 14 + 4 + 12), 12))
})

describe('light', () => {
  it('is chosen by fibre, length and what the ports can', () => {
    expect(opticFor('OS2', 140, [1000])).toBe('1000BASE-LX10')
    expect(opticFor('OM3', 200, [1000, 10_000])).toBe('10GBASE-SR')
    expect(opticFor('OM3', 350, [1000, 10_000])).toBe('1000BASE-SX')
    expect(opticFor('OM4', 600, [1000, 10_000])).toBeNull()
  })
  it('of one name is alike at both ends', () => {
    for (const name of Object.keys(OPTICS) as OpticName[])
      expect(OPTICS[name].speedMbps).toBe(name.startsWith('10G') ? 10_000 : 1000)
  })
})

const two = (medium: Medium, change: (p: LoosePlan) => void = () => undefined) => {
  const plan = site((plan) => {
    plan.devices.push(
      device(
        's2',
        'Second switch',
        'switch',
        'S8P',
        'Attic',
        'management',
        ports({ 1: access(10), 9: access(10), 10: access(10) }),
      ),
    )
    the(plan.devices, 'sw').ports.push({
      ...structuredClone(portOf(plan, 'sw', 'p4')),
      id: 'p9',
      name: '9',
    })
    plan.links.push(
      link(medium.kind === 'fibre' ? 'sw:9' : 'sw:4', medium.kind === 'fibre' ? 's2:9' : 's2:1', medium),
    )
    change(plan)
  })
  return { plan, speed: linkSpeed(indexPlan(plan), plan.links.at(-1)!) }
}

describe('the speed of a link', () => {
  it('is what both ends offer', () =>
    expect(two(cat6(20)).speed).toMatchObject({ mbps: 1000, limit: 'ends' }))
  it('falls to a forced one, and to none where the other end has not got it', () => {
    expect(two(cat6(20), (p) => void (portOf(p, 's2', 'p1').speedMbps = 100)).speed.mbps).toBe(100)
    expect(two(cat6(20), (p) => void (portOf(p, 's2', 'p1').speedMbps = 2500)).speed).toMatchObject({
      mbps: null,
      limit: 'no-common',
    })
  })
  it('is kept down by the medium', () =>
    expect(two(cat6(120)).speed).toMatchObject({ mbps: null, offeredMbps: 1000, limit: 'medium' }))
  it('over fibre needs light that fits at both ends', () => {
    const lit = (first: OpticName | null, second: OpticName | null) =>
      two(fibre('OS2', 140), (plan) => {
        portOf(plan, 'sw', 'p9').optic = first
        portOf(plan, 's2', 'p9').optic = second
      }).speed
    expect(lit('1000BASE-LX10', '1000BASE-LX10')).toMatchObject({ mbps: 1000, limit: 'ends' })
    expect(lit('1000BASE-LX10', null).limit).toBe('unknown')
    expect(lit('1000BASE-SX', '1000BASE-SX').limit).toBe('optics')
    expect(lit('1000BASE-LX10', '10GBASE-LR').limit).toBe('no-common')
  })
  it('is not known of what has no model', () =>
    expect(two(cat6(20), (p) => void (the(p.devices, 's2').model = '')).speed.limit).toBe('unknown'))
})

describe('labels', () => {
  it.each([
    ['Laboratory AP 1', 'LAP1'],
    ['Skerry bridge, end A', 'SBEA'],
    ['Gateway', 'GATE'],
    ['5G modem', '5GM'],
    ['Switch', 'SWIT'],
  ])('%s is %s', (name, short) => expect(shortName(name)).toBe(short))
  it('follow the rule, are all different, and number what is alike', () => {
    const index = indexPlan(gullhavenClean())
    const labels = [...cableLabels(index, index.plan.site.labelRule).values()]
    expect(labels[0]).toBe('001 FT-lan GATE-1')
    expect(new Set(labels).size).toBe(labels.length)
    const alike = indexPlan(site((p) => void (the(p.devices, 'box').name = 'Desk')))
    expect(cableLabels(alike, '{from}{fromPort}/{to}{toPort}').get('sw.3-box.1')).toBe('SWIT3/DESK.21')
  })
  it('name what a rule does not know', () =>
    expect(unknownInRule('{n:3} {from} {colour} {n}')).toEqual(['colour']))
})

describe('what is laid and bought', () => {
  const index = indexPlan(gullhavenClean())
  it('every cable once, with both ends', () => {
    const lines = cableSchedule(index)
    expect(lines).toHaveLength(
      index.plan.links.filter((l) => l.medium.kind === 'copper' || l.medium.kind === 'fibre').length,
    )
    expect(lines.find((l) => l.kind === 'OS2')).toMatchObject({
      lengthM: 140,
      run: 'between',
      mbps: 1000,
      ends: [
        { device: 'Laboratory switch', port: '27', optic: '1000BASE-LX10' },
        { device: 'Boathouse switch', port: '9' },
      ],
    })
  })
  it('spare is added to each run; light is bought in pairs; hosts by number', () => {
    const list = materials(index)
    expect(list.find((m) => m.name === 'OS2')).toMatchObject({ count: 1, lengthM: 154 })
    expect(list.find((m) => m.what === 'transceiver')).toMatchObject({ name: '1000BASE-LX10', count: 2 })
    expect(list.find((m) => m.name === 'K3')?.count).toBe(5)
    expect(list.find((m) => m.name === 'Cat6, 1 m')?.what).toBe('cord')
    const cable = list
      .filter((m) => m.what === 'cable' && m.name === 'Cat6')
      .reduce((sum, m) => sum + m.count, 0)
    const cords = list.filter((m) => m.what === 'cord').reduce((sum, m) => sum + m.count, 0)
    expect(cable + cords + 1).toBe(cableSchedule(index).length)
  })
})
