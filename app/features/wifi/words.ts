import {
  EXTENDER_DBM,
  hasRules,
  REGULATORY_DATE,
  signalPercent,
  WEAK_DBM,
  WELL_DBM,
  type ApRadio,
  type ExtenderSignal,
  type LimitTrouble,
  type PassphraseVerdict,
} from '#core/wifi'
import type { AccessRadio, Band, Generation, SsidSettings, WallKind } from '#core/schema'
import type { Passphrase } from '#contracts/api'
import { timeText } from '~/wording/adoption'
import { count } from '~/wording/count'
import { cautionsOf } from '~/wording/permitted'

export const BAND_WORDS: Readonly<Record<Band, string>> = { '2.4': '2.4 GHz', '5': '5 GHz', '6': '6 GHz' }

/** Amendments of IEEE 802.11, and the names that the trade gives them. */
export const GENERATION_WORDS: Readonly<Record<Generation, string>> = {
  n: 'n (Wi-Fi 4)',
  ac: 'ac (Wi-Fi 5)',
  ax: 'ax (Wi-Fi 6)',
  be: 'be (Wi-Fi 7)',
}

export const WALL_WORDS: Readonly<Record<WallKind, string>> = {
  open: 'open',
  plasterboard: 'plasterboard',
  wood: 'wood',
  glass: 'glass',
  brick: 'brick',
  concrete: 'concrete',
  metal: 'metal',
}

export const SECURITY_WORDS: Readonly<Record<NonNullable<SsidSettings['security']> | 'unsaid', string>> = {
  unsaid: '—',
  open: 'open',
  owe: 'open, encrypted (OWE)',
  wpa2: 'WPA2',
  'wpa2-wpa3': 'WPA2 and WPA3',
  wpa3: 'WPA3',
  enterprise: '802.1X',
}

const minus = (value: number, digits = 0): string => value.toFixed(digits).replace('-', '−')
export const levelWords = (dBm: number | null): string => (dBm === null ? '—' : `${minus(dBm)} dBm`)
export const signalWords = (dBm: number | null): string =>
  dBm === null ? '—' : `${minus(dBm)} dBm, ${signalPercent(dBm)} %`
export const rateWords = (mbps: number): string => (mbps > 0 ? `${mbps.toFixed(0)} Mb/s` : 'none')

export function servedWords(dBm: number | null): string {
  if (dBm === null) return 'nothing sends'
  if (dBm >= WELL_DBM) return 'served well'
  return dBm >= WEAK_DBM ? 'weak' : 'not served'
}

/** How an extender hangs, or why that is not known. */
export function extenderWords({ from, heard, better }: ExtenderSignal, isPlaced: boolean): string {
  if (!from) return 'joined to nothing: choose what it joins'
  if (from.isExtender) return 'behind another extender: halved once more'
  if (!isPlaced) return 'not judged: it hangs in no drawn room'
  if (!heard) return 'not judged: nothing is known of a radio that it hears'
  if (heard.levelDbm >= EXTENDER_DBM) return 'hears enough'
  return better ? `too little; in ${better.room.name} ${signalWords(better.levelDbm)}` : 'too little'
}
const CARRIES: Readonly<Record<ExtenderSignal['mode'], string>> = {
  repeater: 'one network, as a repeater',
  client: 'one network, as a client',
  bridge: 'all tags, as a bridge',
}
/** What passes over the air that a device has joined. */
export const carriesWords = ({ from, mode }: ExtenderSignal): string => (from ? CARRIES[mode] : '—')
/** What is left of the rate behind an extender. */
export function behindWords({ heard, radios }: ExtenderSignal): string {
  if (!heard) return '—'
  const [one, two] = [rateWords(heard.oneRadioMbps), rateWords(heard.twoRadiosMbps)]
  const fed = `; fed by cable ${rateWords(heard.cabledMbps)}, by power line ${rateWords(heard.powerLineMbps)}`
  if (radios === null) return `${one}; with two radios ${two}${fed}`
  return (radios === 1 ? `${one} by its one radio` : `${two} by its two radios`) + fed
}

const LIMIT_WORDS: Readonly<Record<LimitTrouble, (mostDbm: string, mineDbm: string) => string>> = {
  'no-channel': () => 'no such channel in this band',
  'no-width': () => 'this channel has no room for the width',
  forbidden: () => 'not permitted here',
  'listen-only': () => 'an access point must not begin here',
  'too-strong': (most, mine) => `too strong: ${mine} dBm EIRP, ${most} permitted`,
  'indoor-only': () => 'indoors only, and it hangs outdoors',
}

/** How a radio stands to the rules of its country. */
export function permittedWords(
  { channel }: AccessRadio,
  verdict: {
    readonly trouble: LimitTrouble | null
    readonly permission: {
      readonly eirpDbm: number
      readonly dfs: boolean
      readonly indoorOnly: boolean
    } | null
  } | null,
  country: string,
  eirpDbm: number,
): string {
  if (channel === null) return 'the device chooses'
  if (verdict === null) return country === '' ? 'country not set' : 'not in the data'
  const most = verdict.permission?.eirpDbm.toFixed(0) ?? ''
  if (verdict.trouble) return LIMIT_WORDS[verdict.trouble](most, eirpDbm.toFixed(0))
  const cautions = verdict.permission ? cautionsOf(verdict.permission) : []
  return [`up to ${most} dBm EIRP`, ...cautions].join(', ')
}

/** Where the legal figures come from. */
export function rulesWords(country: string): string {
  if (country === '')
    return 'The country is not set: nothing legal is computed. Set it in the Brief, Site and places.'
  if (!hasRules(country))
    return `Country ${country} is not in the data: nothing legal is computed. Check the local rule.`
  return `Permitted in ${country} as of ${REGULATORY_DATE} (open regulatory database). Check the local rule.`
}

/** Who is heard on the channels that a radio did not take; `own`: the one it has. */
export function reasonWords(
  heard: readonly (readonly [channel: number, dBm: number | null])[],
  own: number | null,
): string {
  if (own === null) return 'the device chooses, on site'
  const mine = heard.find(([channel]) => channel === own)?.[1] ?? null
  const others = heard.filter(([channel]) => channel !== own)
  const free = others.filter(([, level]) => level === null).map(([channel]) => channel)
  if (mine === null) return 'nobody heard'
  const here = `one at ${minus(mine)} dBm`
  if (free.length > 0) return `${here}; nobody on ${free.slice(0, 4).join(', ')}`
  const louder = others.filter(([, level]) => level !== null && level > mine)
  const told = louder.slice(0, 3).map(([channel, level]) => `${channel} at ${minus(level ?? 0)} dBm`)
  return told.length > 0 ? `${here}; louder: ${told.join(', ')}` : here
}

/** Of a radio without a channel of its own. */
export const followsWords = ({ follows }: ApRadio): string =>
  follows === null ? 'sends nothing: it has joined nothing' : `the channel is that of ${follows}`

export interface ChannelOutcome {
  readonly band: Band
  readonly radios: readonly ApRadio[]
  readonly unplaced: number
  readonly plan: { readonly cost: number; readonly bound: number }
}
/** What planning the channels came to. */
export function outcomeWords({ band, radios, unplaced, plan: { cost, bound } }: ChannelOutcome): string {
  const subject = `${BAND_WORDS[band]}, ${count(radios.length, 'radio')}`
  const assumed =
    unplaced > 0 ? ` ${count(unplaced, 'access point')} without a place: taken to hear all others.` : ''
  if (cost < 0.5) return `${subject}: nobody disturbs another.${assumed}`
  const proof = cost - bound < 0.5 ? 'no choice has less' : `no choice has less than ${bound.toFixed(0)} dB`
  return `${subject}: ${cost.toFixed(0)} dB of disturbance are left; ${proof}.${assumed}`
}

/** Share of the air that beacons take, 0 to 1. */
export const beaconWords = (share: number): string => `${(100 * share).toFixed(1)} %`

export const floorWords = (building: string, floor: number): string =>
  floor === 0 ? `${building}, ground floor` : `${building}, floor ${minus(floor)}`

export const pictureWords = (floor: string, band: Band, rooms: number, accessPoints: number): string =>
  `${floor}, ${BAND_WORDS[band]}: ${count(rooms, 'room')}, ${count(accessPoints, 'access point')} and lines of equal ` +
  'signal. The same figures are in the table of rooms.'

const UNITS = [
  [31_557_600, 'year'],
  [86_400, 'day'],
  [3600, 'hour'],
  [60, 'minute'],
] as const
/** A time as one thinks of it: a million years and more are as long as one likes. */
function longWords(seconds: number): string {
  if (seconds < 60) return 'within a minute'
  const [unitS, unit] = UNITS.find(([unitS]) => seconds >= unitS) ?? UNITS[3]
  const many = Math.floor(seconds / unitS)
  if (many >= 1_000_000) return 'after more than a million years'
  return `after about ${many.toLocaleString('en')} ${unit}${many === 1 ? '' : 's'}`
}

/** How hard a passphrase is to guess. */
export const verdictWords = ({ isShort, guessedAfterS }: PassphraseVerdict): string =>
  `${isShort ? 'Shorter than 14 characters. ' : ''}` +
  `At a million tries a second it is guessed ${longWords(guessedAfterS)}.`

/** That a passphrase is kept, and who knows it. */
export function keptWords(kept: Passphrase | null): string {
  if (!kept) return 'none yet'
  const shown =
    kept.shownAt === null ? 'not shown yet' : `last shown ${timeText(kept.shownAt)} to ${kept.shownBy}`
  return `set ${timeText(kept.setAt)} by ${kept.setBy}, ${shown}`
}
export const sameWords = (names: readonly string[]): string =>
  `${names.join(' and ')} ${names.length > 1 ? 'have' : 'has'} the same passphrase: who knows one, knows both.`

/** What all others gain without a station that takes the air from them. */
export function shareWords(othersGain: number): string {
  const percent = Math.round(100 * (othersGain - 1))
  return percent < 1 ? 'nothing changes' : `all others get ${percent} % more`
}
