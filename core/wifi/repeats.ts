// Question: which devices have joined an access point over Wi-Fi, and what do they carry further?
// Method: extenders, joined or not, and access points that have joined another instead of being cabled.
import { joinedLinks } from '#core/queries'
import { groupBy } from '#core/util'
import type { DeviceId, LinkId, Plan, SsidId } from '#core/schema'
import { radiosOfDevice } from './device-radios'

/** One of them; `from` and `ssidId` are null where it has joined nothing. */
export interface Repeat {
  readonly deviceId: DeviceId
  readonly name: string
  readonly from: { readonly id: DeviceId; readonly name: string; readonly isExtender: boolean } | null
  readonly ssidId: SsidId | null
  /**
   * `repeater`: it sends on what it has joined, `client`: it gives it to its cables only, `bridge`: it has joined with
   * four-address frames, and passes tags and addresses on.
   */
  readonly mode: 'repeater' | 'client' | 'bridge'
  readonly isExtender: boolean
  /** The link by which it is joined; null where it is joined to nothing. */
  readonly linkId: LinkId | null
  /** How many radios it has; null where that is not known. */
  readonly radios: number | null
}

function modeOf(sendsOn: boolean, fourAddress: boolean): Repeat['mode'] {
  if (fourAddress) return 'bridge'
  return sendsOn ? 'repeater' : 'client'
}

/** Extenders and joined access points of a plan, in its order of devices. */
export function repeatsOf(plan: Plan): Repeat[] {
  const byId = new Map(plan.devices.map((device) => [device.id, device]))
  const joined = joinedLinks(plan)
  const typed = groupBy(plan.wifi.radios, ({ deviceId }) => deviceId)
  return plan.devices.flatMap((device): Repeat[] => {
    const { id, name, kind } = device
    const isExtender = kind === 'extender'
    const own = joined.get(id)
    if (!isExtender && !own) return []
    const far = own && byId.get(own.senderId)
    const sendsOn = isExtender || plan.ssids.some(({ apIds }) => apIds.includes(id))
    return [
      {
        deviceId: id,
        name,
        isExtender,
        mode: modeOf(sendsOn, own?.fourAddress ?? false),
        from: far ? { id: far.id, name: far.name, isExtender: far.kind === 'extender' } : null,
        ssidId: own?.ssidId ?? null,
        linkId: own?.link.id ?? null,
        radios: radiosOfDevice(device, typed.get(id) ?? []).length || null,
      },
    ]
  })
}
