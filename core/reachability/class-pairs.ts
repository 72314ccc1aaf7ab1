// Question: which pairs of forwarding classes does each cell of the matrix tell of, and what does the path of
// each pair let through?
// Method: each network, peer, the gateway and the internet is a zone, a row and a column of forwarding
// classes; the path of a pair of classes is traced when it is first asked for.
// One stage: an edit of rules or intents that tells no address apart traces nothing anew.
// Source: equivalence classes as in equivalence-classes.ts.
import { lastOf } from '#core/address'
import { groupBy } from '#core/util'
import {
  byVlan,
  defineStage,
  membersOf,
  scenarioText,
  type PlanIndex,
  type FailureScenario,
} from '#core/queries'
import {
  addressAtoms,
  filterRefs,
  forwardingAtoms,
  internetRepresentatives,
  representatives,
  type AtomTable,
  type FilterRef,
  type PathFilter,
} from '#core/filter'
import { dataPlaneOf } from './data-plane'
import type { DataPlane } from './plane'
import type { Endpoint } from './endpoints'
import { canPair, partitionEndpoints, type ForwardingClass, type Principal } from './equivalence-classes'
import { gatewayCalling, gatewaySeenBy, type GatewayChoice } from './gateway-choice'
import { PathFilters } from './round-trip'
import { GATEWAY, INTERNET, peerKey } from './zones'

export interface ClassPair {
  readonly from: ForwardingClass
  readonly to: ForwardingClass
  readonly filter: PathFilter
  /** The rule lists that the filter asks. */
  readonly refs: readonly FilterRef[]
}
export interface ClassPairs {
  /**
   * Networks by VLAN, then peers, the gateway, the internet; after these, networks that hosts want and the
   * plan does not have.
   * Rows and columns go by their place here.
   */
  readonly zones: readonly string[]
  /** How many of them are shown. */
  readonly shown: number
  /** The forwarding classes of a zone, by its place. */
  classesOf(zone: number): readonly ForwardingClass[]
  /** Traced when first asked for. */
  between(from: number, to: number): readonly ClassPair[]
}

const NONE: readonly never[] = []

/**
 * A tunnel's peers that stand for people and sites; a provider stands for the internet, which has its own
 * column.
 */
const peerPrincipals = (plane: DataPlane, { boundaries }: AtomTable): Principal[] =>
  plane.tunnels.flatMap((tunnel) =>
    tunnel.peers
      .filter((peer) => peer.kind !== 'provider')
      .map((peer) => {
        const ranges = peer.allowed.filter((p) => p.length > 0).map((p) => ({ from: p.base, to: lastOf(p) }))
        return {
          party: { kind: 'peer' as const, tunnelId: tunnel.id, peerId: peer.id },
          id: peerKey(peer.id),
          addresses: representatives(ranges, boundaries),
          isGroup: false,
        }
      }),
  )

function hostPrincipals(plane: DataPlane, { boundaries }: AtomTable): Principal[] {
  // Whoever leases of one pool has its ranges, and so one list of addresses.
  const known = new Map<Endpoint['ranges'], Principal['addresses']>()
  const addressesIn = (ranges: Endpoint['ranges']) => {
    let addresses = known.get(ranges)
    if (!addresses) known.set(ranges, (addresses = representatives(ranges, boundaries)))
    return addresses
  }
  return plane.endpoints.map((endpoint) => ({
    party: { kind: 'endpoint', endpoint },
    id: endpoint.id,
    addresses: addressesIn(endpoint.ranges),
    isGroup: endpoint.count > 1,
  }))
}

/** Zone of a principal; null for a host that wants no network. */
export function zoneOf({ party, id }: Principal): string | null {
  return party.kind === 'endpoint' ? party.endpoint.homeNetworkId : id
}

/** Devices that intents name: the same set for intents that name the same. */
const namedDevices = defineStage(
  'devices named by intents',
  (index): ReadonlySet<string> =>
    new Set(
      index.plan.intents
        .flatMap(({ from, to }) => [...membersOf(index, from), ...membersOf(index, to)])
        .flatMap((selector) => (selector.kind === 'device' ? [selector.id] : [])),
    ),
  { equal: (a, b) => a.size === b.size && [...a].every((id) => b.has(id)) },
)

/** Networks of the plan in the order they are shown. */
const networkOrder = defineStage(
  'networks by VLAN number',
  ({ plan }): readonly string[] => byVlan(plan).map((network) => network.id),
  { equal: (a, b) => a.join() === b.join() },
)

/** The forwarding classes of every zone, and of the gateway as each class of another zone calls it, or is called. */
interface Zones {
  readonly hosts: ReadonlyMap<string, readonly ForwardingClass[]>
  readonly peers: ReadonlyMap<string, readonly ForwardingClass[]>
  readonly internet: readonly ForwardingClass[]
  gatewayFor(zone: string, one: ForwardingClass): readonly ForwardingClass[]
  callerOf(zone: string, one: ForwardingClass): readonly ForwardingClass[]
}

function zonesOf(index: PlanIndex, plane: DataPlane): Zones {
  const partition = {
    forwarding: forwardingAtoms(index),
    all: addressAtoms(index),
    named: index.get(namedDevices),
  }
  const byZone = (principals: readonly Principal[]) =>
    groupBy(partitionEndpoints(partition, principals), (one) => zoneOf(one.whole.principal) ?? '')
  const internet = partitionEndpoints(partition, [
    {
      party: { kind: 'internet' },
      id: INTERNET,
      addresses: plane.ipv6 ? plane.ipv6.outside : internetRepresentatives(index),
      isGroup: false,
    },
  ])
  const gateways = new Map<string, readonly ForwardingClass[]>()
  const site = { ...plane, index }
  const classesOfGateway = (gateway: GatewayChoice | null): readonly ForwardingClass[] => {
    if (!gateway) return NONE
    const { deviceId, address } = gateway
    const key = `${deviceId} ${address}`
    let known = gateways.get(key)
    if (!known) {
      const principal: Principal = {
        party: { kind: 'gateway', deviceId },
        id: GATEWAY,
        addresses: [address],
        isGroup: false,
      }
      gateways.set(key, (known = partitionEndpoints(partition, [principal])))
    }
    return known
  }
  const [outside] = internet
  // The internet sees the gateway by one of its addresses.
  const partyIn = (zone: string, one: ForwardingClass) => (zone === INTERNET && outside ? outside : one).party
  return {
    hosts: byZone(hostPrincipals(plane, partition.all)),
    peers: byZone(peerPrincipals(plane, partition.all)),
    internet,
    gatewayFor: (zone, one) => classesOfGateway(gatewaySeenBy(site, partyIn(zone, one))),
    callerOf: (zone, one) => classesOfGateway(gatewayCalling(site, partyIn(zone, one))),
  }
}

function buildClassPairs(index: PlanIndex, scenario: FailureScenario): ClassPairs {
  const plane = dataPlaneOf(index, scenario)
  const { hosts, peers, internet, gatewayFor, callerOf } = zonesOf(index, plane)
  const classes = new Map<string, readonly ForwardingClass[]>([...hosts, ...peers, [INTERNET, internet]])
  // Of each class of another zone: the gateway that it calls, and that which calls it.
  const byClass = (of: Zones['gatewayFor']) =>
    new Map([...classes].flatMap(([zone, own]) => own.map((one) => [one, of(zone, one)] as const)))
  const [called, callers] = [byClass(gatewayFor), byClass(callerOf)]
  classes.set(GATEWAY, [...new Set([...called.values(), ...callers.values()].flat())])

  const filters = new PathFilters(plane)
  const pairOf = (from: ForwardingClass, to: ForwardingClass): readonly ClassPair[] => {
    if (!canPair(from, to)) return NONE
    const filter = filters.between(from, to)
    return [{ from, to, filter, refs: filterRefs(filter) }]
  }
  const pairsBetween = (from: string, to: string): readonly ClassPair[] => {
    // Only hosts meet their like; and nobody outside calls a peer by IPv4, whose addresses are nobody's
    // there.
    if (from === to && !hosts.has(from)) return NONE
    if (from === INTERNET && peers.has(to) && !plane.ipv6) return NONE
    const sources = classes.get(from) ?? NONE
    const targets = classes.get(to) ?? NONE
    if (to === GATEWAY) return sources.flatMap((a) => (called.get(a) ?? NONE).flatMap((b) => pairOf(a, b)))
    if (from === GATEWAY) return targets.flatMap((b) => (callers.get(b) ?? NONE).flatMap((a) => pairOf(a, b)))
    const [source, target] = [sources[0], targets[0]]
    // Most zones have one class.
    if (source && target && sources.length === 1 && targets.length === 1) return pairOf(source, target)
    return sources.flatMap((a) => targets.flatMap((b) => pairOf(a, b)))
  }
  const networks = index.get(networkOrder)
  const shown = [...networks, ...peers.keys(), GATEWAY, INTERNET]
  const isShown = new Set(shown)
  const zones = [...shown, ...[...hosts.keys()].filter((zone) => !isShown.has(zone))]
  const known: (readonly ClassPair[])[][] = []
  return {
    zones,
    shown: shown.length,
    classesOf: (zone) => classes.get(zones[zone] ?? '') ?? NONE,
    between: (from, to) => ((known[from] ??= [])[to] ??= pairsBetween(zones[from] ?? '', zones[to] ?? '')),
  }
}

const classPairs = defineStage('class pairs', buildClassPairs, { keyText: scenarioText })

/**
 * The class pairs of a plan under a failure scenario.
 * @param scenario failures alone, without a time of the week
 */
export const classPairsOf = (index: PlanIndex, scenario: FailureScenario): ClassPairs =>
  index.get(classPairs, scenario)
