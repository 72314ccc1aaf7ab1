// Question: how does a plan grow: a device more, a cable between two ports, a line from a provider?
// Method: each step gives the whole plan anew, or says why it cannot be done; what hangs on a removed thing
// goes with it.
// Source: none; a port takes one plug, an access point's radio takes many stations.
import { isSameName, ok, problem, refuse, type Problem, type Result } from '#core/util'
import { plainPorts, portsOfKind, portsOfModel } from './bulk'
import { indexPlan, findPort, portKey, failableThings } from '#core/queries'
import { PLAN_FORMAT, PLAN_VERSION } from '#core/format'
import type {
  Device,
  Link,
  Medium,
  Plan,
  Port,
  PortRef,
  Uplink,
  Service,
  DeviceId,
  LinkId,
  UplinkId,
} from '#core/schema'
import { freshId } from './propose'
import {
  BLANK_BRIEF,
  BLANK_FACTS,
  BLANK_LINK,
  BLANK_PORT,
  BLANK_SITE,
  BLANK_UPLINK,
  BLANK_WIFI,
  BLANK_WORK,
} from './blanks'

/** Services every site talks of, by the names and ports of IANA's registry (RFC 6335). */
export const USUAL_SERVICES: readonly Service[] = [
  {
    id: 'web',
    name: 'Web',
    entries: [
      { proto: 'tcp', from: 80, to: 80 },
      { proto: 'tcp', from: 443, to: 443 },
    ],
  },
  { id: 'https', name: 'HTTPS', entries: [{ proto: 'tcp', from: 443, to: 443 }] },
  {
    id: 'dns',
    name: 'DNS',
    entries: [
      { proto: 'udp', from: 53, to: 53 },
      { proto: 'tcp', from: 53, to: 53 },
    ],
  },
  { id: 'ntp', name: 'Time', entries: [{ proto: 'udp', from: 123, to: 123 }] },
  { id: 'files', name: 'Files', entries: [{ proto: 'tcp', from: 445, to: 445 }] },
  { id: 'ssh', name: 'SSH', entries: [{ proto: 'tcp', from: 22, to: 22 }] },
  { id: 'ping', name: 'Ping', entries: [{ proto: 'icmp', from: 0, to: 0 }] },
]

const CLOUD = 'internet'

/** A plan with nothing in it but the internet and the usual services. */
export function blankPlan(name: string, supernet: string): Plan {
  return {
    format: PLAN_FORMAT,
    version: PLAN_VERSION,
    site: { ...BLANK_SITE, name, supernet },
    brief: BLANK_BRIEF,
    models: [],
    templates: [],
    networks: [],
    devices: [
      {
        id: CLOUD,
        name: 'Internet',
        kind: 'cloud',
        model: '',
        place: 'outside',
        homeNetworkId: null,
        count: 1,
        mains: false,
        stpPriority: null,
        ports: [],
      },
    ],
    links: [],
    ssids: [],
    wifi: BLANK_WIFI,
    work: BLANK_WORK,
    uplinks: [],
    services: USUAL_SERVICES,
    groups: [],
    schedules: [],
    policies: [],
    routes: [],
    policyRoutes: [],
    forwards: [],
    tunnels: [],
    ipsec: [],
    intents: [],
  }
}

export interface NewDevice {
  readonly name: string
  readonly kind: Device['kind']
  readonly model: string
  readonly place: string
  readonly homeNetworkId: string | null
  readonly count: number
}

/** `Laboratory AP 3` -> laboratory-ap-3. */
const slugOf = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-|-$/g, '')
    .slice(0, 40) || 'device'

function portsFor(plan: Plan, { kind, count, homeNetworkId, model }: NewDevice): Port[] {
  if (kind === 'hosts') return plainPorts(count)
  const vlan = plan.networks.find((n) => n.id === homeNetworkId)?.vlan ?? plan.networks[0]?.vlan ?? 1
  const made = portsOfModel(plan, model, kind, vlan)
  return made.length > 0 ? made : portsOfKind(kind, vlan)
}

/**
 * Adds a device with the ports of its model.
 * A gateway comes with rules that let nothing through.
 * Problems: no-name, name-taken.
 */
export function addDevice(
  plan: Plan,
  wanted: NewDevice,
): Result<{ readonly plan: Plan; readonly id: string }> {
  const name = wanted.name.trim()
  if (name === '' || name.length > 60) return refuse(problem('no-name', 'name'))
  if (plan.devices.some((d) => isSameName(d.name, name)))
    return refuse(problem('name-taken', 'name', { text: name }))
  const id = freshId(failableThings(plan), slugOf(name))
  const device: Device = {
    id,
    name,
    kind: wanted.kind,
    model: wanted.model,
    place: wanted.place,
    homeNetworkId: wanted.homeNetworkId,
    count: Math.max(1, wanted.count),
    mains: false,
    stpPriority: null,
    ports: portsFor(plan, wanted),
  }
  const isFirst = wanted.kind === 'gateway' && !plan.devices.some((d) => d.kind === 'gateway')
  return ok({
    id,
    plan: {
      ...plan,
      devices: [...plan.devices, device],
      policies:
        wanted.kind === 'gateway'
          ? [...plan.policies, { deviceId: id, forward: 'drop', input: 'drop', rules: [], pairs: [] }]
          : plan.policies,
      // Networks that were planned before there was a gateway are on the first one.
      networks: isFirst
        ? plan.networks.map((count) =>
            plan.devices.some((d) => d.id === count.routerId) ? count : { ...count, routerId: id },
          )
        : plan.networks,
    },
  })
}

/**
 * Takes a device out, with its cables, its uplinks and its place in lists.
 * Its fixed addresses stay, as nobody's.
 */
export function removeDevice(plan: Plan, deviceId: DeviceId): Plan {
  const off = (ref: PortRef) => ref.deviceId === deviceId
  return {
    ...plan,
    devices: plan.devices.filter((d) => d.id !== deviceId),
    links: plan.links.filter((l) => !off(l.a) && !off(l.b)),
    ssids: plan.ssids.map((s) => ({ ...s, apIds: s.apIds.filter((id) => id !== deviceId) })),
    wifi: {
      radios: plan.wifi.radios.filter((radio) => radio.deviceId !== deviceId),
      placements: plan.wifi.placements.filter((placement) => placement.deviceId !== deviceId),
      foreign: plan.wifi.foreign.filter((heard) => heard.deviceId !== deviceId),
    },
    uplinks: plan.uplinks.filter((u) => u.deviceId !== deviceId),
    policies: plan.policies.filter((p) => p.deviceId !== deviceId),
    routes: plan.routes.filter((r) => r.deviceId !== deviceId),
    networks: plan.networks.map((count) => ({
      ...count,
      fixed: count.fixed.map((f) => (f.deviceId === deviceId ? { ...f, deviceId: null } : f)),
    })),
    brief: {
      ...plan.brief,
      equipment: plan.brief.equipment.map((e) => (e.deviceId === deviceId ? { ...e, deviceId: null } : e)),
    },
  }
}

/** Finds a port by what people write: the device's name, then the port's. Problems: no-such-port. */
export function portNamed(plan: Plan, text: string): Result<PortRef> {
  const wanted = text.trim().toLowerCase()
  const homes = plan.devices
    .filter((d) => wanted.startsWith(`${d.name.toLowerCase()} `))
    .sort((a, b) => b.name.length - a.name.length)
  for (const device of homes) {
    const port = device.ports.find(
      (p) => p.name.toLowerCase() === wanted.slice(device.name.length + 1).trim(),
    )
    if (port) return ok({ deviceId: device.id, portId: port.id })
  }
  return refuse(problem('no-such-port', '', { text: text.slice(0, 60) }))
}

/** Lays a cable. Problems: no-such-port, same-device, port-taken with what it is connected to. */
export function connect(plan: Plan, first: PortRef, second: PortRef, medium: Medium): Result<Plan> {
  const index = indexPlan(plan)
  const problems: Problem[] = []
  for (const ref of [first, second]) {
    const device = index.devices.get(ref.deviceId)
    if (!findPort(index, ref))
      problems.push(
        problem('no-such-port', '', {
          text: `${device?.name ?? ref.deviceId} ${ref.portId.replace(/^p/, '')}`,
        }),
      )
    else if (medium.kind !== 'wifi' && index.linksAt.has(portKey(ref)))
      problems.push(problem('port-taken', '', { text: `${device?.name} ${findPort(index, ref)?.name}` }))
  }
  if (first.deviceId === second.deviceId)
    problems.push(problem('same-device', '', { text: index.devices.get(first.deviceId)?.name ?? '' }))
  if (problems.length > 0) return refuse(...problems)
  const id = freshId(
    failableThings(plan),
    `${first.deviceId}.${first.portId.replace(/^p/, '')}-${second.deviceId}.${second.portId.replace(/^p/, '')}`,
  )
  const link: Link = { id, a: first, b: second, medium, ...BLANK_LINK }
  return ok({ ...plan, links: [...plan.links, link] })
}

/** Takes a cable out. */
export function disconnect(plan: Plan, linkId: LinkId): Plan {
  return { ...plan, links: plan.links.filter((l) => l.id !== linkId) }
}

/**
 * Adds a provider's line on a port of a gateway, straight to the internet.
 * Problems: no-gateway, no-free-port.
 */
export function addUplink(plan: Plan, name: string): Result<Plan> {
  const gateway = plan.devices.find((d) => d.kind === 'gateway')
  if (!gateway) return refuse(problem('no-gateway', ''))
  const index = indexPlan(plan)
  const free = (p: Port) => !index.linksAt.has(`${gateway.id}/${p.id}`)
  const port = gateway.ports.find((p) => free(p) && p.mode.mode === 'wan') ?? gateway.ports.find(free)
  if (!port) return refuse(problem('no-free-port', '', { text: gateway.name }))
  const cloud =
    plan.devices.find((d) => d.kind === 'cloud') ?? (blankPlan('', '10.0.0.0/8').devices[0] as Device)
  const socket: Port = {
    id: freshId(cloud.ports, 'p1'),
    name: String(cloud.ports.length + 1),
    mode: { mode: 'plain' },
    ...BLANK_PORT,
  }
  const uplink: Uplink = {
    id: freshId(failableThings(plan), slugOf(name)),
    name,
    deviceId: gateway.id,
    portId: port.id,
    kind: 'dhcp',
    tag: null,
    priority: plan.uplinks.length + 1,
    outside: 'own',
    downMbps: 0,
    upMbps: 0,
    ...BLANK_UPLINK,
    facts: BLANK_FACTS,
  }
  const link: Link = {
    id: freshId(failableThings(plan), `line-${uplink.id}`),
    a: { deviceId: cloud.id, portId: socket.id },
    b: { deviceId: gateway.id, portId: port.id },
    medium: { kind: 'line' },
    ...BLANK_LINK,
  }
  const others = plan.devices.filter((d) => d.id !== cloud.id)
  return ok({
    ...plan,
    uplinks: [...plan.uplinks, uplink],
    links: [...plan.links, link],
    devices: [
      { ...cloud, ports: [...cloud.ports, socket] },
      ...others.map((device) =>
        device.id === gateway.id
          ? {
              ...device,
              ports: device.ports.map((other) =>
                other.id === port.id ? { ...other, mode: { mode: 'wan' as const } } : other,
              ),
            }
          : device,
      ),
    ],
  })
}

/** Takes a line out, with its cable where that leads straight to the internet. */
export function removeUplink(plan: Plan, uplinkId: UplinkId): Plan {
  const uplink = plan.uplinks.find((u) => u.id === uplinkId)
  if (!uplink) return plan
  const isItsOwn = (link: Link) =>
    link.medium.kind === 'line' &&
    [link.a, link.b].some((r) => r.deviceId === uplink.deviceId && r.portId === uplink.portId)
  return {
    ...plan,
    uplinks: plan.uplinks.filter((u) => u.id !== uplinkId),
    links: plan.links.filter((l) => !isItsOwn(l)),
  }
}
