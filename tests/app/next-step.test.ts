import { indexPlan } from '#core/queries'
import { analyse } from '#core/findings'
import { blankPlan } from '#core/edit'
import { testsOf } from '#core/prove'
import type { Plan } from '#core/schema'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import { describe, expect, it } from 'vitest'
import { nextStepOf, type WorkState } from '~/shell/next-step'
import { STAGES } from '~/shell/sheet'
import { SHEETS } from '~/shell/sheets'

function workOf(plan: Plan, more: Partial<WorkState> = {}): WorkState {
  const { findings, grid } = analyse(indexPlan(plan), [])
  const devices = plan.devices
    .filter(({ kind }) => kind === 'switch')
    .map(({ id }) => ({ id, state: 'in-sync' as const }))
  return { plan, findings, grid, devices, tests: testsOf(plan), passed: new Map(), ...more }
}
const wordsAt = (stage: string, work: WorkState) => nextStepOf(stage, work)?.words ?? null
const demo = workOf(gullhavenPlan())
const allPassed = new Map(demo.tests?.map(({ id }) => [id, true]))

describe('the next step', () => {
  it('of an empty site is what it lacks, and no stage calls it done', () => {
    const empty = workOf(blankPlan('Empty', '10.0.0.0/16'))
    expect(nextStepOf('brief', empty)).toMatchObject({ sheet: 'brief', action: 'add-uplink' })
    expect(nextStepOf('plan', empty)).toMatchObject({ words: 'Add a gateway', action: 'add-device' })
    expect(nextStepOf('rehearse', empty)).toEqual(nextStepOf('plan', empty))
    expect(wordsAt('hand-over', empty)).toBeNull()
  })

  it('of the plan is its worst finding, and none where only notes are left', () => {
    expect(nextStepOf('plan', demo)).toMatchObject({ words: 'Cameras 40 stops short' })
    expect(nextStepOf('plan', demo)?.finding?.severity).toBe('blocker')
    expect(wordsAt('plan', workOf(gullhavenClean()))).toBeNull()
  })

  it('of a plan without intents is to say what must pass', () => {
    const meant = workOf({ ...gullhavenClean(), intents: [] })
    expect(nextStepOf('rehearse', meant)).toMatchObject({ words: 'Say what must pass', action: 'add-intent' })
  })

  it('of the rehearsal counts what is against the intent', () => {
    expect(wordsAt('rehearse', demo)).toMatch(/^Walk what is against the intent: \d+$/)
    expect(wordsAt('rehearse', workOf(gullhavenClean()))).toBeNull()
  })

  it('of adoption is who is stuck, before who is not yet there', () => {
    const [first, second] = demo.devices ?? []
    if (!first || !second) throw new Error('too few devices')
    const states = (one: 'claimed' | 'in-sync', other: 'failed' | 'in-sync') =>
      wordsAt('adopt', {
        ...demo,
        devices: [
          { ...first, state: one },
          { ...second, state: other },
        ],
      })
    expect(states('claimed', 'failed')).toContain('reported an error')
    expect(states('claimed', 'in-sync')).toContain('Plug it in and power it on.')
    expect(states('in-sync', 'in-sync')).toBeNull()
  })

  it('of the proof is what failed, then what is open, then handing over', () => {
    const [first, second] = demo.tests ?? []
    expect(wordsAt('prove', demo)).toMatch(/^Try: /)
    const failed = new Map(allPassed).set(second?.id ?? '', false)
    failed.delete(first?.id ?? '')
    expect(nextStepOf('prove', { ...demo, passed: failed })).toMatchObject({ sheet: 'diagnose' })
    expect(wordsAt('prove', { ...demo, passed: allPassed })).toBeNull()
    expect(wordsAt('hand-over', { ...demo, passed: failed })).toMatch(/^Find out why: /)
    expect(wordsAt('hand-over', { ...demo, passed: allPassed })).toBe('Hand over the papers')
  })

  it('leads to sheets that there are, on every stage', () => {
    const sheets = new Set(SHEETS.map(({ key }) => key))
    for (const { key } of STAGES)
      for (const work of [demo, workOf(blankPlan('Empty', '10.0.0.0/16'))]) {
        const step = nextStepOf(key, work)
        if (step) expect(sheets).toContain(step.sheet)
      }
  })
})
