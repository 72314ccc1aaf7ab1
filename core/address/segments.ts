// Question: what is each address of one subnet for?
// Method: the subnet's addresses swept in order; every address falls in exactly one stretch.
// Source: RFC 950 and RFC 3021 (which addresses of a subnet are its network and broadcast address).
import { contains, ipv4, lastOf, usable, type Ipv4, type Prefix4, type Range4 } from './ipv4'

export type SegmentKind = 'network' | 'gateway' | 'static' | 'reserved' | 'pool' | 'free' | 'broadcast'

export interface Segment extends Range4 {
  readonly kind: SegmentKind
}

export interface Uses {
  readonly gateway: Ipv4 | null
  readonly pool: Range4 | null
  readonly fixed: readonly { readonly ip: Ipv4; readonly how: 'static' | 'reserved' }[]
}

/**
 * The stretches of a subnet, in address order; together they are the subnet.
 * Gotcha: a fixed address inside the pool splits the pool; what lies outside the subnet is left out.
 */
export function segmentsOf(subnet: Prefix4, uses: Uses): Segment[] {
  const singles = new Map<number, SegmentKind>()
  for (const { ip, how } of uses.fixed) if (contains(subnet, ip)) singles.set(ip, how)
  if (uses.gateway !== null && contains(subnet, uses.gateway)) singles.set(uses.gateway, 'gateway')
  const hosts = usable(subnet)
  if (subnet.length <= 30) {
    singles.set(subnet.base, 'network')
    singles.set(lastOf(subnet), 'broadcast')
  }
  const pool = uses.pool && {
    from: Math.max(uses.pool.from, hosts.from),
    to: Math.min(uses.pool.to, hosts.to),
  }
  const cuts = new Set<number>([subnet.base, ...[...singles.keys()].flatMap((ip) => [ip, ip + 1])])
  if (pool && pool.from <= pool.to) cuts.add(pool.from).add(pool.to + 1)
  const starts = [...cuts].filter((cut) => cut <= lastOf(subnet)).sort((a, b) => a - b)
  const kindAt = (ip: number): SegmentKind =>
    singles.get(ip) ?? (pool && ip >= pool.from && ip <= pool.to ? 'pool' : 'free')
  const out: Segment[] = []
  starts.forEach((start, i) => {
    const kind = kindAt(start)
    const to = ipv4((starts[i + 1] ?? lastOf(subnet) + 1) - 1)
    const last = out.at(-1)
    if (last?.kind === kind) out[out.length - 1] = { ...last, to }
    else out.push({ kind, from: ipv4(start), to })
  })
  return out
}
