// Question: what is done with each device on the bench, and what does it occupy there?
// Method: one chain a device, from the box to the label; a port of the bench from power to label, its factory address
// until that is changed, the laptop from the sign-in to the settings.
// Source: common practice of staging, without a published source; RFC 8572 for claims before power.
import { benchLines, isManaged } from '#core/adopt'
import { modelOf, hasTrait } from '#core/queries'
import type { Device } from '#core/schema'
import { type Activity, modelDuration } from './activity'
import { askedBeforeSettings } from './around'
import { activityId, type Maker } from './draft'

/** Resources of the bench. */
export const BENCH_PORT = 'bench-port'
export const LAPTOP = 'laptop'
const addressResource = (address: string): string => `address:${address}`

const isController = ({ kind }: Device): boolean => kind === 'controller'

/** The devices that are configured before they go to their places, in the order of the plan, controllers first. */
export const benchDevices = ({ index }: Maker): Device[] =>
  index.plan.devices
    .filter((device) => hasTrait(device, 'configured'))
    .sort((a, b) => Number(isController(b)) - Number(isController(a)))

/** What must have ended before a device is powered: claims of the site, and whatever manages it. */
function beforePower(device: Device, controllers: readonly Device[]): string[] {
  if (isController(device)) return []
  return controllers.map(({ id }) => activityId('settings', id))
}

interface OnBench {
  readonly device: Device
  /** Where it is reached as it comes; null for one that asks for an address. */
  readonly address: string | null
  readonly controllers: readonly Device[]
  /** Questions whose answers are typed into it. */
  readonly asked: readonly string[]
}

function chainOf({ make, index, own }: Maker, { device, address, controllers, asked }: OnBench): Activity[] {
  const model = modelOf(index, device.model)
  const about = { deviceId: device.id }
  const held = address === null ? [] : [addressResource(address)]
  const of = (kind: Parameters<Maker['make']>[0]) => activityId(kind, device.id)
  const isClaimed = isManaged(device)
  const hasFirmware = (model?.plannedFirmware ?? '') !== ''
  const boot = model && !own.has('boot') ? { duration: modelDuration(model.bootS) } : {}
  const adopt =
    model && model.adoptS > 0 && !own.has('adopt') ? { duration: modelDuration(model.adoptS) } : {}
  const firstPower = [of(isClaimed ? 'claim' : 'unbox'), ...beforePower(device, controllers)]
  const done = isClaimed ? 'adopt' : 'settings'
  return [
    make('unbox', device.id, [], about),
    ...(isClaimed ? [make('claim', device.id, [of('unbox')], about)] : []),
    make('power', device.id, firstPower, { ...about, takes: [BENCH_PORT, ...held] }),
    make('boot', device.id, [of('power')], { ...about, ...boot }),
    make('sign-in', device.id, [of('boot'), ...asked], { ...about, takes: [LAPTOP] }),
    ...(hasFirmware ? [make('firmware', device.id, [of('sign-in'), 'download'], about)] : []),
    make('settings', device.id, [of(hasFirmware ? 'firmware' : 'sign-in')], {
      ...about,
      frees: [LAPTOP, ...held],
    }),
    ...(isClaimed ? [make('adopt', device.id, [of('settings')], { ...about, ...adopt })] : []),
    make('label', device.id, [of(done), 'print'], { ...about, frees: [BENCH_PORT] }),
  ]
}

/** The bench's activities, device by device. */
export function benchActivities(maker: Maker): Activity[] {
  const devices = benchDevices(maker)
  const wanted = new Set(devices.map(({ id }) => id))
  const lines = new Map(
    benchLines(maker.index, ({ id }) => wanted.has(id)).map((line) => [line.deviceId, line.open]),
  )
  const controllers = devices.filter(isController)
  const asked = askedBeforeSettings(maker)
  return devices.flatMap((device) =>
    chainOf(maker, { device, address: lines.get(device.id) ?? null, controllers, asked }),
  )
}
