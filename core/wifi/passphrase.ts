// Question: which SSIDs are joined by a passphrase, and how does a telephone read it?
// Source: the text in a code to scan is common practice of telephones, without a standard: a backslash before \ ; , :
// and ".
import type { Ssid, SsidSettings } from '#core/schema'

/** From here on a passphrase is long enough, if it is hard to guess (common practice). */
const WISHED_LENGTH = 14

type Security = NonNullable<SsidSettings['security']>
const BY_PASSPHRASE: readonly Security[] = ['wpa2', 'wpa2-wpa3', 'wpa3']
/** Whether stations join by a passphrase that all of them know. */
export const hasPassphrase = ({ settings: { security } }: Ssid): boolean =>
  security !== null && BY_PASSPHRASE.includes(security)

const escaped = (text: string): string => text.replaceAll(/[\\;,:"]/g, '\\$&')
const OPEN: readonly Security[] = ['open', 'owe']
/** Whether anybody joins without being asked for anything. */
export const isOpen = ({ settings: { security } }: Ssid): boolean =>
  security !== null && OPEN.includes(security)

/**
 * The text of a code by which a telephone joins; null where it takes more than a passphrase, or nobody has said.
 * @param passphrase empty where there is none
 */
export function joinText(ssid: Ssid, passphrase: string): string | null {
  const { name, settings } = ssid
  const byPassphrase = hasPassphrase(ssid)
  if (byPassphrase ? passphrase === '' : !isOpen(ssid)) return null
  const parts = [
    `T:${byPassphrase ? 'WPA' : 'nopass'}`,
    `S:${escaped(name)}`,
    ...(byPassphrase ? [`P:${escaped(passphrase)}`] : []),
    ...(settings.hidden ? ['H:true'] : []),
  ]
  return `WIFI:${parts.join(';')};;`
}

/** Tries of somebody who has recorded a station joining WPA2, with one good graphics card (common practice). */
const TRIES_PER_S = 1_000_000
const YEAR_S = 31_557_600

export interface PassphraseVerdict {
  readonly isFine: boolean
  readonly isShort: boolean
  /** Until it is guessed, s. */
  readonly guessedAfterS: number
}

/** Why a passphrase is soon guessed. */
export type PassphraseWeakness = 'short' | 'guessable'
export function weaknessOf({ isFine, isShort }: PassphraseVerdict): PassphraseWeakness | null {
  if (isFine) return null
  return isShort ? 'short' : 'guessable'
}

/** Whether a passphrase is long enough and takes a year to guess; `guesses` as an estimator counts them. */
export function judgedPassphrase(text: string, guesses: number): PassphraseVerdict {
  const guessedAfterS = guesses / TRIES_PER_S
  const isShort = text.length < WISHED_LENGTH
  return { isFine: !isShort && guessedAfterS >= YEAR_S, isShort, guessedAfterS }
}
