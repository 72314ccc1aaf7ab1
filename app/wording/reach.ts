import { nameOfKey, nameOfThing } from '#core/findings'
import {
  indexPlan,
  isPairRule,
  schedulesHolding,
  type Condition,
  type FailureScenario,
  type PlanIndex,
} from '#core/queries'
import type { Plan, PortRef, Selector } from '#core/schema'
import {
  secondsToMove,
  type Capacity,
  type FlowRef,
  type PathSegment,
  type WalkLine,
} from '#core/reachability'
import { instantName } from './instants'

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

/** What is not as usual: a thing that is down, an uplink beyond which nothing answers, a time. */
function conditionName(index: PlanIndex, condition: Condition): string {
  switch (condition.kind) {
    case 'down':
      return nameOfThing(index, condition.id)
    case 'upstream-down':
      return `${nameOfThing(index, condition.uplinkId)}, beyond the line`
    case 'instant': {
      const held = schedulesHolding(index.plan, [condition])
      const schedules = index.plan.schedules.filter((s) => held.has(s.id))
      return instantName(
        condition.minute,
        schedules.map((s) => s.name),
      )
    }
  }
}
/** `Harbour fibre down`, `no answer beyond Harbour fibre`, `Monday 08:00, Office hours`. */
export function conditionWords(condition: Condition, names: Names): string {
  switch (condition.kind) {
    case 'down':
      return `${names.thing(condition.id)} down`
    case 'upstream-down':
      return `no answer beyond ${names.uplink(condition.uplinkId)}`
    case 'instant':
      return names.condition(condition)
  }
}
/** The same of all that is not as usual at once. */
export const scenarioWords = (scenario: FailureScenario, names: Names): string =>
  scenario.map((condition) => conditionWords(condition, names)).join(' and ') || 'everything well'

export type Names = ReturnType<typeof namesIn>

/** Names of a plan's things, for sentences. */
export function namesIn(plan: Plan) {
  const index = indexPlan(plan)
  const device = (id: string) => index.devices.get(id)?.name ?? id
  const port = (ref: PortRef) =>
    index.devices.get(ref.deviceId)?.ports.find((p) => p.id === ref.portId)?.name ?? ref.portId
  const tunnelOf = (id: string) => plan.tunnels.find((t) => t.id === id)?.name ?? id
  const peerOf = (id: string) => plan.tunnels.flatMap((t) => t.peers).find((p) => p.id === id)?.name ?? id
  return {
    device,
    port,
    tunnel: tunnelOf,
    peer: peerOf,
    choice: (id: string) => plan.policyRoutes.find((r) => r.id === id)?.note || id,
    forward: (id: string) => plan.forwards.find((f) => f.id === id),
    network: (id: string) => index.networks.get(id)?.name ?? id,
    uplink: (id: string) => plan.uplinks.find((u) => u.id === id)?.name ?? id,
    key: (key: string) => nameOfKey(index, key),
    thing: (id: string) => nameOfThing(index, id),
    condition: (condition: Condition) => conditionName(index, condition),
    selector: (selector: Selector): string => {
      switch (selector.kind) {
        case 'any':
          return 'anything'
        case 'inside':
          return 'every network'
        case 'network':
          return index.networks.get(selector.id)?.name ?? selector.id
        case 'device':
          return device(selector.id)
        case 'prefix':
          return selector.prefix
        case 'internet':
          return 'the internet'
        case 'gateway':
          return 'the gateway'
        case 'tunnel':
          return `anyone in ${tunnelOf(selector.id)}`
        case 'peer':
          return peerOf(selector.id)
        case 'group':
          return index.groups.get(selector.id)?.name ?? selector.id
      }
    },
  }
}

const STOPS: Readonly<Record<string, string>> = {
  rule: 'stopped by a rule',
  'not-handed-back': 'the forward is for calls from outside alone',
  'other-gateway': 'its gateway is another one',
  'line-down': 'the line is down',
  'address-elsewhere': 'the outside address is not the gateway’s own',
  'no-target': 'nobody is at the address it is handed to',
  'answer-elsewhere': 'the answer leaves by another interface than its own',
  'no-address': 'has no address: no DHCP server hears it',
  'no-gateway': 'knows no gateway',
  'gateway-off-link': "the gateway's address is not on its own link",
  'gateway-unanswered': 'its gateway does not answer',
  'neighbour-unanswered': 'nobody answers on that link',
  isolated: 'the SSID keeps its stations apart',
  'no-route': 'no route leads there',
  'no-uplink': 'no uplink is up',
  'not-global': 'its address is one that no provider brings packets to',
  'upstream-down': 'nothing answers beyond the line, and no probe has found out',
  'route-refused': 'its policy route refuses while the line is down',
  'tunnel-down': 'the tunnel is down',
  'no-peer': 'no peer of the tunnel has that address',
  'peer-refuses': 'the far end does not allow that sender',
  'peer-sends-not': 'the far end does not send that into the tunnel',
  'not-addressable': 'a private address cannot be called from outside',
  'handed-inside': 'a port forward hands it inside before the gateway sees it',
  'shared-address': "the provider's address is shared: nobody can dial in",
  'too-many-hops': 'goes round in circles',
  asymmetric: 'the answer takes another way and is dropped',
  'device-off': 'the device is down',
}
export const stopWords = (code: string): string => STOPS[code] ?? code

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
    exit === null ? 'refuses: its line is down' : `out by ${exitWords(exit, names)}`,
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
    if (segment.kind === 'line') return names.uplink(segment.id)
    if (segment.kind === 'inspection') return `${names.device(segment.id)}, inspecting`
    if (segment.kind === 'far') return `the line of ${names.peer(segment.id)}`
    return names.thing(segment.id)
  }
  const one = (way: string, of: Capacity['there']) =>
    of
      ? [
          `${way} at most ${of.mbps.toLocaleString('en')} Mb/s (${stage(of.stage)}), ` +
            `${gb.toLocaleString('en')} GB in ${durationText(secondsToMove(gb, of.mbps))}`,
        ]
      : []
  const said = [...one('there', capacity.there), ...one('back', capacity.back)]
  if (said.length === 0) return 'no speed on its way is known'
  if (capacity.unknown === 0) return said.join('; ')
  const unknown = capacity.unknown === 1 ? 'one stage is' : `${capacity.unknown} stages are`
  return `${said.join('; ')}; ${unknown} of unknown speed`
}

/** Who stands at an end of a flow: an endpoint's device, a peer, the gateway or the internet. */
export const partyWords = (id: string, names: Names): string => {
  if (id === 'gateway') return 'Gateway'
  if (id === 'internet') return 'Internet'
  if (id.startsWith('peer:')) return names.peer(id.slice(5))
  return names.device(id.split('~')[0] ?? id)
}

export const flowWords = (flow: FlowRef): string =>
  flow.proto === 'icmp' ? 'icmp' : `${flow.proto} ${flow.port}`
