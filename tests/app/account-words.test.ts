import { describe, expect, it } from 'vitest'
import { AUDIT_ACTIONS } from '#contracts/audit'
import { deviceWords } from '~/features/account/words'
import { ACTION_WORDS, checkWords } from '~/features/audit/words'

describe('a browser', () => {
  // As browsers write the header, in the form that RFC 9110, 10.1.5 gives; from memory.
  it.each([
    ['Mozilla/5.0 (X11; Linux x86_64; rv:150.0) Gecko/20100101 Firefox/150.0', 'Firefox on Linux'],
    [
      'Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0.0.0 Mobile Safari/537.36',
      'Chromium or Chrome on Android',
    ],
    [
      'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 Version/18.0 Safari/604.1',
      'Safari on iOS',
    ],
    ['curl/8.5.0', 'curl/8.5.0'],
    ['', 'says nothing of itself'],
  ])('%s is called %s', (userAgent, words) => {
    expect(deviceWords(userAgent)).toBe(words)
  })
})

describe('the audit', () => {
  it('calls every action something else', () => {
    const words = AUDIT_ACTIONS.map((action) => ACTION_WORDS[action])
    expect(new Set(words).size).toBe(AUDIT_ACTIONS.length)
  })
  it('says nothing good of a chain that is broken or empty', () => {
    expect(checkWords({ count: 9, brokenAt: 4, newest: 'ab' })).toMatch(/^Line 4 is not as it was written/)
    expect(checkWords({ count: 0, brokenAt: null, newest: '' })).toBe('There is no line yet.')
    expect(checkWords({ count: 1, brokenAt: null, newest: 'ab' })).toMatch(/^1 line, .*as ab:/)
  })
})
