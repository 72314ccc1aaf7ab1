import { createPrivateKey, createPublicKey, generateKeyPairSync } from 'node:crypto'

export interface TunnelKeys {
  readonly privateKey: string
  readonly publicKey: string
}

/**
 * A new pair of X25519 keys (RFC 7748), each 32 bytes in base64, as `wg genkey` and `wg pubkey` write them.
 */
export function newTunnelKeys(): TunnelKeys {
  const { privateKey, publicKey } = generateKeyPairSync('x25519')
  // The raw key is the last 32 bytes of either DER form (RFC 8410).
  const raw = (der: Buffer) => der.subarray(-32).toString('base64')
  return {
    privateKey: raw(privateKey.export({ format: 'der', type: 'pkcs8' })),
    publicKey: raw(publicKey.export({ format: 'der', type: 'spki' })),
  }
}

/**
 * The public key of a private one, both in base64.
 * @param privateKey 32 bytes, which the caller has checked
 */
export function publicKeyOf(privateKey: string): string {
  // PKCS #8 around the raw key, as RFC 8410 section 7 has it.
  const der = Buffer.concat([
    Buffer.from('302e020100300506032b656e04220420', 'hex'),
    Buffer.from(privateKey, 'base64'),
  ])
  return createPublicKey(createPrivateKey({ key: der, format: 'der', type: 'pkcs8' }))
    .export({ format: 'der', type: 'spki' })
    .subarray(-32)
    .toString('base64')
}
