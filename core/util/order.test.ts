import fc from 'fast-check'
import { expect, it } from 'vitest'
import { leastWhere } from '.'

it('halving finds the first number at which something stays true', () => {
  fc.assert(
    fc.property(fc.nat({ max: 50 }), fc.nat({ max: 50 }), fc.nat({ max: 120 }), (low, length, bound) => {
      const numbers = Array.from({ length }, (_, i) => low + i)
      const wanted = numbers.find((number) => number >= bound) ?? low + length
      expect(leastWhere(low, low + length, (number) => number >= bound)).toBe(wanted)
    }),
  )
})
