import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges } from '#core/edit'
import { analyse, findingKey, withRepairs, type Finding } from '#core/findings'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { plan } from '../fixtures/engine'
import { hardEdit } from '../fixtures/hard-edits'
import { randomSite } from '../twin/parts'
import { randomEdit } from '../twin/random'

const findingsOf = (given: Plan): readonly Finding[] => {
  const index = indexPlan(given)
  return withRepairs(index, analyse(index, []).findings)
}

/**
 * What each mend that is offered leaves undone, or breaks.
 * What rules and intents say of a network (P) can be told only once it has addresses, and may come to light then.
 */
function unfinished(given: Plan): string[] {
  const before = findingsOf(given)
  const known = new Set(before.map(findingKey))
  const blockersOf = (findings: readonly Finding[]) =>
    findings.filter((f) => f.severity === 'blocker' && !f.code.startsWith('P'))
  return before.flatMap((finding) => {
    if (!finding.mend) return []
    const key = findingKey(finding)
    const mended = applyChanges(given, finding.mend.changes)
    if (!mended.ok) return [`${key}: the mend does not fit`]
    const after = findingsOf(mended.value)
    const stays = after.some((f) => findingKey(f) === key)
    const fresh = blockersOf(after).filter((f) => !known.has(findingKey(f)))
    return [
      ...(stays ? [`${key}: is still there`] : []),
      ...fresh.map((f) => `${key}: then ${findingKey(f)}`),
    ]
  })
}

describe('a mend that is offered finishes: its finding is gone, and no blocker comes', () => {
  it('on the small site with any mistakes', () => {
    fc.assert(
      fc.property(plan, (given) => void expect(unfinished(given)).toEqual([])),
      { numRuns: 150 },
    )
  })

  it('on the site with two uplinks, tunnels and port forwards, where things overlap and stand out of place', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(randomEdit, hardEdit), { maxLength: 6 }),
        (edits) => void expect(unfinished(randomSite(edits))).toEqual([]),
      ),
      { numRuns: 60 },
    )
  })
})
