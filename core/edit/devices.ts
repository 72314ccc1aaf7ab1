// Question: what changes with a device that is called otherwise, is of another model, or is moved to another network
// or SSID?
// Method: each step gives the whole plan anew, or says why it cannot be done; what is connected stays connected.
// Source: the plan's own semantics; no figures used. A group of stations has one socket for each access point
// that they may join.
import { failableThings, indexPlan, modelOf, portKey } from '#core/queries'
import type { Device, DeviceId, Link, NetworkId, Plan, PortRef, Ssid, SsidId } from '#core/schema'
import { isSameName, ok, problem, refuse, type Result } from '#core/util'
import { BLANK_LINK } from './blanks'
import { plainPorts, portsOfModel } from './bulk'
import { extendersWith, joinedTo, joinSender, sendingPort, withoutUnsent, type Sender } from './join'
import { firstFreeAddress, freshId, takenAddresses, usualHome } from './propose'

const withDevice = (plan: Plan, deviceId: DeviceId, change: Partial<Device>): Plan => ({
  ...plan,
  devices: plan.devices.map((device) => (device.id === deviceId ? { ...device, ...change } : device)),
})

/** Ids of a device's ports that a cable, a radio or an uplink uses. */
function portsInUse(plan: Plan, deviceId: DeviceId): Set<string> {
  const ends = plan.links.flatMap(({ a, b }) => [a, b]).filter((ref) => ref.deviceId === deviceId)
  const lines = plan.uplinks.filter((uplink) => uplink.deviceId === deviceId)
  return new Set([...ends, ...lines].map(({ portId }) => portId))
}

const found = (plan: Plan, deviceId: DeviceId): Result<Device> => {
  const device = plan.devices.find(({ id }) => id === deviceId)
  return device ? ok(device) : refuse(problem('no-such-device', deviceId, { text: deviceId }))
}

/** Problems: no-such-device, no-name, name-taken. */
export function renameDevice(plan: Plan, deviceId: DeviceId, text: string): Result<Plan> {
  const device = found(plan, deviceId)
  if (!device.ok) return device
  const name = text.trim()
  if (name === '' || name.length > 60) return refuse(problem('no-name', ''))
  const same = (other: Device) => isSameName(other.name, name)
  if (plan.devices.some((other) => other.id !== deviceId && same(other)))
    return refuse(problem('name-taken', '', { text: name }))
  return ok(withDevice(plan, deviceId, { name }))
}

/**
 * Gives a device another model with that model's ports; a port of the same name keeps all that is set on it.
 * Problems: no-such-device, not-a-choice, ports-in-use with those that the model does not have.
 * @param modelName empty for not known, which leaves the ports as they are
 */
export function setModel(plan: Plan, deviceId: DeviceId, modelName: string): Result<Plan> {
  const device = found(plan, deviceId)
  if (!device.ok) return device
  const { kind, homeNetworkId, ports } = device.value
  if (modelName === '' || kind === 'hosts') return ok(withDevice(plan, deviceId, { model: modelName }))
  if (modelOf(indexPlan(plan), modelName)?.kind !== kind)
    return refuse(problem('not-a-choice', '', { text: modelName, choices: `models of ${kind}` }))
  const vlan = (plan.networks.find(({ id }) => id === homeNetworkId) ?? plan.networks[0])?.vlan ?? 1
  const made = portsOfModel(plan, modelName, kind, vlan)
  const used = portsInUse(plan, deviceId)
  const lost = ports.filter(({ id, name }) => used.has(id) && !made.some((port) => port.name === name))
  if (lost.length > 0)
    return refuse(
      problem('ports-in-use', '', { text: modelName, ports: lost.map(({ name }) => name).join(', ') }),
    )
  const kept = made.map((port) => ports.find(({ name }) => name === port.name) ?? port)
  return ok(withDevice(plan, deviceId, { model: modelName, ports: kept }))
}

const endsAt = ({ a: first, b: second }: Link, deviceId: DeviceId): boolean =>
  first.deviceId === deviceId || second.deviceId === deviceId

/** Stations of a group join by radio, and need no socket each. */
const isOnAir = (plan: Plan, deviceId: DeviceId): boolean =>
  plan.links.some((link) => link.medium.kind === 'wifi' && endsAt(link, deviceId))

/**
 * How many hosts a group stands for; on cables each has a socket, which goes where it is free.
 * Problems: no-such-device, ports-in-use where more cables lead to it.
 */
export function setCount(plan: Plan, deviceId: DeviceId, count: number): Result<Plan> {
  const device = found(plan, deviceId)
  if (!device.ok) return device
  if (isOnAir(plan, deviceId)) return ok(withDevice(plan, deviceId, { count }))
  const used = portsInUse(plan, deviceId)
  const { ports } = device.value
  const wanted = plainPorts(count)
  const kept = ports.filter(({ id }) => used.has(id))
  if (kept.length > wanted.length)
    return refuse(
      problem('ports-in-use', '', { text: String(count), ports: kept.map(({ name }) => name).join(', ') }),
    )
  const spare = [...ports, ...wanted].filter(
    ({ id }, i, all) => !used.has(id) && all.findIndex((other) => other.id === id) === i,
  )
  const chosen = new Set([...kept, ...spare.slice(0, wanted.length - kept.length)].map(({ id }) => id))
  const all = [...ports, ...wanted.filter(({ id }) => !ports.some((port) => port.id === id))]
  return ok(withDevice(plan, deviceId, { count, ports: all.filter(({ id }) => chosen.has(id)) }))
}

/**
 * Moves a device into another network, or into none; the addresses that it has for good are given anew there.
 * Problems: no-such-device, no-such-network, no-room.
 */
export function setHome(plan: Plan, deviceId: DeviceId, networkId: NetworkId | null): Result<Plan> {
  const device = found(plan, deviceId)
  if (!device.ok) return device
  const home = plan.networks.find(({ id }) => id === networkId)
  if (networkId !== null && !home) return refuse(problem('no-such-network', networkId))
  const was = device.value.homeNetworkId
  const moving = plan.networks
    .filter(({ id }) => id === was && id !== networkId)
    .flatMap(({ fixed }) => fixed.filter((assignment) => assignment.deviceId === deviceId))
  let now = withDevice(plan, deviceId, { homeNetworkId: networkId })
  now = {
    ...now,
    networks: now.networks.map((network) => ({
      ...network,
      fixed: network.fixed.filter((assignment) => !moving.includes(assignment)),
    })),
  }
  for (const assignment of home ? moving : []) {
    const target = now.networks.find(({ id }) => id === networkId)
    const ip = target && firstFreeAddress(target, takenAddresses(now))
    if (!target || ip === null || ip === undefined)
      return refuse(problem('no-room', '', { block: home?.subnet ?? '' }))
    const id = freshId(target.fixed, assignment.id)
    const fixed = [...target.fixed, { ...assignment, id, ip, mask: null, gateway: null, ip6: null }]
    now = {
      ...now,
      networks: now.networks.map((network) => (network === target ? { ...target, fixed } : network)),
    }
  }
  return ok(now)
}

/** A radio port of each access point that sends an SSID, and of each extender that sends it on. */
const radiosOf = (plan: Plan, { id, apIds }: Ssid): PortRef[] =>
  [...plan.devices.filter((device) => apIds.includes(device.id)), ...extendersWith(plan, id)].flatMap(
    (device) => sendingPort(plan, device) ?? [],
  )

/** The SSID that a group of stations is on; undefined where it is on none. */
export const ssidOf = (plan: Plan, deviceId: DeviceId): SsidId | undefined =>
  plan.links
    .filter((link) => endsAt(link, deviceId))
    .flatMap(({ medium }) => (medium.kind === 'wifi' ? [medium.ssidId] : []))[0]

/** A group of hosts without what it has by radio. */
function offAir(plan: Plan, deviceId: DeviceId): Plan {
  const isOwn = (link: Link) => link.medium.kind === 'wifi' && endsAt(link, deviceId)
  return { ...plan, links: plan.links.filter((link) => !isOwn(link)) }
}

/**
 * A group of hosts joins an SSID, at every access point that sends it, and is in its network then; null takes it
 * off the air.
 * Problems: no-such-device, no-such-ssid, no-radio where no access point sends it, ports-in-use where cables
 * lead to the group.
 */
export function joinSsid(plan: Plan, deviceId: DeviceId, ssidId: SsidId | null): Result<Plan> {
  const device = found(plan, deviceId)
  if (!device.ok) return device
  const off = offAir(plan, deviceId)
  const { count, name } = device.value
  if (ssidId === null) return ok(withDevice(off, deviceId, { ports: plainPorts(count) }))
  const ssid = plan.ssids.find(({ id }) => id === ssidId)
  if (!ssid) return refuse(problem('no-such-ssid', '', { text: ssidId }))
  const used = portsInUse(off, deviceId)
  if (used.size > 0) {
    const ports = device.value.ports.filter(({ id }) => used.has(id)).map((port) => port.name)
    return refuse(problem('ports-in-use', '', { text: ssid.name, ports: ports.join(', ') }))
  }
  const radios = radiosOf(off, ssid)
  if (radios.length === 0) return refuse(problem('no-radio', '', { text: ssid.name, name }))
  const home = setHome(off, deviceId, ssid.networkId)
  if (!home.ok) return home
  const sockets = plainPorts(Math.min(radios.length, count))
  return ok(stationLinks(withDevice(home.value, deviceId, { ports: sockets }), deviceId, ssid, radios))
}

function stationLinks(plan: Plan, deviceId: DeviceId, ssid: Ssid, radios: readonly PortRef[]): Plan {
  const sockets = plan.devices.find(({ id }) => id === deviceId)?.ports ?? []
  const links = [...plan.links]
  for (const [i, socket] of sockets.entries()) {
    const radio = radios[i]
    if (!radio) break
    const own = { deviceId, portId: socket.id }
    const id = freshId(
      failableThings({ ...plan, links }),
      `${portKey(radio)}-${portKey(own)}`.replaceAll('/', '.'),
    )
    links.push({
      id,
      a: radio,
      b: own,
      medium: { kind: 'wifi', ssidId: ssid.id, fourAddress: false, suffix: '' },
      ...BLANK_LINK,
    })
  }
  return { ...plan, links }
}

/** Stations of an SSID join where it is sent now; where nobody sends it they have no way in, which is a finding. */
function rejoined(plan: Plan, ssidId: SsidId): Plan {
  const stations = plan.devices.filter(({ id, kind }) => kind === 'hosts' && ssidOf(plan, id) === ssidId)
  return stations.reduce((now, { id }) => {
    const joined = joinSsid(now, id, ssidId)
    return joined.ok ? joined.value : offAir(now, id)
  }, plan)
}

/**
 * An extender or an access point joins what another one sends instead of being on a cable, or nothing any more. It is
 * reached in the SSID's network then, in its usual one else; stations of an SSID that it sends on join anew.
 * Problems: those of `joinSender` and `setHome`.
 */
export function setJoined(plan: Plan, deviceId: DeviceId, to: Sender | null): Result<Plan> {
  const device = found(plan, deviceId)
  if (!device.ok) return device
  const before = joinedTo(plan, deviceId)
  const joined = joinSender(plan, deviceId, to)
  if (!joined.ok || (!before && !to)) return joined
  const ssid = plan.ssids.find(({ id }) => id === to?.ssidId)
  const home = setHome(joined.value, deviceId, ssid?.networkId ?? usualHome(plan, device.value.kind))
  if (!home.ok || device.value.kind !== 'extender') return home
  const ssidIds = new Set([before?.ssidId, to?.ssidId].flatMap((id) => id ?? []))
  return ok([...ssidIds].reduce(rejoined, home.value))
}

/** Which access points send an SSID; who has joined it is where it is sent now. Problems: no-such-ssid. */
export function setSenders(plan: Plan, ssidId: SsidId, apIds: readonly DeviceId[]): Result<Plan> {
  if (!plan.ssids.some(({ id }) => id === ssidId))
    return refuse(problem('no-such-ssid', '', { text: ssidId }))
  const ssids = plan.ssids.map((ssid) => (ssid.id === ssidId ? { ...ssid, apIds: [...apIds] } : ssid))
  return ok(rejoined(withoutUnsent({ ...plan, ssids }, ssidId), ssidId))
}

/** An access point sends these SSIDs and no others. Problems: those of `setSenders`. */
export function setSent(plan: Plan, apId: DeviceId, ssidIds: readonly SsidId[]): Result<Plan> {
  let sent: Result<Plan> = ok(plan)
  for (const { id, apIds } of plan.ssids) {
    const wanted = ssidIds.includes(id)
    if (!sent.ok || apIds.includes(apId) === wanted) continue
    sent = setSenders(sent.value, id, wanted ? [...apIds, apId] : apIds.filter((other) => other !== apId))
  }
  return sent
}
