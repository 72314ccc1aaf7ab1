import type { TunnelKey } from '#contracts/api'
import { endpointOf, peerConf, wireguardConf } from '#core/export'
import type { Peer, Plan, Tunnel } from '#core/model'
import { keepKey, keyOf, keysOf, noteShown } from '#server/repo/keys'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { log } from '#server/platform/log'
import { refused } from '#server/platform/route'
import { openSealed, seal } from '#server/platform/secrets'
import { newTunnelKeys, publicKeyOf } from '#server/platform/x25519'
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

/** Makes a pair of keys for a tunnel or a peer. The private one is sealed at once; the public one is for the plan. */
export async function makeKeys(slug: string, owner: string, who: string): Promise<{ readonly publicKey: string }> {
  const { siteId, current } = await siteAndPlan(slug)
  ownerOf(current.plan, owner)
  const { privateKey, publicKey } = newTunnelKeys()
  await keepKey(database(), { siteId, owner, publicKey, sealed: seal(privateKey), madeAt: now(), madeBy: who })
  return { publicKey }
}

/** Takes a private key that was made elsewhere, as in a provider's file: it is sealed at once, and its public one is for the plan. */
export async function takeKey(slug: string, owner: string, privateKey: string, who: string): Promise<{ readonly publicKey: string }> {
  const { siteId, current } = await siteAndPlan(slug)
  ownerOf(current.plan, owner)
  const publicKey = publicKeyOf(privateKey)
  await keepKey(database(), { siteId, owner, publicKey, sealed: seal(privateKey), madeAt: now(), madeBy: who })
  return { publicKey }
}

/** The file of a tunnel's gateway or of a peer, with its private key. Who was shown it is kept. */
export async function showFile(slug: string, owner: string, who: string): Promise<{ readonly text: string }> {
  const { siteId, current } = await siteAndPlan(slug)
  const { tunnel, peer } = ownerOf(current.plan, owner)
  const key = await keyOf(database(), siteId, owner)
  if (!key) throw refused(409, 'no-key', 'owner', { text: owner })
  if ((peer ?? tunnel).publicKey !== key.publicKey) throw refused(409, 'other-key', 'owner', { text: owner })
  await noteShown(database(), siteId, owner, now(), who)
  log.info({ site: slug, owner, who }, 'a private key was shown')
  const privateKey = openSealed(key.sealed)
  return { text: peer ? peerConf(tunnel, peer, peer.endpoint === null ? endpointOf(current.plan, tunnel) : null, privateKey) : wireguardConf(tunnel, privateKey) }
}
