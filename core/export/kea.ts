// Question: what does a Kea DHCPv4 server have to be told to serve a gateway's networks?
// Method: one subnet for each network that is served, its pools without what is not handed out, its options,
// its reservations.
// Source: the Kea Administrator Reference Manual's configuration syntax, as `kea-dhcp4 -t` reads it;
// RFC 2131, RFC 2132, RFC 5417, RFC 8572.
import { formatPrefix4, parseIpv4, parsePrefix4 } from '#core/address'
import { orNull } from '#core/util'
import { discoveryOption } from '#core/dhcp'
import { networkInterface } from '#core/queries'
import type { Json } from '#core/edit'
import type { Network, Plan, DeviceId } from '#core/schema'
import { isKept, lanName, poolParts } from './gateway'
import { heldMacs } from './names'

const MANY = ', '
/**
 * Kea opens no socket on an interface that is not running, and by default never tries again: a gateway that is
 * up before its switch would serve nobody.
 */
const SOCKETS = { 'service-sockets-max-retries': 1_000_000, 'service-sockets-retry-wait-time': 2_000 }

function optionsOf({ options, gateway }: Network): Json[] {
  const data = (name: string, value: string): Json => ({ name, data: value })
  const found = options.controller
  const hex = found && orNull(discoveryOption(found.option, found.address))
  return [
    data('routers', gateway),
    data('domain-name-servers', options.dns.length > 0 ? options.dns.join(MANY) : gateway),
    ...(options.ntp.length > 0 ? [data('ntp-servers', options.ntp.join(MANY))] : []),
    ...(options.domain === '' ? [] : [data('domain-name', options.domain)]),
    ...(found && hex ? [{ code: found.option, space: 'dhcp4', 'csv-format': false, data: hex }] : []),
  ]
}

/** The subnet that a network's interface stands on, as it is typed where that cannot be read. */
function subnetText(network: Network): string {
  const own = networkInterface(network)
  return own ? formatPrefix4(own.prefix) : network.subnet
}

/** The DHCPv4 server of a gateway as Kea's JSON. The same plan gives the same bytes. */
export function keaConf(plan: Plan, deviceId: DeviceId): string {
  const macs = heldMacs(plan)
  const served = plan.networks.filter(
    (network) =>
      network.routerId === deviceId &&
      network.dhcp === 'serve' &&
      parsePrefix4(network.subnet).ok &&
      parseIpv4(network.gateway).ok &&
      poolParts(network).length > 0,
  )
  const subnet4 = served.map((network): Json => ({
    id: network.vlan,
    subnet: subnetText(network),
    interface: lanName(network.vlan),
    'valid-lifetime': network.leaseS,
    pools: poolParts(network).map((p) => ({ pool: `${p.from} - ${p.to}` })),
    'option-data': optionsOf(network),
    reservations: network.fixed.flatMap((assignment): Json[] => {
      const mac = assignment.how === 'reserved' && isKept(network, assignment) ? macs(assignment) : null
      return mac === null ? [] : [{ 'hw-address': mac, 'ip-address': assignment.ip }]
    }),
  }))
  const conf: Json = {
    Dhcp4: {
      'interfaces-config': { interfaces: served.map((n) => lanName(n.vlan)), ...SOCKETS },
      'lease-database': { type: 'memfile' },
      authoritative: true,
      subnet4,
    },
  }
  return `${JSON.stringify(conf, null, 2)}\n`
}
