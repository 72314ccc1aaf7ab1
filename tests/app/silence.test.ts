import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { shortWords, silentWords, waitingWords } from '~/wording/waiting'

beforeEach(() => vi.useFakeTimers({ now: new Date(2026, 11, 7, 12, 0) }))
afterEach(() => vi.useRealTimers())

describe('a server that does not answer', () => {
  it('is said with when it was heard last, and when a record was sent last', () => {
    const [heard, sent] = [new Date(2026, 11, 7, 10, 42), new Date(2026, 11, 7, 10, 5)]
    expect(silentWords(Number(heard), Number(sent))).toBe(
      'The server does not answer since 10:42: what you see is what this device has kept. Last record sent: 10:05.',
    )
  })
  it('is said with the day where that was long ago, and without a time that is not known', () => {
    expect(silentWords(Number(new Date(2026, 11, 5, 9, 0)), 0)).toContain('since 2026-12-05 09:00')
    expect(silentWords(0, 0)).toBe('The server does not answer: what you see is what this device has kept.')
  })
  it('is told in a few words beside the revision', () => {
    expect([shortWords(true, 2), shortWords(false, 1), shortWords(false, 0)]).toEqual([
      ', no server, 2 to send',
      ', 1 to send',
      '',
    ])
  })
  it('keeps records in their number', () => {
    expect([waitingWords(1), waitingWords(2)].map((words) => words.split(' for ')[0])).toEqual([
      '1 record waits',
      '2 records wait',
    ])
  })
})
