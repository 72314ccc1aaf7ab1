import { describe, expect, it } from 'vitest'
import { isCalendarDate } from '.'

describe('a day of the calendar', () => {
  it.each(['2026-12-07', '2024-02-29', '2000-02-29'])('%s is one', (text) => {
    expect(isCalendarDate(text)).toBe(true)
  })
  // 2100 is no leap year; some runtimes read 30 February as 2 March.
  it.each([
    '2026-02-30',
    '2100-02-29',
    '2026-13-01',
    '2026-1-1',
    '',
    '+012026-01-01',
    '9999-12-31',
    '2026-12-07T00:00',
  ])('%s is none', (text) => {
    expect(isCalendarDate(text)).toBe(false)
  })
})
