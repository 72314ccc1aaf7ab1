// Question: what configuration does a device get when it is brought under management?
// Method: the plan's part for this device as data in the shape of the standard modules, VLANs in our own.
// Source: RFC 7951 (JSON encoding), RFC 7317 (ietf-system), RFC 8343 (ietf-interfaces), RFC 8344 (ietf-ip).
import { parsePrefix4 } from '#core/address'
import { indexPlan, isVlanAware, typedIpv6 } from '#core/queries'
import type { Json } from '#core/edit'
import type { Network, Plan, Port, DeviceId } from '#core/schema'

function bridgePort(port: Port): Json {
  const mode = port.mode
  if (mode.mode === 'access') return { mode: 'access', 'vlan-id': mode.vlan }
  if (mode.mode === 'trunk')
    return {
      mode: 'trunk',
      ...(mode.native === null ? {} : { 'native-vlan-id': mode.native }),
      'tagged-vlan-id': mode.tagged === 'all' ? 'all' : [...mode.tagged],
    }
  if (mode.mode === 'routed')
    return { mode: 'routed', address: mode.address, ...(mode.address6 ? { address6: mode.address6 } : {}) }
  return { mode: mode.mode }
}

const portJson = (port: Port): Json => ({
  name: port.name,
  type: 'iana-if-type:ethernetCsmacd',
  enabled: port.mode.mode !== 'off',
  'able-mast:bridge-port': bridgePort(port),
})

/** The addresses typed into a device in its home network, as both families' part of an interface. */
function typedAddresses(home: Network, deviceId: DeviceId): Record<string, Json> {
  const own = home.fixed.find((f) => f.deviceId === deviceId && f.how === 'static')
  const subnet = parsePrefix4(home.subnet)
  if (!own) return {}
  const ipv6 = typedIpv6(home, own)
  const ipv4: Record<string, Json> = subnet.ok
    ? { 'ietf-ip:ipv4': { address: [{ ip: own.ip, 'prefix-length': subnet.value.length }] } }
    : {}
  if (!own.ip6 || !ipv6) return ipv4
  return {
    ...ipv4,
    'ietf-ip:ipv6': {
      address: [{ ip: own.ip6, 'prefix-length': ipv6.prefix.length }],
      autoconf: { 'create-global-addresses': false },
    },
  }
}

const managementJson = (home: Network, deviceId: DeviceId): Json => ({
  name: `vlan${home.vlan}`,
  type: 'iana-if-type:l3ipvlan',
  enabled: true,
  ...typedAddresses(home, deviceId),
})

/**
 * The onboarding configuration of a device.
 * The same plan gives the same bytes.
 * Null where the plan has no such device.
 */
export function deviceConfig(plan: Plan, deviceId: DeviceId): Json | null {
  const index = indexPlan(plan)
  const device = index.devices.get(deviceId)
  if (!device) return null
  const home = device.homeNetworkId === null ? undefined : index.networks.get(device.homeNetworkId)
  const ports = isVlanAware(device) ? device.ports.map(portJson) : []
  const management = home ? [managementJson(home, device.id)] : []
  const ssids = plan.ssids
    .filter((s) => s.apIds.includes(device.id))
    .map((ssid) => ({
      name: ssid.name,
      'vlan-id': index.networks.get(ssid.networkId)?.vlan ?? 0,
      isolation: ssid.isolation,
    }))
  return {
    'ietf-system:system': { hostname: device.id },
    'ietf-interfaces:interfaces': { interface: [...ports, ...management] },
    ...(ssids.length > 0 ? { 'able-mast:wireless': { ssid: ssids } } : {}),
  }
}
