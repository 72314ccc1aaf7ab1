// Question: how much does the way of a flow carry, each way, and which stage keeps it from more?
// Method: the least of the stages that its walk passes: cables as they come up, lines, what gateways inspect.
// A stage whose speed nobody knows is counted, not guessed.
// Source:
// RFC 6349 section 2 (throughput is bounded by the narrowest stage); share of TCP payload as in `cable`.
import { linkSpeed, TCP_SHARE } from '#core/cabling'
import { DARK, uplinksInOrder, modelOf, type PlanIndex, type Weather } from '#core/model'
import type { Walk } from './walk'

/** One stage of a way; Mb/s towards the far end and back, null where nobody knows. */
export interface PathSegment {
  /** `far`: the line of a peer of a tunnel, by its id. */
  readonly kind: 'link' | 'line' | 'inspection' | 'far'
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
export function pathSegments(index: PlanIndex, walk: Walk, weather: Weather = []): PathSegment[] {
  const failed = new Set(weather)
  const stages = new Map<string, PathSegment>()
  const add = (stage: PathSegment) =>
    void (stages.has(`${stage.kind} ${stage.id}`) || stages.set(`${stage.kind} ${stage.id}`, stage))
  const line = (id: string, inward: boolean) => {
    const uplink = index.plan.uplinks.find((u) => u.id === id)
    const [up, down] = [uplink?.upMbps || null, uplink?.downMbps || null]
    add({ kind: 'line', id, thereMbps: inward ? down : up, backMbps: inward ? up : down })
  }
  for (const step of walk.lines) {
    if ('back' in step && step.back) continue
    if (step.kind === 'hop') {
      const link = index.plan.links.find((l) => l.id === step.linkId)
      const mbps = link ? linkSpeed(index, link).mbps : null
      if (link && link.medium.kind !== 'line')
        add({ kind: 'link', id: link.id, thereMbps: mbps, backMbps: mbps })
    }
    if (step.kind === 'translate' && step.exit.kind === 'uplink') line(step.exit.id, false)
    if (step.kind === 'route' && step.how === 'uplink') line(step.via, false)
    if (step.kind === 'tunnel') {
      const tunnel = index.plan.tunnels.find((t) => t.id === step.tunnelId)
      const peer = tunnel?.peers.find((p) => p.id === step.peerId)
      // What one end sends, the other receives; which of several lines carries the tunnel now, the first of
      // them says.
      const carrier = uplinksInOrder(index.plan).find(
        (u) => u.deviceId === tunnel?.deviceId && !failed.has(u.id) && !failed.has(DARK + u.id),
      )
      if (carrier) line(carrier.id, step.inward)
      if (peer)
        add({
          kind: 'far',
          id: peer.id,
          thereMbps: step.inward ? peer.upMbps : peer.downMbps,
          backMbps: step.inward ? peer.downMbps : peer.upMbps,
        })
    }
    if (step.kind === 'forwarded') {
      const forward = index.plan.forwards.find((f) => f.id === step.forwardId)
      if (forward) line(forward.uplinkId, true)
    }
    if (step.kind === 'rule') {
      const mbps = modelOf(index, index.devices.get(step.deviceId)?.model ?? '')?.inspectionMbps ?? null
      if (mbps !== null) add({ kind: 'inspection', id: step.deviceId, thereMbps: mbps, backMbps: mbps })
    }
  }
  return [...stages.values()]
}

/** What the way of a flow that passes carries at most. Ends of which nothing is known say nothing. */
export function capacityOf(index: PlanIndex, walk: Walk, weather: Weather = []): Capacity {
  const stages = pathSegments(index, walk, weather)
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
