// Question: what is a new radio link set to, before anybody has said it?
// Method: what both models are shipped with where they agree, and each end's own power and antenna.
import { factoryBridge, type FactoryBridge } from '#core/queries'
import type { DeviceId, Plan, RadioEndSettings, RadioSettings } from '#core/schema'
import { BLANK_END, BLANK_RADIO } from './blanks'

/** The antenna is a part of such a radio: nothing is lost on the way to it. */
const endOf = (shipped: FactoryBridge | null): RadioEndSettings =>
  shipped ? { ...BLANK_END, powerDbm: shipped.powerDbm, gainDbi: shipped.gainDbi, feederDb: 0 } : BLANK_END

/** Frequency, distance and heights are the site's own, and stay to be said. */
export function radioBetween(plan: Plan, first: DeviceId, second: DeviceId): RadioSettings {
  const shippedWith = (id: DeviceId) =>
    factoryBridge(plan.devices.find((device) => device.id === id)?.model ?? '')
  const [one, other] = [shippedWith(first), shippedWith(second)]
  const agreed = <Key extends keyof FactoryBridge>(key: Key) =>
    one && other && one[key] === other[key] ? one[key] : null
  return {
    ...BLANK_RADIO,
    generation: agreed('generation'),
    streams: agreed('streams'),
    widthMhz: agreed('widthMhz'),
    ends: { a: endOf(one), b: endOf(other) },
  }
}
