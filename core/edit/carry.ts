// Question: what else in a plan names an address of a network that moves to another subnet?
// Method: every address that is written down for its own sake is looked up: one that a thing has goes where the
// thing went, any other keeps its place from the start of the subnet.
// A prefix goes along where it is the subnet, or a part of it that the new subnet has as well.
// Source: common practice, without a source: renumbering guides (RFC 4192, section 3, for IPv6) list the same
// places: routes, filters, name servers, relays, and what others were told.
import {
  contains,
  formatIpv4,
  formatPrefix4,
  ipv4,
  lastOf,
  overlaps,
  parseIpv4,
  parsePrefix4,
  readPrefixes4,
  usable,
  type Ipv4,
  type Prefix4,
} from '#core/address'
import type { Network, Plan, Policy, PolicyRoute, Selector, Tunnel } from '#core/schema'
import { orNull } from '#core/util'

interface Move {
  readonly from: Prefix4
  readonly to: Prefix4
  /** Where each thing that has an address went. */
  readonly went: ReadonlyMap<Ipv4, string>
}
interface Moves {
  readonly all: readonly Move[]
  /** What belongs to far ends: a prefix in it may mean them, and is left as it is. */
  readonly far: readonly Prefix4[]
}

function moveOf(before: Network, after: Network): Move | null {
  const [from, to] = [orNull(parsePrefix4(before.subnet)), orNull(parsePrefix4(after.subnet))]
  if (!from || !to) return null
  const pairs = [
    [before.gateway, after.gateway] as const,
    ...before.fixed.map(({ ip }, i) => [ip, after.fixed[i]?.ip ?? ip] as const),
  ]
  const went = pairs.flatMap(([old, now]) => {
    const ip = orNull(parseIpv4(old))
    return ip === null ? [] : [[ip, now] as const]
  })
  return { from, to, went: new Map(went) }
}

function movedAddress({ all }: Moves, text: string): string {
  const ip = orNull(parseIpv4(text))
  const move = ip !== null && all.find(({ from }) => contains(from, ip))
  if (ip === null || !move) return text
  const { from, to, went } = move
  const known = went.get(ip)
  if (known !== undefined) return known
  const [at, hosts] = [to.base + (ip - from.base), usable(to)]
  return at >= hosts.from && at <= hosts.to ? formatIpv4(ipv4(at)) : text
}

function movedPrefix({ all }: Moves, text: string): string {
  const prefix = orNull(parsePrefix4(text))
  const move = prefix && all.find(({ from }) => prefix.length >= from.length && contains(from, prefix.base))
  if (!prefix || !move) return text
  const { from, to } = move
  if (prefix.length === from.length) return formatPrefix4(to)
  const moved = { base: ipv4(to.base + (prefix.base - from.base)), length: prefix.length }
  return moved.length >= to.length && lastOf(moved) <= lastOf(to) ? formatPrefix4(moved) : text
}

function movedSelector<S extends Selector>(moves: Moves, selector: S): S {
  if (selector.kind !== 'prefix') return selector
  const read = readPrefixes4([selector.prefix])
  if (read.some((prefix) => moves.far.some((far) => overlaps(far, prefix)))) return selector
  return { ...selector, prefix: movedPrefix(moves, selector.prefix) }
}

const movedEnds = <T extends { readonly from: Selector; readonly to: Selector }>(
  moves: Moves,
  one: T,
): T => ({
  ...one,
  from: movedSelector(moves, one.from),
  to: movedSelector(moves, one.to),
})

function movedOptions(moves: Moves, network: Network): Network {
  const { options } = network
  const address = (text: string) => movedAddress(moves, text)
  return {
    ...network,
    relayTo: network.relayTo === null ? null : address(network.relayTo),
    fixed: network.fixed.map((f) => (f.gateway === null ? f : { ...f, gateway: address(f.gateway) })),
    options: {
      ...options,
      dns: options.dns.map(address),
      ntp: options.ntp.map(address),
      controller: options.controller && {
        ...options.controller,
        address: address(options.controller.address),
      },
    },
  }
}

const movedTunnel = (moves: Moves, tunnel: Tunnel): Tunnel => ({
  ...tunnel,
  mapped: tunnel.mapped.map((m) => ({ ...m, inside: movedPrefix(moves, m.inside) })),
  peers: tunnel.peers.map((peer) => ({
    ...peer,
    theirAllowed: peer.theirAllowed.map((text) => movedPrefix(moves, text)),
  })),
})

const movedPolicy = (moves: Moves, policy: Policy): Policy => ({
  ...policy,
  rules: policy.rules.map((rule) => movedEnds(moves, rule)),
})

const movedPolicyRoute = (moves: Moves, route: PolicyRoute): PolicyRoute => ({
  ...route,
  from: movedSelector(moves, route.from),
})

/** A network as it was, and in another subnet. */
export type MovedNetwork = readonly [before: Network, after: Network]

/**
 * The plan with networks replaced by themselves in other subnets, all at once, and everything that names an
 * address of them carried along: next hops, port forwards, relays, name and time servers, prefixes in rules,
 * intents and tunnels.
 */
export function withMovedNetworks(plan: Plan, pairs: readonly MovedNetwork[]): Plan {
  const after = new Map(pairs.map(([before, now]) => [before.id, now]))
  const far = readPrefixes4(plan.tunnels.flatMap((t) => t.peers.flatMap((p) => p.allowed)))
  const moves: Moves = {
    all: pairs.flatMap(([before, now]) => moveOf(before, now) ?? []),
    far: far.filter(({ length }) => length > 0),
  }
  return {
    ...plan,
    networks: plan.networks.map((network) => movedOptions(moves, after.get(network.id) ?? network)),
    routes: plan.routes.map((route) => ({ ...route, via: movedAddress(moves, route.via) })),
    forwards: plan.forwards.map((f) => ({ ...f, toAddress: movedAddress(moves, f.toAddress) })),
    policies: plan.policies.map((policy) => movedPolicy(moves, policy)),
    policyRoutes: plan.policyRoutes.map((route) => movedPolicyRoute(moves, route)),
    intents: plan.intents.map((intent) => movedEnds(moves, intent)),
    groups: plan.groups.map((group) => ({
      ...group,
      members: group.members.map((member) => movedSelector(moves, member)),
    })),
    tunnels: plan.tunnels.map((tunnel) => movedTunnel(moves, tunnel)),
    ipsec: plan.ipsec.map((one) => ({
      ...one,
      ours: { ...one.ours, subnets: one.ours.subnets.map((text) => movedPrefix(moves, text)) },
    })),
  }
}
