import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  bitsBefore,
  bitsWhere,
  bothBits,
  countUpTo,
  differingBits,
  distinctRows,
  eachShared,
  eitherBits,
  groupBy,
  groupByRows,
  noBits,
  setBit,
} from '.'

const read = (row: readonly number[]): number[] => {
  const places: number[] = []
  eachShared(row, row, (i) => places.push(i) > 0)
  return places
}

describe('rows of bits', () => {
  it('hold what a set holds, and share what two sets share, in order', () => {
    const set = fc.uniqueArray(fc.nat(200))
    fc.assert(
      fc.property(set, set, (first, second) => {
        const [x, y] = [bitsWhere(201, (i) => first.includes(i)), bitsWhere(201, (i) => second.includes(i))]
        expect(read(x)).toEqual([...first].sort((m, n) => m - n))
        const met: number[] = []
        eachShared(x, y, (i) => met.push(i) > 0)
        expect(met).toEqual(first.filter((i) => second.includes(i)).sort((m, n) => m - n))
      }),
    )
  })
  it('stop where they are told to', () => {
    const all = bitsWhere(100, () => true)
    const met: number[] = []
    eachShared(all, all, (i) => met.push(i) < 3)
    expect(met).toEqual([0, 1, 2])
  })
  it('are joined, met and cut as sets are', () => {
    const set = fc.uniqueArray(fc.nat(95))
    const sorted = (list: readonly number[]) => [...new Set(list)].sort((m, n) => m - n)
    fc.assert(
      fc.property(set, set, fc.nat(96), (first, second, end) => {
        const [x, y] = [first, second].map((list) =>
          list.reduce((row, i) => (setBit(row, i), row), noBits(96)),
        ) as [number[], number[]]
        expect(read(eitherBits([x, y]))).toEqual(sorted([...first, ...second]))
        const met = bothBits(x, y)
        expect(met ? read(met) : []).toEqual(sorted(first.filter((i) => second.includes(i))))
        if (met) expect(read(met).length).toBeGreaterThan(0)
        expect(read(differingBits([x, y, x]))).toEqual(
          sorted([...first.filter((i) => !second.includes(i)), ...second.filter((i) => !first.includes(i))]),
        )
        expect(read(bitsBefore(x, end))).toEqual(sorted(first.filter((i) => i < end)))
        const between: number[] = []
        eachShared(x, y, (i) => between.push(i) > 0, Math.floor(end / 2), end)
        expect(between).toEqual(
          sorted(first.filter((i) => second.includes(i) && i >= Math.floor(end / 2) && i < end)),
        )
      }),
    )
  })
  it('are one where the mask does not ask for what differs', () => {
    const row = (...places: number[]) => bitsWhere(70, (i) => places.includes(i))
    const rows = [row(1, 65), row(1), row(2), row(1, 66)]
    expect(distinctRows(rows, row(1, 2))).toEqual([rows[0], rows[2]])
    expect(
      distinctRows(
        rows,
        bitsWhere(70, () => true),
      ),
    ).toEqual(rows)
  })
  it('group items as each bit that is asked would', () => {
    const row = fc.uniqueArray(fc.nat(95)).map((list) => bitsWhere(96, (i) => list.includes(i)))
    fc.assert(
      fc.property(fc.array(fc.tuple(row, row), { maxLength: 12 }), row, row, (items, one, two) => {
        const slow = groupBy(items, ([first, second]) =>
          [
            ...read(bothBits(first, one) ?? noBits(96)),
            '|',
            ...read(bothBits(second, two) ?? noBits(96)),
          ].join(),
        )
        expect(
          groupByRows(items, [
            { mask: one, rows: items.map(([a]) => a) },
            { mask: two, rows: items.map(([, b]) => b) },
          ]),
        ).toEqual([...slow.values()])
      }),
    )
  })
})

describe('a place in a sorted list', () => {
  it('is how many items are not larger', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(50)), fc.nat(50), (list, value) => {
        expect(
          countUpTo(
            [...list].sort((a, b) => a - b),
            value,
          ),
        ).toBe(list.filter((x) => x <= value).length)
      }),
    )
  })
})
