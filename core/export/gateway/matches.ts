// Selectors, services and schedules as matches of nftables; of several matches any is enough.
// Source: nft(8), sections "Meta expressions" (iifname, day, hour) and "Payload expressions".
import { formatIpv4, parsePrefix4, parsePrefix6 } from '#core/address'
import { fixedAddresses, normalise } from '#core/filter'
import {
  clockOf,
  DAY,
  DAY_NAMES,
  membersOf,
  scheduleIntervals,
  typedIpv6,
  type PlanIndex,
} from '#core/queries'
import type { Selector, Service, DeviceId, PeerId, ScheduleId } from '#core/schema'
import { lanName, type GatewayParts } from './interfaces'
import { oneOrSet, quoted } from './nft-writer'

/** Which end of a packet: where it comes in and from, or where it goes out and to. */
type End = 'i' | 'o'

const byInterface = (end: End, names: readonly string[]): string[] =>
  names.length === 0 ? [] : [`${end}ifname ${quoted(names)}`]

const byAddress = (end: End, family: 'ip' | 'ip6', addresses: readonly string[]): string[] =>
  addresses.length === 0 ? [] : [`${family} ${end === 'i' ? 'saddr' : 'daddr'} ${oneOrSet(addresses)}`]

/** Addresses and prefixes of both families, those of each in one match. */
const byAddresses = (end: End, ipv4: readonly string[], ipv6: readonly string[]): string[] => [
  ...byAddress(end, 'ip', ipv4),
  ...byAddress(end, 'ip6', ipv6),
]

const isPrefix4 = (text: string): boolean => parsePrefix4(text).ok
const isPrefix6 = (text: string): boolean => parsePrefix6(text).ok

/** IPv6 addresses typed into a device. */
const typedSixesOf = (index: PlanIndex, deviceId: DeviceId): string[] =>
  index.plan.networks.flatMap((network) =>
    network.fixed.flatMap((assignment) =>
      assignment.deviceId === deviceId && assignment.ip6 !== null && typedIpv6(network, assignment)
        ? [assignment.ip6]
        : [],
    ),
  )

function peerMatches({ tunnels }: GatewayParts, end: End, peerId: PeerId): string[] {
  return tunnels.flatMap(({ name, tunnel }) =>
    tunnel.peers
      .filter((peer) => peer.id === peerId)
      .flatMap(({ allowed }) =>
        byAddresses(
          end,
          allowed.filter(isPrefix4),
          allowed.filter((text) => tunnel.address6 !== null && isPrefix6(text)),
        ),
      )
      .map((match) => `${end}ifname "${name}" ${match}`),
  )
}

/**
 * One end of a rule as matches, any of which is enough; an empty text matches everything, no match at all
 * nothing.
 */
export function selectorMatches(parts: GatewayParts, selector: Selector, end: End): readonly string[] {
  const { index, lans, wans, tunnels } = parts
  switch (selector.kind) {
    case 'any':
      return ['']
    case 'inside':
      return byInterface(end, lans)
    case 'network': {
      const network = index.networks.get(selector.id)
      return byInterface(end, network ? lans.filter((name) => name === lanName(network.vlan)) : [])
    }
    case 'internet':
      return byInterface(end, wans)
    case 'gateway':
      return []
    case 'device':
      return byAddresses(
        end,
        fixedAddresses(index, selector.id).map((ip) => formatIpv4(ip)),
        typedSixesOf(index, selector.id),
      )
    case 'prefix':
      return byAddresses(end, [selector.prefix].filter(isPrefix4), [selector.prefix].filter(isPrefix6))
    case 'tunnel':
      return byInterface(
        end,
        tunnels.filter((t) => t.tunnel.id === selector.id).map((t) => t.name),
      )
    case 'group':
      return membersOf(index, selector).flatMap((member) => selectorMatches(parts, member, end))
    case 'peer':
      return peerMatches(parts, end, selector.id)
  }
}

export type Family = 4 | 6

/** Which family a match is of; null where it looks at interfaces alone. */
export function familyOf(match: string): Family | null {
  if (match.includes('ip6 ')) return 6
  if (match.includes('ip saddr') || match.includes('ip daddr')) return 4
  return null
}

const portRange = ([from, to]: readonly [number, number]): string =>
  from === to ? String(from) : `${from}-${to}`

/**
 * Services as matches, one for each protocol; null where they name nothing.
 * `family`: of the addresses beside them; null where they are of none.
 */
export function serviceMatches(
  ids: readonly string[],
  services: ReadonlyMap<string, Service>,
  family: Family | null = 4,
): readonly string[] | null {
  if (ids.length === 0) return ['']
  const entries = ids.flatMap((id) => services.get(id)?.entries ?? [])
  const ports = (proto: 'tcp' | 'udp') => {
    const merged = normalise(entries.filter((e) => e.proto === proto).map((e) => [e.from, e.to] as const))
    return merged.length === 0 ? [] : [`${proto} dport { ${merged.map(portRange).join(', ')} }`]
  }
  const matches = [...ports('tcp'), ...ports('udp')]
  if (entries.some((e) => e.proto === 'icmp')) {
    if (family !== 6) matches.push('icmp type echo-request')
    if (family !== 4) matches.push('icmpv6 type echo-request')
  }
  return matches.length === 0 ? null : matches
}

/** Days by the hours of a day that a schedule covers on them: "first second, last second" as the key. */
function daysByHours(index: PlanIndex, scheduleId: ScheduleId): Map<string, number[]> {
  const schedule = index.plan.schedules.find((s) => s.id === scheduleId)
  const byHours = new Map<string, number[]>()
  for (const { from, to } of schedule ? scheduleIntervals(schedule) : []) {
    // An interval that goes past midnight is one of each day; the last second of a day is its end.
    for (let begin = from; begin < to; begin = (Math.floor(begin / DAY) + 1) * DAY) {
      const end = Math.min(to, (Math.floor(begin / DAY) + 1) * DAY)
      const hours = `${begin % DAY} ${(end - 1) % DAY}`
      byHours.set(hours, [...(byHours.get(hours) ?? []), Math.floor(begin / DAY)])
    }
  }
  return byHours
}

/**
 * When a rule is in force as matches, any of which is enough: one for each interval of a day, with the days
 * that have it.
 */
export function timeMatches(index: PlanIndex, scheduleId: ScheduleId | null): readonly string[] {
  if (scheduleId === null) return ['']
  return [...daysByHours(index, scheduleId)].map(([hours, days]) => {
    const [begin = 0, last = 0] = hours.split(' ').map(Number)
    const named = [...new Set(days)].sort((a, b) => a - b).map((d) => DAY_NAMES[d] ?? '')
    return [
      ...(named.length === 7 ? [] : [`meta day ${quoted(named)}`]),
      ...(begin === 0 && last === DAY - 1 ? [] : [`meta hour "${clockOf(begin)}"-"${clockOf(last)}:59"`]),
    ].join(' ')
  })
}
