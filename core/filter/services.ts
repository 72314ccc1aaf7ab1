// Question: which protocols and ports pass?
// Method: exact sets as sorted, disjoint, inclusive port intervals for TCP and UDP, and a yes or no for ICMP.
// Source: port range 0 to 65535 from RFC 9293 section 3.1 and RFC 768.
import type { Protocol, Service } from '#core/schema'

export type Intervals = readonly (readonly [from: number, to: number])[]

/** A set of (protocol, destination port). */
export interface ServiceSet {
  readonly tcp: Intervals
  readonly udp: Intervals
  readonly icmp: boolean
}

const EVERY_PORT: Intervals = [[0, 65535]]
export const NOTHING: ServiceSet = { tcp: [], udp: [], icmp: false }
export const EVERYTHING: ServiceSet = { tcp: EVERY_PORT, udp: EVERY_PORT, icmp: true }

/** Sorts, joins what touches or overlaps, drops what is empty. */
export function normalise(parts: Intervals): Intervals {
  const out: [number, number][] = []
  for (const [from, to] of [...parts].filter((p) => p[0] <= p[1]).sort((a, b) => a[0] - b[0])) {
    const last = out.at(-1)
    if (last && from <= last[1] + 1) last[1] = Math.max(last[1], to)
    else out.push([from, to])
  }
  return out
}

function intersectIntervals(first: Intervals, second: Intervals): Intervals {
  const out: (readonly [number, number])[] = []
  for (let i = 0, j = 0; i < first.length && j < second.length;) {
    const x = first[i] as readonly [number, number]
    const y = second[j] as readonly [number, number]
    const from = Math.max(x[0], y[0])
    const to = Math.min(x[1], y[1])
    if (from <= to) out.push([from, to])
    if (x[1] < y[1]) i++
    else j++
  }
  return out
}

/** What is in a and not in b. */
function without(first: Intervals, second: Intervals): Intervals {
  if (first.length === 0 || second.length === 0) return first
  const out: (readonly [number, number])[] = []
  let j = 0
  for (const part of first) {
    let next = part[0]
    // What ends before this part is of no use to later ones either; what ends in it may be.
    while (j < second.length && (second[j] as readonly [number, number])[1] < next) j++
    for (let k = j; k < second.length && next <= part[1]; k++) {
      const [from, to] = second[k] as readonly [number, number]
      if (from > part[1]) break
      if (from > next) out.push([next, from - 1])
      next = to + 1
    }
    if (next <= part[1]) out.push(next === part[0] ? part : [next, part[1]])
  }
  return out
}

export function union(first: ServiceSet, second: ServiceSet): ServiceSet {
  if (first === second || isNothing(second)) return first
  if (isNothing(first)) return second
  return {
    tcp: normalise([...first.tcp, ...second.tcp]),
    udp: normalise([...first.udp, ...second.udp]),
    icmp: first.icmp || second.icmp,
  }
}

export function intersect(first: ServiceSet, second: ServiceSet): ServiceSet {
  if (first === EVERYTHING || second === NOTHING) return second
  if (second === EVERYTHING || first === NOTHING || first === second) return first
  return orNothing({
    tcp: intersectIntervals(first.tcp, second.tcp),
    udp: intersectIntervals(first.udp, second.udp),
    icmp: first.icmp && second.icmp,
  })
}

/** What is in a and not in b. */
export function minus(first: ServiceSet, second: ServiceSet): ServiceSet {
  if (isNothing(second) || isNothing(first)) return first
  if (first === second) return NOTHING
  return orNothing({
    tcp: without(first.tcp, second.tcp),
    udp: without(first.udp, second.udp),
    icmp: first.icmp && !second.icmp,
  })
}

/** An empty set is `NOTHING` itself, so that whoever asks next is answered at once. */
const orNothing = (set: ServiceSet): ServiceSet => (isNothing(set) ? NOTHING : set)

export function isNothing(set: ServiceSet): boolean {
  return set.tcp.length === 0 && set.udp.length === 0 && !set.icmp
}

export function sameSet(first: ServiceSet, second: ServiceSet): boolean {
  return isNothing(minus(first, second)) && isNothing(minus(second, first))
}

export function includes(set: ServiceSet, proto: Protocol, port: number): boolean {
  if (proto === 'icmp') return set.icmp
  return set[proto].some(([from, to]) => from <= port && port <= to)
}

/** One member of a set: the lowest TCP port, else the lowest UDP port, else ICMP; null of the empty set. */
export function sample(set: ServiceSet): { readonly proto: Protocol; readonly port: number } | null {
  const tcp = set.tcp[0]
  if (tcp) return { proto: 'tcp', port: tcp[0] }
  const udp = set.udp[0]
  if (udp) return { proto: 'udp', port: udp[0] }
  return set.icmp ? { proto: 'icmp', port: 0 } : null
}

/** The set a list of service ids stands for; an empty list means every service, an unknown id nothing. */
export function servicesOf(ids: readonly string[], services: ReadonlyMap<string, Service>): ServiceSet {
  if (ids.length === 0) return EVERYTHING
  const tcp: (readonly [number, number])[] = []
  const udp: (readonly [number, number])[] = []
  let icmp = false
  for (const entry of ids.flatMap((id) => services.get(id)?.entries ?? [])) {
    if (entry.proto === 'icmp') icmp = true
    else (entry.proto === 'tcp' ? tcp : udp).push([entry.from, entry.to])
  }
  return { tcp: normalise(tcp), udp: normalise(udp), icmp }
}

/** The named services a set is made of, widest first, and what no name covers. Together they are the set. */
export function namedParts(
  set: ServiceSet,
  services: readonly Service[],
): { readonly names: readonly string[]; readonly rest: ServiceSet } {
  const size = (services: ServiceSet) =>
    [...services.tcp, ...services.udp].reduce((sum, [from, to]) => sum + to - from + 1, services.icmp ? 1 : 0)
  const known = services
    .map((service) => ({
      name: service.name,
      set: servicesOf([service.id], new Map([[service.id, service]])),
    }))
    .filter((k) => !isNothing(k.set) && isNothing(minus(k.set, set)))
    .sort((a, b) => size(b.set) - size(a.set))
  const names: string[] = []
  let rest = set
  for (const k of known) {
    if (isNothing(intersect(rest, k.set))) continue
    names.push(k.name)
    rest = minus(rest, k.set)
  }
  return { names, rest }
}

/** Writes a set for a person. Worked: TCP 443 and ICMP -> `tcp 443, icmp`; every port -> `all`. */
export function formatServices(set: ServiceSet): string {
  if (isNothing(set)) return 'nothing'
  if (sameSet(set, EVERYTHING)) return 'all'
  const ports = (list: Intervals) =>
    list.map(([from, to]) => (from === to ? `${from}` : `${from}-${to}`)).join(' ')
  const isWhole = (list: Intervals) => list.length === 1 && list[0]?.[0] === 0 && list[0][1] === 65535
  const part = (proto: string, list: Intervals) => {
    if (list.length === 0) return ''
    return `${proto} ${isWhole(list) ? 'all' : ports(list)}`
  }
  return [part('tcp', set.tcp), part('udp', set.udp), set.icmp ? 'icmp' : '']
    .filter((text) => text !== '')
    .join(', ')
}
