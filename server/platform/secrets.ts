import { hkdfSync, createHmac, timingSafeEqual } from 'node:crypto'
import { settings } from './settings'

/**
 * The secret a stand-in device was born with. It takes the place of a maker's certificate (RFC 8572 section 5.3),
 * which needs TLS: only who holds the server's key can speak for a serial number.
 */
export function birthSecret(serial: string): string {
  const key = Buffer.from(hkdfSync('sha256', settings().sessionPassword, 'able-mast', 'device birth secret', 32))
  return createHmac('sha256', key).update(serial).digest('hex')
}

export function sameText(a: string, b: string): boolean {
  const x = Buffer.from(a)
  const y = Buffer.from(b)
  return x.length === y.length && timingSafeEqual(x, y)
}

/** Serial number a device proves with HTTP basic authentication (RFC 7617); null where it does not. */
export function serialFromBasic(header: string | undefined): string | null {
  const match = /^Basic ([A-Za-z0-9+/=]+)$/.exec(header ?? '')
  const [serial = '', secret = ''] = Buffer.from(match?.[1] ?? '', 'base64').toString('utf8').split(':')
  return serial !== '' && sameText(secret, birthSecret(serial)) ? serial : null
}
