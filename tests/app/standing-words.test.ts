import { describe, expect, it } from 'vitest'
import type { Standing } from '#contracts/answers'
import { findingWords, leftWords, provenWords, stageWords } from '~/features/sites/words'

const done: Standing = {
  isEmpty: false,
  hasUplink: true,
  facts: 0,
  blockers: 0,
  warnings: 0,
  cells: 9,
  wrong: 0,
  isScheduled: true,
  devices: 4,
  adopted: 4,
  tests: 12,
  proven: 12,
}
const told = (more: Partial<Standing>) => {
  const standing = { ...done, ...more }
  return [stageWords(standing), leftWords(standing)]
}

describe('how a site stands', () => {
  it('is the first stage at which something is left', () => {
    expect(told({})).toEqual(['Hand over', 'the papers'])
    expect(told({ proven: 11 })).toEqual(['Prove', '1 of 12 tests'])
    expect(told({ proven: 11, adopted: 3 })).toEqual(['Adopt', '1 of 4 devices'])
    expect(told({ adopted: 3, isScheduled: false })).toEqual(['Stage', 'nobody named, or no first day'])
    expect(told({ isScheduled: false, wrong: 2 })).toEqual(['Rehearse', '2 pairs not as intended'])
    expect(told({ wrong: 2, blockers: 1 })).toEqual(['Plan', '1 blocker'])
    expect(told({ blockers: 1, facts: 1 })).toEqual(['Brief', '1 fact missing'])
  })
  it('is never right or complete of a plan in which little stands', () => {
    const empty = { isEmpty: true, cells: 0, devices: 0, adopted: 0, tests: 0, proven: 0 }
    expect(told({ ...empty, hasUplink: false })).toEqual(['Brief', 'no uplink yet'])
    expect(told(empty)).toEqual(['Plan', 'not complete yet'])
    expect(findingWords({ ...done, ...empty })).toBe('none yet')
    expect(provenWords({ ...done, ...empty })).toBe('no tests yet')
    expect(told({ tests: 0, proven: 0 })[0]).toBe('Prove')
  })
  it('is not said while it is being found out', () => {
    for (const words of [stageWords, leftWords, findingWords, provenWords]) expect(words(null)).toBe('…')
  })
  it('counts findings by what they are', () => {
    expect(findingWords(done)).toBe('none')
    expect(findingWords({ ...done, blockers: 2, warnings: 1 })).toBe('2 blockers, 1 warning')
    expect(provenWords({ ...done, proven: 3 })).toBe('3 of 12')
  })
})
