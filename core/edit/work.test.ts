import { describe, expect, it } from 'vitest'
import type { Draft, WorkFacts } from '#core/schema'
import { adjust, adjustmentOf, BLANK_WORK, removePerson, setDuration } from '.'

const work = (): Draft<WorkFacts> => structuredClone(BLANK_WORK) as Draft<WorkFacts>

describe('an adjustment', () => {
  it('is one for each activity, and goes when it wishes for nothing', () => {
    const now = work()
    adjust(now, 'boot:gw', { personId: 'rigger' })
    adjust(now, 'boot:gw', { notBeforeMin: 90 })
    expect(now.adjustments).toEqual([
      { activityId: 'boot:gw', personId: 'rigger', notBeforeMin: 90, isLeftOut: false },
    ])
    adjust(now, 'boot:gw', { personId: null, notBeforeMin: null })
    expect(now.adjustments).toEqual([])
    expect(adjustmentOf(now, 'boot:gw')).toEqual({ personId: null, notBeforeMin: null, isLeftOut: false })
  })
  it('lets anybody do what a person who goes was to do, and keeps the rest of the wish', () => {
    const now = work()
    now.people = [{ id: 'rigger', name: 'Rigger', skills: [], days: [1], from: '08:00', to: '17:00' }]
    adjust(now, 'a', { personId: 'rigger' })
    adjust(now, 'b', { personId: 'rigger', notBeforeMin: 5 })
    removePerson(now, 'rigger')
    expect(now.people).toEqual([])
    expect(now.adjustments).toEqual([{ activityId: 'b', personId: null, notBeforeMin: 5, isLeftOut: false }])
  })
})

describe('a team’s own duration', () => {
  it('takes the place of the one before, and of practice until it is taken back', () => {
    const now = work()
    setDuration(now, 'mount', [5, 10, 20])
    setDuration(now, 'mount', [6, 12, 30])
    expect(now.durations).toEqual([{ kind: 'mount', leastMin: 6, usualMin: 12, worstMin: 30 }])
    setDuration(now, 'mount', null)
    expect(now.durations).toEqual([])
  })
})
