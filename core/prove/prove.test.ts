import { describe, expect, it } from 'vitest'
import { portOf, site, the } from '../../tests/plans'
import { trunk } from '#server/demo/build'
import { gullhavenClean } from '#server/demo/gullhaven'
import { asBuilt, type LabFault } from '#core/lab'
import { proofOfCell, testsOf, tryTests } from '.'

const ids = (plan = site()) => testsOf(plan).map((t) => t.id)
const failed = (built = site(), plan = site()) => tryTests(built, testsOf(plan)).filter((o) => !o.passed)

describe('acceptance tests', () => {
  it('come from the intents, the serving networks and each group', () => {
    expect(ids()).toEqual([
      'lease:staff', 'passes:i1:staff:servers', 'passes:i2:staff:internet', 'passes:i3:staff:gateway', 'passes:i3:servers:gateway', 'passes:i3:management:gateway',
      'only:staff', 'only:servers', 'only:management', 'only:internet',
    ])
  })
  it('are asked again under each failure an intent must survive', () => {
    expect(ids(site((p) => void (the(p.intents, 'i1').survives = ['line'])))).toContain('passes:i1:staff:servers:line')
  })
  it('all pass on a site built as planned', () => {
    expect(failed()).toEqual([])
  })
})

describe('trying them on a site built otherwise', () => {
  it('a VLAN left off a trunk fails its lease, what should pass and nothing else', () => {
    const built = site((p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 20) as never))
    expect(failed(built).map((o) => o.testId)).toEqual(['lease:staff', 'passes:i1:staff:servers', 'passes:i2:staff:internet', 'passes:i3:staff:gateway'])
    expect(failed(built)[0]?.value).toBe('no address: Desk')
  })
  it('an open rule fails only the test that nothing else passes, and says what did', () => {
    const built = site((p) => void p.policies[0]?.rules.push({ ...the(p.policies[0].rules, 'r1'), id: 'open', from: { kind: 'network', id: 'servers' }, to: { kind: 'network', id: 'staff' } }))
    expect(failed(built)).toEqual([{ testId: 'only:servers', passed: false, value: 'Staff: tcp 443, icmp' }])
  })
  it('one service left out of one rule fails exactly one test', () => {
    const plan = gullhavenClean()
    const fault: LabFault = { kind: 'service-left-out', deviceId: 'gateway', ruleId: 'r-tide', serviceId: 'ntp' }
    expect(failed(asBuilt(plan, fault), plan)).toEqual([{ testId: 'passes:i-tide:instruments:servers', passed: false, value: 'does not pass: udp 123' }])
  })
  it('a fault whose rule is gone changes nothing', () => {
    const plan = site()
    expect(asBuilt(plan, { kind: 'service-left-out', deviceId: 'gate', ruleId: 'gone', serviceId: 'ntp' })).toEqual(plan)
    expect(asBuilt(plan, null)).toBe(plan)
  })
})

describe('the proof of one cell', () => {
  const tests = testsOf(site())
  const results = (passed: Readonly<Record<string, boolean>>) => proofOfCell(tests, new Map(Object.entries(passed)), 'staff', 'servers')
  it('is open until all its tests passed', () => {
    expect(results({})).toBe('open')
    expect(results({ 'passes:i1:staff:servers': true })).toBe('open')
    expect(results({ 'passes:i1:staff:servers': true, 'only:staff': true })).toBe('proven')
    expect(results({ 'passes:i1:staff:servers': false, 'only:staff': true })).toBe('contradicted')
  })
})
