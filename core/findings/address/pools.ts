// Question: does the DHCP of each network serve its clients, and give nothing twice?
// Method: ranges against addresses in use; a pool against its clients by Erlang's loss formula.
// Source: RFC 2131; Erlang B as in core/dhcp.
import { formatIpv4, ipv4, parseIpv4, rangesWithout, usable, type Ipv4, type Range4 } from '#core/address'
import { erlangB, leaseFor, offeredLoad, poolFor } from '#core/dhcp'
import { readRange4 } from '#core/queries'
import type { Network, Plan } from '#core/schema'
import { orNull } from '#core/util'
import { draft, set, type Draft, type Mend } from '../finding'
import type { NetworkText } from './network-text'

/** The longest stretch of a range that holds none of the given addresses; the lower of equals. */
function longestWithout(range: Range4, taken: readonly Ipv4[]): Range4 | null {
  let best: Range4 | null = null
  let from: number = range.from
  for (const stop of [...taken.filter((t) => t >= range.from && t <= range.to)]
    .sort((a, b) => a - b)
    .concat(ipv4(range.to + 1))) {
    if (stop - 1 >= from && (best === null || stop - 1 - from > best.to - best.from))
      best = { from: ipv4(from), to: ipv4(stop - 1) }
    from = stop + 1
  }
  return best
}

interface Owned {
  readonly ip: Ipv4
  readonly name: string
}

/** Addresses that somebody has for good: the gateway's, and those typed into devices. */
function addressesInUse({ network, gateway }: NetworkText): Owned[] {
  const typed = network.fixed.filter((f) => f.how === 'static')
  return [
    ...(gateway === null ? [] : [{ ip: gateway, name: 'gateway' }]),
    ...typed.flatMap((assignment) => {
      const ip = orNull(parseIpv4(assignment.ip))
      return ip === null ? [] : [{ ip, name: assignment.name }]
    }),
  ]
}

/** Another pool; null where there is no such range. */
function usePool({ network, at }: NetworkText, range: Range4 | null): Mend | null {
  if (!range || range.from > range.to) return null
  const values = { from: formatIpv4(range.from), to: formatIpv4(range.to) }
  return { code: 'use-pool', values, changes: [set([...at, 'pool'], network.pool, { ...values })] }
}

/** Grows a pool upwards, then downwards, to the clients expected, where nothing fixed is in the way. */
function widened(pool: Range4, hosts: Range4, expected: number, taken: readonly Ipv4[]): Range4 | null {
  const to = Math.min(hosts.to, pool.from + expected - 1)
  const from = Math.max(to - expected + 1, hosts.from)
  if (to - from + 1 < expected || taken.some((ip) => ip >= from && ip <= to)) return null
  return { from: ipv4(from), to: ipv4(to) }
}

const sizeOf = (ranges: readonly Range4[]): number =>
  ranges.reduce((sum, { from, to }) => sum + to - from + 1, 0)

/** What of a range is handed out. */
const handedOf = (read: NetworkText, range: Range4): readonly Range4[] =>
  rangesWithout(range, read.exclusions)

/** The mend of a pool, where it leaves something, and no fewer addresses than are expected. */
function fullPool(read: NetworkText, range: Range4 | null): Mend | null {
  if (!range || range.from > range.to) return null
  return sizeOf(handedOf(read, range)) >= Math.max(1, read.network.expected) ? usePool(read, range) : null
}

/** A network that serves and has nothing to hand out. */
function emptyFinding(read: NetworkText, hosts: Range4, taken: readonly Ipv4[]): Draft {
  const { network, at, pool } = read
  const values = { network: network.name, kind: pool ? ('excluded' as const) : ('none' as const) }
  const mend = pool ? null : fullPool(read, longestWithout(hosts, taken))
  return draft('A25', 'blocker', [...at, 'pool'], values, mend)
}

export function poolFindings(read: NetworkText): Draft[] {
  const { network, at, subnet, pool } = read
  if (!subnet || network.dhcp !== 'serve') return []
  const place = [...at, 'pool']
  const inUse = addressesInUse(read)
  const taken = inUse.map(({ ip }) => ip)
  const hosts = usable(subnet)
  const handed = pool ? handedOf(read, pool) : []
  const size = sizeOf(handed)
  if (!pool || size === 0) return [emptyFinding(read, hosts, taken)]
  const out: Draft[] = []
  const hits = inUse.filter(({ ip }) => handed.some(({ from, to }) => ip >= from && ip <= to))
  const hit = hits.find(({ ip }) => ip !== read.gateway) ?? hits[0]
  if (hit) {
    const kind = hit.ip === read.gateway ? ('gateway' as const) : ('fixed' as const)
    const values = { network: network.name, ip: formatIpv4(hit.ip), name: hit.name, kind }
    const severity = kind === 'gateway' ? 'warning' : 'blocker'
    out.push(draft('A03', severity, place, values, fullPool(read, longestWithout(pool, taken))))
  }
  if (handed.some(({ from, to }) => from < hosts.from || to > hosts.to)) {
    const inside = { from: ipv4(Math.max(pool.from, hosts.from)), to: ipv4(Math.min(pool.to, hosts.to)) }
    const typed = { from: formatIpv4(pool.from), to: formatIpv4(pool.to) }
    const values = { network: network.name, ...typed, subnet: network.subnet }
    out.push(draft('A04', 'blocker', place, values, fullPool(read, inside)))
  } else if (size < network.expected) {
    const values = { network: network.name, size, expected: network.expected }
    const mend = fullPool(read, widened(pool, hosts, network.expected, taken))
    out.push(draft('A10', 'blocker', place, values, mend))
  }
  return out
}

/** Share of clients that may find a pool empty before it is told (practice: one in a hundred). */
export const MOST_BLOCKED = 0.01

/** Addresses a pool can hand out to clients without a reservation. */
export function poolSize(network: Network): number {
  const range = network.pool && readRange4(network.pool)
  if (!range) return 0
  const cuts = network.exclusions.flatMap((one) => readRange4(one) ?? [])
  const handed = sizeOf(rangesWithout(range, cuts))
  const held = network.fixed.filter((assignment) => {
    const ip = orNull(parseIpv4(assignment.ip))
    return assignment.how === 'reserved' && ip !== null && ip >= range.from && ip <= range.to
  }).length
  return Math.max(0, handed - held)
}

function turnoverFindings(network: Network): Draft[] {
  const { arrivalsPerH, stayH } = network
  if (network.dhcp === 'none' || !network.pool || arrivalsPerH === null || stayH === null) return []
  const size = poolSize(network)
  const load = offeredLoad(arrivalsPerH, stayH, network.leaseS / 3600)
  const blocked = erlangB(load, size)
  if (blocked <= MOST_BLOCKED) return []
  const leaseS = leaseFor(arrivalsPerH, stayH, size, MOST_BLOCKED)
  const place = ['networks', network.id, 'leaseS']
  const shorter: Mend | null =
    leaseS !== null && leaseS < network.leaseS
      ? { code: 'use-lease', values: { leaseS }, changes: [set(place, network.leaseS, leaseS)] }
      : null
  const values = {
    network: network.name,
    oneIn: Math.round(1 / blocked),
    size,
    leaseS: network.leaseS,
    arrivalsPerH,
    stayH,
    needed: poolFor(load, MOST_BLOCKED),
  }
  return [draft('A12', 'warning', place, values, shorter)]
}

export function relayFindings(plan: Plan, network: Network): Draft[] {
  if (network.dhcp !== 'relay' || plan.networks.some((n) => n.fixed.some((f) => f.ip === network.relayTo)))
    return []
  return [
    draft('A19', 'blocker', ['networks', network.id, 'relayTo'], {
      network: network.name,
      server: network.relayTo ?? '',
    }),
  ]
}

function exclusionFindings({ network, at, pool }: NetworkText): Draft[] {
  const out: Draft[] = []
  network.exclusions.forEach((range, i) => {
    const part = readRange4(range)
    if (pool && part && part.from <= pool.to && part.to >= pool.from) return
    out.push(
      draft('A23', 'note', [...at, 'exclusions'], {
        network: network.name,
        from: range.from,
        to: range.to,
        key: i,
      }),
    )
  })
  return out
}

function macFindings({ network, at }: NetworkText): Draft[] {
  const out: Draft[] = []
  const seen = new Map<string, string>()
  for (const assignment of network.fixed) {
    if (assignment.mac === null) continue
    const other = seen.get(assignment.mac)
    if (other !== undefined)
      out.push(
        draft('A18', 'blocker', [...at, 'fixed', assignment.id, 'mac'], {
          network: network.name,
          mac: assignment.mac,
          name: assignment.name,
          other,
        }),
      )
    seen.set(assignment.mac, assignment.name)
  }
  return out
}

/** What can be said of the DHCP of one network alone, but for its pool. */
export const dhcpFindings = (read: NetworkText): Draft[] => [
  ...turnoverFindings(read.network),
  ...exclusionFindings(read),
  ...macFindings(read),
]
