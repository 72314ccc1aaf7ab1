import { describe, expect, it } from 'vitest'
import { access, inNetwork, internet, intent, rule, theDevice, trunk } from '#server/demo/build'
import { gullhavenClean } from '#server/demo/gullhaven'
import { mistakesOf } from '#core/diagnose'
import { applyChanges } from '#core/edit'
import { indexPlan, type FailureScenario, down } from '#core/queries'
import type { Plan } from '#core/schema'
import { formatServices, isNothing } from '#core/filter'
import { computeMatrix, matrixOf, openSite } from '#core/reachability'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import { intentsFromRules, remediesFor, type Remedy } from '.'

const rules = (p: LoosePlan) => p.policies[0]?.rules ?? []
const told = (found: readonly Remedy[]) => found.map((r) => r.parts.map((p) => p.code).join(' and '))
const found = (change: (p: LoosePlan) => void, intentId = 'i1', scenario: FailureScenario = []) =>
  remediesFor(site(change), intentId, scenario)
const missed = (plan: Plan, scenario: FailureScenario = []) =>
  computeMatrix(indexPlan(plan), scenario)
    .verdicts.filter((v) => !isNothing(v.missing))
    .map((v) => v.intentId)
const laid = (plan: Plan, remedy: Remedy | undefined): Plan => {
  const after = applyChanges(plan, remedy?.changes ?? [])
  if (!after.ok) throw new Error('the remedy does not fit')
  return after.value
}

describe('intents from rules', () => {
  it('of the demo without intents, are all that passes: nothing is unasked then, and nothing missing', () => {
    const bare: Plan = { ...gullhavenClean(), intents: [] }
    const { intents, withheld } = intentsFromRules(bare)
    expect(withheld).toEqual([])
    const grid = matrixOf(openSite(indexPlan({ ...bare, intents }), []))
    expect(
      grid.cells.filter((c) => c.judged && !isNothing(c.unexpected)).map((c) => `${c.from} ${c.to}`),
    ).toEqual([])
    expect(grid.verdicts.filter((v) => !isNothing(v.missing))).toEqual([])
    // Asked for once, a thing is not proposed again.
    expect(intentsFromRules({ ...bare, intents })).toEqual({ intents: [], withheld: [] })
  })
  it('ask for the services that no intent asks for yet, and tell what another rule withholds', () => {
    const plan = site((plan) => {
      Object.assign(plan.policies[0]!.rules[0]!, { services: ['https', 'ping', 'ssh'] })
      plan.policies[0]!.rules.unshift({
        ...rule('no', inNetwork('servers'), internet, ['web'], ''),
        action: 'drop',
      })
      plan.policies[0]!.rules.push(rule('late', inNetwork('servers'), internet, ['web'], 'Updates'))
    })
    const { intents, withheld } = intentsFromRules(plan)
    expect(intents.map((i) => [i.id, i.from, i.to, i.services])).toEqual([
      ['i-r1', inNetwork('staff'), inNetwork('servers'), ['ssh']],
    ])
    expect(withheld.map((i) => i.note)).toEqual(['Updates'])
  })
})

describe('the smallest change', () => {
  it('is none where the intent is satisfied, or is not there', () => {
    expect(found(() => undefined)).toEqual([])
    expect(found(() => undefined, 'other')).toEqual([])
  })
  it('is a rule where none lets it pass, and nothing else is opened by it', () => {
    const [first] = found((p) => void rules(p).shift())
    expect(first?.parts).toEqual([{ code: 'add-rule', values: { device: 'gate', number: 3 } }])
    expect(first?.aside).toEqual([])
  })
  it('is one more service in the rule that is there', () => {
    expect(told(found((p) => void (the(rules(p), 'r1').services = ['ping'])))[0]).toBe('widen-rule')
  })
  it('goes before the rule that refuses; what takes that rule away is told with what else it opens', () => {
    const shut = {
      ...rule('shut', inNetwork('staff'), inNetwork('servers'), [], ''),
      action: 'drop' as const,
    }
    const all = found((p) => void rules(p).unshift(shut))
    expect(told(all)).toContain('move-rule')
    expect(told(all)).toContain('remove-rule')
    expect(all.every((r) => r.aside.length === 0)).toBe(true)
    const wide = found((plan) => {
      rules(plan).unshift(shut)
      plan.policies[0]!.forward = 'accept'
    })
    const removed = wide.find((r) => r.parts[0]?.code === 'remove-rule')
    expect(removed?.aside.map((a) => `${a.from} ${a.to} +${formatServices(a.opened)}`)).toEqual([
      'staff servers +tcp 0-442 444-65535, udp all',
    ])
  })
  it('is a tag on the port that drops the VLAN, and on each where several do', () => {
    expect(found((p) => void (portOf(p, 'sw', 'p1').mode = trunk(99, 10)))[0]?.parts).toEqual([
      { code: 'carry-vlan', values: { device: 'sw', port: 'p1', vlan: 20 } },
    ])
    const both = found((plan) => {
      portOf(plan, 'sw', 'p1').mode = trunk(99, 10)
      portOf(plan, 'gate', 'p2').mode = trunk(99, 10)
    })
    expect(told(both)).toEqual(['carry-along'])
  })
  it('is the access VLAN of a port, and what was typed into a host', () => {
    expect(told(found((p) => void (portOf(p, 'sw', 'p3').mode = access(10))))[0]).toBe('access-port')
    expect(told(found((p) => void (the(p.networks, 'servers').fixed[0]!.gateway = '10.9.10.1')))[0]).toBe(
      'own-gateway',
    )
    // A mask so short that the host takes staff for its own link, and its answers never leave it.
    expect(told(found((p) => void (the(p.networks, 'servers').fixed[0]!.mask = 16)))[0]).toBe('own-mask')
    expect(told(found((p) => void (the(p.networks, 'staff').dhcp = 'none')))[0]).toBe('serve-dhcp')
  })
  it('is two changes where one does not do: a port forward and a rule for it', () => {
    const change = (plan: LoosePlan) =>
      void plan.intents.push(intent('i9', internet, theDevice('box'), ['https'], 'Outside reads the box'))
    const all = found(change, 'i9')
    expect(told(all)).toEqual(['forward-port and add-rule'])
    expect(missed(laid(site(change), all[0]))).toEqual([])
  })
  it('is nothing that a plan can do where the only uplink is down', () => {
    expect(found(() => undefined, 'i2', [down('line')])).toEqual([])
  })
})

describe('each mistake of the catalogue that breaks an intent of the small site', () => {
  const plan = site()
  // A line without its tag is no matter of rules or ports inside.
  const broken = mistakesOf(plan)
    .filter((m) => m.changes.length > 0)
    .flatMap((mistake) => {
      const after = applyChanges(plan, mistake.changes)
      return after.ok && missed(after.value).length > 0
        ? [
            {
              name: `${mistake.code} ${JSON.stringify(mistake.values)}`,
              plan: after.value,
              ids: missed(after.value),
            },
          ]
        : []
    })
  it('is met often enough to say something', () =>
    expect(new Set(broken.map((b) => b.name.split(' ')[0])).size).toBeGreaterThanOrEqual(6))
  it.each(broken)('$name has a remedy that satisfies the intent', ({ plan: wrong, ids }) => {
    for (const id of ids) {
      const [first] = remediesFor(wrong, id, [])
      expect(first, `a remedy for ${id}`).toBeDefined()
      expect(missed(laid(wrong, first))).not.toContain(id)
    }
  })
})
