import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { csvText } from '#server/platform/csv'

describe('a table for a spreadsheet', () => {
  // The second is a known way past a guard whose pattern wants the whole text on one line.
  it.each(['=1+1', "=cmd|'/C calc'!A0\n", '@SUM(A1)', '\t=1', '-2+3', 'a\n=1+1'])(
    'holds %j as text',
    (cell) => {
      const [[read = ''] = []] = Papa.parse<string[]>(csvText([[cell]])).data
      expect(read).toBe(`'${cell}`)
    },
  )
  it.each(['10.61.0.0/24', 'Cameras, north "yard"', 'a=b', 'two\nlines', 'é'])(
    'holds %j as it is',
    (cell) => {
      expect(Papa.parse<string[]>(csvText([[cell, 'x']])).data[0]).toEqual([cell, 'x'])
    },
  )
})
