import { describe, expect, it } from 'vitest'
import { hosts, link, access, cat6 } from '#server/demo/build'
import { asBuilt } from '#core/lab'
import { applyChanges } from '#core/model'
import { testsOf, tryTests } from '#core/prove'
import { diagnose, mistakesOf, withMistakes, type Mistake, type MistakeCode, type Observed } from '.'
import { portOf, site, the } from '../../tests/plans'

const plan = site((p) => {
  portOf(p, 'sw', 'p4').mode = access(10) as never
  p.devices.push(hosts('till', 'Till', 'Hall', 'staff', 1) as never)
  p.links.push(link('sw:4', 'till:1', cat6(9)) as never)
})
const tests = testsOf(plan)
const seenWith = (mistakes: readonly Mistake[]): Observed[] => tryTests(withMistakes(plan, mistakes) ?? plan, tests, mistakes.flatMap((m) => m.failed)).map(({ testId, passed }) => ({ testId, passed }))
const nameOf = (m: Mistake) => `${m.code} ${JSON.stringify(m.values)}`
const find = (code: MistakeCode, values: Mistake['values'] = {}) => mistakesOf(plan).find((m) => m.code === code && Object.entries(values).every(([k, v]) => m.values[k] === v)) as Mistake
const against = (a: readonly Observed[], b: readonly Observed[]) => a.filter((o, i) => o.passed !== b[i]?.passed).length

describe('the catalogue', () => {
  it('fits on the plan it was made for, mistake by mistake', () => {
    const all = mistakesOf(plan)
    expect(all.length).toBeGreaterThan(40)
    for (const mistake of all) expect([nameOf(mistake), applyChanges(plan, mistake.changes).ok]).toEqual([nameOf(mistake), true])
    expect(new Set(all.map(nameOf)).size).toBe(all.length)
  })
})

describe('a diagnosis', () => {
  it('of a site that is as planned finds nothing', () => {
    expect(diagnose(plan, seenWith([]))).toEqual({ explanations: [], next: null, foreseen: [], tried: 1 })
  })
  it('finds each mistake that can be seen at all among those that explain everything', () => {
    const well = seenWith([])
    for (const mistake of mistakesOf(plan)) {
      const seen = seenWith([mistake])
      if (against(seen, well) === 0) continue
      const { explanations } = diagnose(plan, seen)
      expect([nameOf(mistake), explanations[0]?.against]).toEqual([nameOf(mistake), []])
      // Several mistakes can look the same; then this one is told, or the ones told are as common.
      const told = explanations.filter((e) => e.against.length === 0)
      const same = told.some((e) => e.mistakes.length === 1 && nameOf(e.mistakes[0] as Mistake) === nameOf(mistake))
      expect(same || told.every((e) => (e.mistakes[0]?.commonness ?? 0) >= mistake.commonness)).toBe(true)
    }
  }, 60_000)
  it('puts the more common of two that look alike first', () => {
    const { explanations } = diagnose(plan, seenWith([find('link-down', { link: 'gate.2-sw.1' })]))
    const told = explanations.map((e) => e.mistakes[0]?.commonness ?? 0)
    expect(told).toEqual([...told].sort((a, b) => b - a))
    expect(explanations.some((e) => e.mistakes[0]?.values['link'] === 'gate.2-sw.1')).toBe(true)
  })
  it('takes two mistakes where one does not explain it', () => {
    const two = [find('rule-missing', { rule: the(plan.policies[0]?.rules ?? [], 'r1').id }), find('dhcp-off', { network: 'staff' })]
    const { explanations } = diagnose(plan, seenWith(two))
    expect(explanations[0]?.against).toEqual([])
    expect(explanations[0]?.mistakes.length).toBeLessThanOrEqual(2)
  })
  it('does with part of the observations, and names the test that splits what is left', () => {
    const seen = seenWith([find('dhcp-off', { network: 'staff' })])
    const partly = seen.filter((o) => o.testId.startsWith('passes:')).slice(0, 2)
    const { explanations, next } = diagnose(plan, partly)
    expect(explanations.length).toBeGreaterThan(1)
    expect(next?.bits).toBeGreaterThan(0.2)
    expect(partly.some((o) => o.testId === next?.testId)).toBe(false)
    // Its answer leaves fewer explanations.
    const more = diagnose(plan, [...partly, ...seen.filter((o) => o.testId === next?.testId)])
    const count = (d: typeof more) => d.explanations.filter((e) => e.against.length === 0).length
    expect(count(more)).toBeLessThan(count({ explanations, next, foreseen: [], tried: 0 }))
  })
  it('may leave an observation aside that is wrong itself', () => {
    const seen = seenWith([find('dhcp-off', { network: 'staff' })])
    const lied = seen.map((o) => (o.testId === 'lease:staff' ? o : o)).map((o, i) => (i === seen.length - 1 ? { ...o, passed: !o.passed } : o))
    const { explanations } = diagnose(plan, lied, 1)
    expect(explanations.some((e) => e.against.length === 1 && e.mistakes.some((m) => m.code === 'dhcp-off'))).toBe(true)
  })
  it('finds what the lab built wrong', () => {
    const rule = plan.policies[0]?.rules.find((r) => r.services.length > 1)
    const built = asBuilt(plan, { kind: 'service-left-out', deviceId: 'gate', ruleId: rule?.id ?? '', serviceId: rule?.services[0] ?? '' })
    const seen = tryTests(built, tests).map(({ testId, passed }) => ({ testId, passed }))
    expect(diagnose(plan, seen).explanations.some((e) => e.against.length === 0 && e.mistakes[0]?.code === 'service-missing' && e.mistakes[0].values['rule'] === rule?.id)).toBe(true)
  })
})
