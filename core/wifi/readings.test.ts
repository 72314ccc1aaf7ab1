import { describe, expect, it } from 'vitest'
import { parseReading } from './readings'

describe('a reading', () => {
  it.each([
    ['-67', -67],
    ['−67.5 dBm', -67.5],
    [' -71dBm ', -71],
    // Practice: 70 % are -65 dBm, 50 % are -75 dBm.
    ['70 %', -65],
    ['50%', -75],
  ])('%j is %d dBm', (text, dBm) => {
    expect(parseReading(text)).toEqual({ ok: true, value: dBm })
  })
  it.each(['67', '', '0 %', '100 %', '101 %', '-121', 'loud', '-67 mW', '-6.75'])('%j is none', (text) => {
    const read = parseReading(text)
    expect(read.ok || read.problems.map(({ code }) => code)).toEqual(['not-a-reading'])
  })
})
