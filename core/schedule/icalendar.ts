// Question: how does a calendar program read the run sheet?
// Method: one event for each interval of a person's work; times in UTC where the zone is known, else as the clock of
// whoever reads it shows them.
// Source: RFC 5545: 3.1 (lines of at most 75 octets, folded), 3.3.5 (forms 1 and 2 of date and time), 3.3.11 (what is
// escaped in a text), 3.6.1 (events).
import { DAY } from '#core/queries'
import { dateOf } from './calendar'
import { offsetOf } from './time-zone'

export interface CalendarEvent {
  /** Stays the same while the event is about the same; letters, digits, `:`, `.` and `-`. */
  readonly id: string
  readonly title: string
  readonly place: string
  /** A line each. */
  readonly details: readonly string[]
  /** Minutes from midnight of the first day. */
  readonly startMin: number
  readonly endMin: number
}

export interface CalendarFrame {
  /** What the events are of: in every event's id. */
  readonly slug: string
  readonly name: string
  readonly startDate: string
  /** IANA name; empty where it is not known. */
  readonly timeZone: string
  /** When it is written. */
  readonly nowMs: number
}

const MOST_OCTETS = 75

const octetsOf = (character: string): number => {
  const code = character.codePointAt(0) ?? 0
  if (code < 0x80) return 1
  if (code < 0x8_00) return 2
  return code < 0x1_00_00 ? 3 : 4
}

/** A line, cut so that no part has more than 75 octets; each further part begins with a blank. */
function folded(line: string): string {
  let [text, octets] = ['', 0]
  for (const character of line) {
    const more = octetsOf(character)
    if (octets + more > MOST_OCTETS) {
      text += '\r\n '
      octets = 1
    }
    text += character
    octets += more
  }
  return text
}

/** A text as a value: what parts values is escaped, ends of lines are said, other controls are left out. */
const escaped = (text: string): string =>
  text
    .replaceAll('\\', String.raw`\\`)
    .replaceAll(';', String.raw`\;`)
    .replaceAll(',', String.raw`\,`)
    .replaceAll(/\r?\n/g, String.raw`\n`)
    .replaceAll(/\p{Cc}/gu, '')

const stamp = (ms: number): string => new Date(ms).toISOString().replaceAll(/[-:]|\.\d{3}/g, '')

/** Worked: 2026-07-06, 510 minutes, Europe/Berlin is 20260706T063000Z; without a zone 20260706T083000. */
function timeText(minutes: number, { startDate, timeZone }: CalendarFrame): string {
  const localMs =
    Date.parse(`${dateOf(startDate, Math.floor(minutes / DAY))}T00:00:00Z`) + (minutes % DAY) * 60_000
  const offsetAt = timeZone === '' ? null : offsetOf(timeZone)
  if (!offsetAt) return stamp(localMs).replace('Z', '')
  // The clock's offset counts at the moment itself, of which it decides: one look nearer is near enough.
  const near = localMs - offsetAt(localMs) * 60_000
  return stamp(localMs - offsetAt(near) * 60_000)
}

const safeId = (text: string): string => text.replaceAll(/[^A-Za-z0-9:.-]/g, '-')

function linesOf(event: CalendarEvent, frame: CalendarFrame): string[] {
  return [
    'BEGIN:VEVENT',
    `UID:${safeId(event.id)}@${safeId(frame.slug)}`,
    `DTSTAMP:${stamp(frame.nowMs)}`,
    `DTSTART:${timeText(event.startMin, frame)}`,
    `DTEND:${timeText(event.endMin, frame)}`,
    `SUMMARY:${escaped(event.title)}`,
    ...(event.place === '' ? [] : [`LOCATION:${escaped(event.place)}`]),
    ...(event.details.length === 0 ? [] : [`DESCRIPTION:${escaped(event.details.join('\n'))}`]),
    'END:VEVENT',
  ]
}

/** A calendar of events, as a file. */
export function iCalendar(events: readonly CalendarEvent[], frame: CalendarFrame): string {
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Able Mast//Run sheet//EN',
    `NAME:${escaped(frame.name)}`,
    ...events.flatMap((event) => linesOf(event, frame)),
    'END:VCALENDAR',
  ]
    .map((line) => `${folded(line)}\r\n`)
    .join('')
}
