// Question: which values does whoever does a step need before them?
// Method: by the kind of step, from the plan: addresses, ports, labels, versions; what is not known is not there.
// Source: none beyond the plan; first access as `core/adopt` has it.
import { benchLines, type BenchLine } from '#core/adopt'
import { cableSchedule, type CableLine } from '#core/cabling'
import { endsOf, modelOf, type PlanIndex } from '#core/queries'
import type { Device, DeviceId, Model } from '#core/schema'
import { groupBy } from '#core/util'
import type { Activity } from './activity'

/** What a value is; its words stand in the app. */
export type CardField =
  | 'model'
  | 'serial'
  | 'mac'
  | 'open'
  | 'laptop'
  | 'credentials'
  | 'firmware'
  | 'least-firmware'
  | 'name'
  | 'address'
  | 'gateway'
  | 'vlan'
  | 'country'
  | 'place'
  | 'cable'
  | 'cable-kind'
  | 'from'
  | 'to'
  | 'port'
  | 'speed'
  | 'assignment'
  | 'tag'
  | 'credentials-at'
  | 'mac-lock'

export interface CardValue {
  readonly field: CardField
  readonly value: string
}

/** A value of a card that is another now; null where there was none, or is none any more. */
export interface ChangedValue {
  readonly field: string
  readonly before: string | null
  readonly after: string | null
}

interface SeenValue {
  readonly field: string
  readonly value: string
}

/** What has changed of a card's values since they were seen; several of one field are told apart by their order. */
export function changedValues(before: readonly SeenValue[], after: readonly SeenValue[]): ChangedValue[] {
  const [old, now] = [before, after].map((values) => groupBy(values, ({ field }) => field))
  const fields = new Set([...after, ...before].map(({ field }) => field))
  return [...fields].flatMap((field) => {
    const [olds, news] = [old?.get(field) ?? [], now?.get(field) ?? []]
    return Array.from({ length: Math.max(olds.length, news.length) }, (_, i) => ({
      field,
      before: olds[i]?.value ?? null,
      after: news[i]?.value ?? null,
    })).filter((change) => change.before !== change.after)
  })
}

/** What a step asks to be read; null where nothing is. */
export type StepReading = 'serial' | 'version' | 'speed' | 'cable-test' | 'address' | 'wind' | null

export interface StepCard {
  readonly values: readonly CardValue[]
  /** What the lights show, and what that means. */
  readonly lights: Model['lights']
  /** First access to the device, where the step is on the bench. */
  readonly bench: BenchLine | null
  readonly reading: StepReading
}

const READINGS: Partial<Readonly<Record<Activity['kind'], StepReading>>> = {
  claim: 'serial',
  firmware: 'version',
  connect: 'speed',
  'test-cable': 'cable-test',
  'wait-uplink': 'address',
}

const listed = (values: readonly (readonly [CardField, string | null | undefined])[]): CardValue[] =>
  values.flatMap(([field, value]) => (value ? [{ field, value }] : []))

/** Its own typed address, its network's gateway and VLAN. */
function addressing({ plan }: PlanIndex, device: Device): CardValue[] {
  const network = plan.networks.find(({ id }) => id === device.homeNetworkId)
  const own = plan.networks.flatMap(({ fixed }) => fixed).find(({ deviceId }) => deviceId === device.id)
  const length = network?.subnet.split('/')[1]
  const typed = own?.how === 'static' && length !== undefined ? `${own.ip}/${length}` : own?.ip
  return listed([
    ['name', device.name],
    ['address', typed],
    ['gateway', network?.gateway],
    ['vlan', network && String(network.vlan)],
    ['country', plan.site.country],
  ])
}

const endText = ({ device, port }: CableLine['ends'][number]): string => `${device}, port ${port}`

function ofCable(index: PlanIndex, linkId: string): CardValue[] {
  const cable = cableSchedule(index).find((each) => each.linkId === linkId)
  if (!cable) return []
  const [from, to] = cable.ends
  return listed([
    ['cable', cable.label],
    ['cable-kind', `${cable.kind}, ${cable.lengthM} m, ${cable.run}`],
    ['from', endText(from)],
    ['to', endText(to)],
    ['speed', cable.mbps === null ? null : `${cable.mbps} Mb/s`],
  ])
}

/** Each cable of a device: what is written on it, and the port it goes into. */
function ofPorts(index: PlanIndex, device: Device): CardValue[] {
  const mine = index.plan.links.filter((link) => endsOf(link).some(({ deviceId }) => deviceId === device.id))
  const cables = new Map(cableSchedule(index).map((cable) => [cable.linkId, cable]))
  return mine.flatMap((link) => {
    const cable = cables.get(link.id)
    if (!cable) return []
    const isFirst = link.a.deviceId === device.id
    const [own, far] = isFirst ? cable.ends : [cable.ends[1], cable.ends[0]]
    const speed = cable.mbps === null ? '' : `, ${cable.mbps} Mb/s`
    return listed([['port', `${own.port}: ${cable.label}, from ${endText(far)}${speed}`]])
  })
}

function ofUplink({ plan }: PlanIndex, uplinkId: string): CardValue[] {
  const uplink = plan.uplinks.find(({ id }) => id === uplinkId)
  if (!uplink) return []
  const device = plan.devices.find(({ id }) => id === uplink.deviceId)
  const port = device?.ports.find(({ id }) => id === uplink.portId)
  const { facts } = uplink
  return listed([
    ['port', device && port ? `${device.name}, port ${port.name}` : null],
    ['assignment', uplink.kind],
    ['tag', uplink.tag === null ? null : String(uplink.tag)],
    ['credentials-at', facts.credentialsAt],
    ['address', facts.address],
    ['gateway', facts.gateway],
    ['mac-lock', facts.macLock === 'no' ? null : facts.macLock && (facts.lockedMac ?? facts.macLock)],
  ])
}

type OfDevice = (index: PlanIndex, device: Device) => CardValue[]

const label: OfDevice = ({ plan }, { id, model }) => {
  const box = plan.brief.equipment.find(({ deviceId }) => deviceId === id)
  return listed([
    ['model', model],
    ['serial', box?.serial],
    ['mac', box?.mac],
  ])
}
const place: OfDevice = (_, device) => listed([['place', device.place]])

/** What is needed of a device at each kind of step. */
const OF_DEVICE: Partial<Readonly<Record<Activity['kind'], OfDevice>>> = {
  unbox: label,
  claim: label,
  'sign-in': (index, { model }) => listed([['credentials', modelOf(index, model)?.credentials]]),
  firmware: (index, { model }) =>
    listed([
      ['firmware', modelOf(index, model)?.plannedFirmware],
      ['least-firmware', modelOf(index, model)?.minFirmware],
    ]),
  settings: addressing,
  adopt: addressing,
  label: (_, device) =>
    listed([
      ['name', device.name],
      ['place', device.place],
    ]),
  mount: place,
  bond: place,
  'place-extender': place,
  connect: ofPorts,
}

function valuesOf(index: PlanIndex, { kind, about }: Pick<Activity, 'kind' | 'about'>): CardValue[] {
  const device = index.devices.get(about)
  if (device) return OF_DEVICE[kind]?.(index, device) ?? []
  if (kind === 'connect-uplink' || kind === 'wait-uplink') return ofUplink(index, about)
  return ofCable(index, about)
}

/** Kinds of steps at which the lights are looked at. */
const LIT: readonly Activity['kind'][] = ['power', 'boot', 'firmware', 'connect']
const AT_THE_LAPTOP: readonly Activity['kind'][] = ['sign-in', 'settings']

const benchOf = (index: PlanIndex, id: DeviceId): BenchLine | null =>
  benchLines(index, () => true).find((line) => line.deviceId === id) ?? null

/** The card of a step. */
export function stepCard(index: PlanIndex, step: Pick<Activity, 'kind' | 'about' | 'limit'>): StepCard {
  const device = index.devices.get(step.about)
  const model = device && modelOf(index, device.model)
  const isWindRead = step.limit === 'daylight' && index.plan.work.windLimitMps !== null
  return {
    values: valuesOf(index, step),
    lights: LIT.includes(step.kind) ? (model?.lights ?? []) : [],
    bench: device && AT_THE_LAPTOP.includes(step.kind) ? benchOf(index, device.id) : null,
    reading: READINGS[step.kind] ?? (isWindRead ? 'wind' : null),
  }
}
