import { describe, expect, it } from 'vitest'
import { disputesOf, type ToldRecord } from './disputes'

const record = (id: number, who: string, rest: Partial<ToldRecord> = {}): ToldRecord => ({
  id,
  activityId: 'mount:mast',
  state: 'done',
  who,
  reading: '',
  knows: 0,
  ...rest,
})
const pairs = (records: readonly ToldRecord[]) =>
  [...disputesOf(records)].map(([activity, { earlier, later }]) => [activity, earlier.id, later.id])

describe('two people’s records of one step', () => {
  it('ask where the later says otherwise and had not seen the earlier', () => {
    expect(pairs([record(1, 'A'), record(2, 'B', { state: 'failed' })])).toEqual([['mount:mast', 1, 2]])
    expect(pairs([record(1, 'A', { reading: '3.4' }), record(2, 'B', { reading: '3.5' })])).toHaveLength(1)
  })
  it('do not where the later had seen it, says the same, is of the same person, or of another step', () => {
    expect(pairs([record(1, 'A'), record(2, 'B', { state: 'failed', knows: 1 })])).toEqual([])
    expect(pairs([record(1, 'A'), record(2, 'B')])).toEqual([])
    expect(pairs([record(1, 'A'), record(2, 'A', { state: 'failed' })])).toEqual([])
    expect(pairs([record(1, 'A'), record(2, 'B', { state: 'failed', activityId: 'bond:mast' })])).toEqual([])
  })
  it('are settled by a record that has seen both', () => {
    const both = [record(1, 'A'), record(2, 'B', { state: 'failed' })]
    expect(pairs([...both, record(3, 'C', { state: 'done', knows: 2 })])).toEqual([])
    expect(pairs([...both, record(3, 'B', { state: 'done', knows: 1 })])).toEqual([])
    expect(pairs([...both, record(3, 'C', { state: 'done', knows: 1 })])).toEqual([['mount:mast', 2, 3]])
  })
  it('ask where the later told twice before it heard of the other', () => {
    const begun = record(2, 'B', { state: 'started' })
    const done = record(3, 'B', { state: 'done' })
    expect(pairs([record(1, 'A', { state: 'failed' }), begun, done])).toEqual([['mount:mast', 1, 3]])
    expect(pairs([record(1, 'A', { state: 'failed' }), begun, { ...done, knows: 2 }])).toEqual([])
  })
  it('of which one still waits to be sent ask as soon as the other is known', () => {
    expect(pairs([record(7, 'A'), record(-1, 'B', { state: 'failed', knows: 3 })])).toEqual([
      ['mount:mast', 7, -1],
    ])
    expect(pairs([record(7, 'A'), record(-1, 'B', { state: 'failed', knows: 7 })])).toEqual([])
  })
})
