// Question: which subnets do the listed needs get, and what moves with a network that gets another one?
// Method: sizes from counts and growth, places by the site's policy; what was chosen by hand or is already
// adopted stays.
// Source:
// RFC 1878 and 4632 (sizes, alignment);
// VLAN number as third octet, first address as gateway: common practice.
import {
  allocate,
  contains,
  formatIpv4,
  formatPrefix4,
  grown,
  ipv4,
  lastOf,
  lengthFor,
  overlaps,
  parseIpv4,
  parsePrefix4,
  readPrefixes4,
  sizeOf,
  usable,
  type Ipv4,
  type Prefix4,
} from '#core/address'
import { ok, orNull, problem, refuse, type Result } from '#core/util'
import type { NeedLine, Network, Plan, TextRange, NetworkId } from '#core/schema'
import { BLANK_NETWORK } from './blanks'
import { withMovedNetworks, type MovedNetwork } from './carry'
import { freshId } from './propose'

export interface Allotment {
  /** Network it is about; null for one that is to be made. */
  readonly networkId: NetworkId | null
  readonly needId: string | null
  readonly name: string
  readonly vlan: number
  readonly hosts: number
  readonly before: string | null
  /** Null where nothing that large is free. */
  readonly after: string | null
  readonly what: 'new' | 'kept' | 'moved' | 'no-room'
  /** Why a network stays: chosen by hand, or devices in it are adopted already. */
  readonly held: 'pinned' | 'adopted' | null
  /** Devices under management whose address would change. */
  readonly adopted: number
}

export interface AllotOptions {
  /** Also find better places for networks that have one. */
  readonly move: boolean
  /** Devices that are under management already. */
  readonly adopted: ReadonlySet<string>
  /** Move networks with adopted devices too. */
  readonly moveAdopted: boolean
}

const HABIT_LENGTH = 24

function lengthBy(plan: Plan, hosts: number): number {
  const length = lengthFor(hosts)
  return plan.site.subnetPolicy === 'octet' ? Math.min(HABIT_LENGTH, length) : length
}

function adoptedIn(plan: Plan, network: Network, adopted: ReadonlySet<string>): number {
  return plan.devices.filter((d) => d.homeNetworkId === network.id && adopted.has(d.id)).length
}

const hostsOf = (network: Network): number =>
  Math.max(grown(network.expected, network.growthPct), network.fixed.length)

/** The first VLAN number of the habit, 10, 20, 30 …, that nobody has. */
function freeVlan(held: ReadonlySet<number>): number {
  for (let vid = 10; vid <= 4090; vid += 10) if (!held.has(vid)) return vid
  for (let vid = 2; vid <= 4094; vid++) if (!held.has(vid)) return vid
  return 4094
}

/** A network with whether it stays where it is, and what keeps it there. */
interface Holding {
  readonly network: Network
  readonly adopted: number
  readonly why: Allotment['held']
  readonly stays: boolean
}

function holdingOf(plan: Plan, network: Network, options: AllotOptions): Holding {
  const adopted = adoptedIn(plan, network, options.adopted)
  const held = adopted > 0 && !options.moveAdopted ? ('adopted' as const) : null
  const why = network.pinned ? ('pinned' as const) : held
  return { network, adopted, why, stays: !options.move || why !== null }
}

/** A need that no network answers yet, with the VLAN number that its network would have. */
interface OpenNeed {
  readonly need: NeedLine
  readonly vlan: number
  readonly hosts: number
}

function openNeeds(plan: Plan): OpenNeed[] {
  const vlans = new Set(plan.networks.map((n) => n.vlan))
  return plan.brief.needs
    .filter((need) => need.networkId === null || !plan.networks.some((n) => n.id === need.networkId))
    .map((need) => {
      const vlan = need.vlan !== null && !vlans.has(need.vlan) ? need.vlan : freeVlan(vlans)
      vlans.add(vlan)
      return { need, vlan, hosts: grown(need.count, need.growthPct) }
    })
}

function ofNetwork({ network, adopted, why, stays }: Holding, given: string | null): Allotment {
  const after = stays ? network.subnet : given
  const placed = after === network.subnet ? 'kept' : 'moved'
  return {
    networkId: network.id,
    needId: null,
    name: network.name,
    vlan: network.vlan,
    hosts: hostsOf(network),
    before: network.subnet,
    after,
    what: after === null ? 'no-room' : placed,
    held: why,
    adopted,
  }
}

const ofNeed = ({ need, vlan, hosts }: OpenNeed, after: string | null): Allotment => ({
  networkId: null,
  needId: need.id,
  name: need.name,
  vlan,
  hosts,
  before: null,
  after,
  what: after === null ? 'no-room' : 'new',
  held: null,
  adopted: 0,
})

/** What every network and every need without one would get. Nothing is changed. */
export function proposeSubnets(plan: Plan, options: AllotOptions): Allotment[] {
  const block = orNull(parsePrefix4(plan.site.supernet))
  if (!block) return []
  const holdings = plan.networks.map((network) => holdingOf(plan, network, options))
  const needs = openNeeds(plan)
  const staying = holdings.filter((h) => h.stays).map((h) => h.network.subnet)
  const wanted = (id: string, hosts: number, vlan: number) => ({
    id,
    length: lengthBy(plan, hosts),
    octet: plan.site.subnetPolicy === 'octet' ? vlan : null,
  })
  const given = allocate(block, readPrefixes4(staying), [
    ...holdings
      .filter((h) => !h.stays)
      .map(({ network }) => wanted(network.id, hostsOf(network), network.vlan)),
    ...needs.map(({ need, hosts, vlan }) => wanted(`need ${need.id}`, hosts, vlan)),
  ])
  const textOf = (id: string) => {
    const prefix = given.get(id)
    return prefix ? formatPrefix4(prefix) : null
  }
  return [
    ...holdings.map((holding) => ofNetwork(holding, textOf(holding.network.id))),
    ...needs.map((open) => ofNeed(open, textOf(`need ${open.need.id}`))),
  ]
}

/** A pool that leaves the lowest quarter, at most 31 addresses, to what is fixed. */
function usualPool(subnet: Prefix4): TextRange | null {
  const hosts = usable(subnet)
  const from = hosts.from + Math.max(1, Math.min(31, Math.floor(sizeOf(subnet.length) / 4)))
  return from <= hosts.to ? { from: formatIpv4(ipv4(from)), to: formatIpv4(hosts.to) } : null
}

/** A network in a subnet with the usual gateway and pool. */
export function networkIn(
  plan: Plan,
  subnet: Prefix4,
  need: Pick<NeedLine, 'name' | 'count' | 'growthPct'>,
  vlan: number,
): Network {
  return {
    ...BLANK_NETWORK,
    id: freshId(plan.networks, `vlan-${vlan}`),
    vlan,
    name: need.name,
    subnet: formatPrefix4(subnet),
    gateway: formatIpv4(usable(subnet).from),
    routerId: plan.devices.find((d) => d.kind === 'gateway')?.id ?? 'gateway',
    dhcp: 'serve',
    pool: usualPool(subnet),
    expected: need.count,
    growthPct: need.growthPct,
    fixed: [],
  }
}

/** What of a range lies in one subnet, at the same place among the hosts of another; null where nothing does. */
function carriedRange(range: TextRange, from: Prefix4, to: Prefix4): TextRange | null {
  const [first, last] = [orNull(parseIpv4(range.from)), orNull(parseIpv4(range.to))]
  if (first === null || last === null) return null
  const hosts = usable(to)
  const shift = to.base - from.base
  const start = Math.max(Math.max(first, from.base) + shift, hosts.from)
  const end = Math.min(Math.min(last, lastOf(from)) + shift, hosts.to)
  return start <= end ? { from: formatIpv4(ipv4(start)), to: formatIpv4(ipv4(end)) } : null
}

/**
 * A network with everything in it carried to another subnet: each address keeps its place from the start;
 * one that no longer has a place takes the lowest free one, a pool that no longer fits becomes the usual
 * one, and of what is excluded that stays excluded which the other subnet has.
 */
export function moveNetwork(network: Network, to: Prefix4): Network {
  const from = orNull(parsePrefix4(network.subnet))
  if (!from) return { ...network, subnet: formatPrefix4(to) }
  const hosts = usable(to)
  const moved = (text: string): Ipv4 | null => {
    const ip = orNull(parseIpv4(text))
    if (ip === null || !contains(from, ip)) return null
    const at = to.base + (ip - from.base)
    return at >= hosts.from && at <= hosts.to ? ipv4(at) : null
  }
  const gateway = moved(network.gateway) ?? hosts.from
  const taken = new Set<number>([gateway])
  const keep = network.fixed.map((f) => moved(f.ip))
  for (const ip of keep) if (ip !== null) taken.add(ip)
  let next: number = hosts.from
  const lowest = (): Ipv4 | null => {
    while (next <= hosts.to && taken.has(next)) next++
    if (next > hosts.to) return null
    taken.add(next)
    return ipv4(next)
  }
  const fixed = network.fixed.flatMap((assignment, i) => {
    const ip = keep[i] ?? lowest()
    return ip === null ? [assignment] : [{ ...assignment, ip: formatIpv4(ip) }]
  })
  const range = (range: TextRange): TextRange | null => {
    const [first, second] = [moved(range.from), moved(range.to)]
    return first !== null && second !== null ? { from: formatIpv4(first), to: formatIpv4(second) } : null
  }
  return {
    ...network,
    subnet: formatPrefix4(to),
    gateway: formatIpv4(gateway),
    fixed,
    pool: network.pool && (range(network.pool) ?? usualPool(to)),
    exclusions: network.exclusions.flatMap((e) => carriedRange(e, from, to) ?? []),
  }
}

/**
 * Moves or resizes one network by hand, which pins it.
 * Problems: outside-block, collides (with which), all with the subnet.
 */
export function placeNetwork(plan: Plan, networkId: NetworkId, to: Prefix4): Result<Plan> {
  const block = orNull(parsePrefix4(plan.site.supernet))
  const network = plan.networks.find((n) => n.id === networkId)
  if (!network) return refuse(problem('no-such-network', networkId))
  const text = formatPrefix4(to)
  if (block && !(to.length >= block.length && contains(block, to.base)))
    return refuse(problem('outside-block', network.name, { text, block: plan.site.supernet }))
  const hit = plan.networks.find((network) => {
    const other = orNull(parsePrefix4(network.subnet))
    return network.id !== networkId && other !== null && overlaps(other, to)
  })
  if (hit)
    return refuse(problem('collides', network.name, { text, other: hit.name, otherSubnet: hit.subnet }))
  const most = usable(to).to - usable(to).from + 1
  if (network.fixed.length + 1 > most)
    return refuse(problem('too-small', network.name, { text, needs: network.fixed.length + 1 }))
  return ok(withMovedNetworks(plan, [[network, { ...moveNetwork(network, to), pinned: true }]]))
}

interface Given {
  readonly allotment: Allotment
  readonly subnet: Prefix4
}

/** The plan with a network made for each need that has got a subnet. */
function withNeedsMet(plan: Plan, given: readonly Given[]): Plan {
  let now = plan
  for (const { allotment, subnet } of given) {
    const need = now.brief.needs.find((n) => n.id === allotment.needId)
    if (!need) continue
    const made = networkIn(now, subnet, need, allotment.vlan)
    const needs = now.brief.needs.map((n) => (n.id === need.id ? { ...n, networkId: made.id } : n))
    now = { ...now, networks: [...now.networks, made], brief: { ...now.brief, needs } }
  }
  return now
}

/** The plan with proposals carried out; those without room, and those that keep what is, change nothing. */
export function layAllotments(plan: Plan, allotments: readonly Allotment[]): Plan {
  const given = allotments.flatMap((allotment): Given[] => {
    const subnet = allotment.after === null ? null : orNull(parsePrefix4(allotment.after))
    return subnet && allotment.what !== 'kept' ? [{ allotment, subnet }] : []
  })
  const moved = given.flatMap(({ allotment, subnet }): MovedNetwork[] => {
    const network = plan.networks.find((n) => n.id === allotment.networkId)
    return network ? [[network, moveNetwork(network, subnet)]] : []
  })
  return withNeedsMet(
    withMovedNetworks(plan, moved),
    given.filter(({ allotment }) => allotment.networkId === null),
  )
}
