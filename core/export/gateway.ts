// Question: what files make a Linux router do what the plan says of a gateway?
// Method: one interface for each VLAN and each line; the ordered rules as an nftables ruleset, addresses and routes as an
// iproute2 batch, pools as a dnsmasq configuration. Each is checked by the real program that reads it.
// Source: nft(8), ip-batch as of ip(8), dnsmasq(8); RFC 3022 (masquerade), RFC 2131 (pools).
import { formatIpv4, lastOf, maskOf, networkOf, parseIpv4, parsePrefix4, parseRange4, rangesWithout } from '#core/address'
import { orNull } from '#core/base'
import { indexPlan, type Network, type Plan, type PlanIndex, type Rule, type Selector, type Service } from '#core/model'
import { fixedAddresses, normalise } from '#core/policy'

/** Name of the interface that carries a VLAN. */
export const lanName = (vlan: number): string => `lan.${vlan}`
/** Name of a line's interface, by its place in the order of priority, from 1. */
export const wanName = (place: number): string => `wan${place}`

const quoted = (names: readonly string[]): string => `{ ${names.map((n) => `"${n}"`).join(', ')} }`

interface Names {
  readonly index: PlanIndex
  readonly lans: readonly string[]
  readonly wans: readonly string[]
}

function namesOf(plan: Plan, deviceId: string): Names {
  const index = indexPlan(plan)
  const lans = plan.networks.filter((n) => n.routerId === deviceId).map((n) => lanName(n.vlan))
  const lines = plan.uplinks.filter((u) => u.deviceId === deviceId).sort((a, b) => a.priority - b.priority)
  return { index, lans: [...new Set(lans)], wans: lines.map((_, i) => wanName(i + 1)) }
}

/** One side of a rule as a match; an empty text matches everything, null nothing. */
function side({ index, lans, wans }: Names, selector: Selector, end: 'i' | 'o'): string | null {
  const address = end === 'i' ? 'ip saddr' : 'ip daddr'
  switch (selector.kind) {
    case 'any':
      return ''
    case 'inside':
      return lans.length === 0 ? null : `${end}ifname ${quoted(lans)}`
    case 'network': {
      const network = index.networks.get(selector.id)
      return network && lans.includes(lanName(network.vlan)) ? `${end}ifname "${lanName(network.vlan)}"` : null
    }
    case 'internet':
      return wans.length === 0 ? null : `${end}ifname ${quoted(wans)}`
    case 'gateway':
      return null
    case 'device': {
      const own = fixedAddresses(index, selector.id).map((ip) => formatIpv4(ip))
      return own.length === 0 ? null : `${address} { ${own.join(', ')} }`
    }
    case 'prefix':
      return parsePrefix4(selector.prefix).ok ? `${address} ${selector.prefix}` : null
  }
}

/** Services as matches, one for each protocol; null where they name nothing. */
function protocols(ids: readonly string[], services: ReadonlyMap<string, Service>): readonly string[] | null {
  if (ids.length === 0) return ['']
  const entries = ids.flatMap((id) => services.get(id)?.entries ?? [])
  const ports = (proto: 'tcp' | 'udp') => {
    const merged = normalise(entries.filter((e) => e.proto === proto).map((e) => [e.from, e.to] as const))
    return merged.length === 0 ? [] : [`${proto} dport { ${merged.map(([a, b]) => (a === b ? String(a) : `${a}-${b}`)).join(', ')} }`]
  }
  const out = [...ports('tcp'), ...ports('udp'), ...(entries.some((e) => e.proto === 'icmp') ? ['icmp type echo-request'] : [])]
  return out.length === 0 ? null : out
}

function ruleLines(names: Names, rule: Rule): string[] {
  const from = side(names, rule.from, 'i')
  const to = rule.chain === 'input' ? '' : side(names, rule.to, 'o')
  const matches = protocols(rule.services, names.index.services)
  const note = rule.note.replaceAll(/[^\w .,:-]/g, ' ').slice(0, 100)
  if (from === null || to === null || matches === null) return [`    # ${rule.id}: names nothing that is there`]
  return matches.map((match) => `    ${[from, to, match, rule.action === 'accept' ? 'accept' : rule.action === 'reject' ? 'reject' : 'drop'].filter((t) => t !== '').join(' ')} comment "${rule.id.replaceAll(/[^\w.-]/g, '_')}${note ? `: ${note}` : ''}"`)
}

/** The complete ruleset of a gateway; loading it replaces what was there. Null where the plan has no such gateway. */
export function nftRuleset(plan: Plan, deviceId: string): string | null {
  if (plan.devices.find((d) => d.id === deviceId)?.kind !== 'gateway') return null
  const names = namesOf(plan, deviceId)
  const policy = plan.policies.find((p) => p.deviceId === deviceId)
  const chain = (name: 'forward' | 'input') => [
    `  chain ${name} {`,
    `    type filter hook ${name} priority filter; policy ${policy?.[name] ?? 'accept'};`,
    '    ct state established,related accept',
    ...(name === 'input' ? ['    iifname "lo" accept', ...(names.lans.length > 0 ? [`    iifname ${quoted(names.lans)} udp dport 67 accept comment "DHCP"`] : [])] : []),
    ...(policy?.rules ?? []).filter((r) => r.chain === name).flatMap((r) => ruleLines(names, r)),
    '  }',
  ]
  return [
    'flush ruleset',
    'table inet site {', ...chain('forward'), ...chain('input'), '}',
    ...(names.wans.length > 0 ? ['table ip outward {', '  chain postrouting {', '    type nat hook postrouting priority srcnat;', `    oifname ${quoted(names.wans)} masquerade`, '  }', '}'] : []),
    '',
  ].join('\n')
}

/** Addresses of the VLAN interfaces and the planned routes, as lines for `ip -batch`. Lines' own addresses come from their providers. */
export function ipBatch(plan: Plan, deviceId: string): string {
  const faces = plan.networks.filter((n) => n.routerId === deviceId).flatMap((n) => {
    const subnet = orNull(parsePrefix4(n.subnet))
    return subnet && parseIpv4(n.gateway).ok ? [`addr add ${n.gateway}/${subnet.length} dev ${lanName(n.vlan)}`] : []
  })
  const routes = plan.routes.filter((r) => r.deviceId === deviceId && parsePrefix4(r.prefix).ok).map((r) => `route add ${r.prefix} via ${r.via}`)
  return [...faces, ...routes, ''].join('\n')
}

/** The parts of a pool that are handed out. */
function poolParts(network: Network): { readonly from: string; readonly to: string }[] {
  const pool = network.pool ? orNull(parseRange4(`${network.pool.from}-${network.pool.to}`)) : null
  if (!pool) return []
  const cuts = network.exclusions.flatMap((e) => orNull(parseRange4(`${e.from}-${e.to}`)) ?? [])
  return rangesWithout(pool, cuts).map(({ from, to }) => ({ from: formatIpv4(from), to: formatIpv4(to) }))
}

function networkLines(plan: Plan, network: Network): string[] {
  const subnet = orNull(parsePrefix4(network.subnet))
  const gateway = orNull(parseIpv4(network.gateway))
  if (!subnet || gateway === null) return []
  if (network.dhcp === 'relay' && network.relayTo !== null) return [`dhcp-relay=${network.gateway},${network.relayTo}`]
  // A pool that does not lie where the interface is would never be used; dnsmasq refuses no such line, so it is left out.
  const face = { base: networkOf(gateway, subnet.length), length: subnet.length }
  const inside = (ip: string) => {
    const parsed = orNull(parseIpv4(ip))
    return parsed !== null && parsed >= face.base && parsed <= lastOf(face)
  }
  if (network.dhcp !== 'serve') return []
  const tag = `vlan${network.vlan}`
  const ranges = poolParts(network).filter((p) => inside(p.from) && inside(p.to)).map((p) => `dhcp-range=set:${tag},${p.from},${p.to},${formatIpv4(maskOf(subnet.length))},${network.leaseS}`)
  if (ranges.length === 0) return []
  const { options } = network
  const macs = new Map(plan.brief.equipment.flatMap((e) => (e.deviceId !== null && e.mac !== null ? [[e.deviceId, e.mac] as const] : [])))
  const holds = network.fixed.filter((f) => f.how === 'reserved').flatMap((f) => {
    const mac = f.mac ?? (f.deviceId === null ? undefined : macs.get(f.deviceId))
    return mac ? [`dhcp-host=${mac.replaceAll('-', ':').toLowerCase()},${f.ip}`] : []
  })
  return [
    `interface=${lanName(network.vlan)}`, ...ranges, `dhcp-option=tag:${tag},option:router,${network.gateway}`,
    `dhcp-option=tag:${tag},option:dns-server,${options.dns.length > 0 ? options.dns.join(',') : network.gateway}`,
    ...(options.ntp.length > 0 ? [`dhcp-option=tag:${tag},option:ntp-server,${options.ntp.join(',')}`] : []),
    ...(options.domain === '' ? [] : [`domain=${options.domain},${network.subnet}`]),
    ...holds,
  ]
}

/** The DHCP server of a gateway as a dnsmasq configuration. The same plan gives the same bytes. */
export function dnsmasqConf(plan: Plan, deviceId: string): string {
  const served = plan.networks.filter((n) => n.routerId === deviceId).flatMap((n) => networkLines(plan, n))
  return ['# DHCP of the gateway, made from the plan', 'port=0', 'bind-dynamic', 'dhcp-authoritative', 'no-ping', ...served, ''].join('\n')
}
