import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { cellsAgainstFlows } from '../fixtures/flows'
import { plan, scenario } from '../fixtures/engine'
import { hardEdit } from '../fixtures/hard-edits'
import { randomSite } from '../twin/parts'
import { FAILURES, randomEdit } from '../twin/random'

describe('every cell of the matrix is what its flows say, asked one by one', () => {
  let [asked, passing] = [0, 0]
  const check = (...given: Parameters<typeof cellsAgainstFlows>) => {
    const told = cellsAgainstFlows(...given)
    asked += told.asked
    passing += told.passing
    expect(told.wrong).toEqual([])
  }

  it('of the small site with any mistakes', () => {
    fc.assert(
      fc.property(plan, scenario, (plan, scenario) => check(plan, scenario)),
      { numRuns: 3000 },
    )
  })

  it('of the site with two uplinks, tunnels and port forwards', () => {
    fc.assert(
      fc.property(
        fc.array(randomEdit, { maxLength: 8 }),
        fc.subarray([...FAILURES], { maxLength: 2 }),
        (edits, scenario) => check(randomSite(edits), scenario),
      ),
      { numRuns: 600 },
    )
  })

  it('of the same where things overlap, repeat and stand out of place', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(randomEdit, hardEdit), { maxLength: 8 }),
        fc.subarray([...FAILURES], { maxLength: 2 }),
        (edits, scenario) => check(randomSite(edits), scenario),
      ),
      { numRuns: 1000 },
    )
  })

  it('of the demo', () => check(gullhavenPlan(), []))

  it('and many of them were asked, of which many pass', () => {
    expect(asked).toBeGreaterThan(10_000)
    expect(passing).toBeGreaterThan(1000)
  })
})
