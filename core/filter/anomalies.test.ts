import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inNetwork, inside, internet, rule, draft } from '#server/demo/build'
import { indexPlan } from '#core/queries'
import type { Plan, Rule, Selector } from '#core/schema'
import { site } from '../../tests/plans'
import { anomaliesOf, decide, NOTHING, policiesOf, sameSet, packetEnds, union, type ServiceSet } from '.'

const prefix = (text: string): Selector => ({ kind: 'prefix', prefix: text })
const ends: Selector[] = [
  { kind: 'any' },
  inside,
  internet,
  inNetwork('staff'),
  inNetwork('servers'),
  prefix('10.9.20.0/25'),
  prefix('10.9.20.10/32'),
  prefix('10.9.0.0/16'),
  prefix('203.0.113.0/24'),
  prefix('198.51.100.0/24'),
]
const services = ['https', 'ping', 'dns', 'ssh']
const anyRule = fc.record({
  from: fc.constantFrom(...ends),
  to: fc.constantFrom(...ends),
  services: fc.subarray(services, { maxLength: 2 }),
  action: fc.constantFrom('accept' as const, 'drop' as const, 'reject' as const),
  chain: fc.constantFrom('forward' as const, 'forward' as const, 'input' as const),
})
const listed = (rules: readonly Rule[]): Plan => site((p) => void (p.policies[0]!.rules = draft(rules)))
const made = (list: readonly Omit<Rule, 'id' | 'note' | 'log' | 'when'>[]): Rule[] =>
  list.map((r, i) => ({ ...r, id: `r${i}`, note: '', log: false, when: null }))

/** What is decided of every pair of sides, by what is done about it: asked of each by itself. */
function outcomes(plan: Plan, over: Plan): ServiceSet[] {
  const [index, sides] = [indexPlan(plan), packetEnds(indexPlan(over))]
  const compiled = policiesOf(index, new Set()).get('gate')!
  return sides
    .filter((s) => s.via !== 'self')
    .flatMap((from) =>
      sides.flatMap((to) =>
        (['accept', 'drop', 'reject'] as const).map((action) =>
          decide(compiled, to.via === 'self' ? 'input' : 'forward', from, to)
            .filter((d) => d.action === action)
            .reduce((set, d) => union(set, d.services), NOTHING),
        ),
      ),
    )
}
const alike = (first: readonly ServiceSet[], second: readonly ServiceSet[]) =>
  first.length === second.length && first.every((set, i) => sameSet(set, second[i] as ServiceSet))
const verdictsOf = (plan: Plan) => anomaliesOf(indexPlan(plan), null)[0]!.verdicts.map((v) => v?.kind)

// Source: the definitions of Al-Shaer and Hamed (2004, from memory): a rule is redundant where its removal
// changes no packet's fate.
describe('what the rules of a list are good for', () => {
  it('may all go that are shadowed, redundant or unmet, one by one or together', () => {
    let [spared, worked] = [0, 0]
    fc.assert(
      fc.property(fc.array(anyRule, { minLength: 1, maxLength: 8 }), (list) => {
        const rules = made(list)
        const plan = listed(rules)
        const [before, verdicts] = [outcomes(plan, plan), verdictsOf(plan)]
        const without = (gone: (i: number) => boolean) =>
          alike(outcomes(listed(rules.filter((_, i) => !gone(i))), plan), before)
        rules.forEach((_, i) => {
          if (verdicts[i] !== 'works')
            expect(
              without((n) => n === i),
              `${verdicts[i]} ${i}`,
            ).toBe(true)
          // One that owes nothing to a shadowed rule is needed as things are, or once the others are gone.
          else if (!verdicts.includes('shadowed'))
            expect(
              without((n) => n === i) && without((n) => n === i || verdicts[n] !== 'works'),
              `works ${i}`,
            ).toBe(false)
          if (verdicts[i] === 'works') worked++
          else spared++
        })
        expect(without((n) => verdicts[n] !== 'works')).toBe(true)
      }),
      { numRuns: 150 },
    )
    expect(spared).toBeGreaterThan(50)
    expect(worked).toBeGreaterThan(50)
  })

  it('never has two rules rely on each other', () => {
    const ssh = (id: string, to: Selector): Rule => ({
      ...rule(id, { kind: 'any' }, to, ['ssh'], ''),
      action: 'drop',
    })
    const open = rule('open', { kind: 'any' }, prefix('10.9.20.0/25'), [], '')
    expect(
      verdictsOf(listed([ssh('narrow', prefix('10.9.0.0/16')), ssh('wide', { kind: 'any' }), open])),
    ).toEqual(['works', 'redundant', 'works'])
  })

  it('is told with who decides instead', () => {
    const one = (list: Rule[]) =>
      anomaliesOf(indexPlan(listed(list)), null)[0]!.verdicts.map((ruleVerdict) =>
        ruleVerdict && 'by' in ruleVerdict
          ? [
              ruleVerdict.kind,
              ruleVerdict.by.map((r) => r.id),
              'byDefault' in ruleVerdict && ruleVerdict.byDefault,
            ]
          : ruleVerdict?.kind,
      )
    const [narrow, wide] = [
      rule('narrow', inNetwork('staff'), prefix('10.9.20.0/25'), ['https'], ''),
      rule('wide', inNetwork('staff'), inNetwork('servers'), ['https'], ''),
    ]
    expect(one([narrow, wide])).toEqual([['redundant', ['wide'], false], 'works'])
    expect(one([wide, narrow])).toEqual(['works', ['shadowed', ['wide'], false]])
    expect(one([{ ...narrow, action: 'drop' }, wide])).toEqual(['works', 'works'])
    expect(one([{ ...narrow, action: 'drop' }])).toEqual([['redundant', [], true]])
    expect(one([narrow, { ...wide, log: true }])).toEqual(['works', 'works'])
    expect(one([rule('gone', inNetwork('attic'), internet, [], '')])).toEqual(['unmet'])
  })

  it('knows that outside is more than one address', () => {
    const some = rule('some', inNetwork('staff'), prefix('198.51.100.0/24'), ['https'], '')
    const all = rule('all', inNetwork('staff'), internet, ['https'], '')
    expect(verdictsOf(listed([some, all]))).toEqual(['redundant', 'works'])
    expect(verdictsOf(listed([{ ...some, action: 'drop' }, all]))).toEqual(['works', 'works'])
    // The second is idle for the first's sake, and would decide otherwise were that gone.
    expect(
      verdictsOf(listed([all, { ...some, action: 'drop' }, { ...all, id: 'any', to: { kind: 'any' } }])),
    ).toEqual(['works', 'shadowed', 'works'])
    expect(
      verdictsOf(
        listed([
          { ...all, id: 'any', to: { kind: 'any' } },
          { ...some, action: 'drop' },
        ]),
      ),
    ).toEqual(['works', 'shadowed'])
  })

  it('leaves a rule of its own hours to those hours', () => {
    const hours = (when: string | null, id: string, action: Rule['action'] = 'accept'): Rule => ({
      ...rule(id, inNetwork('staff'), inNetwork('servers'), ['https'], ''),
      action,
      when,
    })
    const timed = (list: Rule[]) => {
      const plan = {
        ...listed(list),
        schedules: [{ id: 'office', name: 'Office', spans: [] }],
      } as unknown as Plan
      return verdictsOf(plan)
    }
    // Of the two that let the same through, the one for always is enough; the other way round its going would
    // end it outside the hours.
    expect(timed([hours('office', 'a'), hours(null, 'b')])).toEqual(['redundant', 'works'])
    expect(timed([hours(null, 'a'), hours('office', 'b')])).toEqual(['works', 'shadowed'])
    expect(timed([hours('office', 'a', 'drop'), hours(null, 'b')])).toEqual(['works', 'works'])
  })
})
