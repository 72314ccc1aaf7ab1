// Question: which dnsmasq configuration serves a gateway's networks as the plan says?
// Method: pools, reservations and options of each network, and router advertisements.
// Source: dnsmasq(8); RFC 2131 (pools), RFC 4861 (router advertisements).
import {
  formatIpv4,
  lastOf,
  maskOf,
  networkOf,
  parseIpv4,
  parsePrefix4,
  parseRange4,
  rangesWithout,
} from '#core/address'
import { discoveryOption } from '#core/dhcp'
import type { Network, Plan, DeviceId } from '#core/schema'
import { speaksIpv6 } from '#core/reachability'
import { orNull } from '#core/util'
import { heldMacs } from '../names'
import { lanName } from './interfaces'

/** The parts of a pool that are handed out. */
export function poolParts(network: Network): { readonly from: string; readonly to: string }[] {
  const pool = network.pool ? orNull(parseRange4(`${network.pool.from}-${network.pool.to}`)) : null
  if (!pool) return []
  const cuts = network.exclusions.flatMap((e) => orNull(parseRange4(`${e.from}-${e.to}`)) ?? [])
  return rangesWithout(pool, cuts).map(({ from, to }) => ({ from: formatIpv4(from), to: formatIpv4(to) }))
}

function networkLines(plan: Plan, network: Network): string[] {
  const subnet = orNull(parsePrefix4(network.subnet))
  const gateway = orNull(parseIpv4(network.gateway))
  if (!subnet || gateway === null) return []
  if (network.dhcp === 'relay' && network.relayTo !== null)
    return [`dhcp-relay=${network.gateway},${network.relayTo}`]
  // A pool that does not lie where the interface is would never be used; dnsmasq refuses no such line, so it
  // is left out.
  const face = { base: networkOf(gateway, subnet.length), length: subnet.length }
  const inside = (ip: string) => {
    const parsed = orNull(parseIpv4(ip))
    return parsed !== null && parsed >= face.base && parsed <= lastOf(face)
  }
  if (network.dhcp !== 'serve') return []
  const tag = `vlan${network.vlan}`
  const ranges = poolParts(network)
    .filter((p) => inside(p.from) && inside(p.to))
    .map(
      (p) => `dhcp-range=set:${tag},${p.from},${p.to},${formatIpv4(maskOf(subnet.length))},${network.leaseS}`,
    )
  if (ranges.length === 0) return []
  const { options } = network
  const macs = heldMacs(plan)
  const holds = network.fixed
    .filter((f) => f.how === 'reserved')
    .flatMap((assignment) => {
      const mac = macs(assignment)
      return mac === null ? [] : [`dhcp-host=${mac},${assignment.ip}`]
    })
  const hex =
    options.controller && orNull(discoveryOption(options.controller.option, options.controller.address))
  return [
    `interface=${lanName(network.vlan)}`,
    ...ranges,
    `dhcp-option=tag:${tag},option:router,${network.gateway}`,
    `dhcp-option=tag:${tag},option:dns-server,${options.dns.length > 0 ? options.dns.join(',') : network.gateway}`,
    ...(options.ntp.length > 0 ? [`dhcp-option=tag:${tag},option:ntp-server,${options.ntp.join(',')}`] : []),
    ...(options.controller && hex
      ? [`dhcp-option=tag:${tag},${options.controller.option},${hex.match(/../g)?.join(':') ?? ''}`]
      : []),
    ...(options.domain === '' ? [] : [`domain=${options.domain},${network.subnet}`]),
    ...holds,
  ]
}

/** Router advertisements of a network, and DHCPv6 where it is served. */
function ipv6Lines(network: Network): string[] {
  if (!speaksIpv6(network)) return []
  const face = lanName(network.vlan)
  const range =
    network.mode6 === 'stateful'
      ? `::1000,::1fff,constructor:${face},64,${network.leaseS}`
      : `::,constructor:${face},${network.mode6 === 'stateless' ? 'ra-stateless' : 'ra-only'},64`
  return [`interface=${face}`, `dhcp-range=set:six${network.vlan},${range}`]
}

/**
 * The DHCP server of a gateway, and what it advertises of IPv6, as a dnsmasq configuration.
 * The same plan gives the same bytes.
 */
export function dnsmasqConf(plan: Plan, deviceId: DeviceId): string {
  const own = plan.networks.filter((n) => n.routerId === deviceId)
  const ipv6 = own.flatMap(ipv6Lines)
  const served = [
    ...own.flatMap((n) => networkLines(plan, n)),
    ...(ipv6.length > 0 ? ['enable-ra', ...ipv6] : []),
  ]
  return [
    '# DHCP of the gateway, made from the plan',
    'port=0',
    'bind-dynamic',
    'dhcp-authoritative',
    'no-ping',
    ...served,
    '',
  ].join('\n')
}
