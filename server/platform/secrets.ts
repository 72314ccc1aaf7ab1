import {
  createCipheriv,
  createDecipheriv,
  createHash,
  createHmac,
  hkdfSync,
  randomBytes,
  timingSafeEqual,
} from 'node:crypto'
import { settings } from './settings'

// Keys for one purpose each, derived from the server's key (HKDF, RFC 5869): who learns one learns no other.

type Purpose = 'audit chain' | 'known device' | 'sealed secrets' | 'key id'
const derived = (purpose: Purpose, serverKey: string): Buffer =>
  Buffer.from(hkdfSync('sha256', serverKey, 'able-mast', purpose, 32))
const keyFor = (purpose: Purpose): Buffer => derived(purpose, settings().serverKey)
/** Newest first. */
const allKeys = (): readonly string[] => [settings().serverKey, ...settings().olderKeys]

const linkHash = (serverKey: string, before: string, text: string): string =>
  createHmac('sha256', derived('audit chain', serverKey)).update(`${before}\n${text}`).digest('hex')

/** Hash of a line of a chain, after the one before: nobody makes one who does not hold the server's key. */
export const chainHash = (before: string, text: string): string =>
  linkHash(settings().serverKey, before, text)

/**
 * How old the key is by which a line's hash was made: 0 for the newest; null for none of ours.
 * @param oldest no key older than this is tried
 */
export function keyAgeOf(hash: string, before: string, text: string, oldest: number): number | null {
  const age = allKeys()
    .slice(0, oldest + 1)
    .findIndex((key) => sameText(hash, linkHash(key, before, text)))
  return age < 0 ? null : age
}
export const OLDEST_KEY = 1000

/** What a device keeps on which somebody signed in; it holds until their password changes. */
export const knownDeviceProof = (personId: number, passwordHash: string): string =>
  createHmac('sha256', keyFor('known device')).update(`${personId} ${passwordHash}`).digest('base64url')

/** What somebody shows to prove a right, as in a link: 256 bits, that nobody guesses. */
export const drawProof = (): string => randomBytes(32).toString('base64url')

/** What is kept of a proof, or of another secret that cannot be guessed: its SHA-256. */
export const hashOfProof = (proof: string): string => createHash('sha256').update(proof).digest('hex')

export function sameText(first: string, second: string): boolean {
  const x = Buffer.from(first)
  const y = Buffer.from(second)
  return x.length === y.length && timingSafeEqual(x, y)
}

/** What is sealed begins so, and names the key that it was sealed under. */
const MARK = 'k1'
const idOf = (serverKey: string): string => derived('key id', serverKey).toString('hex').slice(0, 12)

/** How everything begins that is sealed under the newest key. */
export const newestMark = (): string => `${MARK}.${idOf(settings().serverKey)}.`

/** Seals a secret for the database with AES-256-GCM (NIST SP 800-38D): key, then nonce, tag and text in base64. */
export function seal(text: string): string {
  const nonce = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', keyFor('sealed secrets'), nonce)
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return newestMark() + Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64')
}

function openUnder(serverKey: string, text: string): string {
  const bytes = Buffer.from(text, 'base64')
  const decipher = createDecipheriv(
    'aes-256-gcm',
    derived('sealed secrets', serverKey),
    bytes.subarray(0, 12),
  )
  decipher.setAuthTag(bytes.subarray(12, 28))
  return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8')
}

/** A secret as `seal` sealed it, or none: it was changed since, or sealed under another key. */
function opened(serverKey: string, text: string): string | null {
  try {
    return openUnder(serverKey, text)
  } catch {
    return null
  }
}

/** Opens what `seal` sealed, under this key or one before; null where it was changed, or the key is not here. */
export function openSealed(text: string): string | null {
  const [mark, id, sealed] = text.split('.')
  const isMarked = mark === MARK && sealed !== undefined
  // Before there were several keys it was not said under which.
  const keys = isMarked ? allKeys().filter((key) => idOf(key) === id) : allKeys()
  return keys.map((key) => opened(key, isMarked ? sealed : text)).find((found) => found !== null) ?? null
}
