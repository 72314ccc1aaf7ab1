import { describe, expect, it } from 'vitest'
import { base } from '../../tests/plans'
import { addRoom } from '.'

describe('a new room', () => {
  it('stands in the first building, which is made where there is none', () => {
    const { brief } = addRoom(base())
    expect(brief.buildings).toMatchObject([{ name: 'Main building', position: null }])
    expect(brief.rooms).toMatchObject([{ name: 'Room 1', buildingId: brief.buildings[0]?.id, outline: null }])
  })
  it('has an id and a name that no other has', () => {
    const twice = addRoom(addRoom(base()))
    const [first] = twice.brief.rooms
    const { brief } = addRoom({
      ...twice,
      brief: { ...twice.brief, rooms: first ? [{ ...first, name: 'Room 2' }] : [] },
    })
    expect(brief.rooms.map(({ name }) => name)).toEqual(['Room 2', 'Room 3'])
    expect(new Set(brief.rooms.map(({ id }) => id)).size).toBe(2)
  })
})
