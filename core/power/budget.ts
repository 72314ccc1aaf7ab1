// Question: does every device get its power, does every source have enough, and how warm is the site?
// Method: each cable with a source at one end and a load at the other feeds it; a device fed over its cable
// that passes power on draws that too; sums by class reserved and by typical draw, with the loss of the
// cable.
// Source:
// IEEE 802.3-2022 clauses 33 and 145 (see poe.ts); typical draws come from the catalogue.
import { by } from '#core/util'
import { endsOf, findPort, modelOf, specOf, type PlanIndex } from '#core/queries'
import type { Device, Link, PoeLoad, PoeSource, PortRef, DeviceId, LinkId } from '#core/schema'
import { SUPPLY_EFFICIENCY } from './energy'
import { dropAlong, loopOhm, poeClass, type Drop } from './poe'

export type FeedTrouble =
  'class' | 'passive-to-standard' | 'standard-to-passive' | 'passive-volts' | 'voltage' | 'no-copper'

export interface Feed {
  readonly linkId: LinkId
  readonly from: PortRef
  readonly to: PortRef
  readonly source: PoeSource
  readonly load: PoeLoad
  /** What the load draws, with all that it passes on, W. */
  readonly drawW: number
  /** Reserved at the source by class, W; the draw itself for passive power. */
  readonly classW: number
  /** Null where the cable cannot carry it. */
  readonly drop: Drop | null
  readonly trouble: FeedTrouble | null
}

export interface Source {
  readonly deviceId: DeviceId
  readonly budgetW: number
  readonly classW: number
  readonly drawW: number
  readonly feeds: readonly Feed[]
}

export interface Powered {
  readonly feeds: readonly Feed[]
  /** Devices that give power, in plan order. */
  readonly sources: readonly Source[]
  /** Devices that take power over their cable, have no supply of their own and get none. */
  readonly unpowered: readonly string[]
  /** From the wall, W, with the losses of cables and supplies. */
  readonly siteW: number
}

/** Copper temperature assumed along a run, C (practice: 20 indoors, 45 on a roof in summer). */
export const RUN_TEMPERATURE_C = { indoor: 20, outdoor: 45, between: 45 } as const

/**
 * Least volts a powered device of the standard works at.
 * IEEE 802.3 clause 33 (37 V) and 145 (from memory).
 */
const LEAST_DEVICE_V = 37

interface Pair {
  readonly link: Link
  readonly from: PortRef
  readonly to: PortRef
  readonly source: PoeSource
  readonly load: PoeLoad
}

function pairsOf(index: PlanIndex): Pair[] {
  return index.plan.links.flatMap((link) => {
    const [first, second] = endsOf(link)
    return (
      [
        [first, second],
        [second, first],
      ] as const
    ).flatMap(([from, to]) => {
      const port = findPort(index, from)
      const source = specOf(index, from)?.source ?? null
      const load = specOf(index, to)?.load ?? null
      const sink = index.devices.get(to.deviceId)
      return source && load && port?.poe !== 'off' && sink && !sink.mains
        ? [{ link, from, to, source, load }]
        : []
    })
  })
}

function troubleOf({ link, source, load }: Pair, drop: Drop | null): FeedTrouble | null {
  if (link.medium.kind !== 'copper') return 'no-copper'
  if (source.standard === 'passive') {
    if (load.standard === 'ieee') return 'passive-to-standard'
    if (source.volts > load.mostV || source.volts < load.leastV) return 'passive-volts'
    return !drop || drop.deviceV < load.leastV || drop.sourceW > source.mostW ? 'voltage' : null
  }
  if (load.standard === 'passive') return 'standard-to-passive'
  if (load.class > source.class) return 'class'
  return !drop || drop.deviceV < LEAST_DEVICE_V ? 'voltage' : null
}

function dropOf({ link, source, load }: Pair, drawW: number): Drop | null {
  if (link.medium.kind !== 'copper') return null
  const kind = poeClass(load.standard === 'ieee' ? load.class : 0)
  const pairs = source.standard === 'passive' ? 2 : kind.pairs
  const volts = source.standard === 'passive' ? source.volts : kind.volts
  return dropAlong(
    volts,
    loopOhm(link.medium.category, link.medium.lengthM, pairs, RUN_TEMPERATURE_C[link.medium.run]),
    drawW,
  )
}

/** Power of a plan, all of it. Devices whose model is not known neither give nor take. */
export function powerOf(index: PlanIndex): Powered {
  const pairs = pairsOf(index)
  const given = new Map<string, Pair[]>()
  for (const pair of pairs) given.set(pair.from.deviceId, [...(given.get(pair.from.deviceId) ?? []), pair])
  const fed = new Map<string, Pair>()
  for (const pair of pairs)
    if (!fed.has(pair.to.deviceId) || isHosts(index, pair.to.deviceId))
      fed.set(pair.to.deviceId, fed.get(pair.to.deviceId) ?? pair)
  const passing = new Set<string>()
  /** What a load draws, with what it passes on to those it feeds itself. A ring of feeds counts once. */
  const drawOf = (pair: Pair): number => {
    const id = pair.to.deviceId
    if (isHosts(index, id) || passing.has(id)) return pair.load.typicalW
    passing.add(id)
    const onward = (given.get(id) ?? []).reduce(
      (sum, next) => sum + (dropOf(next, drawOf(next))?.sourceW ?? drawOf(next)),
      0,
    )
    passing.delete(id)
    return pair.load.typicalW + onward
  }
  const feeds = pairs
    .map((pair): Feed => {
      const drawW = drawOf(pair)
      const drop = dropOf(pair, drawW)
      const { link, from, to, source, load } = pair
      const classW = load.standard === 'ieee' ? poeClass(load.class).sourceW : (drop?.sourceW ?? drawW)
      return { linkId: link.id, from, to, source, load, drawW, classW, drop, trouble: troubleOf(pair, drop) }
    })
    .sort(
      by(
        (f) => f.from.deviceId,
        (f) => portAt(index, f.from),
      ),
    )
  return {
    feeds,
    sources: sourcesOf(index, feeds),
    unpowered: unpoweredDevices(index, feeds),
    siteW: siteWatts(index, feeds),
  }
}

const isHosts = (index: PlanIndex, id: string) => index.devices.get(id)?.kind === 'hosts'
const portAt = (index: PlanIndex, ref: PortRef) =>
  index.devices.get(ref.deviceId)?.ports.findIndex((p) => p.id === ref.portId) ?? 0

function sourcesOf(index: PlanIndex, feeds: readonly Feed[]): Source[] {
  return index.plan.devices.flatMap((device) => {
    const budgetW = modelOf(index, device.model)?.poeBudgetW ?? null
    if (budgetW === null) return []
    const own = feeds.filter((f) => f.from.deviceId === device.id)
    const sum = (of: (f: Feed) => number) => own.reduce((total, f) => total + of(f), 0)
    return [
      {
        deviceId: device.id,
        budgetW,
        classW: sum((f) => f.classW),
        drawW: sum((f) => f.drop?.sourceW ?? f.drawW),
        feeds: own,
      },
    ]
  })
}

/**
 * Loads with a port that asks for power over its cable, that have none.
 * A `hosts` device is unpowered where any of its sockets is.
 */
function unpoweredDevices(index: PlanIndex, feeds: readonly Feed[]): string[] {
  const lit = new Set(
    feeds.map((f) => (isHosts(index, f.to.deviceId) ? `${f.to.deviceId}/${f.to.portId}` : f.to.deviceId)),
  )
  return index.plan.devices
    .filter((device) => {
      if (device.mains) return false
      const asking = device.ports.filter(
        (port) => specOf(index, { deviceId: device.id, portId: port.id })?.load,
      )
      if (asking.length === 0) return false
      return device.kind === 'hosts'
        ? asking.some((p) => !lit.has(`${device.id}/${p.id}`))
        : !lit.has(device.id)
    })
    .map((d) => d.id)
}

/** True for a device that takes its power from the wall. */
export function isOnMains(index: PlanIndex, device: Device): boolean {
  return (
    device.mains ||
    !device.ports.some((port) => specOf(index, { deviceId: device.id, portId: port.id })?.load)
  )
}

/** Own draw of a device, W, without what it gives to others. 0 where its model is not known. */
export function ownDrawW(index: PlanIndex, device: Device): number {
  const model = modelOf(index, device.model)
  return (model?.idleW ?? 0) * (device.kind === 'hosts' ? device.count : 1)
}

function siteWatts(index: PlanIndex, feeds: readonly Feed[]): number {
  return index.plan.devices
    .filter((d) => isOnMains(index, d))
    .reduce((sum, device) => {
      const given = feeds
        .filter((f) => f.from.deviceId === device.id)
        .reduce((total, f) => total + (f.drop?.sourceW ?? f.drawW), 0)
      return sum + (ownDrawW(index, device) + given) / SUPPLY_EFFICIENCY
    }, 0)
}
