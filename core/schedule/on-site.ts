// Question: what is done at the places of a site, and in which order?
// Method: cables before what hangs on them, outdoors by daylight, devices connected from the gateway outwards.
// Source: common practice, without a published source; who may bond and protect is for local codes to say.
import { hasTrait, isRadio } from '#core/queries'
import type { Device, DeviceId, Link, Skill } from '#core/schema'
import type { Activity } from './activity'
import { activityId, type Maker } from './draft'

/** Up to this length a cable is a cord that is plugged, not pulled, m. */
const CORD_M = 5
/** Metres of cable that are pulled in the time of one usual activity (common practice). */
const METRES_A_PULL = 20

const cableOf = ({ medium }: Link) => (medium.kind === 'copper' || medium.kind === 'fibre' ? medium : null)

const isPulled = (link: Link): boolean => (cableOf(link)?.lengthM ?? 0) > CORD_M

const isMounted = (device: Device): boolean => hasTrait(device, 'mounted')

/** Radios of bridges, and access points that hang outdoors. */
const isOutdoors = ({ index }: Maker, device: Device): boolean =>
  device.kind === 'bridge-radio' ||
  index.plan.wifi.placements.some(({ deviceId, outdoors }) => deviceId === device.id && outdoors)

/** Copper that leaves a building brings lightning in with it: both ends are protected. */
const isBonded = (link: Link): boolean =>
  link.medium.kind === 'copper' && link.medium.run !== 'indoor' && isPulled(link)

/** Radios hang high, so that they are heard (common practice). */
const isHigh = (device: Device): boolean => isMounted(device) && isRadio(device)

function cableActivities({ make, index }: Maker): Activity[] {
  return index.plan.links.filter(isPulled).flatMap((link) => {
    const cable = cableOf(link)
    const limit = cable?.run === 'indoor' ? 'any' : 'daylight'
    const times = Math.max(1, Math.ceil((cable?.lengthM ?? 0) / METRES_A_PULL))
    const at = { deviceId: link.a.deviceId }
    return [
      make('pull', link.id, ['order'], { ...at, times, limit }),
      make('test-cable', link.id, [activityId('pull', link.id), 'print'], at),
      ...(isBonded(link) ? [make('bond', link.id, [activityId('pull', link.id)], at)] : []),
    ]
  })
}

/** The neighbour of each device that is nearer to a gateway, over cables and radio links. */
export function towardsGateway({ index }: Maker): ReadonlyMap<DeviceId, DeviceId> {
  const { devices, links } = index.plan
  const near = new Map<DeviceId, DeviceId[]>()
  for (const link of links) {
    if (link.medium.kind === 'wifi' || link.medium.kind === 'line') continue
    const [first, second] = [link.a.deviceId, link.b.deviceId]
    near.set(first, [...(near.get(first) ?? []), second])
    near.set(second, [...(near.get(second) ?? []), first])
  }
  const parent = new Map<DeviceId, DeviceId>()
  const queue = devices.filter(({ kind }) => kind === 'gateway').map(({ id }) => id)
  const seen = new Set(queue)
  for (let id = queue.shift(); id !== undefined; id = queue.shift())
    for (const next of near.get(id) ?? []) {
      if (seen.has(next)) continue
      seen.add(next)
      parent.set(next, id)
      queue.push(next)
    }
  return parent
}

/** What must have ended before a device is connected in its place. */
function beforeConnect(device: Device, links: readonly Link[], upstream: Device | undefined): string[] {
  const mine = links.filter(({ a, b }) => a.deviceId === device.id || b.deviceId === device.id)
  return [
    activityId('mount', device.id),
    ...mine.filter(isPulled).map(({ id }) => activityId('test-cable', id)),
    ...mine.filter(isBonded).map(({ id }) => activityId('bond', id)),
    ...(upstream && isMounted(upstream) ? [activityId('connect', upstream.id)] : []),
  ]
}

function deviceActivities(maker: Maker): Activity[] {
  const { make, index } = maker
  const { devices, links } = index.plan
  const parent = towardsGateway(maker)
  /** A device behind an injector has its own address before the injector's network side is plugged. */
  const fedBy = ({ id, kind }: Device) =>
    kind === 'injector'
      ? devices.filter((fed) => parent.get(fed.id) === id && hasTrait(fed, 'configured'))
      : []
  return devices.filter(isMounted).flatMap((device) => {
    const outdoors = isOutdoors(maker, device)
    const limit = outdoors ? 'daylight' : 'any'
    const skills: readonly Skill[] = isHigh(device) ? ['height'] : []
    const at = { deviceId: device.id, limit, skills } as const
    const upstream = index.devices.get(parent.get(device.id) ?? '')
    const before = [
      ...beforeConnect(device, links, upstream),
      ...fedBy(device).map(({ id }) => activityId('settings', id)),
    ]
    return [
      make('mount', device.id, hasTrait(device, 'configured') ? [activityId('label', device.id)] : [], at),
      ...(outdoors
        ? [make('bond', device.id, [activityId('mount', device.id)], { deviceId: device.id, limit })]
        : []),
      make('connect', device.id, outdoors ? [...before, activityId('bond', device.id)] : before, at),
    ]
  })
}

/** Both ends of each radio link, once both have power: who turns one end hears what the other reads. */
function aimActivities({ make, index }: Maker): Activity[] {
  return index.plan.links
    .filter(({ medium }) => medium.kind === 'radio')
    .flatMap((link) => {
      const both = [activityId('connect', link.a.deviceId), activityId('connect', link.b.deviceId)]
      return (['a', 'b'] as const).map((end) =>
        make('aim', `${link.id}:${end}`, both, { deviceId: link[end].deviceId, limit: 'daylight' }),
      )
    })
}

function extenderActivities({ make, index }: Maker): Activity[] {
  return index.plan.devices
    .filter(({ kind }) => kind === 'extender')
    .map(({ id }) => make('place-extender', id, [activityId('label', id)], { deviceId: id }))
}

/** Activities at the places of the site. */
export const siteActivities = (maker: Maker): Activity[] => [
  ...cableActivities(maker),
  ...deviceActivities(maker),
  ...aimActivities(maker),
  ...extenderActivities(maker),
]
