// Question: which radios has one device?
// Method: what the planner typed, and of known models what they are shipped with in bands of which nothing is typed.
import { factoryRadios } from '#core/queries'
import type { AccessRadio, Device } from '#core/schema'

export interface DeviceRadio extends AccessRadio {
  readonly deviceName: string
  /** Written in the plan, and not only what the model is shipped with. */
  readonly isTyped: boolean
}

const MOST_STEM = 70

/** By band; `typed` are those that the plan writes down of this device. */
export function radiosOfDevice({ id, name, model }: Device, typed: readonly AccessRadio[]): DeviceRadio[] {
  const own = typed.map((radio): DeviceRadio => ({ ...radio, deviceName: name, isTyped: true }))
  const shipped = factoryRadios(model)
    .filter(({ band }) => !own.some((radio) => radio.band === band))
    .map((radio): DeviceRadio => ({
      ...radio,
      id: `${id.slice(0, MOST_STEM)}-${radio.band}`,
      deviceId: id,
      channel: null,
      deviceName: name,
      isTyped: false,
    }))
  return [...own, ...shipped].sort((a, b) => Number(a.band) - Number(b.band))
}
