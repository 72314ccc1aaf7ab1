import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bitsWhere, countUpTo, eachShared, hasBit } from '.'

describe('rows of bits', () => {
  it('hold what a set holds, and share what two sets share, in order', () => {
    const set = fc.uniqueArray(fc.nat(200))
    fc.assert(fc.property(set, set, (a, b) => {
      const [x, y] = [bitsWhere(201, (i) => a.includes(i)), bitsWhere(201, (i) => b.includes(i))]
      expect(Array.from({ length: 201 }, (_, i) => i).filter((i) => hasBit(x, i))).toEqual([...a].sort((m, n) => m - n))
      const met: number[] = []
      eachShared(x, y, (i) => met.push(i) > 0)
      expect(met).toEqual(a.filter((i) => b.includes(i)).sort((m, n) => m - n))
    }))
  })
  it('stop where they are told to', () => {
    const all = bitsWhere(100, () => true)
    const met: number[] = []
    eachShared(all, all, (i) => met.push(i) < 3)
    expect(met).toEqual([0, 1, 2])
  })
})

describe('a place in a sorted list', () => {
  it('is how many items are not larger', () => {
    fc.assert(fc.property(fc.array(fc.nat(50)), fc.nat(50), (list, value) => {
      expect(countUpTo([...list].sort((a, b) => a - b), value)).toBe(list.filter((x) => x <= value).length)
    }))
  })
})
