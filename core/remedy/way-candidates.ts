// Which single change of a policy route, a tunnel or a forward could let a flow pass?
import { parseIpv4 } from '#core/address'
import { canBeCalled, uplinksInOrder } from '#core/queries'
import { freshId } from '#core/edit'
import type { Intent, Network, Peer, Plan, PortForward, Uplink, TunnelId } from '#core/schema'
import type { Site, Walk, WalkLine } from '#core/reachability'
import { swap, type Candidate } from './candidate'

const nextLine = (plan: Plan, policyRouteId: string): Candidate => ({
  code: 'take-next-uplink',
  values: { policyRoute: policyRouteId },
  after: {
    ...plan,
    policyRoutes: swap(plan.policyRoutes, policyRouteId, (r) => ({ ...r, orElse: 'next' })),
  },
})

/** A peer that takes what comes from a network of ours as well. */
function allowPrefix(plan: Plan, tunnelId: TunnelId, peer: Peer, { subnet }: Network): Candidate {
  const wider = (peers: readonly Peer[]) =>
    swap(peers, peer.id, (p) => ({ ...p, theirAllowed: [...p.theirAllowed, subnet] }))
  return {
    code: 'allow-prefix',
    values: { peer: peer.id, prefix: subnet },
    after: { ...plan, tunnels: swap(plan.tunnels, tunnelId, (t) => ({ ...t, peers: wider(t.peers) })) },
  }
}

const withForward = (plan: Plan, forward: Omit<PortForward, 'id'>): Plan => ({
  ...plan,
  forwards: [...plan.forwards, { id: freshId(plan.forwards, 'forward'), ...forward }],
})

/** The home network of an end, by the endpoint's id. */
const networkOf = ({ plan, endpoints }: Site, id: string): Network | undefined =>
  plan.networks.find((n) => n.id === endpoints.find((e) => e.id === id)?.networkId)

/** The first uplink of a network's gateway that can be called from outside. */
const calledUplink = (plan: Plan, network: Network | undefined): Uplink | undefined =>
  uplinksInOrder(plan).find((u) => u.deviceId === network?.routerId && canBeCalled(u))

/** A forward from outside to the device that an intent goes to. */
function forwardCandidates(site: Site, intent: Intent, { flow }: Walk): Candidate[] {
  const { plan } = site
  const { to } = intent
  if (to.kind !== 'device' || flow.proto === 'icmp') return []
  const network = networkOf(site, flow.to)
  const address = network?.fixed.find((f) => f.deviceId === to.id)?.ip
  const uplink = calledUplink(plan, network)
  if (!uplink || address === undefined || !parseIpv4(address).ok) return []
  const { proto, port } = flow
  const entry = intent.services
    .flatMap((id) => site.index.services.get(id)?.entries ?? [])
    .find((e) => e.proto === proto && e.from <= port && port <= e.to)
  if (!entry) return []
  return [
    {
      code: 'forward-port',
      values: { uplink: uplink.id, proto, port: entry.from, to: address },
      after: withForward(plan, {
        deviceId: uplink.deviceId,
        uplinkId: uplink.id,
        proto,
        from: entry.from,
        to: entry.to,
        toAddress: address,
        toPort: entry.from,
        hairpin: false,
        note: intent.note,
      }),
    },
  ]
}

function tunnelCandidates(site: Site, line: WalkLine & { kind: 'tunnel' }, { flow }: Walk): Candidate[] {
  const network = networkOf(site, line.inward ? flow.to : flow.from)
  const tunnel = site.plan.tunnels.find((t) => t.id === line.tunnelId)
  const peer = tunnel?.peers.find((p) => p.id === line.peerId)
  if (!network || !tunnel || !peer || peer.theirAllowed.includes(network.subnet)) return []
  return [allowPrefix(site.plan, tunnel.id, peer, network)]
}

export function wayCandidates(site: Site, intent: Intent, walk: Walk): Candidate[] {
  return walk.lines.flatMap((line): Candidate[] => {
    if (line.kind === 'chosen' && line.exit === null) return [nextLine(site.plan, line.policyRouteId)]
    if (line.kind === 'tunnel') return tunnelCandidates(site, line, walk)
    const unaddressed = line.kind === 'stopped' && line.code === 'not-addressable'
    return unaddressed ? forwardCandidates(site, intent, walk) : []
  })
}
