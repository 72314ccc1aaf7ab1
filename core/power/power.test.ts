import { describe, expect, it } from 'vitest'
import { device, hosts, link, cat6, plain, ports, row, fibre, draft } from '#server/demo/build'
import { gullhavenClean } from '#server/demo/gullhaven'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { site, type LoosePlan } from '../../tests/plans'
import {
  dropAlong,
  loadsWithin,
  loopOhm,
  POE_CLASSES,
  poeClass,
  powerOf,
  roomForMore,
  runTimeMin,
  SUPPLY_EFFICIENCY,
  yearlyFromReading,
  yearlyKwh,
} from '.'

describe('classes', () => {
  // IEEE 802.3 clause 33 from first principles: what is left at the end of the worst channel at the class's
  // current.
  it('leave at the device what the worst cable does not take', () => {
    expect(15.4 - 0.35 ** 2 * 20).toBeCloseTo(12.95, 10)
    expect(30 - 0.6 ** 2 * 12.5).toBeCloseTo(25.5, 10)
    for (const number of [3, 4]) {
      const cell = poeClass(number)
      const drop = dropAlong(cell.volts, cell.loopOhm, cell.deviceW)
      expect(drop?.sourceW).toBeCloseTo(cell.sourceW, 1)
    }
  })
  // Clause 145: two pair sets of 12.5 ohm in parallel; 960 mA a pair set at 52 V is class 8's worst case.
  it('of four pairs use half the resistance', () => {
    for (const number of [5, 6, 7, 8]) {
      const cell = poeClass(number)
      const drop = dropAlong(cell.volts, cell.loopOhm, cell.deviceW)
      expect(Math.abs((drop?.sourceW ?? 0) - cell.sourceW)).toBeLessThan(1)
    }
  })
  it('are nine, rising in power at the source from 1 on, and an unknown one counts as class 0', () => {
    expect(POE_CLASSES).toHaveLength(9)
    expect(POE_CLASSES.slice(1).map((c) => c.sourceW)).toEqual([4, 7, 15.4, 30, 45, 60, 75, 90])
    expect(poeClass(12)).toBe(POE_CLASSES[0])
  })
})

describe('a load at the end of a cable', () => {
  it('takes its power and what the wire turns into heat', () => {
    const drop = dropAlong(50, 12.5, 25.5)
    expect(
      [drop?.currentA, drop?.deviceV, drop?.sourceW, drop?.lossW].map((v) => Number(v?.toFixed(6))),
    ).toEqual([0.6, 42.5, 30, 4.5])
    expect(dropAlong(48, 0, 24)).toEqual({ currentA: 0.5, deviceV: 48, sourceW: 24, lossW: 0 })
  })
  it('cannot take more than a quarter of V squared by R', () => {
    expect(dropAlong(24, 10, 14.5)).toBeNull()
    expect(dropAlong(24, 10, 14.3)?.deviceV).toBeGreaterThan(12)
  })
  // Solid copper: 24 AWG is 84.2 ohm a kilometre, 23 AWG 66.8 (wire tables, from memory).
  it('meets the resistance of the wire tables, and more when it is warm', () => {
    expect(loopOhm('Cat5e', 1000, 2)).toBeCloseTo(84.2, 0)
    expect(loopOhm('Cat6', 1000, 2)).toBeCloseTo(66.8, 0)
    expect(loopOhm('Cat6', 100, 4)).toBeCloseTo(loopOhm('Cat6', 100, 2) / 2, 10)
    expect(loopOhm('Cat6', 100, 2, 45) / loopOhm('Cat6', 100, 2, 20)).toBeCloseTo(1 + 0.00393 * 25, 10)
  })
})

describe('sums', () => {
  // Common practice: 110 W and 13.4 W access points are called seven, not eight.
  it('keep headroom', () => {
    expect(loadsWithin(110, 13.4, 10)).toBe(7)
    expect(loadsWithin(110, 13.4, 0)).toBe(8)
    expect(loadsWithin(110, 0, 10)).toBe(0)
  })
  // Common practice: a meter showing 0.1 kWh in 44 h, at 0.11 a kWh, is about 2.2 a year.
  it('of a year, and the minutes of a battery', () => {
    expect(yearlyFromReading(0.1, 44) * 0.11).toBeCloseTo(2.19, 2)
    expect(yearlyKwh(100)).toBe(876)
    expect(runTimeMin(600, 0.9, 120)).toBe(270)
    expect(runTimeMin(600, 0.9, 0)).toBeNull()
  })
})

describe('the power of a plan', () => {
  const withAp = (change: (p: LoosePlan) => void = () => undefined): Plan =>
    site((plan) => {
      plan.devices.push(device('ap', 'AP', 'access-point', 'A2', 'Room', 'management', ports({ 1: plain })))
      plan.links.push(link('sw:4', 'ap:1', cat6(50)))
      change(plan)
    })
  it('feeds a load from the port at the other end, with the loss of the run', () => {
    const { feeds, sources, unpowered } = powerOf(indexPlan(withAp()))
    expect(unpowered).toEqual([])
    expect(feeds.map((f) => [f.from.deviceId, f.to.deviceId, f.trouble])).toEqual([['sw', 'ap', null]])
    const ohm = loopOhm('Cat6', 50, 2)
    const drop = feeds[0]?.drop
    // Kirchhoff: what the source gives is what arrives and what is lost.
    expect(drop?.currentA).toBeCloseTo(11 / (drop?.deviceV ?? 1), 9)
    expect(drop?.lossW).toBeCloseTo((drop?.currentA ?? 0) ** 2 * ohm, 9)
    expect(sources.find((s) => s.deviceId === 'sw')).toMatchObject({ budgetW: 65, classW: 30 })
  })
  // Worked by hand: 65 W, one access point of class 4 that draws 11 W and loses 0.2 W on its cable.
  it('says how many more a source takes: (65 - 30) / 30 by class, (58.5 - 11.2) / 11 by draw', () => {
    const wider = withAp((plan) => {
      const sw = plan.devices.find((d) => d.id === 'sw')
      for (const name of ['5', '6', '7', '8'])
        sw?.ports.push({ ...structuredClone(sw.ports[3]!), id: `p${name}` as never, name })
    })
    const index = indexPlan(wider)
    const source = powerOf(index).sources.find((s) => s.deviceId === 'sw')!
    const load = { standard: 'ieee', class: 4, typicalW: 11 } as const
    expect(roomForMore(index, source, load, 10)).toEqual({ fit: 1, byClass: 1, byDraw: 4, freePorts: 4 })
    // Headroom counts for what is drawn; a class above that of the ports has no port, a full budget no room.
    expect(roomForMore(index, source, load, 50).byDraw).toBe(1)
    expect(roomForMore(index, source, { ...load, class: 8 }, 10).freePorts).toBe(0)
    expect(roomForMore(index, { ...source, classW: 90, drawW: 90 }, load, 10)).toMatchObject({
      byClass: 0,
      byDraw: 0,
    })
  })
  it('leaves dark what has neither cable power nor a supply of its own', () => {
    expect(powerOf(indexPlan(withAp((p) => void (p.links.length -= 1)))).unpowered).toEqual(['ap'])
    expect(
      powerOf(indexPlan(withAp((p) => void Object.assign(p.devices.at(-1) as object, { mains: true }))))
        .unpowered,
    ).toEqual([])
    expect(
      powerOf(
        indexPlan(
          withAp(
            (plan) =>
              void Object.assign(plan.devices.find((d) => d.id === 'sw')?.ports[3] as object, { poe: 'off' }),
          ),
        ),
      ).unpowered,
    ).toEqual(['ap'])
  })
  it('does not go through fibre, nor passive power into the standard, nor a class above the port’s', () => {
    const trouble = (plan: Plan) => powerOf(indexPlan(plan)).feeds.map((f) => f.trouble)
    expect(
      trouble(withAp((p) => void Object.assign(p.links.at(-1) as object, { medium: fibre('OS2', 50) }))),
    ).toEqual(['no-copper'])
    const behind = (model: string, load: string) =>
      site((plan) => {
        plan.devices.push(
          device('inj', 'Injector', 'injector', model, 'Room', null, ports({ lan: plain, poe: plain })),
          device('end', 'End', 'bridge-radio', load, 'Roof', null, ports({ lan: plain, radio: plain })),
        )
        plan.links.push(link('sw:4', 'inj:lan', cat6(2)), link('inj:poe', 'end:lan', cat6(30)))
      })
    expect(trouble(behind('J24', 'B5P'))).toEqual([null])
    expect(trouble(behind('J24', 'B5'))).toEqual(['passive-to-standard'])
    expect(trouble(behind('J30', 'B5P'))).toEqual(['standard-to-passive'])
    expect(
      trouble(
        withAp((plan) => {
          plan.models.push({ ...draft(BIG), name: 'BIG' })
          Object.assign(plan.devices.at(-1) as object, { model: 'BIG' })
        }),
      ),
    ).toEqual(['class'])
  })
  it('passes on: a device fed over its cable draws what it feeds too', () => {
    const plan = site((plan) => {
      plan.models.push({
        ...draft(BIG),
        name: 'RELAY',
        ports: [
          {
            ...draft(BIG.ports[0]!),
            names: 'in',
            load: { standard: 'ieee', class: 4, typicalW: 5 },
          },
          {
            ...draft(BIG.ports[0]!),
            names: 'out',
            load: null,
            source: { standard: 'ieee', class: 3 },
          },
        ],
      })
      plan.devices.push(
        device('relay', 'Relay', 'unmanaged', 'RELAY', 'Room', null, ports({ in: plain, out: plain })),
        hosts('cam', 'Camera', 'Yard', 'staff', 1, 1, 'K3'),
      )
      plan.links.push(link('sw:4', 'relay:in', cat6(10)), link('relay:out', 'cam:1', cat6(10)))
    })
    const { feeds } = powerOf(indexPlan(plan))
    const [toCamera, toRelay] = ['cam', 'relay'].map((id) => feeds.find((f) => f.to.deviceId === id))
    expect(toRelay?.drawW).toBeCloseTo(5 + (toCamera?.drop?.sourceW ?? 0), 9)
    expect(toCamera?.drawW).toBe(6.5)
  })
  it('of the demo adds up at the wall', () => {
    const index = indexPlan(gullhavenClean())
    const power = powerOf(index)
    const given = power.feeds.reduce((sum, f) => sum + (f.drop?.sourceW ?? 0), 0)
    expect(power.unpowered).toEqual([])
    expect(power.feeds.filter((f) => f.trouble)).toEqual([])
    // Own draws of what stands on the mains, by hand from the catalogue: gateway 11, controller 6, switches
    // 18 + 7 + 7, unmanaged 4 + 2, injector 1, extender 5, loggers 3 + 3.
    expect(power.siteW).toBeCloseTo((11 + 6 + 32 + 6 + 1 + 5 + 6 + given) / SUPPLY_EFFICIENCY, 6)
  })
  it('a ring of feeds ends', () => {
    const plan = site((plan) => {
      const both = { ...draft(BIG.ports[0]!), source: { standard: 'ieee' as const, class: 4 } }
      plan.models.push({
        ...draft(BIG),
        name: 'BOTH',
        ports: [{ ...both, names: '1-2', load: { standard: 'ieee', class: 3, typicalW: 4 } }],
      })
      for (const id of ['x', 'y'])
        plan.devices.push(device(id, id, 'unmanaged', 'BOTH', 'Room', null, row(2, { 1: plain, 2: plain })))
      plan.links.push(link('x:1', 'y:1', cat6(5)), link('x:2', 'y:2', cat6(5)))
    })
    expect(powerOf(indexPlan(plan)).feeds.every((f) => Number.isFinite(f.drawW))).toBe(true)
  })
})

const BIG = {
  name: 'BIG',
  label: 'large access point',
  kind: 'access-point',
  minFirmware: '',
  plannedFirmware: '',
  bootS: 60,
  adoptS: 60,
  poeBudgetW: null,
  idleW: 40,
  factory: { kind: 'dhcp-client' },
  credentials: 'label',
  lights: [],
  stp: false,
  capacity: null,
  inspectionMbps: null,
  isolation: null,
  sensitivityDbm: [],
  factorySsid: '',
  ports: [
    {
      names: '1',
      kind: 'copper',
      speedsMbps: [1000],
      role: 'any',
      locked: false,
      source: null,
      load: { standard: 'ieee', class: 6, typicalW: 40 },
    },
  ],
} as const
