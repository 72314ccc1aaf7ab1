// Question: which hosts does client isolation keep apart?
// Method: each access point that a host, or what it hangs on, is a station of; two that are stations of one are apart.
import { defineStage, farEnd, joinedLinks, modelOf, portKey, type PlanIndex } from '#core/queries'
import type { Device, DeviceId, Link, PortId } from '#core/schema'

/** An access point that isolates its stations, and how far it keeps them apart. */
export interface Isolation {
  readonly apId: DeviceId
  readonly scope: 'access-point' | 'network'
  /** The extender or access point that is its station, where it is not the host itself. */
  readonly via: DeviceId | null
}

const joinedIn = defineStage('devices joined over Wi-Fi', ({ plan }) => joinedLinks(plan))

/** What one link over Wi-Fi means to whoever has joined by it; null where its SSID does not isolate. */
function isolationBy(index: PlanIndex, { medium }: Link, apId: DeviceId): Omit<Isolation, 'via'> | null {
  if (medium.kind !== 'wifi' || !index.ssids.get(medium.ssidId)?.isolation) return null
  const model = modelOf(index, index.devices.get(apId)?.model ?? '')
  // What is not known of a model is not promised.
  return { apId, scope: model?.isolation ?? 'access-point' }
}

/** Access points that a device has joined one after the other, each of which takes it for one station. */
function isolationsOver(index: PlanIndex, deviceId: DeviceId): Isolation[] {
  const joined = index.get(joinedIn)
  const found: Isolation[] = []
  const seen = new Set<DeviceId>()
  let via: DeviceId = deviceId
  for (let own = joined.get(via); own && !seen.has(via); own = joined.get(via)) {
    seen.add(via)
    // With four-address frames it is a bridge, and no station; nobody promises that it is kept apart.
    const isolation = own.fourAddress ? null : isolationBy(index, own.link, own.senderId)
    if (isolation) found.push({ ...isolation, via })
    via = own.senderId
  }
  return found
}

/** Of a host on a cable what its neighbour has joined counts: an extender, or an access point without a cable. */
export function isolationsAt(index: PlanIndex, device: Device, portId: PortId): Isolation[] {
  const socket = { deviceId: device.id, portId }
  for (const link of index.linksAt.get(portKey(socket)) ?? []) {
    const { deviceId } = farEnd(link, socket)
    const own = isolationBy(index, link, deviceId)
    const found = [...(own ? [{ ...own, via: null }] : []), ...isolationsOver(index, deviceId)]
    if (found.length > 0) return found
  }
  return []
}

/**
 * True where client isolation keeps two hosts apart: at one access point whatever their SSIDs are, across several
 * where one of the two sees to that. Two that are behind the same extender meet there, and not at its access point.
 * Source: makers differ in how far it reaches (common practice, no source).
 */
export function isKeptApart(first: readonly Isolation[], second: readonly Isolation[]): boolean {
  const unshared = (one: readonly Isolation[], other: readonly Isolation[]) =>
    one.filter(
      ({ apId, via }) => !other.some((same) => via !== null && same.apId === apId && same.via === via),
    )
  const [ones, others] = [unshared(first, second), unshared(second, first)]
  return ones.some((one) =>
    others.some((other) => one.apId === other.apId || one.scope === 'network' || other.scope === 'network'),
  )
}
