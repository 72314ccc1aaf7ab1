import type { CardField, CardValue, StepCard, StepReading, TimetableRow } from '#core/schedule'
import type { ActivityKind, Model, Skill } from '#core/schema'
import { laptopWords, openWords } from '../run-sheet/bench-words'
import type { StepRecord } from '#contracts/api'
import { STEP_STATES } from '~/wording/activities'
import { dateText } from '~/wording/adoption'
import type { Keeping } from './keep-offline'
import { count } from '~/wording/count'
import { CREDENTIAL_WORDS } from '~/wording/kinds'

export const FIELDS: Readonly<Record<CardField, string>> = {
  model: 'Model',
  serial: 'Serial',
  mac: 'MAC address',
  open: 'Open',
  laptop: 'Laptop',
  credentials: 'First sign-in',
  firmware: 'Firmware wanted',
  'least-firmware': 'Oldest that is adopted',
  name: 'Name',
  address: 'Address',
  gateway: 'Gateway',
  vlan: 'VLAN',
  country: 'Country',
  place: 'Place',
  cable: 'On the label',
  'cable-kind': 'Cable',
  from: 'From',
  to: 'To',
  port: 'Port',
  speed: 'Link speed',
  assignment: 'Kind',
  tag: 'VLAN tag',
  'credentials-at': 'Credentials',
  'mac-lock': 'Tied to a MAC',
}

const isField = (field: string): field is CardField => field in FIELDS
/** A field's name; one of an older record that is none any more is named as it was. */
export const fieldName = (field: string): string => (isField(field) ? FIELDS[field] : field)

/** A value as people read it; codes become words. */
export const valueText = (field: string, value: string): string =>
  field === 'credentials' ? CREDENTIAL_WORDS[value as Model['credentials']] : value

/** Most values of a card that a record keeps, and most letters of one. */
const [MOST_VALUES, MOST_LETTERS] = [40, 160]

/** All that stands on a card, in its order: first access, then the values of the step. */
export const shownValues = ({ bench, values }: StepCard): CardValue[] => [
  ...(bench
    ? [
        { field: 'laptop' as const, value: laptopWords(bench) },
        { field: 'open' as const, value: openWords(bench) },
      ]
    : []),
  ...values,
]

/** What of a card is kept with a record, so that a later change of the plan can be told. */
export const keptValues = (card: StepCard): CardValue[] =>
  shownValues(card)
    .slice(0, MOST_VALUES)
    .map(({ field, value }) => ({ field, value: value.slice(0, MOST_LETTERS) }))

/** What somebody said of a step, and when. */
export const sayingWords = ({ who, state, at, reading }: StepRecord): string =>
  `${who} says ${STEP_STATES[state]}${reading ? ` (${reading})` : ''}, ${dateText(at)}`

/** Whether the cards open without a network. */
export const KEEPING: Readonly<Record<Keeping, string>> = {
  asking: '',
  kept: 'Kept on this device: they open without a network too.',
  insecure: 'They need the network: this browser keeps them over HTTPS alone.',
  failed: 'Not kept on this device: they need the network.',
}

interface ReadingWords {
  readonly label: string
  readonly example: string
}
export const READINGS: Readonly<Record<NonNullable<StepReading>, ReadingWords>> = {
  serial: { label: 'Serial on the label', example: 'GH-7A05-K5RZ' },
  version: { label: 'Version it shows now', example: '3.4.2' },
  speed: { label: 'Slowest link speed', example: '1000' },
  'cable-test': { label: 'Tester says', example: 'pass, or 38 m' },
  address: { label: 'Address it has got', example: '203.0.113.20' },
  wind: { label: 'Wind speed now, m/s', example: '7.5' },
}

/** What must not be forgotten at a step, beyond safety. */
const REMINDERS: Partial<Readonly<Record<ActivityKind, string>>> = {
  unbox: 'Antennas and SIM go in before power.',
  power: 'With an injector: the device on its device side first, the network side last.',
  'sign-in': 'A certificate warning on a device’s own page is expected. Change the factory password first.',
  firmware: 'Keep the older image. Do not cut the power while it is written.',
  settings: 'Save the configuration; then put the laptop back on automatic.',
  unplug: 'Photograph it first. Keep the old uplink’s cables and their order for the way back.',
  'gate-begin': 'Go on only if everybody is reachable, the window is open and the way back is known.',
  'gate-keep': 'Turn back if a smoke test fails and cannot be mended in time.',
  'wait-uplink': 'A provider that is tied to a MAC address may hold the old one for hours.',
  'place-extender':
    'Its settings survive the move. It starts for up to 2 minutes; then its light tells how well it hears.',
  aim: 'The sheet Aiming shows and speaks the level; what is kept there is the result of the test.',
  channels: 'On site, never at the bench; have them choose at night, when few are on the air.',
}
export const reminderOf = (kind: ActivityKind): string => REMINDERS[kind] ?? ''

const CAUTIONS: Readonly<Record<Skill, string>> = {
  height: 'Work at height: trained and secured, never alone, not in wind or near lightning.',
  mains: 'Mains and lightning protection: licensed people only, switched off and proven dead.',
  driving: 'Do not read this while driving.',
}

/** What a step can hurt. */
export function cautionOf({ kind, skills }: Pick<TimetableRow, 'kind' | 'skills'>): string {
  const own = skills.map((skill) => CAUTIONS[skill as Skill])
  const beam = kind === 'aim' ? ['Nobody stands in front of an antenna that sends.'] : []
  const buried = kind === 'pull' ? ['Look for buried and hidden services before you drill or dig.'] : []
  const all = [...own, ...beam, ...buried]
  return all.length > 0 ? [...all, 'Local codes decide.'].join(' ') : ''
}

/** What became of the passphrases that are kept on a device. */
export const PASSPHRASES = {
  sealed: (howMany: number, until: string) =>
    `${count(howMany, 'passphrase')} sealed on this device until ${until}.`,
  wrong: (triesLeft: number) =>
    `Not the PIN that they were sealed with. After ${count(triesLeft, 'more try', 'more tries')} they are dropped.`,
  opened: 'Open for five minutes.',
  dropped: 'They are no longer here: their time was over, or too many PINs were wrong.',
  gone: 'Dropped from this device.',
}

/** `2:05` of a wait that is left, or what it is over. */
export function countdownText(leftS: number): string {
  const whole = Math.abs(Math.round(leftS))
  const clock = `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
  return leftS >= 0 ? clock : `${clock} over`
}
