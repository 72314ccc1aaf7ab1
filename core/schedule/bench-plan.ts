// Question: which address does the laptop have for which device, in the order that changes it least?
// Method: the devices of the bench with their factory addresses; controllers before what they manage.
// Source: as `core/adopt` for the addresses.
import { benchLines, type BenchLine } from '#core/adopt'
import { indexPlan } from '#core/queries'
import type { Device, Plan } from '#core/schema'
import { benchOrder } from './bench-order'
import { activityMaker } from './draft'
import { benchDevices } from './on-bench'

export interface BenchStep {
  readonly device: Device
  readonly line: BenchLine
  /** The laptop's address is another than for the device before. */
  readonly isChange: boolean
}

export interface BenchPlan {
  readonly steps: readonly BenchStep[]
  readonly changes: number
  /** Devices of which nobody knows how they come from the factory. */
  readonly unknown: readonly Device[]
}

/** The bench's devices in the order that changes the laptop's address least. */
export function benchPlan(plan: Plan): BenchPlan {
  const maker = activityMaker(indexPlan(plan))
  const devices = benchDevices(maker)
  const ids = new Set(devices.map(({ id }) => id))
  const lines = new Map(benchLines(maker.index, ({ id }) => ids.has(id)).map((line) => [line.deviceId, line]))
  const known = devices.filter(({ id }) => lines.has(id))
  const controllers = known.filter(({ kind }) => kind === 'controller').map(({ id }) => id)
  const order = benchOrder(
    known.map(({ id, kind }) => ({
      id,
      laptop: lines.get(id)?.laptop ?? 'dhcp',
      after: kind === 'controller' ? [] : controllers,
    })),
  )
  const byId = new Map(devices.map((device) => [device.id, device]))
  const steps = (order?.ids ?? []).flatMap((id) => {
    const [device, line] = [byId.get(id), lines.get(id)]
    return device && line ? [{ device, line }] : []
  })
  return {
    steps: steps.map((step, i) => ({
      ...step,
      isChange: i > 0 && (steps[i - 1]?.line.laptop ?? null) !== step.line.laptop,
    })),
    changes: order?.changes ?? 0,
    unknown: devices.filter(({ id }) => !lines.has(id)),
  }
}
