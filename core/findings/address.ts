// Question: is every network's addressing legal, free of collisions and large enough?
// Method: arithmetic on prefixes and ranges, network by network and pair by pair.
// Source:
// RFC 4632, RFC 3021 (usable addresses), RFC 6890 (special blocks); numbering habits are common practice.
import {
  contains,
  CROWDED,
  formatIpv4,
  formatPrefix4,
  ipv4,
  lastOf,
  overlaps,
  parseIpv4,
  parsePrefix4,
  spaceOf,
  usable,
  type Ipv4,
  type Prefix4,
  type Range4,
} from '#core/address'
import { orNull } from '#core/util'
import {
  BLANK_FIXED,
  defineStage,
  firstFreeAddress,
  type Device,
  type Network,
  type Plan,
  type PlanIndex,
} from '#core/model'
import { checkAddressesMore, checkNetworkMore } from './address-more'
import { draft, set, type Draft, type Finding } from './finding'

interface Read {
  readonly network: Network
  readonly at: readonly string[]
  readonly subnet: Prefix4 | null
  readonly gateway: Ipv4 | null
  readonly pool: Range4 | null
}

function read(network: Network): Read {
  const from = network.pool ? parseIpv4(network.pool.from) : null
  const to = network.pool ? parseIpv4(network.pool.to) : null
  return {
    network,
    at: ['networks', network.id],
    subnet: orNull(parsePrefix4(network.subnet)),
    gateway: orNull(parseIpv4(network.gateway)),
    pool: from?.ok && to?.ok && from.value <= to.value ? { from: from.value, to: to.value } : null,
  }
}

function gatewayFindings({ network, at, subnet, gateway }: Read): Draft[] {
  if (!subnet || gateway === null) return []
  const first = formatIpv4(usable(subnet).from)
  const place = [...at, 'gateway']
  const mend = { code: 'use-gateway', values: { ip: first }, changes: [set(place, network.gateway, first)] }
  const values = { network: network.name, gateway: network.gateway, subnet: network.subnet }
  if (!contains(subnet, gateway)) return [draft('A01', 'blocker', place, values, mend)]
  if (subnet.length <= 30 && (gateway === subnet.base || gateway === lastOf(subnet)))
    return [draft('A02', 'blocker', place, values, mend)]
  return []
}

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

function poolFindings({ network, at, subnet, gateway, pool }: Read): Draft[] {
  if (!subnet || !pool || network.dhcp !== 'serve') return []
  const place = [...at, 'pool']
  const size = pool.to - pool.from + 1
  const inUse = [
    ...(gateway === null ? [] : [{ ip: gateway, name: 'gateway' }]),
    ...network.fixed
      .filter((f) => f.how === 'static')
      .flatMap((assignment) => {
        const ip = parseIpv4(assignment.ip)
        return ip.ok ? [{ ip: ip.value, name: assignment.name }] : []
      }),
  ]
  const hit = inUse.find(({ ip }) => ip >= pool.from && ip <= pool.to)
  const repool = (range: Range4 | null) =>
    range && {
      code: 'use-pool',
      values: { from: formatIpv4(range.from), to: formatIpv4(range.to) },
      changes: [set(place, network.pool, { from: formatIpv4(range.from), to: formatIpv4(range.to) })],
    }
  const out: Draft[] = []
  if (hit) {
    const best = longestWithout(
      pool,
      inUse.map((u) => u.ip),
    )
    out.push(
      draft(
        'A03',
        'blocker',
        place,
        { network: network.name, ip: formatIpv4(hit.ip), name: hit.name },
        repool(best),
      ),
    )
  }
  const hosts = usable(subnet)
  if (pool.from < hosts.from || pool.to > hosts.to) {
    const from = ipv4(Math.max(pool.from, hosts.from))
    const to = ipv4(Math.min(pool.to, hosts.to))
    out.push(
      draft(
        'A04',
        'blocker',
        place,
        {
          network: network.name,
          from: formatIpv4(pool.from),
          to: formatIpv4(pool.to),
          subnet: network.subnet,
        },
        from <= to ? repool({ from, to }) : null,
      ),
    )
  } else if (size < network.expected) {
    out.push(
      draft(
        'A10',
        'warning',
        place,
        { network: network.name, size, expected: network.expected },
        widen(
          network,
          place,
          pool,
          hosts,
          inUse.map((u) => u.ip),
        ),
      ),
    )
  }
  return out
}

/** Grows a pool upwards, then downwards, to the clients expected, where nothing fixed is in the way. */
function widen(
  network: Network,
  place: readonly string[],
  pool: Range4,
  hosts: Range4,
  taken: readonly Ipv4[],
): Finding['mend'] {
  const free = (from: number, to: number) => !taken.some((t) => t >= from && t <= to)
  const up = Math.min(hosts.to, pool.from + network.expected - 1)
  const down = up - network.expected + 1
  const from = ipv4(Math.max(down, hosts.from))
  if (up - from + 1 < network.expected || !free(from, up)) return null
  const after = { from: formatIpv4(from), to: formatIpv4(ipv4(up)) }
  return { code: 'use-pool', values: after, changes: [set(place, network.pool, after)] }
}

function spaceFindings({ network, at, subnet }: Read, supernet: Prefix4 | null): Draft[] {
  if (!subnet) return []
  const out: Draft[] = []
  const place = [...at, 'subnet']
  const values = { network: network.name, subnet: network.subnet }
  if (spaceOf(subnet.base) === 'public') out.push(draft('A09', 'blocker', place, values))
  if (CROWDED.some((c) => c.base === subnet.base && c.length === subnet.length))
    out.push(draft('A14', 'warning', place, values))
  if (supernet && !(supernet.length <= subnet.length && contains(supernet, subnet.base))) {
    out.push(draft('A17', 'warning', place, { ...values, supernet: formatPrefix4(supernet) }))
  }
  return out
}

function habitFindings(reads: readonly Read[]): Draft[] {
  return reads.flatMap(({ network, at, subnet, gateway }, i) => {
    if (!subnet || gateway === null) return []
    const octet = (subnet.base >>> 8) & 255
    const twin = reads.find(
      (other, j) =>
        j !== i &&
        other.subnet &&
        other.subnet.base >>> 8 === subnet.base >>> 8 &&
        !overlaps(other.subnet, subnet),
    )
    if (!twin || reads.indexOf(twin) > i) return []
    return [
      draft('A15', 'note', [...at, 'subnet'], { network: network.name, other: twin.network.name, octet }),
    ]
  })
}

function vlanFindings(reads: readonly Read[]): Draft[] {
  return reads.flatMap(({ network, at }, i) => {
    const first = reads.findIndex((other) => other.network.vlan === network.vlan)
    const legal = Number.isInteger(network.vlan) && network.vlan >= 1 && network.vlan <= 4094
    if (legal && first === i) return []
    return [
      draft('A13', 'blocker', [...at, 'vlan'], {
        network: network.name,
        vlan: network.vlan,
        other: first === i ? '' : (reads[first]?.network.name ?? ''),
      }),
    ]
  })
}

function overlapFindings(reads: readonly Read[]): Draft[] {
  return reads.flatMap((read, j) =>
    reads.slice(0, j).flatMap((readRead) =>
      readRead.subnet && read.subnet && overlaps(readRead.subnet, read.subnet)
        ? [
            draft('A05', 'blocker', [...read.at, 'subnet'], {
              network: read.network.name,
              subnet: read.network.subnet,
              other: readRead.network.name,
              otherSubnet: readRead.network.subnet,
              key: readRead.network.id,
            }),
          ]
        : [],
    ),
  )
}

interface Claim {
  readonly ip: string
  readonly name: string
  readonly place: readonly string[]
}

/**
 * Who claims which address in a network, whether any lies outside it, and whether any is claimed twice in it.
 */
function claimsIn(network: Network) {
  const claims: Claim[] = [
    { ip: network.gateway, name: `${network.name} gateway`, place: ['networks', network.id, 'gateway'] },
    ...network.fixed.map((assignment) => ({
      ip: assignment.ip,
      name: assignment.name,
      place: ['networks', network.id, 'fixed', assignment.id, 'ip'],
    })),
  ]
  const { subnet } = read(network)
  const strays = claims.some(({ ip }) => {
    const parsed = orNull(parseIpv4(ip))
    return !subnet || parsed === null || !contains(subnet, parsed)
  })
  return { claims, strays, twice: new Set(claims.map((c) => c.ip)).size < claims.length }
}
/** Findings of a network that nothing else in the plan can change. */
function ownFindings(network: Network): readonly Draft[] {
  const own = read(network)
  return [...gatewayFindings(own), ...poolFindings(own), ...checkNetworkMore(network)]
}

function twiceFindings(plan: Plan, reads: readonly Read[], crossing: boolean): Draft[] {
  const all = plan.networks.map(claimsIn)
  const mixed = crossing || all.some((c) => c.strays)
  if (!mixed && !all.some((c) => c.twice)) return []
  const owners = new Map<string, string>()
  const out: Draft[] = []
  for (const { claims, twice } of all) {
    if (!mixed && !twice) continue
    for (const { ip, name, place } of claims) {
      const owner = owners.get(ip)
      if (owner === undefined) owners.set(ip, name)
      else out.push(draft('A08', 'blocker', place, { ip, name, other: owner }))
    }
  }
  return out
}

const INFRASTRUCTURE: readonly Device['kind'][] = ['switch', 'access-point', 'bridge-radio', 'controller']

function unreservedFindings(plan: Plan, reads: readonly Read[]): Draft[] {
  const homes = new Map(
    reads.map((r) => [r.network.id, { ...r, fixed: new Set(r.network.fixed.map((f) => f.deviceId)) }]),
  )
  return plan.devices.flatMap((device) => {
    const home = homes.get(device.wants ?? '')
    if (!home || !INFRASTRUCTURE.includes(device.kind) || home.fixed.has(device.id)) return []
    const free = firstFreeAddress(home.network)
    const id = `fixed-${device.id}`
    const entry =
      free === null
        ? null
        : { id, ip: free, name: device.name, deviceId: device.id, how: 'reserved', ...BLANK_FIXED }
    const mend = entry && {
      code: 'reserve',
      values: { ip: entry.ip },
      changes: [{ kind: 'added' as const, path: [...home.at, 'fixed', id], before: null, after: entry }],
    }
    return [
      draft(
        'A16',
        'warning',
        ['devices', device.id],
        { device: device.name, network: home.network.name },
        mend,
      ),
    ]
  })
}

const findings = defineStage('address findings', addressFindings)
/** Every finding of group A. */
export const checkAddresses = (index: PlanIndex): readonly Finding[] => index.get(findings)

function addressFindings({ plan }: PlanIndex): Finding[] {
  const reads = plan.networks.map(read)
  const supernet = orNull(parsePrefix4(plan.site.supernet))
  const overlapping = overlapFindings(reads)
  return [
    ...plan.networks.flatMap(ownFindings),
    ...reads.flatMap((r) => spaceFindings(r, supernet)),
    ...vlanFindings(reads),
    ...overlapping,
    ...twiceFindings(plan, reads, overlapping.length > 0),
    ...unreservedFindings(plan, reads),
    ...habitFindings(reads),
    ...checkAddressesMore(plan),
  ].map((d) => ({ ...d, sheet: 'addresses' as const }))
}
