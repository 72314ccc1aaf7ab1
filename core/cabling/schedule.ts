// Question: which cables are laid where, and what has to be bought?
// Method: one line a cable from the plan; like things counted; spare length added to each run and rounded up.
// Source: 90 m fixed + 10 m of cords (ISO/IEC 11801-1); spare length is common practice.
import { by, groupBy } from '#core/util'
import { endsOf, type PlanIndex } from '#core/queries'
import type { Link, PortRef, LinkId } from '#core/schema'
import { cableLabels, isCable } from './labels'
import { linkSpeed } from './speed'

export interface CableEnd {
  readonly place: string
  readonly device: string
  readonly port: string
  readonly optic: string | null
}
export interface CableLine {
  readonly linkId: LinkId
  readonly label: string
  readonly ends: readonly [CableEnd, CableEnd]
  /** `Cat6`, `OS2`. */
  readonly kind: string
  readonly run: 'indoor' | 'outdoor' | 'between'
  readonly lengthM: number
  readonly mbps: number | null
  readonly lag: string | null
}

function endOf(index: PlanIndex, ref: PortRef): CableEnd {
  const device = index.devices.get(ref.deviceId)
  const port = device?.ports.find((p) => p.id === ref.portId)
  return {
    place: device?.place ?? '',
    device: device?.name ?? ref.deviceId,
    port: port?.name ?? ref.portId,
    optic: port?.optic ?? null,
  }
}

function lineOf(index: PlanIndex, link: Link, label: string): CableLine[] {
  const { medium } = link
  if (medium.kind !== 'copper' && medium.kind !== 'fibre') return []
  const [first, second] = endsOf(link)
  return [
    {
      linkId: link.id,
      label,
      ends: [endOf(index, first), endOf(index, second)],
      kind: medium.kind === 'copper' ? medium.category : medium.grade,
      run: medium.run,
      lengthM: medium.lengthM,
      mbps: linkSpeed(index, link).mbps,
      lag: link.lag,
    },
  ]
}

/** Every cable of the plan, in plan order, which is the order of the numbers on the labels. */
export function cableSchedule(index: PlanIndex): CableLine[] {
  const labels = cableLabels(index, index.plan.site.labelRule)
  return index.plan.links.filter(isCable).flatMap((link) => lineOf(index, link, labels.get(link.id) ?? ''))
}

/** Length bought for each run: this much more (practice), rounded up to whole metres. */
export const SPARE_PCT = 10

export interface Material {
  readonly what: 'cable' | 'cord' | 'transceiver' | 'device'
  readonly name: string
  readonly run: CableLine['run'] | ''
  readonly count: number
  /** Metres to buy, for cable; 0 otherwise. */
  readonly lengthM: number
}

/** Runs up to this length are bought as finished cords (practice). */
export const CORD_M = 5

/**
 * What has to be bought: cords and cable by kind, transceivers by kind, devices by model.
 * In that order, then by name.
 */
export function materials(index: PlanIndex): Material[] {
  const lines = cableSchedule(index)
  const out: Material[] = []
  const isCord = (line: CableLine) => line.lengthM <= CORD_M && line.run === 'indoor'
  for (const [, group] of groupBy(
    lines.filter((l) => !isCord(l)),
    (l) => `${l.kind} ${l.run}`,
  )) {
    const first = group[0] as CableLine
    out.push({
      what: 'cable',
      name: first.kind,
      run: first.run,
      count: group.length,
      lengthM: group.reduce((sum, l) => sum + Math.ceil((l.lengthM * (100 + SPARE_PCT)) / 100), 0),
    })
  }
  for (const [, group] of groupBy(lines.filter(isCord), (l) => `${l.kind} ${Math.ceil(l.lengthM)}`)) {
    const first = group[0] as CableLine
    out.push({
      what: 'cord',
      name: `${first.kind}, ${Math.ceil(first.lengthM)} m`,
      run: '',
      count: group.length,
      lengthM: 0,
    })
  }
  for (const [optic, group] of groupBy(
    lines.flatMap((l) => l.ends).flatMap((e) => (e.optic === null ? [] : [e.optic])),
    (o) => o,
  ))
    out.push({ what: 'transceiver', name: optic, run: '', count: group.length, lengthM: 0 })
  for (const [model, group] of groupBy(
    index.plan.devices.filter((d) => d.model !== ''),
    (d) => d.model,
  )) {
    out.push({
      what: 'device',
      name: model,
      run: '',
      count: group.reduce((sum, d) => sum + (d.kind === 'hosts' ? d.count : 1), 0),
      lengthM: 0,
    })
  }
  const rank = { cable: 0, cord: 1, transceiver: 2, device: 3 } as const
  return out.sort(
    by(
      (m) => rank[m.what],
      (m) => m.name,
      (m) => m.run,
    ),
  )
}
