import { isPairRule } from '#core/queries'
import {
  secondsToMove,
  type Capacity,
  type FlowRef,
  type PathSegment,
  type WalkLine,
} from '#core/reachability'
import type { Names } from './names'
import { stopWords } from './stops'

export interface WalkWords {
  readonly where: string
  readonly what: string
  readonly outcome: string
  readonly bad: boolean
}

type LineOf<K extends WalkLine['kind']> = Extract<WalkLine, { readonly kind: K }>
function routeWords(names: Names, { how, via }: LineOf<'route'>): string {
  switch (how) {
    case 'connected':
      return `into ${names.network(via)}`
    case 'uplink':
      return `out by ${names.uplink(via)}`
    case 'tunnel':
      return `into ${names.tunnel(via)}`
    case 'static':
      return `via ${via}`
  }
}
function ruleName({ ruleId, number }: LineOf<'rule'>): string {
  if (ruleId === null) return 'default'
  return isPairRule(ruleId) ? 'default of this pair' : `rule ${number}`
}

const tagWords = (tag: number): string => (tag === 0 ? 'untagged' : `tagged ${tag}`)

/** Where a line of a walk is, what it shows and what comes of it; `bad`: the flow ends there. */
type Said = readonly [where: string, what: string, outcome: string, bad?: boolean]

const exitWords = (exit: NonNullable<LineOf<'chosen'>['exit']>, names: Names): string =>
  exit.kind === 'uplink' ? names.uplink(exit.id) : names.tunnel(exit.id)

const SAY: { readonly [Kind in WalkLine['kind']]: (line: LineOf<Kind>, names: Names) => Said } = {
  host: (line, names) => [
    names.device(line.deviceId),
    `${line.address}/${line.prefixLength}`,
    line.towards === 'gateway' ? `sends to its gateway ${line.next}` : `${line.next} is on its own link`,
  ],
  hop: ({ out, into, tag }, names) => [
    `${names.device(out.deviceId)} ${names.port(out)} → ${names.device(into.deviceId)} ${names.port(into)}`,
    tagWords(tag),
    'carried',
  ],
  'dropped-at': ({ port }, names) => [
    `${names.device(port.deviceId)} ${names.port(port)}`,
    'this port does not carry the VLAN',
    'dropped',
    true,
  ],
  route: (line, names) => [`${names.device(line.deviceId)}, route`, line.prefix, routeWords(names, line)],
  rule: (line, names) => [
    `${names.device(line.deviceId)}, ${ruleName(line)}`,
    line.chain === 'input' ? 'to the device itself' : 'through the device',
    `${line.action}s`,
    line.action !== 'accept',
  ],
  translate: ({ deviceId, exit }, names) => [
    `${names.device(deviceId)}, NAT`,
    exitWords(exit, names),
    'address translated',
  ],
  chosen: ({ deviceId, policyRouteId, exit }, names) => [
    `${names.device(deviceId)}, policy route`,
    names.choice(policyRouteId),
    exit === null ? 'refuses: its uplink is down' : `out by ${exitWords(exit, names)}`,
    exit === null,
  ],
  tunnel: ({ tunnelId, peerId, inward, known }, names) => [
    names.tunnel(tunnelId),
    names.peer(peerId),
    (inward ? 'sealed there, opened here' : 'sealed here, opened there') +
      (known === null ? '' : `; over there ours is ${known}`),
  ],
  forwarded: ({ deviceId, forwardId }, names) => {
    const where = `${names.device(deviceId)}, port forward`
    const forward = names.forward(forwardId)
    if (!forward) return [where, forwardId, '']
    const ports = forward.to > forward.from ? `${forward.from}-${forward.to}` : String(forward.from)
    const target = `${forward.toAddress} port ${forward.toPort}`
    return [where, `${forward.proto} ${ports}`, `handed to ${target}`]
  },
  delivered: () => ['There', '', 'delivered, and the answer comes back'],
  stopped: ({ code }) => ['There it ends', '', stopWords(code), true],
}

export function walkWords(line: WalkLine, names: Names): WalkWords {
  const say = SAY[line.kind] as (line: WalkLine, names: Names) => Said
  const [where, what, outcome, bad = false] = say(line, names)
  return { where: 'back' in line && line.back ? `back: ${where}` : where, what, outcome, bad }
}

/** 84 s; 12 min; 3.4 h. */
export const durationText = (seconds: number): string => {
  if (seconds < 120) return `${Math.round(seconds)} s`
  if (seconds < 7200) return `${Math.round(seconds / 60)} min`
  return `${Math.round(seconds / 360) / 10} h`
}

/** What a way carries, each way, by which stage, and how long so many GB take. */
export function capacityWords(capacity: Capacity, names: Names, gb: number): string {
  const stage = (segment: PathSegment) => {
    if (segment.kind === 'uplink') return names.uplink(segment.id)
    if (segment.kind === 'inspection') return `${names.device(segment.id)}, inspecting`
    if (segment.kind === 'far') return `the uplink of ${names.peer(segment.id)}`
    return names.thing(segment.id)
  }
  const one = (way: string, of: Capacity['there']): string[] => {
    if (!of) return []
    if (of.mbps === 0) return [`${way} nothing (${stage(of.stage)})`]
    const mbps = of.mbps.toLocaleString('en', { maximumFractionDigits: of.mbps < 10 ? 1 : 0 })
    const time = durationText(secondsToMove(gb, of.mbps))
    return [`${way} at most ${mbps} Mb/s (${stage(of.stage)}), ${gb.toLocaleString('en')} GB in ${time}`]
  }
  const said = [...one('there', capacity.there), ...one('back', capacity.back)]
  if (said.length === 0) return 'no speed on its way is known'
  if (capacity.unknown === 0) return said.join('; ')
  const unknown = capacity.unknown === 1 ? 'one stage is' : `${capacity.unknown} stages are`
  return `${said.join('; ')}; ${unknown} of unknown speed`
}

export const flowWords = (flow: FlowRef): string =>
  flow.proto === 'icmp' ? 'icmp' : `${flow.proto} ${flow.port}`
