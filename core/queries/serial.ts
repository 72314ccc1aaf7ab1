// Question: is this the serial number it claims to be?
// Method: prefix says the kind of serial, the last character checks the rest by ISO/IEC 7064 MOD 37,36.
// Source: ISO/IEC 7064:2003 clause 9 (hybrid systems); the prefixes are the invented catalogue's own.
import { ok, problem, refuse, type Result } from '#core/util'

const ALPHABET = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ'

export type SerialKind = 'product' | 'board' | 'certificate'
const KINDS: Readonly<Record<string, SerialKind>> = { GH: 'product', GB: 'board', GC: 'certificate' }

/**
 * Check character of a text of digits and capital letters.
 * Worked: A12425GABC1234002 -> M (the worked example of the Global Release Identifier, quoted from memory).
 */
export function checkCharacter(text: string): string {
  let carry = 36
  for (const character of text) {
    const sum = (carry + ALPHABET.indexOf(character)) % 36 || 36
    carry = (sum * 2) % 37
  }
  return ALPHABET[(37 - carry) % 36] ?? ''
}

/**
 * Writes a serial of seven characters with its check character.
 * Worked: ('GH', 'A2B3C4D') -> GH-A2B3-C4D and a check.
 */
export function makeSerial(prefix: 'GH' | 'GB' | 'GC', body: string): string {
  const all = body + checkCharacter(prefix + body)
  return `${prefix}-${all.slice(0, 4)}-${all.slice(4)}`
}

/**
 * Reads `GH-xxxx-xxxx` in any case, with or without the hyphens.
 * Errors: not-a-serial; wrong-check (a character was mistyped or two were swapped).
 */
export function parseSerial(
  text: string,
  place = '',
): Result<{ readonly serial: string; readonly kind: SerialKind }> {
  const packed = text.trim().toUpperCase().replaceAll('-', '')
  const kind = KINDS[packed.slice(0, 2)]
  if (!/^[0-9A-Z]{10}$/.test(packed) || kind === undefined)
    return refuse(problem('not-a-serial', place, { text }))
  if (checkCharacter(packed.slice(0, 9)) !== packed[9]) return refuse(problem('wrong-check', place, { text }))
  return ok({ serial: `${packed.slice(0, 2)}-${packed.slice(2, 6)}-${packed.slice(6)}`, kind })
}
