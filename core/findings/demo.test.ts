import { describe, expect, it } from 'vitest'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import { indexPlan } from '#core/queries'
import { applyChanges } from '#core/edit'
import { analyse, type Finding } from '.'

describe('the demo', () => {
  const list = (findings: readonly Finding[]) => findings.map((f) => `${f.severity} ${f.code}`)
  it('has one blocker and a handful of lesser findings', () => {
    expect(list(analyse(indexPlan(gullhavenPlan()), []).findings)).toEqual([
      'blocker E02',
      'warning A12',
      'warning A16',
      'warning D08',
      'warning E07',
      'warning F06',
      'warning P02',
      'warning R03',
      'warning W01',
      'warning W07',
      'note A15',
      'note E04',
      'note V10',
      'note V17',
      'note W02',
      'note W05',
      'note W11',
    ])
  })
  it('as a clean copy says nothing but notes', () => {
    expect(list(analyse(indexPlan(gullhavenClean()), []).findings)).toEqual([
      'note A15',
      'note E04',
      'note V10',
      'note V17',
      'note W05',
      'note W11',
    ])
  })
  it('is quiet after its mends, but for facts that somebody must find out and a mast that is too low', () => {
    let plan = gullhavenPlan()
    for (let n = 0; n < 10; n++) {
      const next = analyse(indexPlan(plan), []).findings.find((f) => f.mend)
      if (!next?.mend) break
      const mended = applyChanges(plan, next.mend.changes)
      if (!mended.ok) throw new Error('a mend does not fit')
      plan = mended.value
    }
    expect(list(analyse(indexPlan(plan), []).findings)).toEqual([
      'warning D08',
      'warning R03',
      'warning W01',
      'note A15',
      'note E04',
      'note V10',
      'note V17',
      'note W02',
      'note W05',
      'note W11',
    ])
  })
  it('findings come in the same order whatever the order of networks', () => {
    const plan = gullhavenPlan()
    const turned = { ...plan, networks: [...plan.networks].reverse() }
    expect(list(analyse(indexPlan(turned), []).findings)).toEqual(list(analyse(indexPlan(plan), []).findings))
  })
})
