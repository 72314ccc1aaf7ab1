// Question: how does this one flow go, hop by hop, and which entry decides it?
// Method: the same passage as the grid's, spelled out: every port and tag on the wire, every route, every
// rule.
import { contains, formatIpv4, formatPrefix4, ipv4, parseIpv4, spaceOf, type Ipv4 } from '#core/address'
import { cablePath, egressTag, hopsTo, modeFor, parseNode, type BfsTree, type Hop } from '#core/layer2'
import { ok, problem, refuse, unreachable, type Result } from '#core/util'
import { isVlanAware, type Link, type PortRef } from '#core/model'
import { decide, includes } from '#core/filter'
import type { FlowRef } from './cell'
import { gatewaySeenBy } from './gateway-choice'
import type { Site } from './data-plane'
import type { Party, PathTrace, Step, StopCode } from './trace'
import { GATEWAY, INTERNET, peerKey } from './zones'
import { flowBetween } from './round-trip'
import type { Exit, RouteEntry } from './routing'

/** One line of a walk. Ids are the plan's; wording is built elsewhere. */
export type WalkLine =
  | {
      readonly kind: 'host'
      readonly deviceId: string
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
      readonly linkId: string
      readonly tag: number
      readonly back: boolean
    }
  | { readonly kind: 'dropped-at'; readonly port: PortRef; readonly linkId: string; readonly back: boolean }
  | {
      readonly kind: 'route'
      readonly deviceId: string
      readonly prefix: string
      readonly via: string
      readonly how: RouteEntry['kind']
      readonly back: boolean
    }
  | {
      readonly kind: 'rule'
      readonly deviceId: string
      readonly chain: 'forward' | 'input'
      readonly ruleId: string | null
      readonly number: number
      readonly action: 'accept' | 'drop' | 'reject'
      readonly back: boolean
    }
  | {
      readonly kind: 'chosen'
      readonly deviceId: string
      readonly policyRouteId: string
      readonly exit: Exit | null
      readonly back: boolean
    }
  | { readonly kind: 'translate'; readonly deviceId: string; readonly exit: Exit; readonly back: boolean }
  | {
      readonly kind: 'tunnel'
      readonly tunnelId: string
      readonly peerId: string
      readonly inward: boolean
      /** The address by which the peer knows ours; null where it is our own. */ readonly known: string | null
      readonly back: boolean
    }
  | {
      readonly kind: 'forwarded'
      readonly deviceId: string
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

const deviceAt = (node: string): string => parseNode(node).deviceId

/**
 * Whether any of the frames that got to a device leave it by a port; if so, the far port is the one that
 * drops them.
 */
function sends(site: Site, reached: BfsTree, out: PortRef, link: Link): boolean {
  const device = site.index.devices.get(out.deviceId)
  if (!device) return false
  const mode = modeFor(site.index, device, out, link)
  if (!isVlanAware(device)) return mode.mode !== 'off'
  return [...reached.keys()].some((name) => {
    const node = parseNode(name)
    return node.deviceId === device.id && node.portId === null && egressTag(mode, node.tag) !== null
  })
}

/** The wires as far as frames get, then the port at which they end. */
function wireLines(site: Site, from: string, to: string, delivered: boolean, back: boolean): WalkLine[] {
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
    const lines = hopsTo(reached, to).map(line)
    return delivered
      ? lines
      : [...lines, ...wireLines(site, to, from, false, true).filter((l) => l.kind === 'dropped-at')]
  }
  const links = cablePath(site.index, site.layer2.failed, deviceAt(from), deviceAt(to)) ?? []
  const lines: WalkLine[] = []
  let at = deviceAt(from)
  for (const link of links) {
    const near = link.a.deviceId === at ? link.a : link.b
    const far = near === link.a ? link.b : link.a
    const crossing = [...reached.values()].find(
      (step) => step?.hop.link.id === link.id && step.hop.out.deviceId === at,
    )
    if (!crossing)
      return [
        ...lines,
        { kind: 'dropped-at', port: sends(site, reached, near, link) ? far : near, linkId: link.id, back },
      ]
    lines.push(line(crossing.hop))
    at = far.deviceId
  }
  return lines
}

const textOf = (site: Site, address: Ipv4): string =>
  site.ipv6 ? site.ipv6.text(address) : formatIpv4(address)

function linesOf(site: Site, step: Step, flow: FlowRef, back: boolean): WalkLine[] {
  switch (step.kind) {
    case 'host':
      return [
        {
          kind: 'host',
          deviceId: step.endpoint.deviceId,
          address: textOf(site, step.address),
          prefixLength: site.ipv6 ? 64 : step.endpoint.prefixLength,
          towards: step.towards,
          next: textOf(site, step.next),
          back,
        },
      ]
    case 'wire':
      return wireLines(site, step.from, step.to, step.delivered, back)
    case 'route':
      return [
        {
          kind: 'route',
          deviceId: step.deviceId,
          prefix: site.ipv6 ? site.ipv6.prefixText(step.entry.prefix) : formatPrefix4(step.entry.prefix),
          via: step.entry.via,
          how: step.entry.kind,
          back,
        },
      ]
    case 'rules': {
      const compiled = site.policies.get(step.deviceId)
      if (!compiled) return []
      const decision = decide(compiled, step.chain, step.from, step.to).find((decision) =>
        includes(decision.services, flow.proto, flow.port),
      )
      const { rules } = compiled.policy
      const number = decision?.rule ? rules.indexOf(decision.rule) + 1 : 0
      return [
        {
          kind: 'rule',
          deviceId: step.deviceId,
          chain: step.chain,
          ruleId: decision?.rule?.id ?? null,
          number,
          action: decision?.action ?? 'drop',
          back,
        },
      ]
    }
    case 'chosen':
      return [
        { kind: 'chosen', deviceId: step.deviceId, policyRouteId: step.policyRouteId, exit: step.exit, back },
      ]
    case 'translate':
      return [{ kind: 'translate', deviceId: step.deviceId, exit: step.exit, back }]
    case 'tunnel':
      return [
        {
          kind: 'tunnel',
          tunnelId: step.tunnelId,
          peerId: step.peerId,
          inward: step.inward,
          known: step.known === null ? null : formatIpv4(step.known),
          back,
        },
      ]
    case 'forwarded': {
      const forward = site.forwards.find(
        (forward) =>
          forward.proto === flow.proto &&
          step.uplinkIds.includes(forward.uplinkId) &&
          forward.toAddress === formatIpv4(ipv4(flow.toAddress)) &&
          flow.port >= forward.toPort &&
          flow.port <= forward.toPort + forward.to - forward.from,
      )
      return forward ? [{ kind: 'forwarded', deviceId: step.deviceId, forwardId: forward.id, back }] : []
    }
    default:
      return unreachable(step)
  }
}

function traceLines(
  site: Site,
  trace: PathTrace,
  flow: FlowRef,
  back: boolean,
): { lines: WalkLine[]; refused: boolean } {
  const lines: WalkLine[] = []
  for (const step of trace.steps) {
    // Of services that part ways only the flow's own way is told.
    if ('only' in step && step.only && !includes(step.only, flow.proto, flow.port)) continue
    lines.push(...linesOf(site, step, flow, back))
    const last = lines.at(-1)
    if (last?.kind === 'rule' && last.action !== 'accept') return { lines, refused: true }
  }
  return { lines, refused: false }
}

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

/** A flow as somebody types it: addresses where they are told, else those of another flow. */
export interface FlowText {
  readonly from: Ipv4 | null
  readonly to: Ipv4 | null
  readonly proto: FlowRef['proto']
  readonly port: number
}

/**
 * Reads `tcp 8080`, `icmp`, or `10.61.1.104 to 198.51.100.7 udp 53`.
 * Errors: not-ipv4 and its kin for an address; not-a-flow for anything else.
 */
export function readFlow(text: string, place = ''): Result<FlowText> {
  const [whole, from, to, proto, port] =
    /^(?:(\S+) to (\S+) )?(tcp|udp|icmp)(?: (\d{1,5}))?$/i.exec(text.trim().replaceAll(/\s+/g, ' ')) ?? []
  const number = Number(port ?? 0)
  if (whole === undefined || number > 65_535 || (proto?.toLowerCase() === 'icmp') !== (port === undefined))
    return refuse(problem('not-a-flow', place, { text }))
  const [source, target] = [
    from === undefined ? null : parseIpv4(from, place),
    to === undefined ? null : parseIpv4(to, place),
  ]
  const wrong = [source, target].flatMap((read) => (read && !read.ok ? read.problems : []))
  if (wrong.length > 0) return refuse(...wrong)
  return ok({
    from: source?.ok ? source.value : null,
    to: target?.ok ? target.value : null,
    proto: proto?.toLowerCase() as FlowText['proto'],
    port: number,
  })
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

/** Walks one flow. Null where one of its ends is not in the plan, or not there under this weather. */
export function walkFlow(site: Site, flow: FlowRef): Walk | null {
  const from = partyOf(site, flow.from, flow.to)
  const to = partyOf(site, flow.to, flow.from)
  if (!from || !to) return null
  const ends = {
    flow,
    fromText: textOf(site, ipv4(flow.fromAddress)),
    toText: textOf(site, ipv4(flow.toAddress)),
  }
  const result = flowBetween(
    site,
    { party: from, address: ipv4(flow.fromAddress) },
    { party: to, address: ipv4(flow.toAddress) },
  )
  const request = traceLines(site, result.request, flow, false)
  if (request.refused)
    return {
      ...ends,
      passes: false,
      lines: [...request.lines, { kind: 'stopped', code: 'rule', back: false }],
    }
  if (result.request.stop)
    return {
      ...ends,
      passes: false,
      lines: [...request.lines, { kind: 'stopped', code: result.request.stop, back: false }],
    }
  if (result.stop && result.reply) {
    const reply = traceLines(site, result.reply, flow, true)
    return {
      ...ends,
      passes: false,
      lines: [...request.lines, ...reply.lines, { kind: 'stopped', code: result.stop, back: true }],
    }
  }
  if (result.stop)
    return {
      ...ends,
      passes: false,
      lines: [...request.lines, { kind: 'stopped', code: result.stop, back: false }],
    }
  if (!includes(result.services, flow.proto, flow.port)) {
    // Services part ways, and this flow's way leads nowhere.
    const refused = request.lines.some((l) => l.kind === 'chosen' && l.exit === null)
    const unreached = to.kind === 'internet' ? 'line-dark' : 'not-addressable'
    const code = refused ? 'route-refused' : unreached
    return { ...ends, passes: false, lines: [...request.lines, { kind: 'stopped', code, back: false }] }
  }
  return { ...ends, passes: true, lines: [...request.lines, { kind: 'delivered' }] }
}
