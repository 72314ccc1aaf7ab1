// Question: which pairs of ways does each cell of the grid tell of, and what does each pair's way charge?
// Method: each network, peer, the gateway and the world outside is a row of ways; a pair of ways is walked when first asked for.
// What was walked is kept with the roads, so that an edit of rules, intents or hosts walks nothing again; so is the list of ways of a row
// in which nobody else stands.
import { lastOf } from '#core/address'
import { groupBy, memoOn, memoOnParts } from '#core/base'
import { byVlan, membersOf } from '#core/model'
import {
  cutPoints,
  firstOfEach,
  outsideOf,
  rulesIn,
  tellApart,
  type RulesToll,
  type Toll,
} from '#core/policy'
import { gatewaySeenBy } from './gateway-choice'
import { meets, signOf, waysOf, type Subject, type Way } from './kinds'
import { type Site } from './passage'
import { tollOf } from './round-trip'

/** Row and column keys: a network id, or one of these. */
export const GATEWAY = 'gateway'
export const INTERNET = 'internet'
/** Grid key of a peer. */
export const peerKey = (peerId: string): string => `peer:${peerId}`

export interface WayPair {
  readonly from: Way
  readonly to: Way
  readonly toll: Toll
}
/** What one cell of the grid is made of: its pairs of ways. */
export type Lot = readonly WayPair[]
export interface Lots {
  /** Keys in drawing order: networks by VLAN, then peers, the gateway, the internet; after these, of hosts that want a network there is none of. Rows and columns go by their place here. */
  readonly keys: readonly string[]
  /** How many of them are drawn. */
  readonly drawn: number
  /** The ways of a row: the same list on the same roads while nobody else stands in it. */
  ways(row: number): readonly Way[]
  /** Walked when first asked for. */
  at(from: number, to: number): Lot
}

/** A tunnel's peers that stand for people and sites; a provider stands for the internet, which has its own column. */
function peersOf(site: Site, cuts: readonly number[]): Subject[] {
  return site.tunnels.flatMap((tunnel) =>
    tunnel.peers
      .filter((p) => p.kind !== 'provider')
      .map((peer) => ({
        party: { kind: 'peer' as const, tunnelId: tunnel.id, peerId: peer.id },
        id: peerKey(peer.id),
        addresses: firstOfEach(
          peer.allowed.filter((a) => a.length > 0).map((a) => ({ from: a.base, to: lastOf(a) })),
          cuts,
        ),
      })),
  )
}

const worldOf = (site: Site): Subject => ({
  party: { kind: 'internet' },
  id: INTERNET,
  addresses: site.six ? site.six.outside : outsideOf(site.index),
})

/** The gateway as seen from, or towards, an endpoint, a peer or the internet, as a row of the grid. */
function gatewayFor(site: Site, { party }: Subject): Subject | null {
  const gateway = gatewaySeenBy(site, party)
  if (!gateway) return null
  return {
    party: { kind: 'gateway', deviceId: gateway.deviceId },
    id: GATEWAY,
    addresses: [gateway.address],
  }
}

/** Key of the row a subject stands in. */
export function keyOf(subject: Subject): string | null {
  return subject.party.kind === 'endpoint' ? subject.party.endpoint.wants : subject.id
}

const lotsOn = memoOnParts<Lots>(4)
/** The lots of a site, with its ways divided by what its rules and intents speak of. */
export function lotsOf(site: Site): Lots {
  const named = [
    ...new Set(
      site.index.plan.intents
        .flatMap((i) => [i.from, i.to])
        .flatMap((s) => membersOf(site.index, s))
        .flatMap((s) => (s.kind === 'device' ? [s.id] : [])),
    ),
  ].sort()
  const world = worldOf(site)
  return lotsOn(site.land, [tellApart(site.index), named.join(' '), world.addresses.join()], () =>
    makeLots(site, world, new Set(named)),
  )
}

const pairOf = (site: Site, from: Way, to: Way): WayPair => ({ from, to, toll: tollOf(site, from, to) })

/** The lists of rules that a lot asks, each once. */
export const tollsOf = (lot: Lot): readonly RulesToll[] =>
  lot.length === 1 ? rulesIn((lot[0] as WayPair).toll) : lot.length === 0 ? NONE : tollsOfMany(lot)
const tollsOfMany = memoOn((lot: Lot): readonly RulesToll[] => {
  const found: RulesToll[] = []
  for (const { toll } of lot) {
    for (const t of rulesIn(toll)) if (!found.some((f) => sharesEntry(f, t) && f.to === t.to)) found.push(t)
  }
  return found
})
export const sharesEntry = (a: RulesToll, b: RulesToll): boolean =>
  a.deviceId === b.deviceId && a.chain === b.chain && a.from === b.from

/** The ways of a row, and of the gateway that each of them sees. */
interface Standing {
  readonly ways: readonly Way[]
  readonly gates: readonly (readonly Way[])[]
}
const rowsOn = memoOn((_roads: object) => new Map<string, Standing>())
/** The ways of a row as they were known, where they are the same. */
function asKnown({ roads }: Site, key: string, standing: Standing): readonly Way[] {
  const known = rowsOn(roads)
  const held = known.get(key)
  if (held && standingAs(held) === standingAs(standing)) return held.ways
  known.set(key, standing)
  return standing.ways
}
const signOfAll = memoOn((ways: readonly Way[]): string => ways.map(signOf).join('; '))
// Under most weathers nobody asks a second time: it is made then.
const standingAs = ({ ways, gates }: Standing): string =>
  `${signOfAll(ways)} by ${gates.map(signOfAll).join('; ')}`

const EVERYWHERE: ReadonlySet<string> = new Set([GATEWAY, INTERNET])

function makeLots(site: Site, outsiders: Subject, named: ReadonlySet<string>): Lots {
  const cuts = cutPoints(site.index)
  // Whoever leases of one pool has its ranges, and so one list of addresses.
  const addressesIn = memoOn((ranges: Site['endpoints'][number]['ranges']) => firstOfEach(ranges, cuts))
  const subjectOf = (endpoint: Site['endpoints'][number]): Subject => ({
    party: { kind: 'endpoint', endpoint },
    id: endpoint.id,
    addresses: addressesIn(endpoint.ranges),
  })
  const rowOf = (way: Way): string => keyOf(way.whole.subject) ?? ''
  const inside = groupBy(waysOf(site, site.endpoints.map(subjectOf), named), rowOf)
  const peers = groupBy(waysOf(site, peersOf(site, cuts), named), rowOf)
  const world = waysOf(site, [outsiders], named)
  const made = new Map<string, readonly Way[]>([...inside, ...peers, [INTERNET, world]])
  const gates = new Map<string, readonly Way[]>()
  const gatesOf = (way: Way | undefined): readonly Way[] => {
    const subject = way && gatewayFor(site, way.whole.subject)
    if (!subject) return []
    const key = `${subject.party.kind === 'gateway' ? subject.party.deviceId : ''} ${subject.addresses.join()}`
    let known = gates.get(key)
    if (!known) {
      const ways = waysOf(site, [subject], named)
      gates.set(key, (known = asKnown(site, `gate ${key}`, { ways, gates: NONE })))
    }
    return known
  }
  // The world outside sees the gateway by one of its addresses.
  const gatesFor = (key: string, way: Way): readonly Way[] => gatesOf(key === INTERNET ? world[0] : way)
  // Which gateway a row's hosts see belongs to the row.
  const rows = new Map(
    [...made].map(([key, ways]) => [
      key,
      asKnown(site, key, { ways, gates: ways.map((way) => gatesFor(key, way)) }),
    ]),
  )
  const gateways = [...new Set([...rows].flatMap(([key, ways]) => ways.flatMap((way) => gatesFor(key, way))))]
  rows.set(GATEWAY, asKnown(site, GATEWAY, { ways: gateways, gates: NONE }))
  const lotOf = (from: string, to: string): Lot => {
    const a = rows.get(from) ?? NONE
    const b = rows.get(to) ?? NONE
    // Only hosts meet their like; and nobody outside calls a peer by IPv4, whose addresses are nobody's there.
    if (from === to ? !inside.has(from) : from === INTERNET && peers.has(to) && !site.six) return NONE
    // Most rows have one way.
    if (a.length === 1 && b.length === 1 && from !== GATEWAY && to !== GATEWAY)
      return meets(a[0] as Way, b[0] as Way) ? [pairOf(site, a[0] as Way, b[0] as Way)] : NONE
    const pairs: WayPair[] = []
    const add = (x: Way, y: Way) => meets(x, y) && pairs.push(pairOf(site, x, y))
    if (to === GATEWAY) for (const x of a) for (const gate of gatesFor(from, x)) add(x, gate)
    else if (from === GATEWAY) for (const y of b) for (const gate of gatesFor(to, y)) add(gate, y)
    else for (const x of a) for (const y of b) add(x, y)
    return pairs
  }
  const drawn = [...byVlan(site.index.plan).map((n) => n.id), ...peers.keys(), GATEWAY, INTERNET]
  const keys = [
    ...drawn,
    ...[...inside.keys()].filter((key) => !site.index.networks.has(key) && !EVERYWHERE.has(key)),
  ]
  const ways = keys.map((key) => rows.get(key) ?? NONE)
  const lots: Lot[][] = []
  const at = (from: number, to: number): Lot =>
    ((lots[from] ??= [])[to] ??= lotOf(keys[from] ?? '', keys[to] ?? ''))
  return { keys, drawn: drawn.length, at, ways: (row) => ways[row] ?? NONE }
}
const NONE: readonly never[] = []
