import type { StepRecord } from '#contracts/api'
import { missingFacts } from '#core/brief'
import { readActivityId, type TimetableRow } from '#core/schedule'
import type { ActivityKind, Plan } from '#core/schema'
import { FACTS } from './brief'
import { namesIn } from './names'

// What the activities of a run sheet are called.

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

/** The title of an activity of which only the id is left. */
export function titleOfId(plan: Plan, id: string): string {
  const { kind, about } = readActivityId(id)
  return kind in TITLES ? titlesOf(plan)({ kind: kind as ActivityKind, about, deviceId: null }) : id
}

/** What became of a step. */
export const STEP_STATES: Readonly<Record<StepRecord['state'], string>> = {
  started: 'begun',
  done: 'done',
  failed: 'not as it should be',
  skipped: 'skipped',
  open: 'taken back',
}
