import { describe, expect, it } from 'vitest'
import { readWalk } from '.'

const ROOMS = [
  { id: 'hall', name: 'Hall' },
  { id: 'lab', name: 'Wet laboratory' },
]
const codes = (rows: readonly (readonly string[])[]) => {
  const read = readWalk(rows, ROOMS)
  return read.ok ? [] : read.problems.map(({ code, place }) => `${code} ${place}`)
}

describe('readings of a walk', () => {
  it('the least of each room counts, whatever its unit, with or without a heading', () => {
    const rows = [
      ['Hall', '-61 dBm'],
      ['wet laboratory', '-70'],
      ['hall', '66 %'],
      ['', ''],
    ]
    const found = [
      { roomId: 'hall', name: 'Hall', dBm: -67, readings: 2 },
      { roomId: 'lab', name: 'Wet laboratory', dBm: -70, readings: 1 },
    ]
    expect(readWalk(rows, ROOMS)).toEqual({ ok: true, value: found })
    expect(readWalk([['Room', 'Reading'], ...rows], ROOMS)).toEqual({ ok: true, value: found })
    expect(readWalk([], ROOMS)).toEqual({ ok: true, value: [] })
  })

  it('every wrong row is told by its number, and none is used', () => {
    expect(
      codes([
        ['Hall', '-61'],
        ['Attic', '-70'],
        ['Hall', '12'],
        ['Attic', 'loud 5'],
      ]),
    ).toEqual([
      'not-a-choice row 2, column "room"',
      'not-a-reading row 3, column "reading"',
      'not-a-choice row 4, column "room"',
      'not-a-reading row 4, column "reading"',
    ])
  })

  it('more stops than anybody makes are refused', () => {
    const rows = Array.from({ length: 5001 }, () => ['Hall', '-61'])
    expect(codes(rows)).toEqual(['too-many-rows row 5001'])
    expect(codes(rows.slice(1))).toEqual([])
  })
})
