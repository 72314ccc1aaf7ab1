import { describe, expect, it } from 'vitest'
import { inNetwork, inside, intent, internet, rule, draft } from '#server/demo/build'
import { indexPlan } from '#core/queries'
import type { Intent, Plan, Rule } from '#core/schema'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { site } from '../../tests/plans'
import { ruleUsage } from '.'

const told = (plan: Plan) =>
  Object.fromEntries(
    ruleUsage(indexPlan(plan), 'gate').map((ruleUsage) => [
      ruleUsage.ruleId,
      [ruleUsage.meant.join(), ruleUsage.decided.join(), ruleUsage.refusedFrom.join()],
    ]),
  )
const listed = (rules: readonly Rule[], intents: readonly Intent[] | null = null) =>
  told(
    site((plan) => {
      plan.policies[0]!.rules = draft(rules)
      if (intents) plan.intents = draft(intents)
    }),
  )

describe('what the rules of a list are there for', () => {
  it('of the small site: each for its own intent', () => {
    expect(told(site())).toEqual({ r1: ['i1', 'i1', ''], r2: ['i2', 'i2', ''], r3: ['i3', 'i3', ''] })
  })
  it('a rule behind another is there for an intent of which it decides nothing, or what the other leaves', () => {
    const [one, two] = [
      rule('one', inNetwork('staff'), inNetwork('servers'), ['https'], ''),
      rule('two', inNetwork('staff'), { kind: 'any' }, [], ''),
    ]
    expect(listed([one, { ...one, id: 'again' }, two])).toEqual({
      one: ['i1', 'i1', ''],
      again: ['i1', '', ''],
      two: ['i1,i2', 'i1,i2', ''],
    })
    expect(listed([two, one])).toEqual({ two: ['i1,i2', 'i1,i2', ''], one: ['i1', '', ''] })
  })
  it('a rule that nobody’s intent needs has none, and one for the gateway has none of those through it', () => {
    expect(
      listed([
        rule('x', inNetwork('servers'), internet, ['web'], ''),
        rule('y', inside, { kind: 'gateway' }, [], '', 'input'),
      ]),
    ).toEqual({ x: ['', '', ''], y: ['i3', 'i3', ''] })
  })
  it('a refusal is told by whom it keeps away, and by the intents it stands against', () => {
    const no: Rule = { ...rule('no', inside, inNetwork('servers'), ['https'], ''), action: 'drop' }
    expect(listed([no, rule('r1', inNetwork('staff'), inNetwork('servers'), ['https', 'ping'], '')])).toEqual(
      { no: ['', 'i1', 'management,staff'], r1: ['i1', 'i1', ''] },
    )
    expect(listed([rule('all', { kind: 'any' }, { kind: 'any' }, [], ''), no])['no']).toEqual(['', '', ''])
    expect(listed([no], [intent('in', inNetwork('servers'), inNetwork('servers'), [], '')])['no']?.[1]).toBe(
      '',
    )
  })
  it('a rule of office hours and the one for always both decide, each at its time', () => {
    const timed: Rule = { ...rule('timed', inNetwork('staff'), internet, [], ''), when: 'office' }
    const plan = site((plan) => {
      plan.schedules.push({ id: 'office', name: 'Office', days: [1], from: '08:00', to: '18:00' })
      plan.policies[0]!.rules = [timed, { ...timed, id: 'always', when: null }].map(draft)
    })
    expect(told(plan)).toEqual({ timed: ['i2', 'i2', ''], always: ['i2', 'i2', ''] })
  })
  it('of the demo: the rule left over decides nothing', () => {
    const hits = ruleUsage(indexPlan(gullhavenPlan()), 'gateway')
    expect(hits.filter((h) => h.decided.length === 0).map((h) => [h.ruleId, h.meant.length])).toEqual([
      ['r-tide-again', 1],
    ])
  })
})
