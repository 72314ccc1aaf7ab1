// Question: what does the plan say, as rows a spreadsheet can hold?
// Method: one row a network, one row a port; text as people type it. Quoting is the writer's job, not ours.
import { parsePrefix4, sizeOf } from '#core/address'
import { byVlan, farEnd, indexPlan, portKey } from '#core/queries'
import type { Medium, Plan, PortMode } from '#core/schema'

export const ADDRESS_COLUMNS = [
  'VLAN',
  'name',
  'subnet',
  'gateway',
  'DHCP',
  'pool from',
  'pool to',
  'addresses',
  'expected',
  'static',
] as const
export const PORT_COLUMNS = [
  'place',
  'device',
  'port',
  'mode',
  'native',
  'tagged',
  'connected to',
  'far port',
  'cable',
  'length m',
] as const

/** The address plan, by VLAN. */
export function addressRows(plan: Plan): string[][] {
  return byVlan(plan).map((network) => {
    const subnet = parsePrefix4(network.subnet)
    return [
      String(network.vlan),
      network.name,
      network.subnet,
      network.gateway,
      network.dhcp,
      network.pool?.from ?? '',
      network.pool?.to ?? '',
      subnet.ok ? String(sizeOf(subnet.value.length)) : '',
      String(network.expected),
      network.fixed.map((f) => `${f.ip} ${f.name}`).join('; '),
    ]
  })
}

export function modeText(mode: PortMode): {
  readonly mode: string
  readonly native: string
  readonly tagged: string
} {
  if (mode.mode === 'access') return { mode: 'access', native: String(mode.vlan), tagged: '' }
  if (mode.mode === 'trunk')
    return {
      mode: 'trunk',
      native: mode.native === null ? '' : String(mode.native),
      tagged: mode.tagged === 'all' ? 'all' : mode.tagged.join(' '),
    }
  if (mode.mode === 'routed')
    return {
      mode: 'routed',
      native: [mode.address, ...(mode.address6 ? [mode.address6] : [])].join(' '),
      tagged: '',
    }
  return { mode: mode.mode, native: '', tagged: '' }
}

const RUN_TEXT = { indoor: '', outdoor: ' outdoor', between: ' between buildings' } as const

export function mediumText(medium: Medium): { readonly kind: string; readonly lengthM: string } {
  switch (medium.kind) {
    case 'copper':
      return {
        kind: `${medium.category}${RUN_TEXT[medium.run]}`,
        lengthM: String(medium.lengthM),
      }
    case 'fibre':
      return {
        kind: `fibre ${medium.grade}${RUN_TEXT[medium.run]}`,
        lengthM: String(medium.lengthM),
      }
    case 'radio':
      return { kind: 'radio', lengthM: String(medium.lengthM) }
    case 'wifi':
      return { kind: 'Wi-Fi', lengthM: '' }
    case 'line':
      return { kind: "provider's line", lengthM: '' }
  }
}

/** The port map: every port of every device that is not a mere end, in plan order. */
export function portRows(plan: Plan): string[][] {
  const index = indexPlan(plan)
  return plan.devices
    .filter((d) => d.kind !== 'hosts' && d.kind !== 'cloud')
    .flatMap((device) =>
      device.ports.flatMap((port) => {
        const ref = { deviceId: device.id, portId: port.id }
        const links = index.linksAt.get(portKey(ref)) ?? []
        const mode = modeText(port.mode)
        const start = [device.place, device.name, port.name, mode.mode, mode.native, mode.tagged]
        if (links.length === 0) return [[...start, '', '', '', '']]
        return links.map((link) => {
          const far = farEnd(link, ref)
          const peer = index.devices.get(far.deviceId)
          const medium = mediumText(link.medium)
          return [
            ...start,
            peer?.name ?? far.deviceId,
            peer?.ports.find((p) => p.id === far.portId)?.name ?? far.portId,
            medium.kind,
            medium.lengthM,
          ]
        })
      }),
    )
}
