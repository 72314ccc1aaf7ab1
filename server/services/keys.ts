import type { TunnelKey } from '#contracts/api'
import { endpointOf, peerConf, wireguardConf } from '#core/export'
import type { Peer, Plan, Tunnel } from '#core/schema'
import { keepKey, keyNamed, keysOf, noteShown } from '#server/repo/keys'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { log } from '#server/platform/log'
import { refused } from '#server/platform/route'
import { seal } from '#server/platform/secrets'
import { newTunnelKeys, publicKeyOf } from '#server/platform/x25519'
import { opened } from './opened'
import { siteAndPlan } from './plans'

interface Owner {
  readonly tunnel: Tunnel
  /** Null where the keys are the tunnel's own. */
  readonly peer: Peer | null
}

function ownerOf(plan: Plan, id: string): Owner {
  for (const tunnel of plan.tunnels) {
    if (tunnel.id === id) return { tunnel, peer: null }
    const peer = tunnel.peers.find((p) => p.id === id)
    if (peer) return { tunnel, peer }
  }
  throw refused(409, 'no-such-peer', 'owner', { text: id })
}

export async function listKeys(slug: string): Promise<TunnelKey[]> {
  const { siteId } = await siteAndPlan(slug)
  return keysOf(database(), siteId)
}

async function keep(
  slug: string,
  owner: string,
  pair: { readonly privateKey: string; readonly publicKey: string },
  who: string,
): Promise<{ readonly publicKey: string }> {
  const { siteId, current } = await siteAndPlan(slug)
  const { tunnel, peer } = ownerOf(current.plan, owner)
  const inUse = [(peer ?? tunnel).publicKey, peer?.next?.publicKey ?? null].filter((k) => k !== null)
  await keepKey(
    database(),
    { siteId, owner, publicKey: pair.publicKey, sealed: seal(pair.privateKey), madeAt: now(), madeBy: who },
    inUse,
  )
  return { publicKey: pair.publicKey }
}

/**
 * Makes a pair of keys for a tunnel or a peer.
 * The private one is sealed at once; the public one is for the plan.
 */
export const makeKeys = (slug: string, owner: string, who: string) => keep(slug, owner, newTunnelKeys(), who)

/**
 * Takes a private key that was made elsewhere, as in a provider's file: it is sealed at once, and its public
 * one is for the plan.
 */
export const takeKey = (slug: string, owner: string, privateKey: string, who: string) =>
  keep(slug, owner, { privateKey, publicKey: publicKeyOf(privateKey) }, who)

/**
 * The file of a tunnel's gateway or of a peer, with its private key. Who was shown it is kept.
 * @param next the peer's file with the key that it changes to
 */
export async function showFile(
  slug: string,
  owner: string,
  next: boolean,
  who: string,
): Promise<{ readonly text: string }> {
  const { siteId, current } = await siteAndPlan(slug)
  const { tunnel, peer } = ownerOf(current.plan, owner)
  const publicKey = next ? (peer?.next?.publicKey ?? null) : (peer ?? tunnel).publicKey
  const key = publicKey === null ? null : await keyNamed(database(), siteId, publicKey)
  if (!key)
    throw refused(
      409,
      (await keysOf(database(), siteId)).some((k) => k.owner === owner) ? 'other-key' : 'no-key',
      'owner',
      { text: owner },
    )
  const privateKey = opened(key.sealed)
  await noteShown(database(), siteId, key.publicKey, now(), who)
  log.info({ site: slug, owner, next, who }, 'a private key was shown')
  return {
    text: peer
      ? peerConf(tunnel, peer, peer.endpoint === null ? endpointOf(current.plan, tunnel) : null, privateKey)
      : wireguardConf(tunnel, privateKey),
  }
}
