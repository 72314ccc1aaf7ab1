// Question: is this one printable line, a public key, a place to dial, a domain, a time of day?
// Method: by the grammar of each.
// Source: Unicode 15 (general categories, UAX 9 for what turns the direction of text), RFC 4648 (base64), RFC 3986
// section 3.2.2 (IPv6 addresses in brackets), RFC 1123 section 2.1 (names of hosts), ISO 8601 (24:00).
import { ok, problem, refuse, type Result } from '#core/util'

/** Controls, halves of surrogate pairs, ends of lines and paragraphs, and what turns the direction of text. */
const UNPRINTABLE = /[\p{Cc}\p{Cs}\p{Zl}\p{Zp}\p{Bidi_Control}]/u
/** The same but for tabs and ends of lines. */
const UNPRINTABLE_IN_LINES = /[^\P{Cc}\n\t]|[\p{Cs}\p{Zl}\p{Zp}\p{Bidi_Control}]/u

/** True of a text that stands on one line, and looks as what it is. */
export const isPrintableLine = (text: string): boolean => !UNPRINTABLE.test(text)
/** A text as one printable line, without what turns its direction; what else cannot be printed becomes a space. */
export const printableLine = (text: string): string =>
  text.replaceAll(/\p{Bidi_Control}/gu, '').replaceAll(new RegExp(UNPRINTABLE, 'gu'), ' ')
/** True of a text of such lines. */
export const arePrintableLines = (text: string): boolean => !UNPRINTABLE_IN_LINES.test(text)

/** A domain of labels of letters, digits and hyphens, without a dot at the end: `site.example`. */
export const isDomain = (text: string): boolean =>
  text.length <= 253 &&
  /^([A-Za-z0-9]([A-Za-z0-9-]{0,61}[A-Za-z0-9])?)(\.[A-Za-z0-9]([A-Za-z0-9-]{0,61}[A-Za-z0-9])?)*$/.test(text)

/**
 * A WireGuard public key is 32 bytes in base64 (RFC 4648): 43 characters, of which the last
 * carries four bits, and one of filling. All zero is none: with it every shared secret is zero (RFC 7748, 6.1).
 */
export const isPublicKey = (text: string): boolean =>
  /^[A-Za-z0-9+/]{42}[AEIMQUYcgkosw048]=$/.test(text) && !/^A+=$/.test(text)

/** A passphrase of Wi-Fi: 8 to 63 characters of ASCII from 32 to 126 (IEEE 802.11-2020, J.4.1). */
export const isPassphrase = (text: string): boolean => /^[\x20-\x7e]{8,63}$/.test(text)

/** A host, or an IPv6 address in brackets, and a port: `vpn.site.example:51820`. */
export const isEndpoint = (text: string): boolean =>
  /^(\[[0-9a-fA-F:]+\]|[A-Za-z0-9.-]{1,253}):\d{1,5}$/.test(text) && Number(text.split(':').at(-1)) <= 65_535

/** Minutes of a time of day, `00:00` to `24:00`; null for anything else. */
export function minuteOf(text: string): number | null {
  const [, hour = '', minute = ''] = /^(\d\d):(\d\d)$/.exec(text) ?? []
  const minutes = Number(hour) * 60 + Number(minute)
  return hour !== '' && Number(minute) < 60 && minutes <= 24 * 60 ? minutes : null
}

/** Minutes of half a year, 180 days: a run sheet is no longer. */
export const MOST_MINUTES = 259_200

/** Whether a text is a day of the calendar as ISO 8601 writes it; 2026-02-30 is none. Years 1000 to 2999. */
export function isCalendarDate(text: string): boolean {
  const time = /^[12]\d{3}-\d{2}-\d{2}$/.test(text) ? Date.parse(`${text}T00:00:00Z`) : NaN
  // Some days that a month has not are read as days of the next one.
  return !Number.isNaN(time) && new Date(time).toISOString().startsWith(text)
}

/** A country by its two letters (ISO 3166-1 alpha-2), in capitals; empty for none. Problems: not-a-country. */
export function parseCountry(text: string): Result<string> {
  const code = text.trim().toUpperCase()
  return /^([A-Z]{2})?$/.test(code)
    ? ok(code)
    : refuse(problem('not-a-country', '', { text: text.slice(0, 20) }))
}
