import { missingFacts } from '#core/brief'
import type { Assumption, Crew, Duration, Timetable, TimetableRow } from '#core/schedule'
import type { ActivityKind, Plan, Skill } from '#core/schema'
import { FACTS } from '~/wording/brief'
import { count } from '~/wording/count'
import { namesIn } from '~/wording/names'
import { lengthText, timeText } from './times'

type About = (name: string) => string
const whole =
  (text: string): About =>
  () =>
    text

/** What is done, with the name of what it is done to. */
const TITLES: Readonly<Record<ActivityKind, About>> = {
  ask: (name) => `Find out: ${name}`,
  order: whole('Order what is missing'),
  print: whole('Print labels and cards'),
  download: whole('Download firmware and files'),
  'back-up-old': whole('Back up what stands there'),
  'agree-window': whole('Agree the window for the cut-over'),
  unbox: (name) => `Unbox ${name}, check its contents`,
  claim: (name) => `Scan and claim ${name}`,
  power: (name) => `Power ${name}`,
  boot: (name) => `${name} starts`,
  'sign-in': (name) => `Sign in to ${name}, change its password`,
  firmware: (name) => `${name} takes its firmware`,
  settings: (name) => `Set up ${name}, laptop back on automatic`,
  adopt: (name) => `${name} is adopted`,
  label: (name) => `Label ${name}`,
  mount: (name) => `Mount ${name}`,
  pull: (name) => `Pull ${name}`,
  'test-cable': (name) => `Terminate and test ${name}`,
  bond: (name) => `Bond and protect ${name}`,
  connect: (name) => `Connect ${name}, read its lights`,
  'place-extender': (name) => `Plug in ${name} in its room`,
  aim: (name) => `Aim ${name}`,
  'note-wiring': whole('Note and photograph the old wiring'),
  'gate-begin': whole('Gate: begin the cut-over?'),
  unplug: whole('Unplug the old uplink'),
  'connect-uplink': (name) => `Connect ${name}`,
  'wait-uplink': (name) => `${name} comes up`,
  'smoke-test': whole('Smoke test'),
  'gate-keep': whole('Gate: keep it, or turn back?'),
  channels: whole('Let the access points choose channels'),
  prove: (name) => `Prove: ${name}`,
  failover: (name) => `Fail over ${name} and back, timed`,
  'back-up': whole('Back up configurations'),
  'hand-over': whole('Hand over'),
}

/** What a kind is called where durations are listed. */
export const kindWords = (kind: ActivityKind): string => TITLES[kind]('…').replace(': …', '')

const TESTS: Readonly<Record<string, string>> = {
  lease: 'addresses are leased',
  passes: 'what must pass',
  'nothing-else': 'nothing else passes',
  level: 'levels of radio links',
}

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

/** Titles of a plan's activities. */
export function titlesOf(plan: Plan): (row: Pick<TimetableRow, 'kind' | 'about' | 'deviceId'>) => string {
  const names = namesIn(plan)
  const facts = new Map(
    missingFacts(plan).map(({ key, place, about }) => [
      [key, ...place].join('.'),
      `${FACTS[key].name}${about === '' ? '' : ` of ${about}`}`,
    ]),
  )
  return ({ kind, about, deviceId }) => {
    if (kind === 'ask') return TITLES.ask(facts.get(about) ?? about)
    if (kind === 'prove') return TITLES.prove(TESTS[about] ?? about)
    if (kind === 'aim' && deviceId !== null) return TITLES.aim(names.device(deviceId))
    return TITLES[kind](about === '' ? '' : names.thing(about))
  }
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
      return `Nobody who may: it needs ${skillsText(skills)}.`
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

/** When all is done, and whether that can be bettered; nothing is done where a step has no time. */
export function summaryWords(table: Timetable, undone: number, startDate: string | null): string {
  const end = timeText(startDate, table.endMin)
  if (undone > 0) return `Not all of it can be done as it is. What has a time is done ${end}.`
  const isBest = table.isProven || table.leastEndMin >= table.endMin
  const best = isBest ? 'nothing is sooner' : `at best ${timeText(startDate, table.leastEndMin)}`
  const way = table.wayMin > 0 ? `, ${lengthText(table.wayMin)} on the way` : ''
  return `Done ${end}; ${best}${way}.`
}

export const ASSUMPTIONS: Readonly<Record<Assumption, string>> = {
  people: 'Nobody is named: counted is one person who may do everything, Monday to Friday, 08:00 to 17:00.',
  start: 'No first day is agreed: days are numbered, and day 1 counts as a Monday.',
  daylight:
    'Daylight is not judged: it needs the first day, the time zone, and a building’s position in the Brief.',
  travel: 'No ways between places are typed: they count for nothing.',
  window: 'No window for the cut-over: any working hour counts.',
}

export const SOURCES: Readonly<Record<Duration['source'], string>> = {
  practice: 'practice',
  model: 'model',
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
  const end = `done ${timeText(startDate, endMin)}`
  return later > 0 ? `${end}, ${lengthText(later)} later` : `${end}, ${lengthText(-later)} sooner`
}

/** What another number of people would mean. */
export function crewWords(crew: Crew, planned: Crew | undefined, startDate: string | null): string {
  const who = count(crew.people, 'person', 'people')
  if (crew.endMin === null)
    return `${who}: ${count(crew.undone, 'activity', 'activities')} would be left undone.`
  const end = `${who}: done ${timeText(startDate, crew.endMin)}`
  if (planned?.endMin == null || planned.people === crew.people) return `${end}.`
  const saved = planned.endMin - crew.endMin
  if (saved === 0) return `${end}, which saves nothing.`
  return saved > 0 ? `${end}, ${lengthText(saved)} sooner.` : `${end}, ${lengthText(-saved)} later.`
}
