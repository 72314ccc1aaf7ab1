import { isTimed, runsOf, type CalendarEvent, type TimedRow, type Timetable } from '#core/schedule'
import type { Plan } from '#core/schema'
import { runWords } from './words'
import { titlesOf } from '~/wording/activities'

/** What several steps that belong together are called: the one step, the device, or what they are together. */
export function runTitle(
  rows: readonly TimedRow[],
  title: (row: TimedRow) => string,
  deviceName: (id: string) => string | undefined,
): string {
  const [first, second] = rows
  if (!first || !second) return first ? title(first) : ''
  const device = first.deviceId === null ? undefined : deviceName(first.deviceId)
  if (rows.every(({ about }) => about === first.about)) return device ?? title(first)
  return runWords(rows)
}

/** An event for each stretch of work of each person; waits need nobody, and are none. */
export function eventsOf(plan: Plan, timetable: Timetable): CalendarEvent[] {
  const title = titlesOf(plan)
  const people = new Map(plan.work.people.map(({ id, name }) => [id, name]))
  const deviceName = (id: string) => plan.devices.find((device) => device.id === id)?.name
  const mine = timetable.rows.filter(isTimed).filter(({ personId }) => personId !== null)
  return runsOf(mine).flatMap((rows) => {
    const [first, last] = [rows[0], rows.at(-1)]
    if (!first || !last) return []
    const who = people.get(first.personId ?? '')
    return [
      {
        id: first.id,
        title: [who, runTitle(rows, title, deviceName)].filter((text) => text !== undefined).join(': '),
        place: first.place,
        details: rows.map(title),
        startMin: first.startMin,
        endMin: last.endMin,
      },
    ]
  })
}
