import './globals'
import { describe, expect, it } from 'vitest'
import type { Column } from '~/ui/columns'
import { offersFor, withToggled } from '~/ui/offers'
import { rowsWith, sortedNext, sortedRows } from '~/ui/sorted'

const NAMES = ['Fibre', 'LTE', 'Hall switch', 'Loft switch']
const shown = (text: string) =>
  offersFor(text, NAMES).map(({ name, isNamed }) => (isNamed ? `[${name}]` : name))

describe('what a cell can name', () => {
  it('is all of it, with a mark at what the text names already', () => {
    expect(shown('')).toEqual(NAMES)
    expect(shown('fibre, Loft switch')).toEqual(['[Fibre]', 'LTE', 'Hall switch', '[Loft switch]'])
  })
  it('is cut down to what holds the part that is being typed', () => {
    expect(shown('LTE, swi')).toEqual(['Hall switch', 'Loft switch'])
    expect(shown('LTE, attic')).toEqual(['Fibre', '[LTE]', 'Hall switch', 'Loft switch'])
  })
  it('is added, takes the place of its half-typed name, and is taken out again', () => {
    expect(withToggled('', 'LTE', NAMES)).toBe('LTE')
    expect(withToggled('LTE, swi', 'Loft switch', NAMES)).toBe('LTE, Loft switch')
    expect(withToggled('LTE, loft switch', 'Loft switch', NAMES)).toBe('LTE')
    expect(withToggled('attic', 'LTE', NAMES)).toBe('attic, LTE')
  })
  it('takes the place of the word for everything or nothing', () => {
    expect(withToggled('all', 'LTE', NAMES)).toBe('LTE')
    expect(withToggled('nothing', 'LTE', NAMES)).toBe('LTE')
    expect(withToggled('—', 'LTE', NAMES)).toBe('LTE')
  })
})

describe('sorted rows', () => {
  const rows = ['10.0.10.0', '10.0.9.0', '10.0.9.0 b', '9'].map((text, i) => ({ id: String(i), text }))
  const columns: readonly Column<(typeof rows)[number]>[] = [
    { key: 'text', head: 'Text', get: ({ text }) => text },
    { key: 'same', head: 'Same', get: () => 'x' },
  ]
  const ids = (column: string, descending = false) =>
    sortedRows(rows, columns, { column, descending }).map(({ id }) => id)
  it('stand by the value of the numbers in them, both ways', () => {
    expect(ids('text')).toEqual(['3', '1', '2', '0'])
    expect(ids('text', true)).toEqual(['0', '2', '1', '3'])
  })
  it('stay in the plan’s order where nothing tells them apart, or nothing is asked', () => {
    expect(ids('same')).toEqual(['0', '1', '2', '3'])
    expect(ids('gone')).toEqual(['0', '1', '2', '3'])
    expect(sortedRows(rows, columns, null)).toBe(rows)
  })
  it('go up, down, and back to the plan’s order', () => {
    const up = sortedNext(null, 'text')
    const down = sortedNext(up, 'text')
    expect([up, down, sortedNext(down, 'text')]).toEqual([
      { column: 'text', descending: false },
      { column: 'text', descending: true },
      null,
    ])
    expect(sortedNext(down, 'same')).toEqual({ column: 'same', descending: false })
  })
})

describe('filtered rows', () => {
  const rows = [
    { id: 'a', name: 'Laboratory switch', port: '24' },
    { id: 'b', name: 'Boathouse switch', port: '2' },
    { id: 'c', name: 'Laboratory AP', port: '1' },
  ]
  const columns: readonly Column<(typeof rows)[number]>[] = [
    { key: 'name', head: 'Name', get: ({ name }) => name },
    { key: 'port', head: 'Port', get: ({ port }) => port },
  ]
  const ids = (wanted: string) => rowsWith(rows, columns, wanted).map(({ id }) => id)
  it('hold each of the words, in any column and however written', () => {
    expect(ids('LAB')).toEqual(['a', 'c'])
    expect(ids('switch lab')).toEqual(['a'])
    expect(ids(' 2 ')).toEqual(['a', 'b'])
    expect(ids('switch 4')).toEqual(['a'])
    expect(ids('cellar')).toEqual([])
  })
  it('are all of them where nothing is asked, and no word joins two columns', () => {
    expect(rowsWith(rows, columns, '  ')).toBe(rows)
    expect(ids('ap1')).toEqual([])
  })
})
