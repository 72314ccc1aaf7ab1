// Who is there in the twin, by both families, and what the engine calls their addresses.
import {
  contains,
  contains6,
  formatIpv4,
  parseIpv4,
  parseIpv6,
  readPrefixes4,
  routerIpv6,
  type Ipv4,
} from '#core/address'
import {
  indexPlan,
  translateSource,
  mapsOf,
  translateDestination,
  ipv6PrefixOf,
  type FailureScenario,
} from '#core/queries'
import type { Network, Plan } from '#core/schema'

import { openSite, peerKey, type Party, type Site } from '#core/reachability'
import { OUTSIDE, OUTSIDE6, type Built, type Host } from './build'

export interface Place {
  readonly name: string
  readonly ns: string
  readonly party: (site: Site, other: Place) => Party | null
  /** Address others try; null where it has none. */
  readonly address: (other: Place) => string | null
  readonly home: string | null
}

export const keyOf = (h: Host) => `${h.deviceId}/${h.portId ?? ''}${h.tag === 0 ? '' : `#${h.tag}`}`

/** Addresses and hosts of a twin as the kernel has them. */
interface Standing {
  readonly plan: Plan
  readonly built: Built
  readonly addresses: ReadonlyMap<string, string>
}

/**
 * The address by which a host is called: who comes through a tunnel calls by the address that it knows, where
 * its own file allows that, or else by the real one.
 */
function calledBy({ plan }: Standing, own: string | null, other: Place): string | null {
  const isPeer = ({ id }: { readonly id: string }) => other.name === peerKey(id)
  const tunnel = plan.tunnels.find((t) => t.peers.some(isPeer))
  if (own === null || own.includes(':') || !tunnel) return own
  const known = translateSource(mapsOf(tunnel), ipOf(own))
  const sends = readPrefixes4(tunnel.peers.filter(isPeer).flatMap((p) => p.theirAllowed))
  return sends.some((prefix) => contains(prefix, known)) ? formatIpv4(known) : own
}

function hostPlace(standing: Standing, host: Host): Place {
  const own = standing.addresses.get(keyOf(host)) ?? null
  const isSocket = ({ deviceId, portIds, node }: Site['endpoints'][number]) =>
    deviceId === host.deviceId &&
    (host.portId === null ? portIds.length === 0 : portIds.includes(host.portId) && node.tag === host.tag)
  return {
    name: keyOf(host),
    ns: host.ns,
    home: host.networkId,
    address: (other) => calledBy(standing, own, other),
    party: (site) => {
      const endpoint = site.endpoints.find(isSocket)
      return endpoint ? { kind: 'endpoint', endpoint } : null
    },
  }
}

/** The gateway with the lines; of several it alone is asked, by those who live behind it. */
function gatewayPlace({ plan, built }: Standing, well: ReadonlySet<string>): Place {
  const index = indexPlan(plan)
  // The outside calls the gateway over a line that is well, if there is one.
  const own = built.wans.find((w) => !w.shared && well.has(w.id)) ?? built.wans.find((w) => !w.shared)
  const elsewhere = (other: Place) =>
    (index.networks.get(other.home ?? '')?.routerId ?? built.gatewayId) !== built.gatewayId
  return {
    name: 'gateway',
    ns: built.gateway,
    home: null,
    party: (_, other) => (elsewhere(other) ? null : { kind: 'gateway', deviceId: built.gatewayId }),
    address: (other) => {
      if (elsewhere(other)) return null
      if (other.name === 'internet') return own?.own ?? null
      const peer = built.peers.find((p) => other.name === peerKey(p.peerId))
      return peer?.home ?? index.networks.get(other.home ?? '')?.gateway ?? null
    },
  }
}

const peerPlace = ({ tunnelId, peerId, ns, address }: Built['peers'][number]): Place => ({
  name: peerKey(peerId),
  ns,
  home: null,
  party: () => ({ kind: 'peer', tunnelId, peerId }),
  address: () => address,
})

/** @param well uplinks that their probes find well, by id */
export function placesOf(
  plan: Plan,
  built: Built,
  addresses: ReadonlyMap<string, string>,
  well: ReadonlySet<string>,
): Place[] {
  const standing = { plan, built, addresses }
  const internet: Place = {
    name: 'internet',
    ns: built.cloud,
    home: null,
    party: () => ({ kind: 'internet' }),
    address: () => OUTSIDE,
  }
  return [
    ...built.hosts.map((host) => hostPlace(standing, host)),
    ...built.peers.filter((p) => p.tunnelId !== '').map(peerPlace),
    ...(built.gateway === '' ? [] : [gatewayPlace(standing, well)]),
    ...(built.cloud === '' ? [] : [internet]),
  ]
}

export const ipOf = (text: string): Ipv4 => {
  const read = parseIpv4(text)
  if (!read.ok) throw new Error(`not an address: ${text}`)
  return read.value
}

/** Some address that the engine thinks an endpoint may have. */
export const expectedIp = (party: Party | null): Ipv4 | null =>
  party?.kind === 'endpoint' ? (party.endpoint.ranges[0]?.from ?? null) : null

/** One of the two families: the engine's site, who is there, and how the kernel's addresses are read. */
export interface Family {
  readonly name: '' | '6 '
  readonly site: Site
  readonly places: readonly Place[]
  /** What the engine calls an address of the kernel, of this party. */
  toEngine(text: string, party: Party | null): Ipv4 | null
  /** Address of the gateway as the outside calls it, or as it calls the outside. */
  readonly border: string | null
}

export function familyFour(plan: Plan, scenario: FailureScenario, places: readonly Place[]): Family {
  return {
    name: '',
    site: openSite(indexPlan(plan), scenario),
    places,
    toEngine: (text) =>
      translateDestination(
        plan.tunnels.flatMap((t) => mapsOf(t)),
        ipOf(text),
      ),
    border: plan.networks[0]?.gateway ?? null,
  }
}

const prefixIn = (plan: Plan, networkId: string | null) => {
  const network = plan.networks.find((n) => n.id === networkId)
  return network ? ipv6PrefixOf(network) : null
}

export function placesOfSix(plan: Plan, built: Built, sixes: ReadonlyMap<string, string>): Place[] {
  const first = plan.networks.find((n) => prefixIn(plan, n.id))
  const routerOf = (networkId: string | null) => {
    const prefix = prefixIn(plan, networkId)
    return prefix && routerIpv6(prefix)
  }
  const elsewhere = (other: Place) =>
    (plan.networks.find((n) => n.id === other.home)?.routerId ?? built.gatewayId) !== built.gatewayId
  const peerAt = (name: string) => built.peers.find((p) => name === peerKey(p.peerId))
  return placesOf(plan, built, sixes, new Set())
    .filter((p) => !p.name.startsWith('peer:') || peerAt(p.name)?.address6)
    .map((place) => {
      if (place.name.startsWith('peer:'))
        return { ...place, address: () => peerAt(place.name)?.address6 ?? null }
      if (place.name === 'gateway')
        return {
          ...place,
          address: (other: Place) =>
            elsewhere(other)
              ? null
              : (peerAt(other.name)?.home6 ??
                routerOf(other.name === 'internet' ? (first?.id ?? null) : other.home)),
        }
      if (place.name === 'internet') return { ...place, address: () => OUTSIDE6 }
      return place
    })
}

/** The network in whose prefix an IPv6 address lies. */
function homeOf6(plan: Plan, text: string): Network | undefined {
  const read = parseIpv6(text)
  if (!read.ok) return undefined
  return plan.networks.find(({ id }) => {
    const prefix = prefixIn(plan, id)
    return prefix !== null && contains6(prefix, { groups: read.value, length: 128 })
  })
}

function routerOf6(network: Network): string | null {
  const prefix = ipv6PrefixOf(network)
  return prefix && routerIpv6(prefix)
}

/** What the engine calls an IPv6 address of the kernel, of a party. */
function engineAddress6(plan: Plan, site: Site, text: string, party: Party | null): Ipv4 | null {
  const { ipv6 } = site
  if (!ipv6) return null
  if (text === OUTSIDE6) return ipv6.outside[0] ?? null
  const home = homeOf6(plan, text)
  if (home && text === routerOf6(home)) return site.interfaceOfNetwork.get(home.id)?.address ?? null
  // Whoever made itself an address made it of the prefix of the network it is in.
  if (party?.kind === 'endpoint' && party.endpoint.how !== 'static')
    return party.endpoint.networkId === home?.id ? expectedIp(party) : null
  return party === null || party.kind === 'internet' ? null : ipv6.addressOf(text)
}

export function familySix(plan: Plan, site: Site, places: readonly Place[]): Family {
  const first = plan.networks.map((n) => prefixIn(plan, n.id)).find((p) => p !== null)
  return {
    name: '6 ',
    site,
    places,
    border: first ? routerIpv6(first) : null,
    toEngine: (text, party) => engineAddress6(plan, site, text, party),
  }
}
