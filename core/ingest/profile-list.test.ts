import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { MOST_POINTS, readProfile } from './profile-list'

const read = (text: string, lengthM = 3400) => readProfile(Papa.parse<string[]>(text).data, lengthM)
const told = (text: string, lengthM = 3400) => {
  const result = read(text, lengthM)
  return result.ok ? [] : result.problems.map(({ place, code }) => `${place}: ${code}`)
}

describe('a survey', () => {
  it('is distance, ground and what stands on it, with a heading or without one', () => {
    const points = [
      { atM: 60, groundM: 4, obstacleM: 2 },
      { atM: 1400.5, groundM: -1.25, obstacleM: 0 },
    ]
    expect(read('60,4,2\n1400.5,-1.25')).toEqual({ ok: true, value: points })
    expect(read('Distance;Ground;Trees\n60;4;2\n\n1400.5;−1.25;\n')).toEqual({ ok: true, value: points })
    expect(read('60\t4\t2\r\n1400.5\t-1.25\t0\r\n')).toEqual({ ok: true, value: points })
  })
  it('tells row and column of everything wrong, and gives nothing', () => {
    expect(told('distance,ground\n60,4\nfar,4\n80,high\n3401,0\n90,0,501\n100,9001')).toEqual([
      'row 3, column "distance": out-of-range',
      'row 4, column "ground": out-of-range',
      'row 5, column "distance": out-of-range',
      'row 6, column "obstacle": out-of-range',
      'row 7, column "ground": out-of-range',
    ])
  })
  it('goes from one end to the other: a distance that is not further is refused with its row', () => {
    expect(told('60,4\n50,4\n60,4\n70,4')).toEqual(['row 2: not-in-order', 'row 3: not-in-order'])
  })
  it('has bounds: the link, and as many points as it can hold', () => {
    expect([told('0,0\n3400,9000,500'), told('3400.1,0')]).toEqual([
      [],
      ['row 1, column "distance": out-of-range'],
    ])
    const many = (count: number) => Array.from({ length: count }, (_, n) => `${n},0`).join('\n')
    expect([told(many(MOST_POINTS)), told(many(MOST_POINTS + 1))]).toEqual([[], ['row 501: too-many-rows']])
  })
  it('of nothing is none', () => {
    expect([read(''), read('distance,ground')]).toEqual([
      { ok: true, value: [] },
      { ok: true, value: [] },
    ])
  })
})
