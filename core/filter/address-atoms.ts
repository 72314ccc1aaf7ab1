// Question: which addresses does a plan tell apart, and by which of them does the forwarding of a packet
// differ?
// Method: two addresses are alike where they lie in the same of all the prefixes that the plan speaks of;
// each class of such addresses is an atom and has a number.
// Source: atomic predicates of a network (Yang and Lam, 2013, from memory); prefixes lie in each other or
// apart (RFC 4632 section 3.1).
import {
  contains,
  ipv4,
  lastOf,
  parsePrefix4,
  type Ipv4,
  type Prefix4,
  type Range4,
  readInterface4,
  readPrefixes4,
} from '#core/address'
import { countUpTo, orNull } from '#core/util'
import { rebase, defineStage, mapsOf, membersOf, type PlanIndex } from '#core/queries'
import type { Intent, DeviceId, PortId } from '#core/schema'
import { ruleEnds } from './rule-ends'
import { distinct, prefixName, prefixesIn, readAt } from './selectors'

/** A gateway's port that has an address of its own. */
export interface RoutedPort {
  readonly deviceId: DeviceId
  readonly portId: PortId
  readonly address: Ipv4
  readonly prefix: Prefix4
}

const routedPortsStage = defineStage(
  'routed ports',
  ({ plan }): readonly RoutedPort[] =>
    plan.devices
      .filter((device) => device.kind === 'gateway')
      .flatMap((device) =>
        device.ports.flatMap((port) => {
          const iface = port.mode.mode === 'routed' ? readInterface4(port.mode.address) : null
          return iface ? [{ deviceId: device.id, portId: port.id, ...iface }] : []
        }),
      ),
  { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
)
export const routedPorts = (index: PlanIndex): readonly RoutedPort[] => index.get(routedPortsStage)

const samePrefixes = (first: readonly Prefix4[], second: readonly Prefix4[]): boolean =>
  first.length === second.length &&
  first.every((prefix, i) => prefixName(prefix) === prefixName(second[i] as Prefix4))

/** A subnet and, alone, its broadcast address, to which no host answers; links of two addresses have none. */
const withBroadcast = (prefix: Prefix4): Prefix4[] =>
  prefix.length > 30 ? [prefix] : [prefix, { base: lastOf(prefix), length: 32 }]

/** Every prefix by which forwarding is decided: routes, tunnels, forwards, subnets, hosts' own masks. */
const forwardingPrefixes = defineStage(
  'forwarding prefixes',
  (index): readonly Prefix4[] => {
    const { policyRoutes, routes, networks, tunnels, forwards, uplinks } = index.plan
    const theirs = (tunnel: (typeof tunnels)[number]) =>
      readPrefixes4(tunnel.peers.flatMap((p) => p.theirAllowed))
    const routers = new Set(networks.map(({ gateway }) => gateway))
    return distinct([
      ...policyRoutes.flatMap((route) => prefixesIn(index, route.from)),
      ...readPrefixes4([
        ...routes.map((route) => route.prefix),
        // A next hop gets what is for itself, and passes on nothing else unless it is a router.
        ...routes.map((route) => `${route.via}/32`),
        ...uplinks.flatMap((uplink) => uplink.facts.routed4),
        ...tunnels.flatMap((t) => t.peers).flatMap((p) => [...p.allowed, ...p.theirAllowed]),
      ]),
      // What a peer allows of the addresses by which it knows ours says so much of ours.
      ...tunnels.flatMap((tunnel) =>
        mapsOf(tunnel).flatMap(({ inside, outside }) => [
          inside,
          outside,
          ...theirs(tunnel)
            .filter((p) => p.length > outside.length && contains(outside, p.base))
            .map((p) => ({ base: rebase(p.base, outside, inside), length: p.length })),
        ]),
      ),
      ...tunnels.flatMap((tunnel) => {
        const own = readInterface4(tunnel.address)
        return own ? [own.prefix, { base: own.address, length: 32 }] : []
      }),
      ...forwards.flatMap((forward) => readAt(forward.toAddress, 32)),
      ...routedPorts(index).map((port) => port.prefix),
      // Who is given a router's own address is not heard by it, unlike all around.
      ...networks.flatMap(({ fixed }) =>
        fixed.filter((f) => routers.has(f.ip)).flatMap((f) => readAt(f.ip, 32)),
      ),
      ...networks.flatMap((network) => {
        const subnet = orNull(parsePrefix4(network.subnet))
        if (!subnet) return []
        const typed = network.fixed
          .filter((f) => f.deviceId !== null && f.how === 'static')
          .flatMap((f) => readAt(f.ip, f.mask ?? subnet.length))
        return [subnet, ...readAt(network.gateway, subnet.length), ...typed].flatMap(withBroadcast)
      }),
    ])
  },
  { equal: samePrefixes },
)

const filteringDevices = defineStage(
  'devices with rules',
  ({ plan }): readonly string[] => plan.policies.map((policy) => policy.deviceId),
  { equal: (a, b) => a.join() === b.join() },
)
const intentEnds = defineStage(
  'ends of intents',
  ({ plan }): readonly Pick<Intent, 'from' | 'to'>[] => plan.intents.map(({ from, to }) => ({ from, to })),
  { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
)

/** The same, and what rules and intents speak of. */
const allPrefixes = defineStage(
  'all prefixes',
  (index): readonly Prefix4[] => {
    const rules = index.get(filteringDevices).flatMap((deviceId) => index.get(ruleEnds, deviceId))
    const selectors = [...rules, ...index.get(intentEnds)].flatMap(({ from, to }) => [
      ...membersOf(index, from),
      ...membersOf(index, to),
    ])
    return distinct([...index.get(forwardingPrefixes), ...selectors.flatMap((s) => prefixesIn(index, s))])
  },
  { equal: samePrefixes },
)

const boundariesOf = (prefixes: readonly Prefix4[]): number[] =>
  [...new Set(prefixes.flatMap((p) => [p.base, p.base + 2 ** (32 - p.length)]))].sort((a, b) => a - b)

/** The first address of each part of some ranges that boundaries make. */
export function representatives(ranges: readonly Range4[], boundaries: readonly number[]): Ipv4[] {
  const found: Ipv4[] = []
  for (const { from, to } of ranges) {
    found.push(from)
    for (let n = countUpTo(boundaries, from); n < boundaries.length && (boundaries[n] as number) <= to; n++)
      found.push(ipv4(boundaries[n] as number))
  }
  return found
}

export interface Atom {
  /** Two addresses of one number are in the same of all the prefixes. */
  readonly number: number
  /** Places of those prefixes in the table's list. */
  readonly inside: readonly number[]
}
export interface AtomTable {
  readonly prefixes: readonly Prefix4[]
  /** Addresses at which atoms begin, in order. */
  readonly boundaries: readonly number[]
  atomAt(address: Ipv4): Atom
}

/**
 * Prefixes either lie in each other or apart: one walk over their edges, with those that are open on a stack,
 * finds every atom.
 */
export function buildAtoms(prefixes: readonly Prefix4[]): AtomTable {
  const boundaries = boundariesOf(prefixes)
  const byBase = prefixes
    .map((prefix, i) => ({ prefix, i, end: prefix.base + 2 ** (32 - prefix.length) }))
    .sort((a, b) => a.prefix.base - b.prefix.base || a.prefix.length - b.prefix.length)
  const atoms: Atom[] = [{ number: 0, inside: [] }]
  const known = new Map<string, Atom>([['', atoms[0] as Atom]])
  const open: typeof byBase = []
  let next = 0
  for (const edge of boundaries) {
    while (open.length > 0 && (open.at(-1)?.end ?? 0) <= edge) open.pop()
    for (let p = byBase[next]; p && p.prefix.base === edge; p = byBase[++next]) open.push(p)
    const inside = open.map((p) => p.i)
    const name = inside.join()
    const atom = known.get(name) ?? { number: known.size, inside }
    known.set(name, atom)
    atoms.push(atom)
  }
  return { prefixes, boundaries, atomAt: (address) => atoms[countUpTo(boundaries, address)] as Atom }
}

const addressAtomsStage = defineStage('address atoms', (index) => buildAtoms(index.get(allPrefixes)))
const forwardingAtomsStage = defineStage('forwarding atoms', (index) =>
  buildAtoms(index.get(forwardingPrefixes)),
)
/** Atoms by which addresses differ at all. */
export const addressAtoms = (index: PlanIndex): AtomTable => index.get(addressAtomsStage)
/** Atoms by which addresses differ in their forwarding alone. */
export const forwardingAtoms = (index: PlanIndex): AtomTable => index.get(forwardingAtomsStage)

/**
 * Addresses at which some rule, route, subnet or mask starts to treat its neighbours differently, in order.
 */
export const atomBoundaries = (index: PlanIndex): readonly number[] => addressAtoms(index).boundaries
