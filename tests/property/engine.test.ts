import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { analyse } from '#core/findings'
import { createEngine, indexPlan, type FailureScenario, down } from '#core/queries'
import type { Plan } from '#core/schema'

import { busyPlan } from '../large'
import { randomSite } from '../twin/parts'
import { randomEdit, FAILURES } from '../twin/random'
import { edit, timed, plan, scenario, tryOther, editedAlike } from '../fixtures/engine'
import { busyEdit } from '../fixtures/busy-edits'

describe('any plan, in any weather', () => {
  it('is answered without an exception, and alike each time', () => {
    fc.assert(
      fc.property(plan, scenario, (plan, sky) => {
        expect(JSON.stringify(analyse(indexPlan(structuredClone(plan)), sky))).toBe(
          JSON.stringify(analyse(indexPlan(plan), sky)),
        )
      }),
      { numRuns: 200 },
    )
  }, 60_000)

  it('is answered after edits as if nothing had been known before them', () => {
    fc.assert(
      fc.property(fc.array(edit, { minLength: 1, maxLength: 10 }), scenario, (edits, sky) => {
        let held = structuredClone(timed) as Plan
        const engine = createEngine()
        analyse(engine.index(held), sky)
        for (const edit of edits) held = editedAlike(engine, held, edit, sky)
      }),
      { numRuns: 60 },
    )
  }, 60_000)

  it('with two uplinks, tunnels and both families too', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(edit, randomEdit), { minLength: 1, maxLength: 12 }),
        fc.subarray([...FAILURES], { maxLength: 2 }),
        (edits, sky) => {
          let held = randomSite([])
          const engine = createEngine()
          analyse(engine.index(held), sky)
          for (const edit of edits) {
            tryOther(engine, held, sky)
            held = editedAlike(engine, held, edit, sky)
          }
        },
      ),
      { numRuns: 40 },
    )
  }, 120_000)

  it('with many networks and rules too: ports, cables, addresses, devices and rules in any order', () => {
    const size = { switches: 8, portsEach: 6, networks: 6, fixedEach: 2 }
    fc.assert(
      fc.property(
        fc.array(busyEdit, { minLength: 4, maxLength: 14 }),
        fc.nat(1000),
        fc.constantFrom<FailureScenario[]>([], [], [down('sw1')], [down('line')]),
        (edits, seed, sky) => {
          let held = structuredClone(busyPlan(seed, 60, size))
          const engine = createEngine()
          analyse(engine.index(held), sky)
          for (const edit of edits) held = editedAlike(engine, held, edit, sky)
        },
      ),
      { numRuns: 40 },
    )
  }, 120_000)
})
