// Question: what would somebody on site see of a mistake, besides tests that fail?
// Method: an address, a link light, a forwarding table, a line's own address and a tunnel's handshake are
// read off the site as the mistakes make it; a fact that cannot be foretold speaks neither for nor against.
// Source:
// RFC 3927 (169.254 where nobody answers), RFC 2131 (any server that hears a client may answer it), IEEE
// 802.1Q-2022 clause 8.7 (what a bridge learns), RFC 1918 and 6598 (whose address a line is given); wg(8),
// `latest-handshakes` and `transfer`.
import { linkSpeed } from '#core/cabling'
import { upstreamDownIn, type PlanIndex, type FailureScenario } from '#core/queries'
import type { Plan, DeviceId, LinkId, PeerId, UplinkId } from '#core/schema'
import { flowTyped, openSite, readFlow, walkFlow, type Site } from '#core/reachability'
import { plannedPort, type Look } from './look'
import type { Mistake } from './mistakes'

/** A site with mistakes, made ready to be looked at. */
export interface Scene {
  readonly plan: Plan
  readonly mistakes: readonly Mistake[]
  readonly failed: FailureScenario
  readonly site: Site
}
export const sceneOf = (index: PlanIndex, mistakes: readonly Mistake[]): Scene => {
  const failed = mistakes.flatMap((m) => m.failed)
  return { plan: index.plan, mistakes, failed, site: openSite(index, failed) }
}

const has = (mistakes: readonly Mistake[], code: Mistake['code'], key: string, id: string): boolean =>
  mistakes.some((m) => m.code === code && m.values[key] === id)

function addressSeen({ site, mistakes }: Scene, deviceId: DeviceId): string[] {
  const seen = site.endpoints
    .filter((e) => e.deviceId === deviceId)
    .map((endpoint) => {
      if (endpoint.how !== 'link-local') return endpoint.networkId ?? 'none'
      // Where our own server is silent, whoever else answers is heard.
      const strange = mistakes.some(
        (mistake) =>
          mistake.code === 'second-dhcp' &&
          site.interfaceOfNetwork.get(String(mistake.values['network']))?.broadcastDomain ===
            endpoint.broadcastDomain,
      )
      return strange ? 'foreign' : 'none'
    })
  return seen.length === 0 ? ['none'] : seen
}

function linkSeen({ site }: Scene, linkId: LinkId): string[] | null {
  const link = site.plan.links.find((l) => l.id === linkId)
  if (!link) return null
  if ([linkId, link.a.deviceId, link.b.deviceId].some((id) => site.failed.has(id))) return ['none']
  const { mbps } = linkSpeed(site.index, link)
  return mbps === null ? null : [String(mbps)]
}

/** Ports of a switch that frames of a device come in by. */
function macSeen({ site }: Scene, deviceId: DeviceId, on: string): string[] {
  const ports = site.endpoints
    .filter((e) => e.deviceId === deviceId)
    .flatMap((endpoint) => {
      const reached = site.layer2.bfsTree(endpoint.node)
      return reached.nodes
        .filter((node) => node.deviceId === on && node.portId === null)
        .flatMap((node) => reached.hopsTo(node).at(-1)?.into.portId ?? [])
    })
  return ports.length === 0 ? ['nowhere'] : [...new Set(ports)]
}

function uplinkSeen({ plan, mistakes, failed, site }: Scene, uplinkId: UplinkId): string[] {
  // A line on which nothing answers still gives an address.
  const lit = upstreamDownIn(failed).has(uplinkId)
    ? openSite(
        site.index,
        failed.filter((c) => c.kind !== 'upstream-down' || c.uplinkId !== uplinkId),
      )
    : site
  if (!lit.uplinks.some((u) => u.id === uplinkId)) return ['none']
  if (has(mistakes, 'lan-overlap', 'uplink', uplinkId)) return ['ours']
  const uplink = plan.uplinks.find((u) => u.id === uplinkId)
  return [
    has(mistakes, 'modem-routes', 'uplink', uplinkId) && uplink?.outside === 'own' ? 'private' : 'planned',
  ]
}

function handshakeSeen({ site, mistakes }: Scene, peerId: PeerId): string[] {
  if (site.tunnels.some((t) => t.peers.some((p) => p.id === peerId && p.up))) return ['recent']
  return [has(mistakes, 'key-mismatch', 'peer', peerId) ? 'refused' : 'silent']
}

function flowSeen({ site }: Scene, text: string): string[] | null {
  const read = readFlow(text)
  if (!read.ok || read.value.from === null || read.value.to === null) return null
  const flow = flowTyped(
    site,
    { from: '', fromAddress: 0, to: '', toAddress: 0, proto: 'tcp', port: 0 },
    read.value,
  )
  return [flow && walkFlow(site, flow)?.passes ? 'passes' : 'stopped']
}

/** What somebody who looks there would see, any one of these; null where it cannot be foretold. */
export function seenThere(scene: Scene, look: Look): readonly string[] | null {
  switch (look.kind) {
    case 'address':
      return addressSeen(scene, look.deviceId)
    case 'link':
      return linkSeen(scene, look.linkId)
    case 'mac':
      return macSeen(scene, look.deviceId, look.on)
    case 'uplink':
      return uplinkSeen(scene, look.uplinkId)
    case 'handshake':
      return handshakeSeen(scene, look.peerId)
    case 'flow':
      return flowSeen(scene, look.text)
  }
}

/**
 * What is worth a look on a site, the easiest first: lights; of hosts their address, and the port their
 * switch knows them on; uplinks; peers.
 */
export function looksOf(plan: Plan): Look[] {
  const switches = new Set(plan.devices.filter((d) => d.kind === 'switch').map((d) => d.id))
  const hosts = plan.devices.filter((d) => d.kind === 'hosts' && d.homeNetworkId !== null)
  return [
    ...plan.links
      .filter((l) => l.medium.kind === 'copper' || l.medium.kind === 'fibre')
      .map((l): Look => ({ kind: 'link', linkId: l.id })),
    ...hosts.map((d): Look => ({ kind: 'address', deviceId: d.id })),
    ...hosts.flatMap((device) =>
      [...switches]
        .filter((on) => plannedPort(plan, device.id, on))
        .map((on): Look => ({ kind: 'mac', deviceId: device.id, on })),
    ),
    ...plan.uplinks.map((u): Look => ({ kind: 'uplink', uplinkId: u.id })),
    ...plan.tunnels.flatMap((t) => t.peers.map((p): Look => ({ kind: 'handshake', peerId: p.id }))),
  ]
}
