import {
  createCipheriv,
  createDecipheriv,
  createHmac,
  hkdfSync,
  randomBytes,
  timingSafeEqual,
} from 'node:crypto'
import { settings } from './settings'

/**
 * The secret a stand-in device was born with.
 * It takes the place of a maker's certificate (RFC 8572 section 5.3),
 * which needs TLS: only who holds the server's key can speak for a serial number.
 */
export function birthSecret(serial: string): string {
  const key = Buffer.from(
    hkdfSync('sha256', settings().sessionPassword, 'able-mast', 'device birth secret', 32),
  )
  return createHmac('sha256', key).update(serial).digest('hex')
}

/** Hash of a line of a chain, after the one before: nobody makes one who does not hold the server's key. */
export function chainHash(before: string, text: string): string {
  const key = Buffer.from(hkdfSync('sha256', settings().sessionPassword, 'able-mast', 'audit chain', 32))
  return createHmac('sha256', key).update(`${before}\n${text}`).digest('hex')
}

/** What a device keeps on which somebody signed in; it holds until their password changes. */
export function knownDeviceProof(personId: number, passwordHash: string): string {
  const key = Buffer.from(hkdfSync('sha256', settings().sessionPassword, 'able-mast', 'known device', 32))
  return createHmac('sha256', key).update(`${personId} ${passwordHash}`).digest('base64url')
}

export function sameText(first: string, second: string): boolean {
  const x = Buffer.from(first)
  const y = Buffer.from(second)
  return x.length === y.length && timingSafeEqual(x, y)
}

/** Serial number a device proves with HTTP basic authentication (RFC 7617); null where it does not. */
export function serialFromBasic(header: string | undefined): string | null {
  const match = /^Basic ([A-Za-z0-9+/=]+)$/.exec(header ?? '')
  const [serial = '', secret = ''] = Buffer.from(match?.[1] ?? '', 'base64')
    .toString('utf8')
    .split(':')
  return serial !== '' && sameText(secret, birthSecret(serial)) ? serial : null
}

const sealingKey = () =>
  Buffer.from(hkdfSync('sha256', settings().sessionPassword, 'able-mast', 'sealed secrets', 32))

/** Seals a secret for the database with AES-256-GCM (NIST SP 800-38D): nonce, tag and text in base64. */
export function seal(text: string): string {
  const nonce = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', sealingKey(), nonce)
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64')
}

/** Opens what `seal` sealed; throws where it was changed, or sealed under another password. */
export function openSealed(text: string): string {
  const bytes = Buffer.from(text, 'base64')
  const decipher = createDecipheriv('aes-256-gcm', sealingKey(), bytes.subarray(0, 12))
  decipher.setAuthTag(bytes.subarray(12, 28))
  return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8')
}
