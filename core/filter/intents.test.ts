import { intent } from '#server/demo/build'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { gullhavenClean } from '#server/demo/gullhaven'
import { analyse } from '#core/findings'
import { indexPlan } from '#core/queries'
import type { Intent, Selector } from '#core/schema'
import { compileIntents, subsumes, readIntents, writeIntents } from '.'
import { site } from '../../tests/plans'

const told = (text: string) => {
  const read = readIntents(text)
  return read.ok
    ? read.value
    : read.problems.map((p) => `${p.place}: ${p.code} ${p.values['wanted'] ?? p.values['text'] ?? ''}`)
}

describe('intents as text', () => {
  it('of the demo come back as they are', () => {
    const { intents } = gullhavenClean()
    const text = writeIntents(intents)
    expect(text.split('\n')[6]).toBe(
      'i-voice: voice -> internet: calls, dns survives fibre # Voice keeps working with the fibre down',
    )
    expect(readIntents(text)).toEqual({ ok: true, value: intents })
  })
  it('come back whatever they are', () => {
    const id = fc.stringMatching(/^[A-Za-z0-9][A-Za-z0-9._~-]{0,12}[A-Za-z0-9]$/)
    const selector: fc.Arbitrary<Selector> = fc.oneof(
      fc.constantFrom<Selector>(
        { kind: 'any' },
        { kind: 'inside' },
        { kind: 'internet' },
        { kind: 'gateway' },
        { kind: 'prefix', prefix: '10.0.0.0/8' },
        { kind: 'prefix', prefix: '2001:db8:5::/48' },
        { kind: 'prefix', prefix: '::/0' },
        { kind: 'network', id: 'gateway' },
      ),
      fc
        .tuple(
          fc.constantFrom(
            'network' as const,
            'device' as const,
            'tunnel' as const,
            'peer' as const,
            'group' as const,
          ),
          id,
        )
        .map(([kind, name]): Selector => ({ kind, id: name })),
    )
    const intent: fc.Arbitrary<Intent> = fc.record({
      id,
      from: selector,
      to: selector,
      services: fc.array(
        id.filter((s) => s !== 'all'),
        { maxLength: 3 },
      ),
      survives: fc.array(id, { maxLength: 2 }),
      log: fc.boolean(),
      when: fc.option(id),
      note: fc.string({ maxLength: 40 }).map((s) => s.replaceAll(/\s+/g, ' ').trim()),
    })
    fc.assert(
      fc.property(fc.uniqueArray(intent, { selector: (i) => i.id, maxLength: 6 }), (intents) => {
        expect(readIntents(writeIntents(intents))).toEqual({ ok: true, value: intents })
      }),
    )
  })
  it('name the line and the column of what is wrong, and every such line', () => {
    expect(
      told(
        'a: guests -> internet: all\nb guests -> internet: all\n\n# a remark\nc: guests => ' +
          'internet: all\nd: guests -> internet: web maybe\na: staff -> 10.0.0.0/33: web\na: ' +
          'staff -> inside: web',
      ),
    ).toEqual([
      'line 2, column 3: intent-syntax ":"',
      'line 5, column 11: intent-syntax "->"',
      'line 6, column 28: intent-syntax "survives", "during", "logged", "#" or the end',
      'line 7, column 13: intent-syntax an IPv4 prefix',
      'line 8, column 1: intent-twice a',
    ])
  })
  it('may be logged, after what they survive, once', () => {
    const read = readIntents(
      'a: guests -> internet: all survives fibre logged # words\nb: guests -> internet: all logged',
    )
    expect(read.ok && read.value.map((i) => [i.log, i.survives])).toEqual([
      [true, ['fibre']],
      [true, []],
    ])
    expect(told('c: guests -> internet: all logged logged')).toEqual([
      'line 1, column 35: intent-syntax "#" or the end',
    ])
    expect(told('c: guests -> internet: all logged survives fibre')).toEqual([
      'line 1, column 35: intent-syntax "#" or the end',
    ])
  })
  it('may be meant at some times alone, which are named before the log and after what they survive', () => {
    const read = readIntents(
      'a: guests -> internet: all survives fibre during office logged # words\nb: guests -> ' +
        'internet: all during office',
    )
    expect(read.ok && read.value.map((i) => [i.when, i.log, i.survives])).toEqual([
      ['office', true, ['fibre']],
      ['office', false, []],
    ])
    expect(told('c: guests -> internet: all during a during b')).toEqual([
      'line 1, column 37: intent-syntax "logged", "#" or the end',
    ])
    expect(told('c: guests -> internet: all during')).toEqual([
      'line 1, column 34: intent-syntax the id of a schedule',
    ])
  })
  it('no text makes it throw', () => {
    fc.assert(fc.property(fc.string(), (text) => void readIntents(text)))
  })
})

describe('sides and selectors', () => {
  const index = indexPlan(site())
  it('a device is covered by its network where it has a fixed address, and every network by inside', () => {
    expect(subsumes(index, { kind: 'network', id: 'servers' }, { kind: 'device', id: 'box' })).toBe(true)
    expect(subsumes(index, { kind: 'device', id: 'box' }, { kind: 'network', id: 'servers' })).toBe(false)
    expect(subsumes(index, { kind: 'inside' }, { kind: 'network', id: 'staff' })).toBe(true)
  })
})

describe('rules made from intents', () => {
  it('let through what is meant and nothing else, on the demo', () => {
    const plan = gullhavenClean()
    const made = compileIntents(indexPlan(plan), plan.intents)
    const after = { ...plan, policies: plan.policies.map((p) => ({ ...p, rules: made.map((m) => m.rule) })) }
    expect(analyse(indexPlan(after), []).findings.filter((f) => f.code.startsWith('P'))).toEqual([])
    expect(made.length).toBeLessThanOrEqual(plan.policies[0]?.rules.length ?? 0)
  })
  it('write down what a logged intent lets through, and nothing else: such rules come first', () => {
    const plan = site((plan) => {
      plan.intents = [
        intent('a', { kind: 'network', id: 'staff' }, { kind: 'network', id: 'servers' }, [], ''),
        {
          id: 'b',
          from: { kind: 'network', id: 'staff' },
          to: { kind: 'network', id: 'servers' },
          services: ['ssh'],
          survives: [],
          log: true,
          when: null,
          note: '',
        },
      ]
    })
    expect(
      compileIntents(indexPlan(plan), plan.intents).map(
        (c) => `${c.rule.id} ${c.rule.services.join() || 'all'} ${c.rule.log}`,
      ),
    ).toEqual(['for-b ssh true', 'for-a all false'])
    // A wide rule that logs anyway needs no other beside it.
    expect(
      compileIntents(
        indexPlan(plan),
        plan.intents.map((i) => ({ ...i, log: true })),
      ).map((c) => c.rule.id),
    ).toEqual(['for-a'])
  })
  it('are least: none can be taken out', () => {
    const plan = gullhavenClean()
    const made = compileIntents(indexPlan(plan), plan.intents)
    for (const gone of made) {
      const after = {
        ...plan,
        policies: plan.policies.map((policy) => ({
          ...policy,
          rules: made.filter((m) => m !== gone).map((m) => m.rule),
        })),
      }
      expect([gone.rule.id, analyse(indexPlan(after), []).findings.some((f) => f.code === 'P01')]).toEqual([
        gone.rule.id,
        true,
      ])
    }
  })
  it('join what has the same ends, and leave out what a wider one covers', () => {
    const plan = site((plan) => {
      plan.intents = [
        intent('a', { kind: 'network', id: 'staff' }, { kind: 'network', id: 'servers' }, ['https'], 'A'),
        intent('b', { kind: 'network', id: 'staff' }, { kind: 'network', id: 'servers' }, ['ssh'], 'B'),
        intent('c', { kind: 'network', id: 'staff' }, { kind: 'device', id: 'box' }, ['https'], 'C'),
        intent('d', { kind: 'network', id: 'staff' }, { kind: 'gateway' }, ['dns'], 'D'),
        intent('e', { kind: 'device', id: 'box' }, { kind: 'network', id: 'servers' }, [], 'one network'),
      ]
    })
    expect(
      compileIntents(indexPlan(plan), plan.intents).map((m) => [m.rule.chain, m.rule.services, m.intentIds]),
    ).toEqual([
      ['forward', ['https', 'ssh'], ['a', 'b', 'c']],
      ['input', ['dns'], ['d']],
    ])
  })
})
