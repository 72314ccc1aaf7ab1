// Question: which Wi-Fi radios has a plan, how are they set, and what is one permitted to send?
// Method: what the planner typed, and for access points of known models what they are shipped with.
import { factoryRadios } from '#core/queries'
import { groupBy } from '#core/util'
import type { AccessRadio, Device, Plan } from '#core/schema'
import { channelSpan, centreMhz, WIDTHS, type Span } from './channels'
import { isTooStrong, permissionFor, type Permission } from './regulatory'

export interface ApRadio extends AccessRadio {
  readonly deviceName: string
  /** Written in the plan, and not only what the model is shipped with. */
  readonly isTyped: boolean
}

const MOST_STEM = 70

function ofDevice({ id, name, model }: Device, typed: readonly AccessRadio[]): ApRadio[] {
  const own = typed.map((radio): ApRadio => ({ ...radio, deviceName: name, isTyped: true }))
  const shipped = factoryRadios(model)
    .filter(({ band }) => !own.some((radio) => radio.band === band))
    .map((radio): ApRadio => ({
      ...radio,
      id: `${id.slice(0, MOST_STEM)}-${radio.band}`,
      deviceId: id,
      channel: null,
      deviceName: name,
      isTyped: false,
    }))
  return [...own, ...shipped].sort((a, b) => Number(a.band) - Number(b.band))
}

/** Radios of all access points, in the plan's order of devices and by band. */
export function apRadios(plan: Plan): ApRadio[] {
  const typed = groupBy(plan.wifi.radios, ({ deviceId }) => deviceId)
  return plan.devices
    .filter(({ kind }) => kind === 'access-point')
    .flatMap((device) => ofDevice(device, typed.get(device.id) ?? []))
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
