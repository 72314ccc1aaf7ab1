import { farTunnel } from '../../tests/fixtures/tunnels'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { BLANK_CELLULAR, BLANK_UPLINK } from '#core/edit'
import type { Cellular, Probe } from '#core/schema'
import {
  comeback,
  detection,
  falseAlarmsPerYear,
  fitProbe,
  hoursToCap,
  jointAvailability,
  minutesWithout,
  monthCost,
  outage,
  playFailure,
  recovery,
  roundLoss,
  roundsToRun,
  sharedRisksOf,
  simulateAlarms,
} from '.'
import { base, site } from '../../tests/plans'

const probe = (more: Partial<Probe> = {}): Probe => ({
  kind: 'icmp',
  targets: ['198.51.100.1'],
  quorum: 1,
  everyS: 5,
  timeoutS: 1,
  misses: 3,
  returns: 3,
  ...more,
})
const hot = { standby: 'hot' as const, bringUpS: 0 }
const uplink = base().uplinks[0]!

describe('detection and return', () => {
  it('lies between (n - 1) t + w and n t + w', () => {
    expect(detection(probe())).toEqual({ leastS: 11, typicalS: 13.5, worstS: 16 })
    expect(outage(probe(), { standby: 'cold', bringUpS: 30 }).worstS).toBe(46)
    expect(comeback(probe({ returns: 4 }), 60)).toEqual({ leastS: 75, typicalS: 77.5, worstS: 80 })
  })
  // Common practice, told of a gateway in the field: 5 s and 12 in a row give a minute, 5 s and 4 in a row
  // twenty seconds back.
  it('agrees with figures from the field', () => {
    expect(detection(probe({ misses: 12, timeoutS: 0 })).worstS).toBe(60)
    expect(comeback(probe({ returns: 4 }), 0).worstS).toBe(20)
  })
  it('is what is played, at every moment a fault may come', () => {
    const settings = fc.record({
      everyS: fc.integer({ min: 1, max: 30 }),
      timeoutS: fc.constantFrom(0.5, 1),
      misses: fc.integer({ min: 1, max: 12 }),
      returns: fc.integer({ min: 1, max: 12 }),
      seed: fc.integer({ min: 1, max: 2_000_000_000 }),
      holdDownS: fc.nat(300),
      bringUpS: fc.nat(60),
    })
    fc.assert(
      fc.property(settings, ({ seed, holdDownS, bringUpS, ...rest }) => {
        const set = probe(rest)
        const backup = { standby: 'cold' as const, bringUpS }
        const played = playFailure(set, { lossPct: 0, holdDownS }, backup, 1000, seed)
        const at = (what: string) => played.find((p) => p.what === what)?.atS ?? Number.NaN
        const [planned, back] = [outage(set, backup), comeback(set, holdDownS)]
        expect(at('carried')).toBeGreaterThanOrEqual(planned.leastS - 1e-9)
        expect(at('carried')).toBeLessThanOrEqual(planned.worstS + 1e-9)
        const returned = at('back') - at('mended')
        expect(returned).toBeGreaterThanOrEqual(back.leastS - 1e-9)
        expect(returned).toBeLessThanOrEqual(back.worstS + 1e-9)
        expect(played.map((p) => p.atS)).toEqual([...played.map((p) => p.atS)].sort((a, b) => a - b))
      }),
      { numRuns: 300 },
    )
  })
})

describe('false alarms', () => {
  // A coin: the mean wait for two heads in a row is 6 throws, for three 14 (Feller, vol. 1, XIII.7; worked
  // anew here by 2 + 4 and 2 + 4 + 8).
  it('wait for a run as a coin does', () => {
    expect([roundsToRun(0.5, 1), roundsToRun(0.5, 2), roundsToRun(0.5, 3)]).toEqual([2, 6, 14])
    expect(roundsToRun(0, 3)).toBe(Number.POSITIVE_INFINITY)
    expect(roundsToRun(1, 3)).toBe(3)
  })
  it('of several targets need so many silent at once', () => {
    expect(roundLoss(probe(), 10)).toBeCloseTo(0.1)
    expect(roundLoss(probe({ targets: ['a', 'b', 'c'], quorum: 3 }), 10)).toBeCloseTo(0.001)
    // Two or three of three: 3 x 0.01 x 0.9 + 0.001.
    expect(roundLoss(probe({ targets: ['a', 'b', 'c'], quorum: 2 }), 10)).toBeCloseTo(0.028)
  })
  it.each([
    [{ misses: 2 }, 20, 11],
    [{ misses: 3 }, 30, 7],
    [{ misses: 2, targets: ['a', 'b', 'c'], quorum: 2 }, 30, 5],
  ])('%j at %d %% loss: the closed form lies within the simulation’s own confidence', (more, loss, seed) => {
    const set = probe(more)
    const run = simulateAlarms(set, loss, seed)
    expect(run.alarms).toBe(2000)
    // Three times the half width: wrong once in ten million times, if the form is right.
    expect(Math.abs((run.meanRounds ?? 0) - roundsToRun(roundLoss(set, loss), set.misses))).toBeLessThan(
      3 * (run.halfWidth ?? 0),
    )
    expect(simulateAlarms(set, loss, seed)).toEqual(run)
  })
  it('a year of one-second rounds with one loss in a hundred', () => {
    // p 0.01, n 2: 1.0e4 + 1e2 = 10,100 rounds of one second between alarms.
    expect(falseAlarmsPerYear(probe({ everyS: 1, misses: 2 }), 1)).toBeCloseTo((365.25 * 86_400) / 10_100)
  })
})

describe('settings for a wish', () => {
  it('keep it, and a gentler period does not', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 120 }),
        fc.constantFrom(0.1, 1, 12, 365),
        fc.constantFrom(0.1, 1, 5),
        (outageS, alarms, loss) => {
          const { fits, best } = fitProbe(probe(), hot, loss, { outageS, alarms })
          if (fits) {
            const set = probe(fits)
            expect(outage(set, hot).worstS).toBeLessThanOrEqual(outageS)
            expect(falseAlarmsPerYear(set, loss)).toBeLessThanOrEqual(alarms)
          } else expect(best === null || best.alarms > alarms).toBe(true)
        },
      ),
    )
  })
  it('are refused where none can be', () => {
    expect(fitProbe(probe(), hot, 20, { outageS: 2, alarms: 1 }).fits).toBeNull()
    expect(fitProbe(probe(), { standby: 'cold', bringUpS: 40 }, 1, { outageS: 30, alarms: 100 })).toEqual({
      fits: null,
      best: null,
    })
  })
})

describe('two uplinks', () => {
  it('together fail as their product, and more often where they share a risk', () => {
    expect(jointAvailability(99, 99, false)).toBeCloseTo(99.99)
    // A year of 525,960 minutes, one in ten thousand of them.
    expect(minutesWithout(99.99)).toBeCloseTo(52.596)
    // 0.1 x 0.01 + 0.81 x 0.0001.
    expect(jointAvailability(99, 99, true)).toBeCloseTo(100 * (1 - 0.001081))
  })
  it('share what both name, however it is written', () => {
    const other = { ...uplink, sharedRisks: ['Duct 4', 'pole'] }
    expect(sharedRisksOf({ ...uplink, sharedRisks: ['duct 4'] }, other)).toEqual(['duct 4'])
    expect(sharedRisksOf({ ...uplink, ...BLANK_UPLINK }, other)).toEqual([])
  })
  it('a month over a cellular uplink costs what it allows, and then each GB', () => {
    const cellular = { ...BLANK_CELLULAR, pricePerMonth: 35, pricePerGb: 2 }
    const cost = (gb: number, more: Partial<Cellular> = {}, capGb: number | null = 200) =>
      monthCost({ facts: { ...uplink.facts, capGb, cellular: { ...cellular, ...more } } }, gb)
    expect([cost(0), cost(200), cost(250), cost(250, {}, 0)]).toEqual([35, 35, 135, 35])
    expect([
      cost(250, { pricePerGb: null }),
      cost(10, { pricePerMonth: null }),
      monthCost(uplink, 10),
    ]).toEqual([null, null, null])
    expect(cost(10, { pricePerGb: null })).toBe(35)
  })
  it('a month’s data is gone in hours', () => {
    expect(hoursToCap({ ...uplink, facts: { ...uplink.facts, capGb: 200 } }, 48)).toBe(100)
    expect(hoursToCap({ ...uplink, facts: { ...uplink.facts, capGb: 0 } }, 48)).toBeNull()
  })
})

describe('an intent holds again', () => {
  const plan = (keepaliveS: number | null, endpoint: string | null) =>
    site((plan) => void plan.tunnels.push(farTunnel({ endpoint, keepaliveS })))
  const back = (keepaliveS: number | null, endpoint: string | null, from: 'far' | 'staff') =>
    recovery(plan(keepaliveS, endpoint), probe(), hot, {
      from: from === 'far' ? { kind: 'peer', id: 'far' } : { kind: 'network', id: 'staff' },
      to: { kind: 'network', id: 'servers' },
    })
  it('with the change-over, where no tunnel is in between', () =>
    expect(back(25, 'far.example:51820', 'staff')).toEqual({
      leastS: 11,
      typicalS: 13.5,
      worstS: 16,
      silent: [],
    }))
  it('at most one keepalive later through a tunnel that we dial', () =>
    expect(back(25, 'far.example:51820', 'far')).toEqual({
      leastS: 11,
      typicalS: 26,
      worstS: 41,
      silent: [],
    }))
  it('only when somebody sends, where there is no keepalive; who dials us is not waited for', () => {
    expect(back(null, 'far.example:51820', 'far').silent).toEqual(['Far'])
    expect(back(null, null, 'far')).toEqual({ leastS: 11, typicalS: 13.5, worstS: 16, silent: [] })
  })
})
