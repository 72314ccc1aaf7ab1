// Question: which dnsmasq configuration serves a gateway's networks as the plan says?
// Method: pools, reservations and options of each network, and router advertisements.
// Source: dnsmasq(8); RFC 2131 (pools), RFC 4861 (router advertisements).
import { formatIpv4, maskOf, parseIpv4, parsePrefix4 } from '#core/address'
import { discoveryOption, keepsAddress, servedRanges } from '#core/dhcp'
import { networkInterface } from '#core/queries'
import type { Network, Plan, DeviceId, StaticAssignment } from '#core/schema'
import { speaksIpv6 } from '#core/reachability'
import { orNull } from '#core/util'
import { heldMacs } from '../names'
import { lanName } from './interfaces'

/**
 * The parts of a pool that are handed out: what is not excluded, and lies where the interface is.
 * Others would never be used; dnsmasq refuses no such line and Kea refuses its whole file, so they are left out.
 */
export function poolParts(network: Network): { readonly from: string; readonly to: string }[] {
  const own = networkInterface(network)
  const ranges = own ? servedRanges(network, own.prefix) : []
  return ranges.map(({ from, to }) => ({ from: formatIpv4(from), to: formatIpv4(to) }))
}

/** True of a reservation that a server can keep: on the subnet of its own address, and not that address. */
export function isKept(network: Network, { ip }: StaticAssignment): boolean {
  const [own, address] = [networkInterface(network), orNull(parseIpv4(ip))]
  if (!own || address === null) return false
  return keepsAddress({ gateway: own.address, prefixLength: own.prefix.length }, address)
}

function networkLines(plan: Plan, network: Network): string[] {
  const subnet = orNull(parsePrefix4(network.subnet))
  const gateway = orNull(parseIpv4(network.gateway))
  if (!subnet || gateway === null) return []
  if (network.dhcp === 'relay' && network.relayTo !== null)
    // Once one interface is named, requests are heard on those that are: the relay's own is, too.
    return [`interface=${lanName(network.vlan)}`, `dhcp-relay=${network.gateway},${network.relayTo}`]
  if (network.dhcp !== 'serve') return []
  const tag = `vlan${network.vlan}`
  const ranges = poolParts(network).map(
    (p) => `dhcp-range=set:${tag},${p.from},${p.to},${formatIpv4(maskOf(subnet.length))},${network.leaseS}`,
  )
  if (ranges.length === 0) return []
  const { options } = network
  const macs = heldMacs(plan)
  const holds = network.fixed
    .filter((f) => f.how === 'reserved' && isKept(network, f))
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
  const ifname = lanName(network.vlan)
  const range =
    network.mode6 === 'stateful'
      ? `::1000,::1fff,constructor:${ifname},64,${network.leaseS}`
      : `::,constructor:${ifname},${network.mode6 === 'stateless' ? 'ra-stateless' : 'ra-only'},64`
  return [`interface=${ifname}`, `dhcp-range=set:six${network.vlan},${range}`]
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
