// Question: how much does the way of a flow carry, each way, and which stage keeps it from more?
// Method: the least of the stages that its walk passes: cables as they come up, radio links as they are computed,
// uplinks, what gateways inspect.
// A stage whose speed nobody knows is counted, not guessed.
// Source:
// RFC 6349 section 2 (throughput is bounded by the narrowest stage); share of TCP payload as in `cable`.
import type { LinkId } from '#core/schema'
import { linkSpeed, TCP_SHARE } from '#core/cabling'
import { linkRates } from '#core/radio'
import {
  downIn,
  upstreamDownIn,
  uplinksInOrder,
  modelOf,
  type PlanIndex,
  type FailureScenario,
} from '#core/queries'
import type { Walk, WalkLine } from './walk'

/** One stage of a way; Mb/s towards the far end and back, null where nobody knows. */
export interface PathSegment {
  /** `far`: the line of a peer of a tunnel, by its id. */
  readonly kind: 'link' | 'uplink' | 'inspection' | 'far'
  readonly id: string
  readonly thereMbps: number | null
  readonly backMbps: number | null
}

export interface Capacity {
  readonly there: { readonly mbps: number; readonly stage: PathSegment } | null
  readonly back: { readonly mbps: number; readonly stage: PathSegment } | null
  /** Stages of unknown speed: the answer holds as far as they are no narrower. */
  readonly unknown: number
}

/** Every stage on a walk's way there, in order; each device and line once. */
export function pathSegments(index: PlanIndex, walk: Walk, scenario: FailureScenario = []): PathSegment[] {
  const unusable = new Set([...downIn(scenario), ...upstreamDownIn(scenario)])
  const segments = new Map<string, PathSegment>()
  for (const line of walk.lines) {
    if ('back' in line && line.back) continue
    for (const segment of segmentsOf(index, line, unusable)) {
      const key = `${segment.kind} ${segment.id}`
      if (!segments.has(key)) segments.set(key, segment)
    }
  }
  return [...segments.values()]
}

const alike = (kind: PathSegment['kind'], id: string, mbps: number | null): PathSegment => ({
  kind,
  id,
  thereMbps: mbps,
  backMbps: mbps,
})

/** An uplink, outward or inward. */
function uplinkSegment(index: PlanIndex, id: string, inward: boolean): PathSegment {
  const uplink = index.plan.uplinks.find((u) => u.id === id)
  const [up, down] = [uplink?.upMbps || null, uplink?.downMbps || null]
  return { kind: 'uplink', id, thereMbps: inward ? down : up, backMbps: inward ? up : down }
}

function linkSegment(index: PlanIndex, linkId: LinkId): PathSegment[] {
  const link = index.plan.links.find((l) => l.id === linkId)
  if (!link || link.medium.kind === 'line') return []
  const { mbps } = linkSpeed(index, link)
  if (link.medium.kind !== 'radio') return [alike('link', link.id, mbps)]
  // What the ports could do says little of what the air carries.
  const carried = linkRates(index, link.id)?.throughputMbps ?? null
  return [alike('link', link.id, carried === null ? null : Math.min(carried, mbps ?? Infinity))]
}

/**
 * The uplink that carries a tunnel, and the far end's.
 * What one end sends, the other receives; which of several uplinks carries the tunnel now, the first of them
 * says.
 */
function tunnelSegments(
  index: PlanIndex,
  { tunnelId, peerId, inward }: WalkLine & { kind: 'tunnel' },
  unusable: ReadonlySet<string>,
): PathSegment[] {
  const tunnel = index.plan.tunnels.find((t) => t.id === tunnelId)
  const peer = tunnel?.peers.find((p) => p.id === peerId)
  const carrier = uplinksInOrder(index.plan).find(
    (u) => u.deviceId === tunnel?.deviceId && !unusable.has(u.id),
  )
  const [thereMbps, backMbps] = inward
    ? [peer?.upMbps ?? null, peer?.downMbps ?? null]
    : [peer?.downMbps ?? null, peer?.upMbps ?? null]
  return [
    ...(carrier ? [uplinkSegment(index, carrier.id, inward)] : []),
    ...(peer ? [{ kind: 'far' as const, id: peer.id, thereMbps, backMbps }] : []),
  ]
}

function segmentsOf(index: PlanIndex, line: WalkLine, unusable: ReadonlySet<string>): PathSegment[] {
  switch (line.kind) {
    case 'hop':
      return linkSegment(index, line.linkId)
    case 'translate':
      return line.exit.kind === 'uplink' ? [uplinkSegment(index, line.exit.id, false)] : []
    case 'route':
      return line.how === 'uplink' ? [uplinkSegment(index, line.via, false)] : []
    case 'tunnel':
      return tunnelSegments(index, line, unusable)
    case 'forwarded': {
      const forward = index.plan.forwards.find((f) => f.id === line.forwardId)
      return forward ? [uplinkSegment(index, forward.uplinkId, true)] : []
    }
    case 'rule': {
      const mbps = modelOf(index, index.devices.get(line.deviceId)?.model ?? '')?.inspectionMbps
      return mbps ? [alike('inspection', line.deviceId, mbps)] : []
    }
    default:
      return []
  }
}

/** What the way of a flow that passes carries at most. Ends of which nothing is known say nothing. */
export function capacityOf(index: PlanIndex, walk: Walk, scenario: FailureScenario = []): Capacity {
  const stages = pathSegments(index, walk, scenario)
  const least = (of: (s: PathSegment) => number | null) =>
    stages.reduce<Capacity['there']>((best, stage) => {
      const mbps = of(stage)
      return mbps === null || (best && best.mbps <= mbps) ? best : { mbps, stage }
    }, null)
  return {
    there: least((s) => s.thereMbps),
    back: least((s) => s.backMbps),
    unknown: stages.filter((s) => s.thereMbps === null || s.backMbps === null).length,
  }
}

/**
 * Seconds to move an amount over a way:
 * GB of 10^9 bytes, by TCP over IPv4 at MTU 1500.
 * Worked: 1 GB at 100 Mb/s takes 84.3 s.
 */
export const secondsToMove = (gigabytes: number, mbps: number): number =>
  (gigabytes * 8000) / (mbps * TCP_SHARE)
