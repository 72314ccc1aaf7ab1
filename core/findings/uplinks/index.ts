// Question: will the uplinks hold each other up, and does each carry what is asked of it?
// Method: probes by the closed forms of `failover`; shared risks by their words; shares against speeds.
// Source: no published figures used, but for the limits of cellular signals, as in core/format.
import { hoursToCap, sharedRisksOf } from '#core/failover'
import {
  canBeCalled,
  modelOf,
  nextUplink,
  signalOf,
  uplinkGroup,
  uplinkShare,
  uplinksInOrder,
  type PlanIndex,
} from '#core/queries'
import type { Uplink } from '#core/schema'
import { draft, onSheet, set, type Draft, type Finding, type Mend } from '../finding'
import { cableFindings } from './cables'
import { dialledFindings, insideFindings, takenFindings, targetFindings } from './forwards'
import { probeFindings } from './probes'
import { routeFindings } from './routes'

/**
 * A line that takes so many times the share that its speed is of the sum is full before the others are half
 * so.
 */
const MOST_UNEVEN = 1.5
/** Weights in the ratio of the speeds: tenths of the fastest, at least 1. */
const weightBySpeed = (uplinks: readonly Uplink[], uplink: Uplink): number =>
  Math.max(1, Math.round((10 * uplink.downMbps) / Math.max(...uplinks.map((u) => u.downMbps))))

/** A month's data that is gone in fewer hours than this is told. */
const SHORT_CAP_H = 168

function inspectionFindings(index: PlanIndex, uplink: Uplink): Draft[] {
  const model = modelOf(index, index.devices.get(uplink.deviceId)?.model ?? '')
  const inspection = model?.inspectionMbps
  if (!model || !inspection || inspection >= uplink.downMbps) return []
  const values = { uplink: uplink.name, model: model.name, inspection, down: uplink.downMbps }
  return [draft('W06', 'warning', ['uplinks', uplink.id, 'downMbps'], values)]
}

function sharedRiskFindings(uplink: Uplink, others: readonly Uplink[]): Draft[] {
  return others.flatMap((other) => {
    const shared = sharedRisksOf(uplink, other).join(', ')
    const values = { uplink: uplink.name, other: other.name, shared, key: other.id }
    return shared === '' ? [] : [draft('W04', 'warning', ['uplinks', uplink.id, 'sharedRisks'], values)]
  })
}

/** An uplink that is given more of the senders than its speed is of the speeds. */
function shareFindings(uplinks: readonly Uplink[], uplink: Uplink): Draft[] {
  const mates = uplinkGroup(uplinks, uplink)
  const share = uplinkShare(uplinks, uplink)
  const together = mates.reduce((sum, u) => sum + u.downMbps, 0)
  const speed = (100 * uplink.downMbps) / Math.max(1, together)
  if (mates.length < 2 || share <= speed * MOST_UNEVEN) return []
  const changes = mates
    .filter((u) => u.downMbps >= 1 && u.weight !== weightBySpeed(mates, u))
    .map((u) => set(['uplinks', u.id, 'weight'], u.weight, weightBySpeed(mates, u)))
  const mend: Mend = { code: 'weigh-by-speed', values: {}, changes }
  const values = { uplink: uplink.name, share: Math.round(share), speed: Math.round(speed) }
  return [draft('W14', 'note', ['uplinks', uplink.id, 'weight'], values, mend)]
}

/** @param usual gigabytes a day of the site, where the uplink's own are not known */
function capFindings(uplink: Uplink, usual: number | null): Draft[] {
  const hours = hoursToCap(uplink, uplink.usualGbPerDay ?? usual)
  if (hours === null || hours >= SHORT_CAP_H) return []
  const values = { uplink: uplink.name, cap: uplink.facts.capGb ?? 0, hours: Math.round(hours) }
  return [draft('W08', 'warning', ['uplinks', uplink.id, 'facts', 'capGb'], values)]
}

function signalFindings({ id, name, facts: { cellular } }: Uplink): Draft[] {
  if (!cellular || signalOf(cellular) !== 'weak') return []
  const { rsrpDbm, sinrDb, antennas } = cellular
  const values = { uplink: name, rsrp: rsrpDbm ?? ('' as const), sinr: sinrDb ?? ('' as const) }
  return [
    draft('W15', 'warning', ['uplinks', id, 'facts', 'cellular', 'rsrpDbm'], {
      ...values,
      antennas: antennas ?? ('' as const),
    }),
  ]
}

/**
 * People and sites that dial in over an uplink: the first of its gateway that can be called, whose address they know.
 * Where they dial a name that follows the address, they come by the next one that can be called.
 */
function diallers({ plan }: PlanIndex, uplink: Uplink, next: Uplink): number {
  const called = uplinksInOrder(plan).find((one) => one.deviceId === uplink.deviceId && canBeCalled(one))
  if (called?.id !== uplink.id) return 0
  return plan.tunnels
    .filter(
      ({ deviceId, publicName }) =>
        deviceId === uplink.deviceId && !(publicName !== null && canBeCalled(next)),
    )
    .flatMap(({ peers }) => peers)
    .filter(({ endpoint }) => endpoint === null).length
}

/** What comes in from outside and dies with an uplink: forwards where the next has none, and whoever dials in. */
function lostInbound(index: PlanIndex, uplink: Uplink, next: Uplink): Draft[] {
  const { forwards } = index.plan
  const isThere = forwards.some((f) => f.uplinkId === next.id)
  const count = isThere ? 0 : forwards.filter((f) => f.uplinkId === uplink.id).length
  const dialIns = diallers(index, uplink, next)
  if (count === 0 && dialIns === 0) return []
  const values = { uplink: uplink.name, other: next.name, count, dialIns, shared: next.outside === 'shared' }
  // Those who dial in alone can only wait: there is nothing to forward.
  return [draft('W05', count > 0 ? 'warning' : 'note', ['uplinks', uplink.id, 'id'], values)]
}

function uplinkFindings(index: PlanIndex): Draft[] {
  const { plan } = index
  const uplinks = uplinksInOrder(plan)
  const [first] = uplinks
  const untold = uplinks.length > 1 && uplinks.some((l) => l.probe !== null) && plan.site.toldTo.trim() === ''
  const each = uplinks.flatMap((uplink, i) => {
    const next = nextUplink(uplinks, uplink)
    return [
      ...(next ? probeFindings(index, uplink, next) : []),
      ...inspectionFindings(index, uplink),
      ...sharedRiskFindings(uplink, uplinks.slice(i + 1)),
      ...shareFindings(uplinks, uplink),
      ...capFindings(uplink, first?.usualGbPerDay ?? null),
      ...signalFindings(uplink),
      ...(next ? lostInbound(index, uplink, next) : []),
    ]
  })
  return [
    ...(untold ? [draft('W10', 'note', ['site', 'toldTo'], { uplink: first?.name ?? '' })] : []),
    ...each,
  ]
}

/** Findings of uplinks that need more than the brief. */
export const checkUplinks = (index: PlanIndex): Finding[] =>
  onSheet('uplinks', [
    ...uplinkFindings(index),
    ...insideFindings(index),
    ...targetFindings(index.plan),
    ...takenFindings(index.plan),
    ...dialledFindings(index.plan),
    ...routeFindings(index),
    ...cableFindings(index),
  ])
