// Question: does each network's IPv6 have a prefix that hosts can use, and do typed addresses lie in it?
// Method: prefixes against prefixes; typed addresses against their network's prefix and each other.
// Source: RFC 4291 and 4862 (SLAAC needs 64 bits; duplicates).
import {
  contains6,
  formatIpv6,
  overlaps6,
  parseIpv6,
  parsePrefix6,
  routerIpv6,
  type Prefix6,
} from '#core/address'
import { ipv6PrefixOf } from '#core/queries'
import type { Network, Plan, StaticAssignment } from '#core/schema'
import { orNull } from '#core/util'
import { draft, set, type Draft, type Mend } from '../finding'

export function prefixFindings(plan: Plan): Draft[] {
  const site = plan.site.prefix6 === null ? null : orNull(parsePrefix6(plan.site.prefix6))
  const read = plan.networks.map((network) => ({
    network,
    prefix: network.prefix6 === null ? null : orNull(parsePrefix6(network.prefix6)),
    place: ['networks', network.id, 'prefix6'],
  }))
  return read.flatMap(({ network, prefix, place }, i): Draft[] => {
    const values = { network: network.name, prefix: network.prefix6 ?? '' }
    if (!prefix)
      return network.mode6 === 'off'
        ? []
        : [draft('A20', 'blocker', place, { ...values, kind: 'none', site: plan.site.prefix6 ?? '' })]
    const out: Draft[] = []
    if (site && !contains6(site, prefix))
      out.push(draft('A20', 'warning', place, { ...values, kind: 'outside', site: plan.site.prefix6 ?? '' }))
    const twin = read.slice(0, i).find((other) => other.prefix && overlaps6(other.prefix, prefix))
    if (twin) out.push(draft('A21', 'blocker', place, { ...values, other: twin.network.name }))
    if (prefix.length !== 64 && (network.mode6 === 'slaac' || network.mode6 === 'stateless'))
      out.push(draft('A22', 'blocker', place, { ...values, length: prefix.length }))
    return out
  })
}

/** What follows the network's own part, moved into its prefix; null where that leaves no 64 bits. */
function movedInto(
  prefix: Prefix6,
  groups: readonly number[],
  text: string,
  place: readonly string[],
): Mend | null {
  if (prefix.length !== 64) return null
  const ip = formatIpv6([...prefix.groups.slice(0, 4), ...groups.slice(4)])
  return { code: 'move-six', values: { ip }, changes: [set(place, text, ip)] }
}

/** @param seen names by address, of those met before; this one is added */
function typedFinding(
  network: Network,
  assignment: StaticAssignment,
  seen: Map<string, string>,
): Draft | null {
  const { ip6, name, how } = assignment
  const groups = ip6 === null ? null : orNull(parseIpv6(ip6))
  if (ip6 === null || !groups) return null
  const prefix = ipv6PrefixOf(network)
  const place = ['networks', network.id, 'fixed', assignment.id, 'ip6']
  const values = { network: network.name, name, text: ip6, prefix: network.prefix6 ?? '' }
  if (how !== 'static' || !prefix)
    return draft('A24', 'warning', place, { ...values, kind: how === 'static' ? 'off' : 'reserved' })
  if (!contains6(prefix, { groups, length: 128 }))
    return draft(
      'A24',
      'blocker',
      place,
      { ...values, kind: 'outside' },
      movedInto(prefix, groups, ip6, place),
    )
  const address = formatIpv6(groups)
  const other = address === routerIpv6(prefix) ? `${network.name} gateway` : seen.get(address)
  seen.set(address, name)
  return other === undefined ? null : draft('A24', 'blocker', place, { ...values, kind: 'twice', other })
}

/** Typed IPv6 addresses. */
export function typedIpv6Findings(network: Network): Draft[] {
  const seen = new Map<string, string>()
  return network.fixed.flatMap((assignment) => typedFinding(network, assignment, seen) ?? [])
}
