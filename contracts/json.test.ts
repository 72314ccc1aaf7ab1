import { describe, expect, it } from 'vitest'
import { base } from '../tests/plans'
import { readJson } from './json'
import { planToText } from './plan'

const placeOf = (text: string) => {
  const read = readJson(text)
  return read.ok
    ? 'read'
    : read.problems.map(({ code, values }) => [code, values['line'], values['column']])[0]
}

describe('JSON that is none', () => {
  it.each([
    ['{"a": 1}', 'read'],
    ['', ['not-json', 1, 1]],
    ['{"a": 1', ['not-json', 1, 8]],
    ['{\n  "a": [1,\n  2', ['not-json', 3, 4]],
    ['{\n  "a": x\n}', ['not-json', 2, 8]],
    ['{"a": 1}}', ['not-json', 1, 9]],
  ])('%j breaks off at %j', (text, place) => {
    expect(placeOf(text)).toEqual(place)
  })

  it('half a site file breaks off where it ends', () => {
    const lines = planToText(base()).split('\n')
    const half = lines.slice(0, Math.floor(lines.length / 2)).join('\n')
    expect(placeOf(half)).toEqual([
      'not-json',
      Math.floor(lines.length / 2),
      (half.split('\n').at(-1) ?? '').length + 1,
    ])
  })
})
