import { del, get, keys, set } from 'idb-keyval'
import { database, prefixOf } from './kept-answers'

// Secrets that somebody takes to a place without a network: sealed under a PIN, dropped after a set time or after too
// many wrong PINs.
// PBKDF2 (RFC 8018) with 600,000 rounds of SHA-256, as the OWASP Password Storage Cheat Sheet has it; AES-GCM (NIST SP
// 800-38D), which holds the time too, so that nobody makes it later.

export interface Secret {
  readonly name: string
  readonly value: string
}

interface Sealed {
  readonly salt: Uint8Array<ArrayBuffer>
  readonly nonce: Uint8Array<ArrayBuffer>
  readonly sealed: ArrayBuffer
  readonly untilMs: number
  readonly triesLeft: number
}

/** What came of a PIN. */
export type Opening =
  | { readonly kind: 'opened'; readonly secrets: readonly Secret[] }
  | { readonly kind: 'wrong'; readonly triesLeft: number }
  | { readonly kind: 'dropped' }

export const [LEAST_PIN, MOST_PIN] = [6, 64]
const MOST_TRIES = 5
const ROUNDS = 600_000
const [SALT_BYTES, NONCE_BYTES] = [16, 12]
const MARK = 'sealed/'

/** Browsers seal over HTTPS, or on the machine itself, alone. */
export const canSeal = (): boolean => globalThis.crypto?.subtle !== undefined

const keyAt = (person: string, slug: string): string => `${prefixOf(person)}${MARK}${slug}`
const bytes = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text)
const drawn = (length: number) => crypto.getRandomValues(new Uint8Array(length))

async function keyOf(pin: string, salt: Uint8Array<ArrayBuffer>): Promise<CryptoKey> {
  const typed = await crypto.subtle.importKey('raw', bytes(pin), 'PBKDF2', false, ['deriveKey'])
  return crypto.subtle.deriveKey(
    { name: 'PBKDF2', hash: 'SHA-256', salt, iterations: ROUNDS },
    typed,
    { name: 'AES-GCM', length: 256 },
    false,
    ['encrypt', 'decrypt'],
  )
}
const wayOf = ({ nonce, untilMs }: Pick<Sealed, 'nonce' | 'untilMs'>) => ({
  name: 'AES-GCM',
  iv: nonce,
  additionalData: bytes(String(untilMs)),
})

/**
 * Seals secrets of a site on this device; what was sealed of it before is gone.
 * @param untilMs when they are dropped, in the time of this machine
 * @returns false where this browser keeps nothing
 */
export async function sealSecrets(
  person: string,
  slug: string,
  secrets: readonly Secret[],
  { pin, untilMs }: { readonly pin: string; readonly untilMs: number },
): Promise<boolean> {
  const [salt, nonce] = [drawn(SALT_BYTES), drawn(NONCE_BYTES)]
  const plain = bytes(JSON.stringify(secrets))
  const sealed = await crypto.subtle.encrypt(wayOf({ nonce, untilMs }), await keyOf(pin, salt), plain)
  const all: Sealed = { salt, nonce, sealed, untilMs, triesLeft: MOST_TRIES }
  return set(keyAt(person, slug), all, database).then(
    () => true,
    () => false,
  )
}

/** What is sealed of a site, and until when; null where nothing is. */
export async function sealedAt(person: string, slug: string, nowMs: number): Promise<Sealed | null> {
  const kept = await get<Sealed>(keyAt(person, slug), database).catch(() => undefined)
  if (kept && kept.untilMs > nowMs) return kept
  if (kept) await dropSecrets(person, slug)
  return null
}

/** Opens what is sealed of a site. A try is counted before it is made: leaving the page does not give it back. */
export async function openSecrets(
  person: string,
  slug: string,
  pin: string,
  nowMs: number,
): Promise<Opening> {
  const kept = await sealedAt(person, slug, nowMs)
  if (!kept) return { kind: 'dropped' }
  const triesLeft = kept.triesLeft - 1
  await set(keyAt(person, slug), { ...kept, triesLeft }, database)
  const plain = await crypto.subtle
    .decrypt(wayOf(kept), await keyOf(pin, kept.salt), kept.sealed)
    .catch(() => null)
  if (plain) {
    await set(keyAt(person, slug), { ...kept, triesLeft: MOST_TRIES }, database)
    return { kind: 'opened', secrets: JSON.parse(new TextDecoder().decode(plain)) as Secret[] }
  }
  if (triesLeft > 0) return { kind: 'wrong', triesLeft }
  await dropSecrets(person, slug)
  return { kind: 'dropped' }
}

export const dropSecrets = (person: string, slug: string): Promise<void> =>
  del(keyAt(person, slug), database).catch(() => {})

/** Drops whatever is past its time on this device, of whichever site and person. */
export async function dropOverdue(nowMs: number): Promise<void> {
  const all = await keys<string>(database).catch((): string[] => [])
  for (const key of all.filter((each) => each.includes(`/${MARK}`))) {
    const kept = await get<Sealed>(key, database).catch(() => undefined)
    if (kept && kept.untilMs <= nowMs) await del(key, database).catch(() => {})
  }
}
