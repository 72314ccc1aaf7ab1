// Question: which access point does each extender repeat?
// Method: whom its air leads to, an access point before another extender: what stands behind it is not what it repeats.
import { endsOf } from '#core/queries'
import type { Device, DeviceId, Plan, SsidId } from '#core/schema'

/** One extender; `from` and `ssidId` are null where it is joined to nothing. */
export interface Repeat {
  readonly deviceId: DeviceId
  readonly name: string
  readonly from: { readonly id: DeviceId; readonly name: string; readonly isExtender: boolean } | null
  readonly ssidId: SsidId | null
}

type Joined = Pick<Repeat, 'from' | 'ssidId'>

/** Every extender of a plan, in its order. */
export function repeatsOf({ devices, links }: Plan): Repeat[] {
  const sending = new Map(
    devices.flatMap((device): [DeviceId, Device][] =>
      device.kind === 'access-point' || device.kind === 'extender' ? [[device.id, device]] : [],
    ),
  )
  const joined = new Map<DeviceId, Joined>()
  for (const link of links) {
    if (link.medium.kind !== 'wifi') continue
    const [first, second] = endsOf(link).map(({ deviceId }) => sending.get(deviceId))
    if (!first || !second) continue
    for (const [own, far] of [
      [first, second],
      [second, first],
    ] as const) {
      const isExtender = far.kind === 'extender'
      if (joined.get(own.id)?.from && isExtender) continue
      joined.set(own.id, { from: { id: far.id, name: far.name, isExtender }, ssidId: link.medium.ssidId })
    }
  }
  return devices.flatMap(({ id, name, kind }) =>
    kind === 'extender' ? [{ deviceId: id, name, ...(joined.get(id) ?? { from: null, ssidId: null }) }] : [],
  )
}
