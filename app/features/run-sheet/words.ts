import type { Assumption, Crew, Duration, Timetable, TimetableRow } from '#core/schedule'
import type { ActivityKind, Skill } from '#core/schema'
import { count } from '~/wording/count'
import { lengthText, timeText } from './times'

/** Several of a kind together, as a block of the picture says it. */
const RUNS: Partial<Readonly<Record<ActivityKind, readonly [verb: string, one: string, many: string]>>> = {
  pull: ['Pull', 'cable', 'cables'],
  'test-cable': ['Test', 'cable', 'cables'],
  bond: ['Bond', 'place', 'places'],
  mount: ['Mount', 'device', 'devices'],
  connect: ['Connect', 'device', 'devices'],
  'connect-uplink': ['Connect', 'uplink', 'uplinks'],
  aim: ['Aim', 'end', 'ends'],
}

/** What steps of a group are together, where their kinds differ. */
const GROUP_RUNS: Partial<Readonly<Record<TimetableRow['group'], string>>> = {
  before: 'Preparation',
  'cut-over': 'Cut-over',
  after: 'Proof',
}

/** What steps that follow each other are together. */
export function runWords(rows: readonly TimetableRow[]): string {
  const [first] = rows
  const run = first && rows.every(({ kind }) => kind === first.kind) ? RUNS[first.kind] : undefined
  if (run) return `${run[0]} ${count(rows.length, run[1], run[2])}`
  const things = new Set(rows.map(({ about }) => about).filter((about) => about !== '')).size
  if (first?.group === 'bench') return `Bench: ${count(things, 'device')}`
  return (first && GROUP_RUNS[first.group]) ?? count(rows.length, 'step')
}

export const SKILL_WORDS: Readonly<Record<Skill, string>> = {
  mains: 'mains',
  height: 'height',
  driving: 'driving',
}

/** Who may do it, where not everybody may. */
export const skillsText = (skills: readonly string[]): string =>
  skills.map((skill) => SKILL_WORDS[skill as Skill]).join(', ')

/** Why an activity has no time. */
export function unplacedWords({ unplaced, skills, duration }: TimetableRow): string {
  switch (unplaced) {
    case 'nobody':
      return `Nobody who is asked for it may: it needs ${skillsText(skills)}.`
    case 'hours':
      return `Nobody has ${lengthText(duration.usualMin)} in one piece.`
    case 'daylight':
      return 'Never light for long enough.'
    case 'window':
      return 'Does not fit into the window of the cut-over.'
    case 'failed':
      return 'Failed.'
    case 'waits':
      return 'Waits for something that has no time.'
    case null:
      return ''
  }
}

/** When all ends, and whether that can be bettered; nothing is at its end where a step has no time. */
export function summaryWords(table: Timetable, undone: number, startDate: string | null): string {
  const end = timeText(startDate, table.endMin)
  if (undone > 0) return `Not all of it can be done as it is. What has a time ends ${end}.`
  const isBest = table.isProven || table.leastEndMin >= table.endMin
  const best = isBest ? 'no schedule ends sooner' : `at best ${timeText(startDate, table.leastEndMin)}`
  const travel = table.travelMin > 0 ? `, ${lengthText(table.travelMin)} of travel` : ''
  return `Ends ${end}; ${best}${travel}.`
}

/** What is wished of steps that are dragged. */
export function wishWords(person: string, notBeforeMin: number | null, startDate: string | null): string {
  const time = notBeforeMin === null ? '' : `not before ${timeText(startDate, notBeforeMin)}`
  return [person, time].filter((text) => text !== '').join(', ') || 'As it is'
}

/** Why steps that are dragged to an earlier time stay. */
export const soonestWords = (waitsFor: string): string =>
  `It cannot begin sooner: ${waitsFor === '' ? 'nobody who may is free before' : `it waits for “${waitsFor}”`}`

/** What stands behind a step: what it waits for, where its time comes from, what it needs. */
export function detailWords({ duration, skills, isCritical }: TimetableRow, before: string): string {
  const { leastMin, usualMin, worstMin, source } = duration
  return [
    before === '' ? 'Waits for nothing.' : `Waits for: ${before}.`,
    `${leastMin}, ${usualMin} or ${worstMin} min at least, usually and at worst (${SOURCES[source]}).`,
    skills.length > 0 ? `Needs: ${skillsText(skills)}.` : '',
    isCritical ? 'It holds up the end.' : '',
  ]
    .filter((text) => text !== '')
    .join(' ')
}

export const ASSUMPTIONS: Readonly<Record<Assumption, string>> = {
  people: 'Nobody is named: counted is one person who may do everything, Monday to Friday, 08:00 to 17:00.',
  start: 'No first day is agreed: days are numbered, and day 1 counts as a Monday.',
  daylight:
    'Daylight is not judged: it needs the first day, the time zone, and a building’s position in the Brief.',
  travel: 'No travel times between places are typed: travel counts for nothing.',
  window: 'No window for the cut-over: any working hour counts.',
}

export const SOURCES: Readonly<Record<Duration['source'], string>> = {
  practice: 'practice',
  model: 'each model',
  own: 'yours',
}

/** What a change costs, before it is made. */
export function costWords(
  { endMin, undone }: { readonly endMin: number; readonly undone: number },
  now: Timetable,
  startDate: string | null,
): string {
  const undoneNow = now.rows.filter(({ unplaced }) => unplaced !== null).length
  if (undone > undoneNow) return `${count(undone - undoneNow, 'step')} would have no time`
  const later = endMin - now.endMin
  if (later === 0) return 'the end stays'
  const end = `ends ${timeText(startDate, endMin)}`
  return later > 0 ? `${end}, ${lengthText(later)} later` : `${end}, ${lengthText(-later)} sooner`
}

/** What another number of people would mean. */
export function crewWords(crew: Crew, planned: Crew | undefined, startDate: string | null): string {
  const who = count(crew.people, 'person', 'people')
  if (crew.endMin === null)
    return `${who}: ${count(crew.undone, 'activity', 'activities')} would be left undone.`
  const end = `${who}: ends ${timeText(startDate, crew.endMin)}`
  if (planned?.endMin == null || planned.people === crew.people) return `${end}.`
  const saved = planned.endMin - crew.endMin
  if (saved === 0) return `${end}, which saves nothing.`
  return saved > 0 ? `${end}, ${lengthText(saved)} sooner.` : `${end}, ${lengthText(-saved)} later.`
}
