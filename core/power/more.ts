// Question: how many more of a device does a source have power and ports for?
// Method: what is left of its budget by class reserved, and by typical draw with headroom; its free ports of the class.
// Source: IEEE 802.3-2022 clause 145 for what a class reserves (see poe.ts); headroom is common practice.
import { specOf, type PlanIndex } from '#core/queries'
import type { Model, PoeLoad } from '#core/schema'
import type { Source } from './budget'
import { loadsWithin, poeClass } from './poe'

export interface RoomForMore {
  /** That fit whatever they do: the least of the three. */
  readonly fit: number
  readonly byClass: number
  readonly byDraw: number
  readonly freePorts: number
}

/** What a model takes over its first powered port; null where it takes nothing of the standard. */
export const standardLoad = ({ ports }: Model): (PoeLoad & { standard: 'ieee' }) | null => {
  const load = ports.find((group) => group.load)?.load
  return load?.standard === 'ieee' ? load : null
}

/** Ports without a cable that give power of a class or more. */
function freePortsOf(index: PlanIndex, { deviceId }: Source, level: number): number {
  const taken = new Set(
    index.plan.links
      .flatMap(({ a, b }) => [a, b])
      .filter((end) => end.deviceId === deviceId)
      .map(({ portId }) => portId),
  )
  const ports = index.devices.get(deviceId)?.ports ?? []
  return ports.filter((port) => {
    const given = specOf(index, { deviceId, portId: port.id })?.source
    return !taken.has(port.id) && port.poe !== 'off' && given?.standard === 'ieee' && given.class >= level
  }).length
}

/**
 * How many more of a load a source takes.
 * @param headroomPct share of the budget that is kept free of what is drawn, %
 */
export function roomForMore(
  index: PlanIndex,
  source: Source,
  load: PoeLoad & { standard: 'ieee' },
  headroomPct: number,
): RoomForMore {
  const byClass = loadsWithin(Math.max(0, source.budgetW - source.classW), poeClass(load.class).sourceW, 0)
  const drawable = source.budgetW * (1 - headroomPct / 100) - source.drawW
  const byDraw = loadsWithin(Math.max(0, drawable), load.typicalW, 0)
  const freePorts = freePortsOf(index, source, load.class)
  return { fit: Math.min(byClass, byDraw, freePorts), byClass, byDraw, freePorts }
}
