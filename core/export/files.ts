// Question: which files does the plan make, for one device and for the site?
// Method: one registry: a gateway gets those of each program that may run on it, anything else that is
// configured its onboarding configuration, and a site its tables.
// Source: each exporter names its own.
import { hasTrait } from '#core/queries'
import type { Device, DeviceId, Plan } from '#core/schema'
import { deviceConfig } from './device-config'
import { dnsmasqConf, ip6Rules, ipBatch, nftRuleset, wgName } from './gateway'
import { hostapdFiles } from './hostapd'
import { supplicantFiles } from './wpa-supplicant'
import { keaConf } from './kea'
import { hostsFile, unboundZones, zoneFiles } from './names'
import {
  CABLE_COLUMNS,
  cableRows,
  EQUIPMENT_COLUMNS,
  equipmentRows,
  MATERIAL_COLUMNS,
  materialRows,
} from './papers'
import { ADDRESS_COLUMNS, addressRows, PORT_COLUMNS, portRows } from './tables'
import { keyFollower, wireguardConf } from './wireguard'
import { accessListsJson, interfacesJson } from './yang'

interface NamedText {
  readonly name: string
  readonly text: string
}
/** What makes files of one kind for a device. */
interface Exporter {
  /** By which the app finds its words. */
  readonly code: string
  /** `configured`: also for what is no gateway. */
  readonly of: 'gateway' | 'configured'
  /** @param revision of the plan, which zones carry as their serial */
  readonly make: (plan: Plan, device: Device, revision: number) => readonly NamedText[]
}

/** A file that every device has once. */
const one = (name: string, text: (plan: Plan, deviceId: DeviceId) => string | null): Exporter['make'] => {
  return (plan, device) => [{ name, text: text(plan, device.id) ?? '' }]
}
/** The tunnels that end at a device, with the names of their interfaces there. */
const tunnelsAt = (plan: Plan, device: Device) =>
  plan.tunnels
    .filter((tunnel) => tunnel.deviceId === device.id)
    .map((tunnel, i) => ({ tunnel, ifname: wgName(i + 1) }))

/** In the order in which they are shown. */
const EXPORTERS = [
  { code: 'nftables', of: 'gateway', make: one('nftables.conf', nftRuleset) },
  { code: 'ip-batch', of: 'gateway', make: one('addresses-and-routes.ip', ipBatch) },
  {
    code: 'ip6-rules',
    of: 'gateway',
    make: (plan, { id }) => {
      const text = ip6Rules(plan, id)
      return text === null ? [] : [{ name: 'ipv6-rules.ip', text }]
    },
  },
  { code: 'dnsmasq', of: 'gateway', make: one('dnsmasq.conf', dnsmasqConf) },
  { code: 'kea', of: 'gateway', make: one('kea-dhcp4.json', keaConf) },
  {
    code: 'wireguard',
    of: 'gateway',
    make: (plan, device) =>
      tunnelsAt(plan, device).map(({ tunnel, ifname }) => ({
        name: `${ifname}.conf`,
        text: wireguardConf(tunnel),
      })),
  },
  {
    code: 'key-follower',
    of: 'gateway',
    make: (plan, device) =>
      tunnelsAt(plan, device).flatMap(({ tunnel, ifname }) => {
        const text = keyFollower(tunnel, ifname)
        return text === null ? [] : [{ name: `${ifname}-keys.sh`, text }]
      }),
  },
  { code: 'hosts', of: 'gateway', make: one('hosts', hostsFile) },
  { code: 'unbound', of: 'gateway', make: one('unbound-local.conf', unboundZones) },
  {
    code: 'zone',
    of: 'gateway',
    make: (plan, device, revision) =>
      zoneFiles(plan, device.id, revision).map(({ zone, text }) => ({ name: `${zone}.zone`, text })),
  },
  { code: 'interfaces', of: 'gateway', make: one('ietf-interfaces.json', interfacesJson) },
  { code: 'access-lists', of: 'gateway', make: one('ietf-access-control-list.json', accessListsJson) },
  {
    code: 'hostapd',
    of: 'configured',
    make: (plan, device) => (device.kind === 'access-point' ? hostapdFiles(plan, device) : []),
  },
  { code: 'supplicant', of: 'configured', make: supplicantFiles },
  {
    code: 'onboarding',
    of: 'configured',
    make: (plan, device) => [
      { name: `${device.id}.json`, text: `${JSON.stringify(deviceConfig(plan, device.id), null, 2)}\n` },
    ],
  },
] as const satisfies readonly Exporter[]

export type FileCode = (typeof EXPORTERS)[number]['code']
export interface DeviceFile extends NamedText {
  readonly code: FileCode
}

/** Devices that files are made for, gateways first. */
export const devicesWithFiles = (plan: Plan): Plan['devices'] => [
  ...plan.devices.filter((d) => d.kind === 'gateway'),
  ...plan.devices.filter((d) => d.kind !== 'gateway' && hasTrait(d, 'configured')),
]

/**
 * Every file of a device, without a secret in any of them.
 * @param revision of the plan, which zones carry as their serial
 */
export function deviceFiles(plan: Plan, deviceId: DeviceId, revision: number): DeviceFile[] {
  const device = plan.devices.find((d) => d.id === deviceId)
  if (!device) return []
  return EXPORTERS.filter(({ of }) => of === 'configured' || device.kind === 'gateway').flatMap(
    ({ code, make }) => make(plan, device, revision).map((file): DeviceFile => ({ code, ...file })),
  )
}

/** A table of the site's, as rows of text. */
interface TableExporter {
  readonly columns: readonly string[]
  readonly rows: (plan: Plan) => readonly (readonly string[])[]
}
/** By the name of the file, without its ending. */
export const TABLES: Readonly<Record<string, TableExporter>> = {
  addresses: { columns: ADDRESS_COLUMNS, rows: addressRows },
  ports: { columns: PORT_COLUMNS, rows: portRows },
  cables: { columns: CABLE_COLUMNS, rows: cableRows },
  materials: { columns: MATERIAL_COLUMNS, rows: materialRows },
  equipment: { columns: EQUIPMENT_COLUMNS, rows: equipmentRows },
}
