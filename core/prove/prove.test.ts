import { indexPlan, down } from '#core/queries'
import { describe, expect, it } from 'vitest'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import { trunk } from '#server/demo/build'
import { gullhavenClean } from '#server/demo/gullhaven'
import { asBuilt, type LabFault } from '#core/simulator'
import { proofOfCell, testsOf, tryTests, vantageProblem } from '.'

const ids = (plan = site()) => testsOf(plan).map((t) => t.id)
const failed = (built = site(), plan = site()) =>
  tryTests(indexPlan(built), testsOf(plan)).filter((o) => !o.passed)

describe('acceptance tests', () => {
  it('come from the intents, the serving networks and each group', () => {
    expect(ids()).toEqual([
      'lease:staff',
      'passes:i1:staff:servers',
      'passes:i2:staff:internet',
      'passes:i3:staff:gateway',
      'passes:i3:servers:gateway',
      'passes:i3:management:gateway',
      'only:staff',
      'only:servers',
      'only:management',
      'only:internet',
    ])
  })
  it('are asked again under each failure an intent must survive', () => {
    expect(ids(site((p) => void (the(p.intents, 'i1').survives = ['line'])))).toContain(
      'passes:i1:staff:servers:line',
    )
  })
  it('all pass on a site built as planned', () => {
    expect(failed()).toEqual([])
  })
})

describe('the levels of a radio link', () => {
  const plan = gullhavenClean()
  const levels = testsOf(plan).filter(({ kind }) => kind === 'level')
  const tried = (scenario: readonly ReturnType<typeof down>[], built = plan) =>
    tryTests(indexPlan(built), levels, scenario).map(({ passed, value }) => `${passed} ${value}`)
  it('are asked for at both ends of a link that is computed, before all else', () => {
    expect(testsOf(plan).slice(0, 2)).toEqual(levels)
    const unsaid = structuredClone(plan) as LoosePlan
    for (const { medium } of unsaid.links) if (medium.kind === 'radio') medium.radio.mhz = null
    expect(testsOf(unsaid).some(({ kind }) => kind === 'level')).toBe(false)
  })
  it('are those of the site as it is built, and none while an end of it is down', () => {
    expect(tried([]).every((said) => /^true -\d\d\.\d dBm$/.test(said))).toBe(true)
    const silent = ['false nothing heard', 'false nothing heard']
    expect(tried([down('bridge-b')])).toEqual(silent)
    expect(tried([down('bridge-a.radio-bridge-b.radio')])).toEqual(silent)
    const quieter = structuredClone(plan) as LoosePlan
    for (const { medium } of quieter.links) if (medium.kind === 'radio') medium.radio.ends.a.powerDbm = 6
    // 7 dB less at the far end alone.
    expect(tried([], quieter).map((said) => said.startsWith('true'))).toEqual([true, false])
  })
})

describe('trying them on a site built otherwise', () => {
  it('a VLAN left off a trunk fails its lease, what should pass and nothing else', () => {
    const built = site((p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 20)))
    expect(failed(built).map((o) => o.testId)).toEqual([
      'lease:staff',
      'passes:i1:staff:servers',
      'passes:i2:staff:internet',
      'passes:i3:staff:gateway',
    ])
    expect(failed(built)[0]?.value).toBe('no address: Desk')
  })
  it('an open rule fails only the test that nothing else passes, and says what did', () => {
    const built = site(
      (plan) =>
        void plan.policies[0]?.rules.push({
          ...the(plan.policies[0].rules, 'r1'),
          id: 'open',
          from: { kind: 'network', id: 'servers' },
          to: { kind: 'network', id: 'staff' },
        }),
    )
    expect(failed(built)).toEqual([{ testId: 'only:servers', passed: false, value: 'Staff: tcp 443, icmp' }])
  })
  it('one service left out of one rule fails exactly one test', () => {
    const plan = gullhavenClean()
    const fault: LabFault = {
      kind: 'service-left-out',
      deviceId: 'gateway',
      ruleId: 'r-tide',
      serviceId: 'ntp',
    }
    expect(failed(asBuilt(plan, fault), plan)).toEqual([
      { testId: 'passes:i-tide:instruments:servers', passed: false, value: 'does not pass: udp 123' },
    ])
  })
  it('a fault whose rule is gone changes nothing', () => {
    const plan = site()
    expect(
      asBuilt(plan, { kind: 'service-left-out', deviceId: 'gate', ruleId: 'gone', serviceId: 'ntp' }),
    ).toEqual(plan)
    expect(asBuilt(plan, null)).toBe(plan)
  })
})

describe('tests of a site where something is off', () => {
  it('fail where it is asked, and where nobody is left to ask', () => {
    const plan = site()
    const seen = (off: string[]) =>
      tryTests(indexPlan(plan), testsOf(plan), off.map(down))
        .filter((o) => !o.passed)
        .map((o) => o.testId)
    expect(seen([])).toEqual([])
    expect(seen(['box'])).toEqual(['passes:i1:staff:servers', 'passes:i3:servers:gateway'])
    expect(seen(['desk'])).toEqual([
      'lease:staff',
      'passes:i1:staff:servers',
      'passes:i2:staff:internet',
      'passes:i3:staff:gateway',
    ])
  })
})

describe('the proof of one cell', () => {
  const tests = testsOf(site())
  const results = (passed: Readonly<Record<string, boolean>>) =>
    proofOfCell(tests, new Map(Object.entries(passed)), 'staff', 'servers')
  it('is open until all its tests passed', () => {
    expect(results({})).toBe('open')
    expect(results({ 'passes:i1:staff:servers': true })).toBe('open')
    expect(results({ 'passes:i1:staff:servers': true, 'only:staff': true })).toBe('proven')
    expect(results({ 'passes:i1:staff:servers': false, 'only:staff': true })).toBe('contradicted')
  })
})

describe('changing over', () => {
  const two = (change: (p: LoosePlan) => void = () => undefined) =>
    site((plan) => {
      plan.uplinks.push({
        ...structuredClone(the(plan.uplinks, 'line')),
        id: 'spare',
        name: 'Spare',
        portId: 'p1',
        priority: 2,
      })
      the(plan.uplinks, 'line').probe = {
        kind: 'icmp',
        targets: ['198.51.100.1'],
        quorum: 1,
        everyS: 5,
        timeoutS: 1,
        misses: 3,
        returns: 3,
      }
      change(plan)
    })
  it('is asked of each uplink that is probed and that another stands in for, within its worst time', () => {
    // Three misses, five seconds apart, and one second to wait: at most 3 * 5 + 1.
    expect(testsOf(two()).find((t) => t.kind === 'failover')).toMatchObject({
      id: 'failover:line',
      under: 'line',
      withinS: 16,
    })
    expect(
      ids(two((p) => void (the(p.uplinks, 'line').probe = null))).some((id) => id.startsWith('failover')),
    ).toBe(false)
  })
  it('is asked of both uplinks that share the load, since each takes over from the other', () => {
    const shared = two((plan) => {
      the(plan.uplinks, 'spare').priority = 1
      the(plan.uplinks, 'spare').probe = structuredClone(the(plan.uplinks, 'line').probe)
    })
    expect(ids(shared).filter((id) => id.startsWith('failover'))).toEqual(['failover:line', 'failover:spare'])
  })
  it('fails on a site built with slower probes, or with none', () => {
    const seen = (built: ReturnType<typeof site>) =>
      tryTests(indexPlan(built), testsOf(two())).find((o) => o.testId === 'failover:line')
    expect(seen(two())).toEqual({
      testId: 'failover:line',
      passed: true,
      value: 'on Spare after at most 16 s',
    })
    expect(seen(two((p) => void (the(p.uplinks, 'line').probe!.misses = 12)))).toMatchObject({
      passed: false,
      value: 'on Spare after at most 61 s',
    })
    expect(seen(two((p) => void (the(p.uplinks, 'line').probe = null)))).toMatchObject({
      passed: false,
      value: 'nobody takes over',
    })
  })
})

describe('where a test is made from', () => {
  const from = (key: string, vantage: string) =>
    vantageProblem(site(), { from: key }, vantage)?.values['text'] ?? null
  it('is not inside, where it is a test from outside', () => {
    expect(from('peer:keeper', 'laptop in Staff')).toBe('Staff')
    expect(from('peer:keeper', 'at 10.9.10.120')).toBe('10.9.10.120 (Staff)')
    expect(from('internet', 'the Switch, port 2')).toBe('Switch')
    expect(from('peer:keeper', 'a telephone on its own connection, 198.51.100.9')).toBeNull()
    // Part of a word is not the word.
    expect(from('peer:keeper', 'the staffing agency')).toBeNull()
  })
  it('says nothing of tests that are made inside', () => expect(from('staff', 'laptop in Staff')).toBeNull())
})
