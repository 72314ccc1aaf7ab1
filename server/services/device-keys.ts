import { createHash, X509Certificate } from 'node:crypto'
import { customAlphabet } from 'nanoid'
import { isPrintableLine } from '#core/format'
import type { DeviceKeyState } from '#contracts/answers'
import type { OneTimeSecret } from '#contracts/bootstrap'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { certificateText } from '#server/platform/certificates'
import { refused } from '#server/platform/route'
import { hashOfProof } from '#server/platform/secrets'
import { tell } from '#server/platform/news'
import * as repo from '#server/repo/devices'
import { authority } from './authorities'
import { siteOf } from './plans'

// How a device shows that it is the one that was claimed (RFC 8572, 5.3 and 9.6).

const MOST_SERIAL = 40
const SECRET_MS = 14 * 24 * 3_600_000
/** 119 bits; no letters that are taken for one another. */
const drawSecret = customAlphabet('abcdefghjkmnpqrstuvwxyz23456789', 24)
const inGroups = (secret: string): string => secret.replaceAll(/.{6}(?=.)/g, '$&-')
const plain = (secret: string): string => secret.toLowerCase().replaceAll(/[^a-z0-9]/g, '')

/** How a connection shows who it is. */
export interface Peer {
  /** SHA-256 of the public key of its certificate; null where it came without. */
  readonly keyHash: string | null
  /** Serial in a certificate of a maker whom we trust; null for any other. */
  readonly certified: string | null
  /** Whether that maker is the lab's. */
  readonly isSimulated: boolean
}

/** SHA-256 of what a certificate is for: the key, whoever says whose it is. */
export const keyHashOf = (der: Buffer): string =>
  createHash('sha256')
    .update(new X509Certificate(der).publicKey.export({ type: 'spki', format: 'der' }))
    .digest('hex')

const canBeSerial = (text: string): boolean =>
  text !== '' && text.length <= MOST_SERIAL && isPrintableLine(text)

/**
 * Serial of the device that asks; null where it does not show that it is the one.
 * @param basic name and secret of HTTP basic authentication (RFC 7617); null without
 */
export async function serialOf(
  { keyHash, certified }: Omit<Peer, 'isSimulated'>,
  basic: { readonly name: string; readonly secret: string } | null,
): Promise<string | null> {
  const serial = certified ?? basic?.name ?? ''
  if (!canBeSerial(serial)) return null
  const known = await repo.deviceKeyOf(database(), serial)
  if (known?.revokedAt) return null
  if (certified !== null) return certified
  if (!known || keyHash === null) return null
  // Once bound its key is what counts, and the secret is worth nothing any longer.
  if (known.keyHash !== null) return known.keyHash === keyHash ? serial : null
  const secretHash = hashOfProof(plain(basic?.secret ?? ''))
  return (await repo.bindKey(database(), { serial, secretHash, keyHash, at: now() })) ? serial : null
}

async function checkClaim(queries: Queries, slug: string, serial: string): Promise<void> {
  await siteOf(queries, slug)
  if (!(await repo.isClaimedAt(queries, slug, serial))) throw refused(404, 'no-such-claim', serial)
}

/** A secret by which a claimed device comes the first time; whatever it came with before is not taken any longer. */
export async function makeSecret(slug: string, serial: string): Promise<OneTimeSecret> {
  const [secret, expiresAt] = [drawSecret(), new Date(now().getTime() + SECRET_MS)]
  await database().transaction(async (tx) => {
    await checkClaim(tx, slug, serial)
    const secretHash = hashOfProof(secret)
    const none = { keyHash: null, boundAt: null, revokedAt: null }
    await repo.setDeviceKey(tx, { serial, secretHash, expiresAt, ...none })
    await tell(tx, { site: slug, topic: 'roster' })
  })
  const { certificate } = await authority('owner')
  const { fingerprint256 } = new X509Certificate(certificateText(certificate))
  return { serial, secret: inGroups(secret), expiresAt: expiresAt.toISOString(), fingerprint: fingerprint256 }
}

/** Takes nothing any longer of what a device shows, until a new secret is made for it. */
export async function revokeKey(slug: string, serial: string): Promise<void> {
  await database().transaction(async (tx) => {
    await checkClaim(tx, slug, serial)
    const none = { secretHash: null, expiresAt: null, keyHash: null, boundAt: null }
    await repo.setDeviceKey(tx, { serial, ...none, revokedAt: now() })
    await tell(tx, { site: slug, topic: 'roster' })
  })
}

/** What is known of the keys of a site's devices, by serial. */
export async function keyStatesAt(siteId: number): Promise<ReadonlyMap<string, DeviceKeyState>> {
  const keys = await repo.deviceKeysOf(database(), siteId)
  return new Map(keys.map((key) => [key.serial, stateOf(key)]))
}

function stateOf({ revokedAt, keyHash, expiresAt }: repo.DeviceKey): DeviceKeyState {
  if (revokedAt) return 'revoked'
  if (keyHash !== null) return 'bound'
  return expiresAt && expiresAt > now() ? 'secret-made' : 'secret-expired'
}
