import { addDevice, connect, joinSsid, portNamed, setJoined, setSent, type Sender } from '#core/edit'
import { fitPorts } from '#core/layer2'
import { powerOf, roomForMore, standardLoad } from '#core/power'
import { portKey, type PlanIndex } from '#core/queries'
import type { Device, Medium, Model, Plan } from '#core/schema'
import { ok, problem, refuse, type Result } from '#core/util'
import { CABLES, cableNames } from './port-columns'
import { roomWords } from '~/wording/power'
import { senderChoices } from '~/wording/senders'

// A device more, and where its first cable goes: what somebody says of it, and the plan that is made of that.

/** What is said of a device, as typed. */
export interface NewDevice {
  name: string
  kind: Device['kind']
  model: string
  place: string
  homeNetworkId: string
  count: string
  /** Its own port, and the far one by its device's and its own name. */
  own: string
  far: string
  cable: string
  lengthM: string
  /** SSID that hosts join, or who sends it and the SSID for what sends it on; empty for none. */
  joins: string
  /** SSIDs that an access point sends. */
  sends: string[]
}

export const blankDevice = (): NewDevice => ({
  name: '',
  kind: 'switch',
  model: '',
  place: '',
  homeNetworkId: '',
  count: '1',
  own: '',
  far: '',
  cable: 'Cat6',
  lengthM: '5',
  joins: '',
  sends: [],
})

/** No device has this id yet. */
const NEW = ''
const senderText = ({ deviceId, ssidId }: Sender): string => `${deviceId} ${ssidId}`

/** Free ports that are offered at most. */
const MOST_PORTS = 2000
/** Sources of power whose room is told at most. */
const MOST_SOURCES = 4

/** Places that the plan knows by name. */
export const placesOf = ({ devices, brief }: Plan): string[] =>
  [
    ...new Set([
      ...devices.map(({ place }) => place),
      ...[...brief.rooms, ...brief.buildings].map(({ name }) => name),
    ]),
  ].filter((place) => place !== '' && place !== 'outside')

/** Ports without a cable, by name. */
export function freePortNames({ devices, links }: Plan): string[] {
  const taken = new Set(links.flatMap(({ a, b }) => [portKey(a), portKey(b)]))
  return devices
    .flatMap((device) =>
      device.ports
        .filter(({ id }) => !taken.has(portKey({ deviceId: device.id, portId: id })))
        .map((port) => `${device.name} ${port.name}`),
    )
    .slice(0, MOST_PORTS)
}

/** How many more of it the source takes that its cable is to come from; where none is named, every source. */
export function roomsLeft(index: PlanIndex, { model, far }: NewDevice, models: readonly Model[]): string[] {
  const known = models.find(({ name }) => name === model)
  const load = known && standardLoad(known)
  if (!load) return []
  const all = powerOf(index).sources.map((source) => {
    const name = index.devices.get(source.deviceId)?.name ?? source.deviceId
    const room = roomForMore(index, source, load, index.plan.site.poeHeadroomPct)
    return { name, words: `${name}: ${roomWords(model, room)}` }
  })
  const chosen = all.filter(({ name }) => far.startsWith(`${name} `))
  return (chosen.length > 0 ? chosen : all).slice(0, MOST_SOURCES).map(({ words }) => words)
}

/** Of these some have no cable: they join an SSID. */
const JOINING: readonly Device['kind'][] = ['hosts', 'extender', 'access-point']
export const joinsAir = ({ kind, joins }: NewDevice): boolean => JOINING.includes(kind) && joins !== ''

/** What a new device of a kind could join, as it is chosen. */
export function joinChoices(plan: Plan, kind: Device['kind']): { value: string; title: string }[] {
  if (kind === 'hosts') return plan.ssids.map(({ id, name }) => ({ value: id, title: name }))
  if (!JOINING.includes(kind)) return []
  return senderChoices(plan, { id: NEW, kind }).map(({ title, ...sender }) => ({
    value: senderText(sender),
    title,
  }))
}

/** Hosts join their SSID, an extender what is sent; an access point sends the SSIDs that are chosen. */
function onAir(plan: Plan, id: string, device: NewDevice): Result<Plan> {
  if (device.kind === 'hosts') return joinsAir(device) ? joinSsid(plan, id, device.joins) : ok(plan)
  const sent = device.kind === 'access-point' ? setSent(plan, id, device.sends) : ok(plan)
  if (!sent.ok || !joinsAir(device)) return sent
  const to = senderChoices(sent.value, { id, kind: device.kind }).find(
    (sender) => senderText(sender) === device.joins,
  )
  return setJoined(sent.value, id, to ?? null)
}

/** The first cable of a new device, where one is named. */
function cabled(plan: Plan, id: string, device: NewDevice): Result<Plan> {
  if (device.far.trim() === '' || joinsAir(device)) return ok(plan)
  const far = portNamed(plan, device.far)
  if (!far.ok) return far
  const ports = plan.devices.find((each) => each.id === id)?.ports ?? []
  const own = ports.find((port) => port.name === device.own.trim()) ?? ports[0]
  const kind = CABLES[cableNames.indexOf(device.cable)]
  if (!own || !kind) return refuse(problem('no-such-port', '', { text: `${device.name} ${device.own}` }))
  const medium = { ...kind, lengthM: Number(device.lengthM) || 0 } as Medium
  return connect(plan, far.value, { deviceId: id, portId: own.id }, medium)
}

/** The plan with the device and its first cable, and the ports of both ends fitted; both are laid, or neither is. */
export function makeDevice(
  plan: Plan,
  device: NewDevice,
): Result<{ readonly plan: Plan; readonly id: string }> {
  const added = addDevice(plan, {
    name: device.name,
    kind: device.kind,
    model: device.model,
    place: device.place,
    homeNetworkId: device.homeNetworkId || null,
    count: device.kind === 'hosts' ? Number(device.count) || 1 : 1,
  })
  if (!added.ok) return added
  const { id } = added.value
  const aired = onAir(added.value.plan, id, device)
  const laid = aired.ok ? cabled(aired.value, id, device) : aired
  return laid.ok ? ok({ plan: fitPorts(laid.value, id), id }) : laid
}
