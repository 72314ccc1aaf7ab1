// Question: of two devices that are joined over Wi-Fi, which one sends the SSID, and which one has joined it?
// Method: an access point sends, an extender joins access points, and whatever else joins both. Of two access points
// the link's second end joins the first; of two extenders the one joins that is reached by its first port.
import type { Device, DeviceId, Link, Plan, PortRef, SsidId } from '#core/schema'
import { farEnd } from './lookup'

type DeviceOf = (id: DeviceId) => Device | undefined

const SENDERS: readonly Device['kind'][] = ['access-point', 'extender']
const farther = (device: Device | undefined): number => {
  const place = SENDERS.findIndex((kind) => kind === device?.kind)
  return place < 0 ? SENDERS.length : place
}

/** The end of a link over Wi-Fi that has joined what the other one sends. */
export function joiningEnd({ a: first, b: second }: Pick<Link, 'a' | 'b'>, deviceOf: DeviceOf): PortRef {
  const [one, other] = [deviceOf(first.deviceId), deviceOf(second.deviceId)]
  if (farther(one) !== farther(other)) return farther(one) > farther(other) ? first : second
  const isUpward = one?.kind === 'extender' && one.ports[0]?.id === first.portId
  return isUpward && other?.ports[0]?.id !== second.portId ? first : second
}

/** How an access point or an extender has joined another. */
export interface Joined {
  readonly link: Link
  readonly own: PortRef
  readonly senderId: DeviceId
  readonly ssidId: SsidId
  readonly fourAddress: boolean
}

/** Of each access point and extender that has joined another, how it has; by the first link of several. */
export function joinedLinks({
  devices,
  links,
}: Pick<Plan, 'devices' | 'links'>): ReadonlyMap<DeviceId, Joined> {
  const senders = new Map(
    devices.flatMap((device) => (SENDERS.includes(device.kind) ? [[device.id, device] as const] : [])),
  )
  const joined = new Map<DeviceId, Joined>()
  for (const link of links) {
    if (link.medium.kind !== 'wifi') continue
    const own = joiningEnd(link, (id) => senders.get(id))
    if (!senders.has(own.deviceId) || joined.has(own.deviceId)) continue
    const { ssidId, fourAddress } = link.medium
    joined.set(own.deviceId, { link, own, senderId: farEnd(link, own).deviceId, ssidId, fourAddress })
  }
  return joined
}
