import { describe, expect, it } from 'vitest'
import { noneListedWords, triedWords, type Tried } from '~/wording/failures'

const none: Tried = { part: 'singles', intents: 0, tried: 0, total: 0, broken: 0 }

describe('the weather table', () => {
  it('calls no plan safe that has nothing to be judged by, nor one that is not tried whole', () => {
    const unfinished: Tried[] = [
      none,
      { ...none, total: 4, tried: 4 },
      { ...none, intents: 3 },
      { ...none, intents: 3, total: 4, tried: 2 },
      { ...none, part: 'pairs', intents: 3 },
    ]
    for (const each of unfinished) expect(noneListedWords(each)).not.toMatch(/^No (single failure|pair)/)
    expect(triedWords(none)).toMatch(/^No intent yet/)
  })

  it('says so where every failure was tried and none breaks an intent', () => {
    const whole: Tried = { ...none, intents: 3, total: 4, tried: 4 }
    expect(noneListedWords(whole)).toBe('No single failure breaks an intent.')
    expect(triedWords(whole)).toMatch(/^4 of 4 single failures tried; 0 break an intent/)
  })
})
