// Question: which files does the plan make for one device?
// Method: for a gateway those of each program that may run on it, for anything else that is managed its
// onboarding configuration.
import { isRadio, isVlanAware } from '#core/queries'
import type { Plan, DeviceId } from '#core/schema'
import { deviceConfig } from './device-config'
import { dnsmasqConf, ipBatch, nftRuleset, wgName } from './gateway'
import { keaConf } from './kea'
import { hostsFile, unboundZones, zoneFiles } from './names'
import { keyFollower, wireguardConf } from './wireguard'
import { accessListsJson, interfacesJson } from './yang'

export type FileCode =
  | 'nftables'
  | 'ip-batch'
  | 'dnsmasq'
  | 'kea'
  | 'wireguard'
  | 'key-follower'
  | 'hosts'
  | 'unbound'
  | 'zone'
  | 'interfaces'
  | 'access-lists'
  | 'onboarding'

export interface DeviceFile {
  readonly code: FileCode
  readonly name: string
  readonly text: string
}

/** Devices that files are made for, gateways first. */
export const devicesWithFiles = (plan: Plan): Plan['devices'] => [
  ...plan.devices.filter((d) => d.kind === 'gateway'),
  ...plan.devices.filter(
    (d) => d.kind !== 'gateway' && (isVlanAware(d) || isRadio(d) || d.kind === 'controller'),
  ),
]

/**
 * Every file of a device, without a secret in any of them.
 * @param revision of the plan, which zones carry as their serial
 */
export function deviceFiles(plan: Plan, deviceId: DeviceId, revision: number): DeviceFile[] {
  const device = plan.devices.find((d) => d.id === deviceId)
  const config = device && deviceConfig(plan, device.id)
  if (!device || !config) return []
  const onboarding: DeviceFile = {
    code: 'onboarding',
    name: `${device.id}.json`,
    text: `${JSON.stringify(config, null, 2)}\n`,
  }
  if (device.kind !== 'gateway') return [onboarding]
  return [
    { code: 'nftables', name: 'nftables.conf', text: nftRuleset(plan, device.id) ?? '' },
    { code: 'ip-batch', name: 'addresses-and-routes.ip', text: ipBatch(plan, device.id) },
    { code: 'dnsmasq', name: 'dnsmasq.conf', text: dnsmasqConf(plan, device.id) },
    { code: 'kea', name: 'kea-dhcp4.json', text: keaConf(plan, device.id) },
    ...plan.tunnels
      .filter((t) => t.deviceId === device.id)
      .flatMap((tunnel, i): DeviceFile[] => {
        const [face, follower] = [wgName(i + 1), keyFollower(tunnel, wgName(i + 1))]
        return [
          { code: 'wireguard', name: `${face}.conf`, text: wireguardConf(tunnel) },
          ...(follower === null
            ? []
            : [{ code: 'key-follower' as const, name: `${face}-keys.sh`, text: follower }]),
        ]
      }),
    { code: 'hosts', name: 'hosts', text: hostsFile(plan, device.id) },
    { code: 'unbound', name: 'unbound-local.conf', text: unboundZones(plan, device.id) },
    ...zoneFiles(plan, device.id, revision).map((zoneFile): DeviceFile => ({
      code: 'zone',
      name: `${zoneFile.zone}.zone`,
      text: zoneFile.text,
    })),
    { code: 'interfaces', name: 'ietf-interfaces.json', text: interfacesJson(plan, device.id) },
    { code: 'access-lists', name: 'ietf-access-control-list.json', text: accessListsJson(plan, device.id) },
    onboarding,
  ]
}
