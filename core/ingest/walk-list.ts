// Question: what was read in which room, on a walk through the building?
// Method: room and reading by row, a room as often as one stopped in it; the least of a room counts, as it is judged by
// its worst places. A heading may stand over them.
import { parseReading } from '#core/wifi'
import type { Room } from '#core/schema'
import { isSameName, ok, problem, refuse, type Problem, type Result } from '#core/util'

export interface RoomReading {
  readonly roomId: Room['id']
  readonly name: string
  /** The least that was read there. */
  readonly dBm: number
  readonly readings: number
}
/** More stops than anybody makes. */
const MOST_ROWS = 5000

/**
 * Reads a walk; rooms are named as in the plan. All problems are told by row, and nothing is used while there is one.
 * Problems: not-a-choice, not-a-reading, too-many-rows.
 */
export function readWalk(
  rows: readonly (readonly string[])[],
  rooms: readonly Pick<Room, 'id' | 'name'>[],
): Result<readonly RoomReading[]> {
  const numbered = rows
    .map(([name = '', reading = ''], i) => ({ name: name.trim(), reading: reading.trim(), row: i + 1 }))
    .filter(({ name, reading }) => name !== '' || reading !== '')
  const hasHeading = numbered[0] !== undefined && !/\d/.test(numbered[0].reading)
  const body = hasHeading ? numbered.slice(1) : numbered
  if (body.length > MOST_ROWS)
    return refuse(problem('too-many-rows', `row ${body[MOST_ROWS]?.row}`, { most: MOST_ROWS }))
  const problems: Problem[] = []
  const found = new Map<string, RoomReading>()
  for (const { name, reading, row } of body) {
    const room = rooms.find((one) => isSameName(one.name, name))
    const read = parseReading(reading)
    if (!room)
      problems.push(
        problem('not-a-choice', `row ${row}, column "room"`, {
          text: name.slice(0, 60),
          choices: rooms
            .slice(0, 8)
            .map((one) => one.name)
            .join(', '),
        }),
      )
    if (!read.ok)
      problems.push(problem('not-a-reading', `row ${row}, column "reading"`, { text: reading.slice(0, 40) }))
    if (!room || !read.ok) continue
    const known = found.get(room.id)
    found.set(room.id, {
      roomId: room.id,
      name: room.name,
      dBm: Math.min(known?.dBm ?? 0, read.value),
      readings: (known?.readings ?? 0) + 1,
    })
  }
  return problems.length > 0 ? refuse(...problems) : ok([...found.values()])
}
