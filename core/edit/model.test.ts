import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { base, portOf, site, the, type LoosePlan } from '../../tests/plans'
import {
  applyChanges,
  changesBetween,
  changesNotIn,
  firstFreeAddress,
  freshId,
  proposeNetwork,
  renumberVlan,
  takenAddresses,
  turnedInto,
} from '.'
import { checkCharacter, compareVersions, makeSerial, modelNamed, parseSerial } from '#core/queries'
import type { Plan, PortMode } from '#core/schema'

describe('changes', () => {
  it('on top of another version are those that it does not have as well', () => {
    const both = site((plan) => void (the(plan.networks, 'staff').expected = 7))
    const mine = site((plan) => {
      the(plan.networks, 'staff').expected = 7
      the(plan.networks, 'servers').expected = 9
    })
    const paths = (theirs: Plan) => changesNotIn(base(), mine, theirs).map(({ path }) => path.join('.'))
    expect(paths(both)).toEqual(['networks.servers.expected'])
    expect(paths(mine)).toEqual([])
    // Another value in the same place is not the same change.
    const other = site((plan) => void (the(plan.networks, 'staff').expected = 8))
    expect(paths(other)).toEqual(['networks.staff.expected', 'networks.servers.expected'])
  })

  it('are none between equal plans', () => {
    expect(changesBetween(base(), base())).toEqual([])
  })

  it('do not come from the order of an object’s keys', () => {
    const turn = (value: unknown): unknown => {
      if (Array.isArray(value)) return value.map(turn)
      if (typeof value === 'object' && value !== null)
        return Object.fromEntries(
          Object.entries(value)
            .reverse()
            .map(([k, v]) => [k, turn(v)]),
        )
      return value
    }
    const turned = turn(base()) as Plan
    expect(JSON.stringify(turned)).not.toBe(JSON.stringify(base()))
    expect(changesBetween(base(), turned)).toEqual([])
    const edit = changesBetween(
      base(),
      site((p) => void (the(p.services, 'web').entries = [])),
    )
    expect(applyChanges(turned, edit).ok).toBe(true)
  })

  it('name the field by ids', () => {
    const after = site((p) => void (the(p.networks, 'staff').gateway = '10.9.10.2'))
    expect(changesBetween(base(), after)).toEqual([
      { kind: 'set', path: ['networks', 'staff', 'gateway'], before: '10.9.10.1', after: '10.9.10.2' },
    ])
  })

  it('do not depend on where in a list an item stands', () => {
    const after = site((p) => void p.networks.shift())
    expect(changesBetween(base(), after).map((c) => `${c.kind} ${c.path.join('.')}`)).toEqual([
      'removed networks.management',
    ])
  })

  it('keep the place of what comes to stand between others: a rule taken back is where it was', () => {
    const [whole, less] = [base(), site((p) => void p.policies[0]?.rules.splice(1, 1))]
    const back = changesBetween(less, whole)
    expect(back.map((c) => `${c.kind} ${c.path.join('.')}`)).toEqual([
      'added policies.gate.rules.r2',
      'set policies.gate.rules.#order',
    ])
    expect(applyChanges(less, back)).toEqual({ ok: true, value: whole })
  })

  it('of two people to different fields both hold', () => {
    const mine = changesBetween(
      base(),
      site((p) => void (the(p.networks, 'staff').gateway = '10.9.10.2')),
    )
    const theirs = site((p) => void (portOf(p, 'sw', 'p2').mode = { mode: 'off' }))
    const both = applyChanges(theirs, mine)
    expect(both).toEqual({
      ok: true,
      value: site((plan) => {
        the(plan.networks, 'staff').gateway = '10.9.10.2'
        portOf(plan, 'sw', 'p2').mode = { mode: 'off' }
      }),
    })
  })

  it('do not fit where the other changed the same field, or removed it; then none is applied', () => {
    const mine = changesBetween(
      base(),
      site((plan) => {
        the(plan.networks, 'staff').gateway = '10.9.10.2'
        the(plan.networks, 'servers').expected = 9
      }),
    )
    const same = site((p) => void (the(p.networks, 'staff').gateway = '10.9.10.3'))
    expect(applyChanges(same, mine)).toMatchObject({
      ok: false,
      problems: [{ code: 'does-not-fit', place: 'networks.staff.gateway' }],
    })
    const gone = site((p) => void (p.networks = p.networks.filter((n) => n.id !== 'staff')))
    expect(applyChanges(gone, mine).ok).toBe(false)
  })

  type Edit = (plan: LoosePlan) => void
  const edit: fc.Arbitrary<Edit> = fc.oneof(
    fc.tuple(fc.nat(2), fc.string({ maxLength: 8 })).map(([i, name]): Edit => (plan) => {
      const nth = plan.networks[i]
      if (nth) nth.name = name
    }),
    fc.nat(3).map(
      (i): Edit =>
        (plan) =>
          void plan.networks.splice(i, 1),
    ),
    fc.tuple(fc.nat(9), fc.nat(3)).map(([id, at]): Edit => (plan) => {
      if (!plan.services.some((s) => s.id === `s${id}`))
        plan.services.splice(at, 0, { id: `s${id}`, name: 'x', entries: [] })
    }),
    fc.array(fc.integer({ min: 1, max: 4094 }), { maxLength: 4 }).map(
      (tagged): Edit =>
        (plan) =>
          void (portOf(plan, 'gate', 'p2').mode = { mode: 'trunk', native: null, tagged }),
    ),
    fc.constant<Edit>((p) => void p.services.reverse()),
    fc.constant<Edit>((p) => void (p.networks[0] && (p.networks[0].pool = null))),
    fc.constant<Edit>((p) => void (p.policies[0] && p.policies[0].rules.pop())),
  )
  const plan = fc.array(edit, { maxLength: 6 }).map((edits): Plan => site((p) => edits.forEach((e) => e(p))))

  it('of a thing that becomes one with other fields are one change, and fit', () => {
    const off = { ports: [{ id: 'p1', mode: { mode: 'off' } }] }
    const trunk = { ports: [{ id: 'p1', mode: { mode: 'trunk', native: null, tagged: [10] } }] }
    for (const [from, to] of [
      [off, trunk],
      [trunk, off],
    ] as const) {
      const changes = changesBetween(from, to)
      expect(changes.map((c) => c.path.join('/'))).toEqual(['ports/p1/mode'])
      expect(applyChanges<unknown>(from, changes)).toEqual({ ok: true, value: to })
    }
  })
  it('from one plan to another, applied, give the other', () => {
    fc.assert(
      fc.property(plan, plan, (before, after) => {
        expect(applyChanges(before, changesBetween(before, after))).toEqual({ ok: true, value: after })
      }),
      { numRuns: 300 },
    )
  })
})

describe('serial numbers', () => {
  // The worked example of the Global Release Identifier standard, which uses ISO/IEC 7064 MOD 37,36; quoted
  // from memory.
  it('have the check character of ISO 7064 MOD 37,36', () => {
    expect(checkCharacter('A12425GABC1234002')).toBe('M')
  })

  it('are read in any case, with and without hyphens, and written one way', () => {
    const serial = makeSerial('GH', 'A2B3C4D')
    for (const text of [serial, serial.toLowerCase(), serial.replaceAll('-', ''), `  ${serial} `])
      expect(parseSerial(text)).toEqual({ ok: true, value: { serial, kind: 'product' } })
    expect(parseSerial(makeSerial('GB', 'A2B3C4D'))).toMatchObject({ value: { kind: 'board' } })
    expect(parseSerial(makeSerial('GC', 'A2B3C4D'))).toMatchObject({ value: { kind: 'certificate' } })
  })

  it.each(['', 'GH-1234', 'XX-1234-5678', 'GH-12_4-5678'])('refuse "%s"', (text) => {
    expect(parseSerial(text)).toMatchObject({ ok: false, problems: [{ code: 'not-a-serial' }] })
  })

  // ISO/IEC 7064: hybrid systems detect every single substitution and nearly every transposition of
  // neighbours.
  it('catch any one mistyped character', () => {
    const character = fc.constantFrom(...'0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ')
    fc.assert(
      fc.property(
        fc.array(character, { minLength: 7, maxLength: 7 }),
        fc.integer({ min: 2, max: 9 }),
        character,
        (body, at, wrong) => {
          const packed = makeSerial('GH', body.join('')).replaceAll('-', '')
          const mistyped = packed.slice(0, at) + wrong + packed.slice(at + 1)
          expect(parseSerial(mistyped).ok).toBe(mistyped === packed)
        },
      ),
      { numRuns: 1000 },
    )
  })
})

describe('versions', () => {
  it.each([
    ['4.8.0', '5.0.3', -1],
    ['5.0.3', '5.0.3', 0],
    ['5.0.10', '5.0.9', 1],
    ['5', '5.0.0', 0],
  ])('%s against %s', (first, second, order) => {
    expect(Math.sign(compareVersions(first, second))).toBe(order)
  })
  it('of the catalogue are adoptable as planned', () => {
    const model = modelNamed('A2X')
    expect(model && compareVersions(model.plannedFirmware, model.minFirmware)).toBeGreaterThanOrEqual(0)
  })
})

describe('what comes next', () => {
  const firstFree = (plan: Plan, network = 'staff') =>
    firstFreeAddress(the(plan.networks, network), takenAddresses(plan))
  it('the first free address is not the gateway, not fixed and not in the pool', () => {
    expect(firstFree(base())).toBe('10.9.10.2')
    const tight = site(
      (plan) =>
        void Object.assign(the(plan.networks, 'servers'), {
          subnet: '10.9.20.0/29',
          pool: { from: '10.9.20.2', to: '10.9.20.5' },
        }),
    )
    expect(firstFree(tight, 'servers')).toBe('10.9.20.6')
    const changed = (change: object) =>
      firstFree(
        site(
          (plan) =>
            void Object.assign(the(plan.networks, 'servers'), {
              ...the(tight.networks, 'servers'),
              ...change,
            }),
        ),
        'servers',
      )
    expect(changed({ pool: { from: '10.9.20.2', to: '10.9.20.6' } })).toBeNull()
    expect(changed({ subnet: 'none' })).toBeNull()
  })
  it('nor is it one that another network was given by mistake', () => {
    expect(firstFree(site((plan) => void (the(plan.networks, 'servers').gateway = '10.9.10.2')))).toBe(
      '10.9.10.3',
    )
  })
  it('a network takes the first free /24, its octet as VLAN where that is free, and an id nobody has', () => {
    expect(proposeNetwork(site((p) => void (p.site.supernet = '10.9.20.0/22')))).toMatchObject({
      id: 'vlan-21',
      vlan: 21,
      subnet: '10.9.21.0/24',
      gateway: '10.9.21.1',
    })
    expect(
      proposeNetwork(
        site((p) => void ((the(p.networks, 'staff').vlan = 21), (p.site.supernet = '10.9.20.0/22'))),
      ),
    ).toMatchObject({ vlan: 2, subnet: '10.9.21.0/24' })
    expect(proposeNetwork(site((p) => void Object.assign(p.site, { supernet: '10.9.20.0/24' })))).toBeNull()
    expect(freshId([{ id: 'a' }, { id: 'a-2' }], 'a')).toBe('a-3')
  })
  it('a VLAN number changes on every port that names it, and nothing else changes', () => {
    const after = renumberVlan(base(), 'staff', 15)
    expect(changesBetween(base(), after).map((c) => c.path.join('.'))).toEqual([
      'networks.staff.vlan',
      'devices.gate.ports.p2.mode.tagged',
      'devices.sw.ports.p1.mode.tagged',
      'devices.sw.ports.p2.mode.vlan',
    ])
    expect(the(the(after.devices, 'gate').ports, 'p2').mode).toEqual({
      mode: 'trunk',
      native: 99,
      tagged: [15, 20],
    })
    expect(renumberVlan(base(), 'gone', 15)).toEqual(base())
  })
  it('a port keeps its VLAN when its mode changes', () => {
    const trunk: PortMode = { mode: 'trunk', native: null, tagged: [30, 40] }
    expect(turnedInto('access', trunk, 1)).toEqual({ mode: 'access', vlan: 30 })
    expect(turnedInto('trunk', { mode: 'access', vlan: 10 }, 1)).toEqual({
      mode: 'trunk',
      native: 10,
      tagged: [],
    })
    expect(turnedInto('access', { mode: 'off' }, 99)).toEqual({ mode: 'access', vlan: 99 })
    expect(turnedInto('off', trunk, 1)).toEqual({ mode: 'off' })
  })
})
