// Question: how does this one flow go, hop by hop, and which entry decides it?
// Method: the same passage as the grid's, spelled out: every port and tag on the wire, every route, every
// rule.
import { contains, formatIpv4, formatPrefix4, ipv4, spaceOf, type Ipv4 } from '#core/address'
import { cablePath, egressTag, modeFor, type BfsTree, type Hop, type Layer2Node } from '#core/layer2'
import { unreachable } from '#core/util'
import { isVlanAware } from '#core/queries'
import type { Link, PortRef, DeviceId, LinkId, PeerId, RuleId, TunnelId } from '#core/schema'
import { decide, evaluateFor, includes } from '#core/filter'
import type { FlowRef } from './cell'
import type { FlowText } from './flow-text'
import { gatewaySeenBy } from './gateway-choice'
import type { Site } from './plane'
import type { Party, PathTrace, Step, StopCode } from './trace'
import { GATEWAY, INTERNET, peerKey } from './zones'
import { flowBetween } from './round-trip'
import type { Exit, RouteEntry } from './routing'

/** One line of a walk. Ids are the plan's; wording is built elsewhere. */
export type WalkLine =
  | {
      readonly kind: 'host'
      readonly deviceId: DeviceId
      readonly address: string
      readonly prefixLength: number
      readonly towards: 'on-link' | 'gateway'
      readonly next: string
      readonly back: boolean
    }
  | {
      readonly kind: 'hop'
      readonly out: PortRef
      readonly into: PortRef
      readonly linkId: LinkId
      readonly tag: number
      readonly back: boolean
    }
  | { readonly kind: 'dropped-at'; readonly port: PortRef; readonly linkId: LinkId; readonly back: boolean }
  | {
      readonly kind: 'route'
      readonly deviceId: DeviceId
      readonly prefix: string
      readonly via: string
      readonly how: RouteEntry['kind']
      readonly back: boolean
    }
  | {
      readonly kind: 'rule'
      readonly deviceId: DeviceId
      readonly chain: 'forward' | 'input'
      readonly ruleId: RuleId | null
      readonly number: number
      readonly action: 'accept' | 'drop' | 'reject'
      readonly back: boolean
    }
  | {
      readonly kind: 'chosen'
      readonly deviceId: DeviceId
      readonly policyRouteId: string
      readonly exit: Exit | null
      readonly back: boolean
    }
  | { readonly kind: 'translate'; readonly deviceId: DeviceId; readonly exit: Exit; readonly back: boolean }
  | {
      readonly kind: 'tunnel'
      readonly tunnelId: TunnelId
      readonly peerId: PeerId
      readonly inward: boolean
      /** The address by which the peer knows ours; null where it is our own. */ readonly known: string | null
      readonly back: boolean
    }
  | {
      readonly kind: 'forwarded'
      readonly deviceId: DeviceId
      readonly forwardId: string
      readonly back: boolean
    }
  | { readonly kind: 'delivered' }
  | { readonly kind: 'stopped'; readonly code: StopCode | 'rule'; readonly back: boolean }

export interface Walk {
  readonly flow: FlowRef
  /** Both ends' addresses as people write them. */
  readonly fromText: string
  readonly toText: string
  readonly passes: boolean
  readonly lines: readonly WalkLine[]
}

function partyOf(site: Site, id: string, other: string): Party | null {
  if (id === GATEWAY) {
    const seenBy = other === GATEWAY ? null : partyOf(site, other, GATEWAY)
    const gateway = seenBy && gatewaySeenBy(site, seenBy)
    return gateway && { kind: 'gateway', deviceId: gateway.deviceId }
  }
  if (id === INTERNET) return { kind: 'internet' }
  const tunnel = site.tunnels.find((t) => t.peers.some((p) => peerKey(p.id) === id))
  const peer = tunnel?.peers.find((p) => peerKey(p.id) === id)
  if (tunnel && peer) return { kind: 'peer', tunnelId: tunnel.id, peerId: peer.id }
  const endpoint = site.endpoints.find((e) => e.id === id)
  return endpoint ? { kind: 'endpoint', endpoint } : null
}

/**
 * Whether any of the frames that got to a device leave it by a port; if so, the far port is the one that
 * drops them.
 */
function sends(site: Site, reached: BfsTree, out: PortRef, link: Link): boolean {
  const device = site.index.devices.get(out.deviceId)
  if (!device) return false
  const mode = modeFor(site.index, device, out, link)
  if (!isVlanAware(device)) return mode.mode !== 'off'
  return reached.nodes.some(
    (node) => node.deviceId === device.id && node.portId === null && egressTag(mode, node.tag) !== null,
  )
}

/** The wires as far as frames get, then the port at which they end. */
function wireLines(
  site: Site,
  from: Layer2Node,
  to: Layer2Node,
  delivered: boolean,
  back: boolean,
): WalkLine[] {
  const line = (hop: Hop): WalkLine => ({
    kind: 'hop',
    out: hop.out,
    into: hop.into,
    linkId: hop.link.id,
    tag: hop.tag,
    back,
  })
  const reached = site.layer2.bfsTree(from)
  if (delivered || reached.has(to)) {
    const lines = reached.hopsTo(to).map(line)
    return delivered
      ? lines
      : [...lines, ...wireLines(site, to, from, false, true).filter((l) => l.kind === 'dropped-at')]
  }
  const links = cablePath(site.index, site.layer2.failed, from.deviceId, to.deviceId) ?? []
  const lines: WalkLine[] = []
  let at = from.deviceId
  for (const link of links) {
    const near = link.a.deviceId === at ? link.a : link.b
    const far = near === link.a ? link.b : link.a
    const crossing = reached.hops.find((hop) => hop.link.id === link.id && hop.out.deviceId === at)
    if (!crossing)
      return [
        ...lines,
        { kind: 'dropped-at', port: sends(site, reached, near, link) ? far : near, linkId: link.id, back },
      ]
    lines.push(line(crossing))
    at = far.deviceId
  }
  return lines
}

const textOf = (site: Site, address: Ipv4): string =>
  site.ipv6 ? site.ipv6.text(address) : formatIpv4(address)

/** The rule that decides a flow at a gateway. */
function ruleLine(site: Site, step: Step & { kind: 'rules' }, flow: FlowRef, back: boolean): WalkLine[] {
  const { deviceId, chain } = step
  const compiled = site.policies.get(deviceId)
  if (!compiled) return []
  const decision = decide(compiled, chain, step.from, step.to).find(({ services }) =>
    includes(services, flow.proto, flow.port),
  )
  const rule = decision?.rule ?? null
  return [
    {
      kind: 'rule',
      deviceId,
      chain,
      ruleId: rule?.id ?? null,
      number: rule ? compiled.policy.rules.indexOf(rule) + 1 : 0,
      action: decision?.action ?? 'drop',
      back,
    },
  ]
}

/** The forward that a flow comes in by. */
function forwardLine(
  site: Site,
  { deviceId, uplinkIds }: Step & { kind: 'forwarded' },
  flow: FlowRef,
  back: boolean,
): WalkLine[] {
  const forward = site.forwards.find(
    ({ proto, uplinkId, toAddress, toPort, from, to }) =>
      proto === flow.proto &&
      uplinkIds.includes(uplinkId) &&
      toAddress === formatIpv4(ipv4(flow.toAddress)) &&
      flow.port >= toPort &&
      flow.port <= toPort + to - from,
  )
  return forward ? [{ kind: 'forwarded', deviceId, forwardId: forward.id, back }] : []
}

const hostLine = (site: Site, step: Step & { kind: 'host' }, back: boolean): WalkLine => ({
  kind: 'host',
  deviceId: step.endpoint.deviceId,
  address: textOf(site, step.address),
  prefixLength: site.ipv6 ? 64 : step.endpoint.prefixLength,
  towards: step.towards,
  next: textOf(site, step.next),
  back,
})

const routeLine = (site: Site, { deviceId, entry }: Step & { kind: 'route' }, back: boolean): WalkLine => ({
  kind: 'route',
  deviceId,
  prefix: site.ipv6 ? site.ipv6.prefixText(entry.prefix) : formatPrefix4(entry.prefix),
  via: entry.via,
  how: entry.kind,
  back,
})

function linesOf(site: Site, step: Step, flow: FlowRef, back: boolean): WalkLine[] {
  switch (step.kind) {
    case 'host':
      return [hostLine(site, step, back)]
    case 'wire':
      return wireLines(site, step.from, step.to, step.delivered, back)
    case 'route':
      return [routeLine(site, step, back)]
    case 'rules':
      return ruleLine(site, step, flow, back)
    case 'chosen': {
      const { deviceId, policyRouteId, exit } = step
      return [{ kind: 'chosen', deviceId, policyRouteId, exit, back }]
    }
    case 'translate':
      return [{ kind: 'translate', deviceId: step.deviceId, exit: step.exit, back }]
    case 'tunnel': {
      const { tunnelId, peerId, inward } = step
      const known = step.known === null ? null : formatIpv4(step.known)
      return [{ kind: 'tunnel', tunnelId, peerId, inward, known, back }]
    }
    case 'forwarded':
      return forwardLine(site, step, flow, back)
    default:
      return unreachable(step)
  }
}

/** The steps of a flow's own way, up to the rule that refuses it. */
function ownSteps(site: Site, trace: PathTrace, flow: FlowRef): { steps: Step[]; refused: boolean } {
  const steps: Step[] = []
  for (const step of trace.steps) {
    // Of services that take different paths only the flow's own way is told.
    if (step.only && !includes(step.only, flow.proto, flow.port)) continue
    steps.push(step)
    const rule = step.kind === 'rules' ? ruleLine(site, step, flow, false).at(-1) : undefined
    if (rule?.kind === 'rule' && rule.action !== 'accept') return { steps, refused: true }
  }
  return { steps, refused: false }
}

const linesOfTrace = (site: Site, trace: PathTrace, flow: FlowRef, back: boolean): WalkLine[] =>
  ownSteps(site, trace, flow).steps.flatMap((step) => linesOf(site, step, flow, back))

/**
 * A flow with addresses that its ends have now: those it names, where they still have them, else the first
 * they may have.
 */
export function currentFlow(site: Site, flow: FlowRef): FlowRef {
  const at = (id: string, address: number): number => {
    const ranges = site.endpoints.find((e) => e.id === id)?.ranges
    return !ranges || ranges.some((r) => r.from <= address && address <= r.to)
      ? address
      : (ranges[0]?.from ?? address)
  }
  return { ...flow, fromAddress: at(flow.from, flow.fromAddress), toAddress: at(flow.to, flow.toAddress) }
}

/**
 * Who has an address, or may have it: a host, a gateway itself, a peer, or somebody outside; null for nobody.
 */
function whoHas(site: Site, address: Ipv4): string | null {
  const host = site.endpoints.find(
    (e) => e.how !== 'link-local' && e.ranges.some((r) => r.from <= address && address <= r.to),
  )
  if (host) return host.id
  if (site.interfacesByAddress.has(address) || site.tunnels.some((t) => t.address === address)) return GATEWAY
  const peer = site.tunnels
    .flatMap((t) => t.peers)
    .find(
      (peerFace) =>
        peerFace.kind !== 'provider' &&
        peerFace.allowed.some((prefix) => prefix.length > 0 && contains(prefix, address)),
    )
  if (peer) return peerKey(peer.id)
  return ['public', 'documentation', 'shared'].includes(spaceOf(address)) ? INTERNET : null
}

/**
 * The flow that was typed, with the ends of another where it names none.
 * Null where nobody has an address that it names.
 */
export function flowTyped(site: Site, like: FlowRef, typed: FlowText): FlowRef | null {
  const [from, to] = [
    typed.from === null ? like.from : whoHas(site, typed.from),
    typed.to === null ? like.to : whoHas(site, typed.to),
  ]
  if (from === null || to === null) return null
  return currentFlow(site, {
    from,
    fromAddress: typed.from ?? like.fromAddress,
    to,
    toAddress: typed.to ?? like.toAddress,
    proto: typed.proto,
    port: typed.port,
  })
}

type Judged = ReturnType<typeof judged>
/** Both ends of one flow and what passes between them; null where one is not in the plan, or not there now. */
function judged(site: Site, flow: FlowRef) {
  const from = partyOf(site, flow.from, flow.to)
  const to = partyOf(site, flow.to, flow.from)
  if (!from || !to) return null
  const sender = { party: from, address: ipv4(flow.fromAddress) }
  const result = flowBetween(site, sender, { party: to, address: ipv4(flow.toAddress) })
  return { to, result }
}

/** Where a flow stops: on the way there, or on the way back. */
interface FlowStop {
  readonly code: StopCode | 'rule'
  readonly back: boolean
}

/** Null where the flow passes and is answered. */
function stopOf(site: Site, flow: FlowRef, { to, result }: NonNullable<Judged>): FlowStop | null {
  const { steps, refused } = ownSteps(site, result.request, flow)
  const there = (code: FlowStop['code']): FlowStop => ({ code, back: false })
  if (refused) return there('rule')
  if (result.request.stop) return there(result.request.stop)
  if (result.stop) return { code: result.stop, back: result.reply !== null }
  if (includes(result.services, flow.proto, flow.port)) return null
  if (result.isAsymmetric && result.reply) {
    const [from, target] = [ipv4(flow.fromAddress), ipv4(flow.toAddress)]
    const arrives = evaluateFor(result.request.filter, site.policies, from, target)
    if (includes(arrives, flow.proto, flow.port)) return { code: 'asymmetric', back: true }
  }
  // Services take different paths, and that of this flow leads nowhere.
  if (steps.some((step) => step.kind === 'chosen' && step.exit === null)) return there('route-refused')
  if (to.kind === 'gateway') return there('handed-inside')
  return there(to.kind === 'internet' ? 'upstream-down' : 'not-addressable')
}

/** What stops one flow, without the steps of its walk; null where it passes, or an end of it is not there. */
export function stopOfFlow(site: Site, flow: FlowRef): FlowStop['code'] | null {
  const found = judged(site, flow)
  return (found && stopOf(site, flow, found)?.code) ?? null
}

/** Walks one flow. Null where one of its ends is not in the plan, or not there under this scenario. */
export function walkFlow(site: Site, flow: FlowRef): Walk | null {
  const found = judged(site, flow)
  if (!found) return null
  const { request, reply } = found.result
  const stop = stopOf(site, flow, found)
  const last: WalkLine = stop ? { kind: 'stopped', ...stop } : { kind: 'delivered' }
  return {
    flow,
    fromText: textOf(site, ipv4(flow.fromAddress)),
    toText: textOf(site, ipv4(flow.toAddress)),
    passes: stop === null,
    lines: [
      ...linesOfTrace(site, request, flow, false),
      ...(stop?.back && reply ? linesOfTrace(site, reply, flow, true) : []),
      last,
    ],
  }
}
