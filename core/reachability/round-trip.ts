// Question: does an answer come back, and what does the path there let through?
// Method: a flow is a path there and one back; gateways that see only one of the two let through what they cannot tell
// from a flow of its own.
// Source:
// RFC 9293 (an answer is needed at all); nf_conntrack (an answer without its question is invalid, but of UDP, where
// nothing tells the two apart).
import {
  ALLOW_ALL,
  allOf,
  allowOnly,
  DENY_ALL,
  evaluateFor,
  EVERYTHING,
  isNothing,
  NOTHING,
  ofAnswers,
  type PathFilter,
  type ServiceSet,
} from '#core/filter'
import type { DataPlane, Site } from './plane'
import { stopped, type FlowEnd, type Party, type PathTrace, type StopCode } from './trace'
import { traceOneWay } from './trace-one-way'

export interface Flow {
  readonly request: PathTrace
  /** Null where the request never arrives. */
  readonly reply: PathTrace | null
  /** True where the answer takes other gateways than the question. */
  readonly isAsymmetric: boolean
  /** Services that get through and back. */
  readonly services: ServiceSet
  readonly stop: StopCode | null
}

/** Nobody can call a host that only has the address it gave itself. */
const acceptsCalls = (to: Party): boolean => to.kind !== 'endpoint' || to.endpoint.how !== 'link-local'

/**
 * What comes back, where the answer takes other gateways than the question.
 * A gateway that sees no question drops answers of TCP and ICMP as invalid, and judges those of UDP by its rules; one
 * that sees no answer drops what follows of TCP.
 * @param asNew the answer's path, traced as that of a flow of its own
 */
function returnFilter(
  { routers: there }: PathTrace,
  { routers: back }: PathTrace,
  asNew: () => PathTrace,
): PathFilter {
  const unasked = back.filter((id) => !there.includes(id))
  if (unasked.length === 0)
    return there.every((id) => back.includes(id)) ? ALLOW_ALL : allowOnly({ ...EVERYTHING, tcp: [] })
  const path = asNew()
  return path.stop === null ? { kind: 'answers', of: ofAnswers(path.filter, unasked) } : DENY_ALL
}

/** Exactly what gets from one address to another and back, and how. */
export function flowBetween(site: Site, from: FlowEnd, to: FlowEnd): Flow {
  const none = { services: NOTHING, reply: null, isAsymmetric: false }
  if (!acceptsCalls(to.party)) return { ...none, request: stopped('no-address'), stop: 'no-address' }
  const request = traceOneWay(site.plane, from, to, { isNewFlow: true, recordSteps: true })
  if (request.stop) return { ...none, request, stop: request.stop }
  const lastRouter = request.routers.at(-1)
  const reply = traceOneWay(site.plane, to, from, { isNewFlow: false, recordSteps: true, lastRouter })
  if (reply.stop) return { ...none, request, reply, stop: reply.stop }
  const back = returnFilter(request, reply, () =>
    traceOneWay(site.plane, to, from, { isNewFlow: true, recordSteps: false }),
  )
  const isAsymmetric = back !== ALLOW_ALL
  const services = evaluateFor(allOf([request.filter, back]), site.policies, from.address, to.address)
  return {
    request,
    reply,
    services,
    isAsymmetric,
    stop: isAsymmetric && isNothing(services) ? 'asymmetric' : null,
  }
}

/** Finds what the paths between many ends let through, for any addresses that share them. */
export class PathFilters {
  private readonly traces = new Map<FlowEnd, Map<FlowEnd, PathTrace>>()
  constructor(private readonly plane: DataPlane) {}

  private request(from: FlowEnd, to: FlowEnd): PathTrace {
    let known = this.traces.get(from)
    if (!known) this.traces.set(from, (known = new Map()))
    let trace = known.get(to)
    if (!trace) {
      trace = traceOneWay(this.plane, from, to, { isNewFlow: true, recordSteps: false })
      known.set(to, trace)
    }
    return trace
  }

  /** Between hosts a reply takes the path that a new flow would: it is traced once for both. */
  private reply(from: FlowEnd, to: FlowEnd, lastRouter: string | undefined): PathTrace {
    const betweenHosts = from.party.kind === 'endpoint' && to.party.kind === 'endpoint'
    if (betweenHosts) return this.request(from, to)
    return traceOneWay(this.plane, from, to, { isNewFlow: false, recordSteps: false, lastRouter })
  }

  between(from: FlowEnd, to: FlowEnd): PathFilter {
    if (!acceptsCalls(to.party)) return DENY_ALL
    const request = this.request(from, to)
    if (request.stop) return DENY_ALL
    const reply = this.reply(to, from, request.routers.at(-1))
    if (reply.stop !== null) return DENY_ALL
    const back = returnFilter(request, reply, () => this.request(to, from))
    return back === ALLOW_ALL ? request.filter : allOf([request.filter, back])
  }
}
