// Question: which access point does each extender repeat?
// Method: whom its air leads to, an access point before another extender: what stands behind it is not what it repeats.
import { endsOf, factoryRadios } from '#core/queries'
import type { Device, DeviceId, LinkId, Plan, SsidId } from '#core/schema'

/** One extender; `from` and `ssidId` are null where it is joined to nothing. */
export interface Repeat {
  readonly deviceId: DeviceId
  readonly name: string
  readonly from: { readonly id: DeviceId; readonly name: string; readonly isExtender: boolean } | null
  readonly ssidId: SsidId | null
  /** It has joined with four-address frames, and passes tags and addresses on. */
  readonly fourAddress: boolean
  /** The link by which it is joined; null where it is joined to nothing. */
  readonly linkId: LinkId | null
  /** How many radios its model has; null where that is not known. */
  readonly radios: number | null
}

type Joined = Pick<Repeat, 'from' | 'ssidId' | 'fourAddress' | 'linkId'>
const NOT_JOINED: Joined = { from: null, ssidId: null, fourAddress: false, linkId: null }

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
      const { ssidId, fourAddress } = link.medium
      joined.set(own.id, {
        from: { id: far.id, name: far.name, isExtender },
        ssidId,
        fourAddress,
        linkId: link.id,
      })
    }
  }
  return devices.flatMap((device) => {
    if (device.kind !== 'extender') return []
    const { id, name, model } = device
    const radios = factoryRadios(model).length || null
    return [{ deviceId: id, name, radios, ...(joined.get(id) ?? NOT_JOINED) }]
  })
}
