// Question: which Wi-Fi radios has a plan, how are they set, and what is one permitted to send?
// Method: radios of access points and extenders; where one has joined another, its channel is that of the other.
import { groupBy } from '#core/util'
import type { AccessRadio, Device, Plan } from '#core/schema'
import { channelSpan, centreMhz, WIDTHS, type Span } from './channels'
import { radiosOfDevice, type DeviceRadio } from './device-radios'
import { isTooStrong, permissionFor, type Permission } from './regulatory'
import { repeatsOf } from './repeats'

export interface ApRadio extends DeviceRadio {
  /** Whom its device has joined in this band, and whose channel it has; null where it has its own. */
  readonly follows: string | null
  /** It sends nothing: its extender has joined nothing. */
  readonly isSilent: boolean
}

/** Radios of all access points and extenders, in the plan's order of devices and by band. */
export function apRadios(plan: Plan): ApRadio[] {
  const typed = groupBy(plan.wifi.radios, ({ deviceId }) => deviceId)
  const senders = plan.devices.filter(({ kind }) => kind === 'access-point' || kind === 'extender')
  const own = new Map(
    senders.map((device) => [device.id, radiosOfDevice(device, typed.get(device.id) ?? [])]),
  )
  const repeats = new Map(repeatsOf(plan).map((repeat) => [repeat.deviceId, repeat]))
  const bands = new Map(plan.ssids.map(({ id, settings }) => [id, settings.bands]))
  /** The radio that one follows; null where it does not. */
  const followed = ({ deviceId, band }: DeviceRadio): { radio: DeviceRadio; name: string } | null => {
    const { from, ssidId } = repeats.get(deviceId) ?? {}
    if (!from || !ssidId || !bands.get(ssidId)?.includes(band)) return null
    const radio = own.get(from.id)?.find((one) => one.band === band)
    return radio ? { radio, name: from.name } : null
  }
  /** Two that have joined each other would be followed for ever. */
  const channelOf = (radio: DeviceRadio, seen: readonly DeviceRadio[] = []): number | null => {
    const to = seen.includes(radio) ? null : followed(radio)
    return to ? channelOf(to.radio, [...seen, radio]) : radio.channel
  }
  return senders.flatMap(({ id, kind }) =>
    (own.get(id) ?? []).map((radio) => ({
      ...radio,
      channel: channelOf(radio),
      follows: followed(radio)?.name ?? null,
      isSilent: kind === 'extender' && !repeats.get(id)?.from,
    })),
  )
}

const usual = (band: '2.4' | '5', widthMhz: 20 | 40, powerDbm: number, gainDbi: number) =>
  ({ band, generation: 'ax', streams: 2, channel: null, widthMhz, powerDbm, gainDbi }) as const
/** Of an access point of which nothing is known (common practice, without a source). */
export const USUAL_RADIOS = [usual('2.4', 20, 14, 3), usual('5', 40, 17, 4)] as const

/** Access points of which no radio is known. */
export function withoutRadios(plan: Plan): Device[] {
  const known = new Set(apRadios(plan).map(({ deviceId }) => deviceId))
  return plan.devices.filter(({ id, kind }) => kind === 'access-point' && !known.has(id))
}

export const eirpDbm = ({ powerDbm, gainDbi }: AccessRadio): number => powerDbm + gainDbi

/** What a radio takes of the air; null while it chooses its channel itself, or where the channel is none. */
export const spanOf = ({ band, channel, widthMhz }: AccessRadio): Span | null =>
  channel === null ? null : channelSpan(band, channel, widthMhz)

/** The middle of what it takes; of its band's usual channels while it chooses itself, MHz. */
export function radioMhz(radio: AccessRadio): number {
  const span = spanOf(radio)
  if (span) return (span.fromMhz + span.toMhz) / 2
  return centreMhz(radio.band, { '2.4': 6, '5': 44, '6': 37 }[radio.band])
}

export type LimitTrouble =
  'no-channel' | 'no-width' | 'forbidden' | 'listen-only' | 'too-strong' | 'indoor-only'

export interface LimitVerdict {
  readonly trouble: LimitTrouble | null
  readonly permission: Permission | null
}

/**
 * How a radio stands to the rules of its country; null where that cannot be told: it chooses its channel itself, or
 * the country is not set or not in the data.
 */
export function limitOf(radio: AccessRadio, country: string, isOutdoors: boolean): LimitVerdict | null {
  const told = (trouble: LimitTrouble | null, permission: Permission | null = null): LimitVerdict => ({
    trouble,
    permission,
  })
  if (radio.channel === null) return null
  if (!WIDTHS[radio.band].includes(radio.widthMhz)) return told('no-width')
  const span = spanOf(radio)
  if (!span) return told(channelSpan(radio.band, radio.channel, 20) ? 'no-width' : 'no-channel')
  const permission = permissionFor(country, span)
  if (permission === null) return null
  if (permission === 'no') return told('forbidden')
  if (permission.listenOnly) return told('listen-only', permission)
  if (permission.indoorOnly && isOutdoors) return told('indoor-only', permission)
  return told(isTooStrong(eirpDbm(radio), permission) ? 'too-strong' : null, permission)
}
