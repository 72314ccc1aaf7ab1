import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { planSchema, type Plan } from '#core/schema'
import { missingFacts } from '#core/brief'
import { analyse } from '#core/findings'
import { formatServices } from '#core/filter'
import { indexPlan } from '#core/queries'
import { gridOf } from '../../tests/fixtures/reachability'
import { firstPlan, MOST_ACCESS_POINTS, MOST_DESKS, MOST_ROOMS, type SiteWishes } from './first-plan'

const OFFICE: SiteWishes = {
  name: 'Harbour office',
  supernet: '10.40.0.0/16',
  country: 'NO',
  desks: 12,
  rooms: 5,
  accessPoints: 3,
  guests: 30,
  uplinks: 2,
  behindRouter: false,
}
const made = (wishes: Partial<SiteWishes> = {}): Plan => {
  const first = firstPlan({ ...OFFICE, ...wishes })
  if (!first.ok) throw new Error(JSON.stringify(first.problems))
  return first.value
}
const told = (plan: Plan) => analyse(indexPlan(plan), []).findings
const count = (plan: Plan, kind: string) => plan.devices.filter((device) => device.kind === kind).length

// Which codes only ask for facts that nobody can know yet: W01 facts of a line, W02 that it is not probed, W07 that
// its socket is locked, W11 that a router is in front, D08 that the country is not said.
const FACTS = ['W01', 'W02', 'W07', 'W11', 'D08']
/** Stations that two radios serve, and that come with a desk: common practice without a source. */
const [SERVED, BY_DESK] = [80, 2]

describe('a first plan', () => {
  it('is right whatever is wished for: nothing is left but facts of the uplinks', () => {
    const wishes = fc.record({
      name: fc
        .string({ unit: 'grapheme', minLength: 1, maxLength: 80 })
        .filter((t) => /^[^\p{C}\p{Z}]+$/u.test(t)),
      supernet: fc.constantFrom('10.40.0.0/16', '192.168.0.0/16', '172.20.0.0/20'),
      country: fc.constantFrom('', 'NO'),
      desks: fc.integer({ min: 1, max: MOST_DESKS }),
      rooms: fc.integer({ min: 1, max: MOST_ROOMS }),
      accessPoints: fc.nat(MOST_ACCESS_POINTS),
      guests: fc.nat(200),
      uplinks: fc.integer({ min: 1, max: 2 }),
      behindRouter: fc.boolean(),
    })
    fc.assert(
      fc.property(wishes, (wished) => {
        const plan = made(wished)
        expect(planSchema.safeParse(plan).error?.issues ?? []).toEqual([])
        // Who wishes for more people than so many access points serve is told.
        const isCrowded = wished.guests + BY_DESK * wished.desks > SERVED * wished.accessPoints
        const left = told(plan).filter((f) => !FACTS.includes(f.code) && !(isCrowded && f.code === 'F10'))
        expect(left.map((f) => [f.code, f.place.join('.')])).toEqual([])
      }),
      { numRuns: 60 },
    )
  })
  it('lets people and guests out, people at the devices, and guests nowhere else', () => {
    const grid = gridOf((plan) => void Object.assign(plan, structuredClone(made())))
    const passes = (from: string, to: string) => formatServices(grid.cell(from, to).allPairs)
    const [main, guests, management] = ['vlan-10', 'vlan-20', 'vlan-99'] as const
    expect([passes(main, 'internet'), passes(guests, 'internet')]).toEqual(['all', 'all'])
    expect([passes(guests, main), passes(guests, management)]).toEqual(['nothing', 'nothing'])
    expect(passes(main, management)).toBe('tcp 22 443, icmp')
    expect([passes('internet', main), passes('internet', 'gateway')]).toEqual(['nothing', 'nothing'])
  })
  it('has as many switches as sockets and current ask for', () => {
    expect(count(made({ desks: 5, accessPoints: 2 }), 'switch')).toBe(1)
    expect(made({ desks: 5, accessPoints: 2 }).devices.find((d) => d.kind === 'switch')?.model).toBe('S8P')
    // Three access points want more than a small switch gives; twenty of 30 W need four large ones.
    expect(made({ desks: 1, accessPoints: 3 }).devices.find((d) => d.kind === 'switch')?.model).toBe('S24P')
    expect(count(made({ desks: 10, accessPoints: 20 }), 'switch')).toBe(4)
    expect(count(made({ desks: MOST_DESKS, accessPoints: 0 }), 'switch')).toBe(7)
  })
  it('has its rooms, with everybody in one of them and access points in turn', () => {
    const plan = made({ desks: 12, rooms: 5, accessPoints: 7 })
    expect(plan.brief.rooms.map(({ people }) => people)).toEqual([3, 3, 2, 2, 2])
    const places = plan.devices.filter(({ kind }) => kind === 'access-point').map(({ place }) => place)
    const named = plan.brief.rooms.map(({ name }) => name)
    expect(places).toEqual([...named, ...named.slice(0, 2)])
    expect(missingFacts(plan).filter(({ key }) => key === 'headcount' || key === 'distance')).toEqual([])
  })
  it('has no guests without an access point, and says where the block is too small', () => {
    expect(made({ accessPoints: 0 }).networks.map(({ name }) => name)).toEqual(['Main', 'Management'])
    const small = firstPlan({ ...OFFICE, supernet: '10.40.0.0/27' })
    expect(small.ok ? [] : small.problems.map(({ code }) => code)).toEqual(['no-room'])
  })
})
