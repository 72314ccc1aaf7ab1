// Question: which nftables ruleset makes a Linux router filter, translate and mark as the plan says?
// Method: one table of filters from the ordered rules, one of marks where there is an uplink to choose, one of
// translation.
// Source: nft(8); RFC 3022 (masquerade).
import { formatPrefix4, parseIpv4 } from '#core/address'
import { expandPairDefaults, mapsOf } from '#core/queries'
import type { Plan, Policy, PolicyRoute, PortForward, Rule, DeviceId } from '#core/schema'
import { choiceMark, gatewayParts, uplinkMark, wanName, type GatewayParts } from './interfaces'
import { familyOf, selectorMatches, serviceMatches, timeMatches } from './matches'
import { chain, comment, idWord, namesNothing, quotedSet, rule, table } from './nft-writer'
import { sharesOf } from './sharing'

type Chain = readonly string[]

function filterRules(parts: GatewayParts, planned: Rule): string[] {
  const tos = planned.chain === 'input' ? [''] : selectorMatches(parts, planned.to, 'o')
  const matches = selectorMatches(parts, planned.from, 'i').flatMap((from) =>
    tos.flatMap((to) => {
      const [first, second] = [familyOf(from), familyOf(to)]
      // An IPv4 address and an IPv6 one never meet in one packet.
      if (first !== null && second !== null && first !== second) return []
      const family = first ?? second ?? (parts.ipv6 ? null : 4)
      const services = serviceMatches(planned.services, parts.index.services, family) ?? []
      return services.flatMap((match) =>
        timeMatches(parts.index, planned.when).map((time) => [time, from, to, match]),
      )
    }),
  )
  if (matches.length === 0) return [namesNothing(planned.id)]
  const id = idWord(planned.id)
  const log = planned.log ? `log prefix "${id.slice(0, 60)} "` : ''
  const note = planned.note.slice(0, 100)
  return matches.map((match) => rule(...match, log, planned.action, comment(note ? `${id}: ${note}` : id)))
}

/**
 * What IPv6 itself needs: neighbours, requests for DHCPv6 from inside, and the provider's answers to the
 * gateway's own, which come from another address than it asked (RFC 8415 sections 7.2 and 14).
 */
function ipv6Basics({ ipv6, lans, wans }: GatewayParts): string[] {
  if (!ipv6) return []
  const neighbours =
    'icmpv6 type { nd-neighbor-solicit, nd-neighbor-advert, nd-router-solicit, nd-router-advert }'
  const delegation = 'ip6 saddr fe80::/10 udp dport 546 accept'
  return [
    rule(neighbours, 'ip6 hoplimit 255 accept', comment('neighbours')),
    ...(lans.length > 0
      ? [rule(`iifname ${quotedSet(lans)}`, 'udp dport 547 accept', comment('DHCPv6'))]
      : []),
    ...(wans.length > 0
      ? [rule(`iifname ${quotedSet(wans)}`, delegation, comment('DHCPv6 of the uplink'))]
      : []),
  ]
}

/** What a gateway answers itself before its rules are asked. */
function inputBasics(parts: GatewayParts): string[] {
  const { lans, wans, tunnels } = parts
  const dialled = tunnels
    .filter(({ tunnel }) => tunnel.peers.some((p) => p.endpoint === null))
    .map(({ tunnel }) => tunnel.listenPort)
  return [
    'iifname "lo" accept',
    ...ipv6Basics(parts),
    ...(lans.length > 0 ? [rule(`iifname ${quotedSet(lans)}`, 'udp dport 67 accept', comment('DHCP'))] : []),
    ...(dialled.length > 0 && wans.length > 0
      ? [
          rule(
            `iifname ${quotedSet(wans)}`,
            `udp dport { ${[...new Set(dialled)].join(', ')} } accept`,
            comment('WireGuard'),
          ),
        ]
      : []),
  ]
}

function filterChain(parts: GatewayParts, policy: Policy | undefined, name: 'forward' | 'input'): Chain {
  const rules = (policy?.rules ?? []).filter((r) => r.chain === name)
  return chain(name, `type filter hook ${name} priority filter; policy ${policy?.[name] ?? 'accept'};`, [
    'ct state established,related accept',
    // An answer whose question came another way, and what belongs to no flow.
    'ct state invalid drop',
    ...(name === 'input' ? inputBasics(parts) : []),
    ...rules.flatMap((r) => filterRules(parts, r)),
  ])
}

/** Policy routes are of IPv4 alone. */
function policyRouteRules(parts: GatewayParts, policyRoute: PolicyRoute, place: number): string[] {
  const froms = selectorMatches(parts, policyRoute.from, 'i').filter((from) => familyOf(from) !== 6)
  const matches = serviceMatches(policyRoute.services, parts.index.services)
  if (froms.length === 0 || matches === null) return [namesNothing(policyRoute.id)]
  const mark = `meta mark set ${choiceMark(place)} accept`
  return froms.flatMap((from) =>
    matches.map((match) => rule(from, match, mark, comment(idWord(policyRoute.id)))),
  )
}

function shareRules({ uplinks, lans }: GatewayParts): string[] {
  const { modulus, parts } = sharesOf(uplinks)
  if (parts.length === 0 || lans.length === 0) return []
  const map = parts.map(({ from, to, mark }) => `${from === to ? from : `${from}-${to}`} : ${mark}`)
  const hash = `jhash ip saddr mod ${modulus} map { ${map.join(', ')} }`
  return [
    rule(`iifname ${quotedSet(lans)}`, `ct state new ct mark set ${hash}`),
    'ct mark != 0 meta mark set ct mark',
  ]
}

/**
 * The marks of a gateway with several uplinks, and the marks of its policy routes; empty where there is
 * nothing to choose.
 */
function markTable(parts: GatewayParts): string[] {
  const { uplinks, wans, policyRoutes } = parts
  if (uplinks.length < 2 && policyRoutes.length === 0) return []
  const answers = comment('answers leave by the uplink they came in on')
  return table('ip', 'ways', [
    chain('prerouting', 'type filter hook prerouting priority mangle;', [
      ...uplinks.map((_, i) => `iifname "${wanName(i + 1)}" ct state new ct mark set ${uplinkMark(i + 1)}`),
      ...(wans.length > 0 ? [`iifname ${quotedSet(wans)} accept`] : []),
      rule('ct mark != 0 meta mark set ct mark accept', answers),
      ...policyRoutes.flatMap((policyRoute, i) => policyRouteRules(parts, policyRoute, i + 1)),
      ...shareRules(parts),
    ]),
    chain('output', 'type route hook output priority mangle;', ['ct mark != 0 meta mark set ct mark']),
  ])
}

/** Each port that changes has a line of its own in the map. */
function forwardTarget({ proto, from, to, toPort, toAddress }: PortForward): string {
  if (toPort === from) return toAddress
  const ports = Array.from({ length: to - from + 1 }, (_, i) => [from + i, toPort + i] as const)
  const pairs = ports.filter(([, inside]) => inside <= 65535)
  const map = pairs.map(([outside, inside]) => `${outside} : ${toAddress} . ${inside}`)
  return `${proto} dport map { ${map.join(', ')} }`
}

/** What arrives on an uplink and is handed inside. */
function forwardRules({ uplinks, lans, own }: GatewayParts, forward: PortForward): string[] {
  const place = uplinks.findIndex((u) => u.id === forward.uplinkId) + 1
  if (place === 0 || forward.to < forward.from || !parseIpv4(forward.toAddress).ok)
    return [namesNothing(forward.id)]
  const ports = forward.from === forward.to ? forward.from : `${forward.from}-${forward.to}`
  const handed = `${forward.proto} dport ${ports} dnat ip to ${forwardTarget(forward)}`
  const id = idWord(forward.id)
  // At the line's own address alone: what the provider routes to a network behind it is called by its own.
  const outer = rule(`iifname "${wanName(place)}" fib daddr . iif type local`, handed, comment(id))
  if (!forward.hairpin || lans.length === 0 || own.length === 0) return [outer]
  // Called from inside: at any address of this gateway but those that it has inside.
  const called = `ip daddr != { ${own.join(', ')} } fib daddr type local`
  return [outer, rule(`iifname ${quotedSet(lans)}`, called, handed, comment(`${id}, from inside`))]
}

/** Translation of addresses: networks known by another prefix, forwards, and what hides behind an uplink. */
function translationTable(parts: GatewayParts, forwards: readonly PortForward[]): string[] {
  const { lans, wans, tunnels, uplinks } = parts
  // Beyond a provider's tunnel only the gateway's own address is known.
  const providers = tunnels.filter(({ tunnel }) => tunnel.peers.some((p) => p.kind === 'provider'))
  const hidden = [...wans, ...providers.map((t) => t.name)]
  // A network that peers know by another prefix: they call it by that one, and see it so.
  const mapped = tunnels.flatMap(({ name, tunnel }) =>
    mapsOf(tunnel).map((m) => ({ name, inside: formatPrefix4(m.inside), outside: formatPrefix4(m.outside) })),
  )
  if (hidden.length === 0 && mapped.length === 0) return []
  const before = [
    ...mapped.map((m) => `iifname "${m.name}" ip daddr ${m.outside} dnat ip prefix to ${m.inside}`),
    ...forwards.flatMap((f) => forwardRules(parts, f)),
  ]
  const inside = `iifname ${quotedSet(lans)} oifname ${quotedSet(lans)} ct status dnat masquerade`
  return table('ip', 'outward', [
    ...(before.length > 0 ? [chain('prerouting', 'type nat hook prerouting priority dstnat;', before)] : []),
    chain('postrouting', 'type nat hook postrouting priority srcnat;', [
      ...mapped.map((m) => `oifname "${m.name}" ip saddr ${m.inside} snat ip prefix to ${m.outside}`),
      // A rule for each: prefixes that lie in one another make no set.
      ...uplinks.flatMap(({ facts }, i) =>
        facts.routed4.map((prefix) => `oifname "${wanName(i + 1)}" ip saddr ${prefix} accept`),
      ),
      ...(hidden.length > 0 ? [`oifname ${quotedSet(hidden)} masquerade`] : []),
      ...(forwards.some((f) => f.hairpin) && lans.length > 0 ? [inside] : []),
    ]),
  ])
}

/**
 * The complete ruleset of a gateway; loading it replaces what was there.
 * Null where the plan has no such gateway.
 */
export function nftRuleset(plan: Plan, deviceId: DeviceId): string | null {
  if (plan.devices.find((d) => d.id === deviceId)?.kind !== 'gateway') return null
  const parts = gatewayParts(plan, deviceId)
  const planned = plan.policies.find((p) => p.deviceId === deviceId)
  const policy = planned && expandPairDefaults(planned)
  const forwards = plan.forwards.filter((f) => f.deviceId === deviceId)
  return [
    'flush ruleset',
    ...table('inet', 'site', [filterChain(parts, policy, 'forward'), filterChain(parts, policy, 'input')]),
    ...markTable(parts),
    ...translationTable(parts, forwards),
    '',
  ].join('\n')
}
