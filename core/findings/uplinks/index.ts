// Question: will the uplinks hold each other up, and does each carry what is asked of it?
// Method: probes by the closed forms of `failover`; shared fates by their words; shares against speeds.
// Source: no published figures used, but for the limits of cellular signals, as in core/format.
import { hoursToCap, sharedFates } from '#core/failover'
import {
  modelOf,
  nextUplink,
  signalOf,
  uplinkGroup,
  uplinkShare,
  uplinksInOrder,
  type PlanIndex,
} from '#core/queries'
import type { Plan, Uplink } from '#core/schema'
import { draft, onSheet, set, type Draft, type Finding, type Mend } from '../finding'
import { insideFindings, targetFindings } from './forwards'
import { probeFindings } from './probes'

/**
 * A line that takes so many times the share that its speed is of the sum is full before the others are half
 * so.
 */
const MOST_UNEVEN = 1.5
/** Weights in the ratio of the speeds: tenths of the fastest, at least 1. */
const weightBySpeed = (lines: readonly Uplink[], line: Uplink): number =>
  Math.max(1, Math.round((10 * line.downMbps) / Math.max(...lines.map((u) => u.downMbps))))

/** A month's data that is gone in fewer hours than this is told. */
const SHORT_CAP_H = 168

function inspectionFindings(index: PlanIndex, line: Uplink): Draft[] {
  const model = modelOf(index, index.devices.get(line.deviceId)?.model ?? '')
  const inspection = model?.inspectionMbps
  if (!model || !inspection || inspection >= line.downMbps) return []
  const values = { line: line.name, model: model.name, inspection, down: line.downMbps }
  return [draft('W06', 'warning', ['uplinks', line.id, 'downMbps'], values)]
}

function sharedFateFindings(line: Uplink, others: readonly Uplink[]): Draft[] {
  return others.flatMap((other) => {
    const shared = sharedFates(line, other).join(', ')
    const values = { line: line.name, other: other.name, shared, key: other.id }
    return shared === '' ? [] : [draft('W04', 'warning', ['uplinks', line.id, 'fates'], values)]
  })
}

/** An uplink that is given more of the senders than its speed is of the speeds. */
function shareFindings(lines: readonly Uplink[], line: Uplink): Draft[] {
  const mates = uplinkGroup(lines, line)
  const share = uplinkShare(lines, line)
  const together = mates.reduce((sum, u) => sum + u.downMbps, 0)
  const speed = (100 * line.downMbps) / Math.max(1, together)
  if (mates.length < 2 || share <= speed * MOST_UNEVEN) return []
  const changes = mates
    .filter((u) => u.downMbps >= 1 && u.weight !== weightBySpeed(mates, u))
    .map((u) => set(['uplinks', u.id, 'weight'], u.weight, weightBySpeed(mates, u)))
  const mend: Mend = { code: 'weigh-by-speed', values: {}, changes }
  const values = { line: line.name, share: Math.round(share), speed: Math.round(speed) }
  return [draft('W14', 'note', ['uplinks', line.id, 'weight'], values, mend)]
}

/** @param usual gigabytes a day of the site, where the uplink's own are not known */
function capFindings(line: Uplink, usual: number | null): Draft[] {
  const hours = hoursToCap(line, line.usualGbPerDay ?? usual)
  if (hours === null || hours >= SHORT_CAP_H) return []
  const values = { line: line.name, cap: line.facts.capGb ?? 0, hours: Math.round(hours) }
  return [draft('W08', 'warning', ['uplinks', line.id, 'facts', 'capGb'], values)]
}

function signalFindings({ id, name, facts: { cellular } }: Uplink): Draft[] {
  if (!cellular || signalOf(cellular) !== 'weak') return []
  const { rsrpDbm, sinrDb, antennas } = cellular
  const values = { line: name, rsrp: rsrpDbm ?? ('' as const), sinr: sinrDb ?? ('' as const) }
  return [
    draft('W15', 'warning', ['uplinks', id, 'facts', 'cellular', 'rsrpDbm'], {
      ...values,
      antennas: antennas ?? ('' as const),
    }),
  ]
}

/** Forwards that die with an uplink, since none arrives over the next one. */
function lostForwards(plan: Plan, line: Uplink, next: Uplink): Draft[] {
  const count = plan.forwards.filter((f) => f.uplinkId === line.id).length
  if (count === 0 || plan.forwards.some((f) => f.uplinkId === next.id)) return []
  const values = { line: line.name, other: next.name, count, shared: next.outside === 'shared' }
  return [draft('W05', 'warning', ['uplinks', line.id, 'id'], values)]
}

function uplinkFindings(index: PlanIndex): Draft[] {
  const { plan } = index
  const lines = uplinksInOrder(plan)
  const [first] = lines
  const untold = lines.length > 1 && lines.some((l) => l.probe !== null) && plan.site.toldTo.trim() === ''
  const each = lines.flatMap((line, i) => {
    const next = nextUplink(lines, line)
    return [
      ...(next ? probeFindings(index, line, next) : []),
      ...inspectionFindings(index, line),
      ...sharedFateFindings(line, lines.slice(i + 1)),
      ...shareFindings(lines, line),
      ...capFindings(line, first?.usualGbPerDay ?? null),
      ...signalFindings(line),
      ...(next ? lostForwards(plan, line, next) : []),
    ]
  })
  return [...(untold ? [draft('W10', 'note', ['site', 'toldTo'], { line: first?.name ?? '' })] : []), ...each]
}

/** Findings of uplinks that need more than the brief. */
export const checkUplinks = (index: PlanIndex): Finding[] =>
  onSheet('uplinks', [...uplinkFindings(index), ...insideFindings(index), ...targetFindings(index.plan)])
