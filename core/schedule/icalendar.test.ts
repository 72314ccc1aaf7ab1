import fc from 'fast-check'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { iCalendar, type CalendarEvent, type CalendarFrame } from './icalendar'

const FRAME: CalendarFrame = {
  slug: 'gullhaven',
  name: 'Gullhaven',
  startDate: '2026-07-06',
  timeZone: 'Europe/Berlin',
  nowMs: Date.UTC(2026, 6, 1, 12),
}
const EVENT: CalendarEvent = {
  id: 'mount:gateway',
  title: 'Mount Gateway',
  place: 'Laboratory',
  details: ['Mount Gateway'],
  startMin: 510,
  endMin: 530,
}
/** Read back by an independent library. */
const read = (text: string) =>
  new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((event) => new ICAL.Event(event))

describe('the calendar', () => {
  it('is read back by another program, with its times in UTC', () => {
    const [event] = read(iCalendar([EVENT], FRAME))
    expect(event?.summary).toBe('Mount Gateway')
    expect(event?.location).toBe('Laboratory')
    expect(event?.uid).toBe('mount:gateway@gullhaven')
    expect(event?.startDate.toJSDate().toISOString()).toBe('2026-07-06T06:30:00.000Z')
    expect(event?.endDate.toJSDate().toISOString()).toBe('2026-07-06T06:50:00.000Z')
  })
  it('without a time zone has the times of whoever reads it', () => {
    const text = iCalendar([EVENT], { ...FRAME, timeZone: '' })
    expect(text).toContain('DTSTART:20260706T083000\r\n')
    expect(read(text)[0]?.startDate.zone).toBe(ICAL.Timezone.localTimezone)
  })
  it('of a later day counts the days', () => {
    const late = { ...EVENT, startMin: 3 * 1440 + 60, endMin: 3 * 1440 + 90 }
    expect(iCalendar([late], { ...FRAME, timeZone: 'UTC' })).toContain('DTSTART:20260709T010000Z')
  })
  it.each([
    // Germany's clocks go forward at 01:00 UTC on the last Sunday of March, and back in October (2000/84/EC).
    ['2026-03-29', 90, '20260329T003000Z'],
    ['2026-03-29', 210, '20260329T013000Z'],
    ['2026-10-25', 210, '20261025T023000Z'],
  ])('on the day of a change of clocks, %s minute %d is %s', (startDate, startMin, utc) => {
    const text = iCalendar([{ ...EVENT, startMin, endMin: startMin + 10 }], { ...FRAME, startDate })
    expect(text).toContain(`DTSTART:${utc}`)
  })
  it('holds any text, in lines of 75 octets, and nothing begins a line of its own', () => {
    const text = fc.string({ unit: 'binary', maxLength: 200 })
    fc.assert(
      fc.property(text, text, fc.array(text, { maxLength: 3 }), (title, place, details) => {
        const file = iCalendar([{ ...EVENT, title, place, details }], FRAME)
        const lines = file.split('\r\n')
        expect(lines.every((line) => new TextEncoder().encode(line).length <= 75)).toBe(true)
        expect(lines.filter((line) => /^(BEGIN|END):/.test(line))).toHaveLength(4)
        const printable = (value: string) => value.replaceAll(/\r?\n/g, '\n').replaceAll(/(?!\n)\p{Cc}/gu, '')
        const [event] = read(file)
        expect(event?.summary).toBe(printable(title))
      }),
    )
  })
  it('of nothing is an empty calendar', () => {
    expect(read(iCalendar([], FRAME))).toEqual([])
  })
})
