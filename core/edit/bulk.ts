// Question: how are many ports, many addresses or many reservations set in one go?
// Method: a span text names the ports; all of them are changed or, where one is not there, none.
// Source: none; the span text is common practice on switches.
import { ok, problem, refuse, type Result } from '#core/util'
import { namesIn, indexPlan, modelOf, hasTrait } from '#core/queries'
import type { Device, Plan, Port, PortMode, PortTemplate, PortGroup, DeviceId } from '#core/schema'
import { BLANK_PORT } from './blanks'
import { freshId, reserve, takenAddresses } from './propose'

/** `2-4, 7` of port names that are numbers; a plain list of others. The opposite of `namesIn`. */
export function spanOf(names: readonly string[]): string {
  const numbers = names.filter((n) => /^\d+$/.test(n)).map(Number)
  const words = [...new Set(names.filter((n) => !/^\d+$/.test(n)))]
  const runs: [number, number][] = []
  for (const count of [...new Set(numbers)].sort((a, b) => a - b)) {
    const last = runs.at(-1)
    if (last && last[1] === count - 1) last[1] = count
    else runs.push([count, count])
  }
  return [...runs.map(([a, b]) => (a === b ? String(a) : `${a}-${b}`)), ...words].join(', ')
}

const withDevice = (plan: Plan, deviceId: DeviceId, make: (device: Device) => Device): Plan => ({
  ...plan,
  devices: plan.devices.map((d) => (d.id === deviceId ? make(d) : d)),
})

/**
 * Changes the ports that a span names.
 * Problems: no-such-device, no-ports, no-such-port for each name that is not there.
 */
export function setPorts(
  plan: Plan,
  deviceId: DeviceId,
  names: string,
  change: Partial<Pick<Port, 'mode' | 'poe' | 'speedMbps'>>,
): Result<Plan> {
  const device = plan.devices.find((d) => d.id === deviceId)
  if (!device) return refuse(problem('no-such-device', deviceId, { text: deviceId }))
  const wanted = namesIn(names)
  if (wanted.length === 0) return refuse(problem('no-ports', device.name))
  const missing = wanted.filter((name) => !device.ports.some((p) => p.name === name))
  if (missing.length > 0)
    return refuse(...missing.slice(0, 5).map((name) => problem('no-such-port', device.name, { text: name })))
  const chosen = new Set(wanted)
  return ok(
    withDevice(plan, deviceId, (device) => ({
      ...device,
      ports: device.ports.map((p) => (chosen.has(p.name) ? { ...p, ...change } : p)),
    })),
  )
}

/** A device's port map as a template: ports that are alike in one line, in the order they first come. */
export function templateFrom(plan: Plan, deviceId: DeviceId, name: string): PortTemplate | null {
  const device = plan.devices.find((d) => d.id === deviceId)
  if (!device) return null
  const groups = new Map<string, { mode: PortMode; names: string[] }>()
  for (const port of device.ports) {
    const key = JSON.stringify(port.mode)
    const group = groups.get(key)
    if (group) group.names.push(port.name)
    else groups.set(key, { mode: port.mode, names: [port.name] })
  }
  return {
    id: freshId(plan.templates, 'template'),
    name,
    model: device.model,
    ports: [...groups.values()].map(({ mode, names }) => ({ names: spanOf(names), mode })),
  }
}

/** Lays a template on a device, all of it or nothing. Problems: those of `setPorts`. */
export function layTemplate(plan: Plan, deviceId: DeviceId, template: PortTemplate): Result<Plan> {
  let now = plan
  for (const line of template.ports) {
    const next = setPorts(now, deviceId, line.names, { mode: line.mode })
    if (!next.ok) return next
    now = next.value
  }
  return ok(now)
}

/** Sockets that one group of hosts has at most; more hosts share them. */
const MOST_SOCKETS = 1024

const portOf = (name: string, mode: PortMode): Port => ({ id: `p${name}`, name, mode, ...BLANK_PORT })
/** A socket for each of some hosts, as far as one group has them. */
export const plainPorts = (count: number): Port[] =>
  Array.from({ length: Math.min(count, MOST_SOCKETS) }, (_, i) => portOf(String(i + 1), { mode: 'plain' }))

/** Ports that a device of a kind usually has, for as long as nobody has said which model it is. */
export function portsOfKind(kind: Device['kind'], vlan: number): Port[] {
  const numbered = (count: number, from = 1) =>
    Array.from({ length: count }, (_, i) => portOf(String(from + i), { mode: 'access', vlan }))
  switch (kind) {
    case 'gateway':
      return [portOf('1', { mode: 'wan' }), ...numbered(3, 2)]
    case 'switch':
      return numbered(8)
    case 'access-point':
      return [...numbered(1), portOf('radio', { mode: 'radio' })]
    case 'modem':
      return [portOf('line', { mode: 'plain' }), portOf('lan', { mode: 'plain' })]
    default:
      return plainPorts(2)
  }
}

/** Ports of a model as a new device has them: access to a VLAN where frames are sorted, plain elsewhere. */
export function portsOfModel(plan: Plan, modelName: string, kind: Device['kind'], vlan: number): Port[] {
  const model = modelOf(indexPlan(plan), modelName)
  const sorts = hasTrait({ kind }, 'vlan-aware')
  const usualMode = (group: PortGroup): PortMode => {
    if (kind === 'telephone')
      return group.load ? { mode: 'trunk', native: null, tagged: [vlan] } : { mode: 'off' }
    if (group.kind === 'radio' && kind === 'access-point') return { mode: 'radio' }
    if (group.role === 'wan') return { mode: 'wan' }
    if (!sorts) return { mode: 'plain' }
    return group.kind === 'sfp' ? { mode: 'off' } : { mode: 'access', vlan }
  }
  return (model?.ports ?? []).flatMap((group) =>
    namesIn(group.names)
      .filter((name) => name !== '*')
      .map((name) => portOf(name, usualMode(group))),
  )
}

/**
 * Every switch, access point and radio gets an address for good: typed into it, or reserved on the server.
 * Others are left.
 */
export function addressInfrastructure(plan: Plan, how: 'static' | 'reserved'): Plan {
  let now = plan
  for (const device of plan.devices.filter((d) => hasTrait(d, 'addressed') && d.homeNetworkId !== null)) {
    const taken = takenAddresses(now)
    now = {
      ...now,
      networks: now.networks.map((network) => {
        if (network.id !== device.homeNetworkId) return network
        if (network.fixed.some((f) => f.deviceId === device.id))
          return {
            ...network,
            fixed: network.fixed.map((f) => (f.deviceId === device.id ? { ...f, how } : f)),
          }
        const made = reserve(network, device, taken)
        if (made === null) return network
        const id = freshId(network.fixed, made.id)
        return { ...network, fixed: [...network.fixed, { ...made, id, how }] }
      }),
    }
  }
  return now
}
