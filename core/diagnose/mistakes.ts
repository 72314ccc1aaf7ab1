// Question: what single things go wrong when a plan is built?
// Method: a catalogue of mistakes, each laid on the plan as it stands; what is down is told by the failure scenario
// instead.
// Source: the order of how common they are is common practice, without a source: 5 is met every week, 1 once
// in years.
import {
  cableAt,
  down,
  endAt,
  indexPlan,
  isVlanAware,
  portKey,
  upstreamDown,
  type FailureScenario,
} from '#core/queries'
import type { Change, Json } from '#core/edit'
import type { Device, StaticAssignment, Link, Plan, PortMode, PortRef, NetworkId, PortId } from '#core/schema'
import { plannedPort, type Fact } from './look'

export type MistakeCode =
  | 'link-down'
  | 'device-off'
  | 'uplink-down'
  | 'upstream-down'
  | 'wan-tag'
  | 'lan-overlap'
  | 'modem-routes'
  | 'vlan-missing'
  | 'wrong-pvid'
  | 'native-differs'
  | 'cables-swapped'
  | 'plugged-elsewhere'
  | 'bad-pair'
  | 'gateway-mistyped'
  | 'mask-mistyped'
  | 'dhcp-off'
  | 'second-dhcp'
  | 'rule-missing'
  | 'rule-reversed'
  | 'rule-late'
  | 'service-missing'
  | 'ssid-vlan'
  | 'peer-down'
  | 'key-mismatch'
  | 'allowed-wrong'
  | 'not-forwarded'

export interface Mistake {
  readonly code: MistakeCode
  /** Ids and numbers that its words need. */
  readonly values: Readonly<Record<string, string | number>>
  /** 1 to 5: how common it is. */
  readonly commonness: number
  readonly changes: readonly Change[]
  /** What is down, for mistakes that are failures. */
  readonly failed: FailureScenario
}

const COMMON: Readonly<Record<MistakeCode, number>> = {
  'link-down': 5,
  'device-off': 4,
  'vlan-missing': 5,
  'wrong-pvid': 4,
  'cables-swapped': 4,
  'service-missing': 4,
  'rule-missing': 4,
  'gateway-mistyped': 3,
  'mask-mistyped': 2,
  'dhcp-off': 3,
  'native-differs': 3,
  'rule-late': 3,
  'rule-reversed': 2,
  'uplink-down': 3,
  'upstream-down': 2,
  'wan-tag': 3,
  'ssid-vlan': 3,
  'peer-down': 3,
  'key-mismatch': 3,
  'second-dhcp': 3,
  'lan-overlap': 2,
  'modem-routes': 3,
  'plugged-elsewhere': 4,
  'bad-pair': 3,
  'allowed-wrong': 3,
  'not-forwarded': 3,
}
const json = (value: unknown): Json => value as Json
const mistake = (
  code: MistakeCode,
  values: Mistake['values'],
  changes: readonly Change[],
  failed: FailureScenario = [],
): Mistake => ({ code, values, commonness: COMMON[code], changes, failed })
const set = (path: readonly string[], before: unknown, after: unknown): Change => ({
  kind: 'set',
  path,
  before: json(before),
  after: json(after),
})

function downs(plan: Plan): Mistake[] {
  return [
    ...plan.links
      .filter((l) => l.medium.kind !== 'line')
      .map((l) => mistake('link-down', { link: l.id }, [], [down(l.id)])),
    ...plan.devices
      .filter((d) => d.kind !== 'cloud')
      .map((d) => mistake('device-off', { device: d.id }, [], [down(d.id)])),
    ...plan.uplinks.flatMap((uplink) => [
      mistake('uplink-down', { uplink: uplink.id }, [], [down(uplink.id)]),
      mistake('upstream-down', { uplink: uplink.id }, [], [upstreamDown(uplink.id)]),
      // A modem that gives the gateway an address of one of the site's own networks: what is meant for
      // outside never leaves.
      ...(uplink.kind === 'dhcp'
        ? [mistake('lan-overlap', { uplink: uplink.id }, [], [upstreamDown(uplink.id)])]
        : []),
      ...(uplink.outside === 'own' && uplink.facts.modem !== 'routing'
        ? [
            mistake('modem-routes', { uplink: uplink.id }, [
              set(['uplinks', uplink.id, 'facts', 'modem'], uplink.facts.modem, 'routing'),
              ...(uplink.facts.modemForwards
                ? [set(['uplinks', uplink.id, 'facts', 'modemForwards'], uplink.facts.modemForwards, false)]
                : []),
            ]),
          ]
        : []),
      ...(uplink.tag === null
        ? []
        : [
            mistake('wan-tag', { uplink: uplink.id, tag: uplink.tag }, [
              set(['uplinks', uplink.id, 'tag'], uplink.tag, null),
            ]),
          ]),
    ]),
    ...plan.tunnels.flatMap((tunnel) =>
      tunnel.peers.flatMap((peer) => [
        mistake('peer-down', { peer: peer.id }, [], [down(peer.id)]),
        mistake('key-mismatch', { peer: peer.id }, [], [down(peer.id)]),
      ]),
    ),
  ]
}

function portMistakes(plan: Plan): Mistake[] {
  const linked = new Set(plan.links.flatMap((l) => [portKey(l.a), portKey(l.b)]))
  const vlans = plan.networks.map((n) => n.vlan)
  return plan.devices.filter(isVlanAware).flatMap((device) => {
    const ports = device.ports.filter((p) => linked.has(portKey({ deviceId: device.id, portId: p.id })))
    const at = (portId: PortId) => ['devices', device.id, 'ports', portId, 'mode']
    const values = (portId: PortId) => ({ device: device.id, port: portId })
    return ports.flatMap((port): Mistake[] => {
      const { mode } = port
      const out: Mistake[] = []
      const becomes = (after: PortMode) => [set(at(port.id), mode, after)]
      if (mode.mode === 'trunk' && mode.tagged !== 'all') {
        const { tagged } = mode
        for (const vlan of tagged)
          out.push(
            mistake(
              'vlan-missing',
              { ...values(port.id), vlan },
              becomes({ ...mode, tagged: tagged.filter((v) => v !== vlan) }),
            ),
          )
        for (const vlan of vlans)
          if (vlan !== mode.native)
            out.push(
              mistake(
                'native-differs',
                { ...values(port.id), vlan },
                becomes({ ...mode, native: vlan, tagged: tagged.filter((v) => v !== vlan) }),
              ),
            )
      }
      if (mode.mode === 'access')
        for (const vlan of vlans)
          if (vlan !== mode.vlan)
            out.push(mistake('wrong-pvid', { ...values(port.id), vlan }, becomes({ mode: 'access', vlan })))
      return out
    })
  })
}

/**
 * Cables in each other's port, any two of one switch; or in a free one: one port of each other mode, and where
 * a MAC address was seen.
 */
function cableMistakes(plan: Plan, facts: readonly Fact[]): Mistake[] {
  const index = indexPlan(plan)
  return plan.devices.filter(isVlanAware).flatMap((device) => {
    const at = (portId: PortId): PortRef => ({ deviceId: device.id, portId })
    const isFree = (portId: PortId) => !index.linksAt.has(portKey(at(portId)))
    const cable = (portId: PortId) => cableAt(index, at(portId))
    const moved = (link: Link, from: string, to: string) =>
      set(['links', link.id, endAt(link, at(from))], at(from), at(to))
    const one = (portId: PortId, other: string): Mistake[] => {
      const [own, theirs] = [cable(portId), cable(other)]
      const values = { device: device.id, port: portId, other }
      if (portId === other || !own) return []
      if (isFree(other)) return [mistake('plugged-elsewhere', values, [moved(own, portId, other)])]
      return theirs
        ? [mistake('cables-swapped', values, [moved(own, portId, other), moved(theirs, other, portId)])]
        : []
    }
    const modeOf = (port: Device['ports'][number]) => JSON.stringify(port.mode)
    const cabled = device.ports.filter((p) => cable(p.id))
    const free = [
      ...new Map(
        device.ports.filter((p) => isFree(p.id) && p.mode.mode !== 'wan').map((p) => [modeOf(p), p]),
      ),
    ].map(([, p]) => p)
    const seen = facts.flatMap((fact) =>
      fact.kind === 'mac' && fact.on === device.id
        ? [{ planned: plannedPort(plan, fact.deviceId, fact.on)?.portId, got: fact.got }]
        : [],
    )
    const found = cabled.flatMap((port, i) => {
      return [
        ...cabled
          .slice(i + 1)
          .filter((p) => modeOf(p) !== modeOf(port))
          .flatMap((p) => one(port.id, p.id)),
        ...free.filter((p) => modeOf(p) !== modeOf(port)).flatMap((p) => one(port.id, p.id)),
        ...seen
          .filter((s) => s.planned === port.id && device.ports.some((p) => p.id === s.got))
          .flatMap((s) => one(port.id, s.got)),
      ]
    })
    // Two cables are the same swap whichever is named first.
    const nameOf = ({ values }: Mistake) => [values['port'], values['other']].map(String).sort().join(' ')
    const first = new Map<string, Mistake>()
    for (const item of found) if (!first.has(nameOf(item))) first.set(nameOf(item), item)
    return [...first.values()]
  })
}

/** Of cables whose lights told a lower speed: two of the four pairs are enough for 100 Mb/s. */
function slowCables(plan: Plan, facts: readonly Fact[]): Mistake[] {
  return facts.flatMap((fact): Mistake[] => {
    const link =
      fact.kind === 'link' && Number(fact.got) > 0
        ? plan.links.find((l) => l.id === fact.linkId && l.medium.kind === 'copper')
        : undefined
    const port =
      link && plan.devices.find((d) => d.id === link.a.deviceId)?.ports.find((p) => p.id === link.a.portId)
    return link && port
      ? [
          mistake('bad-pair', { link: link.id, mbps: Number(fact.got) }, [
            set(
              ['devices', link.a.deviceId, 'ports', port.id, 'speedMbps'],
              port.speedMbps,
              Number(fact.got),
            ),
          ]),
        ]
      : []
  })
}

function addressMistakes(plan: Plan): Mistake[] {
  const typed = (
    networkId: NetworkId,
    fixed: StaticAssignment,
    field: 'gateway' | 'mask',
    value: string | number,
  ) => [set(['networks', networkId, 'fixed', fixed.id, field], fixed[field], value)]
  return plan.networks.flatMap((network) => [
    // Which of two servers a client hears first is chance: here it is the stranger, whose addresses lead
    // nowhere.
    ...(network.dhcp === 'none'
      ? []
      : [
          mistake('second-dhcp', { network: network.id }, [
            set(['networks', network.id, 'dhcp'], network.dhcp, 'none'),
          ]),
        ]),
    ...(network.dhcp === 'serve'
      ? [
          mistake('dhcp-off', { network: network.id }, [
            set(['networks', network.id, 'dhcp'], 'serve', 'none'),
          ]),
        ]
      : []),
    ...network.fixed
      .filter((f) => f.how === 'static' && f.deviceId !== null)
      .flatMap((assignment) => [
        ...plan.networks
          .filter((n) => n.id !== network.id)
          .slice(0, 1)
          .map((other) =>
            mistake(
              'gateway-mistyped',
              { device: assignment.deviceId ?? '', ip: other.gateway },
              typed(network.id, assignment, 'gateway', other.gateway),
            ),
          ),
        ...[16, 30]
          .filter((m) => m !== assignment.mask)
          .map((match) =>
            mistake(
              'mask-mistyped',
              { device: assignment.deviceId ?? '', length: match },
              typed(network.id, assignment, 'mask', match),
            ),
          ),
      ]),
  ])
}

function ruleMistakes(plan: Plan): Mistake[] {
  return plan.policies.flatMap((policy) =>
    policy.rules.flatMap((rule, i): Mistake[] => {
      const path = ['policies', policy.deviceId, 'rules', rule.id]
      const values = { rule: rule.id, number: i + 1 }
      const order = policy.rules.map((r) => r.id)
      return [
        mistake('rule-missing', values, [{ kind: 'removed', path, before: json(rule), after: null }]),
        ...(rule.chain === 'forward'
          ? [
              mistake('rule-reversed', values, [
                set([...path, 'from'], rule.from, rule.to),
                set([...path, 'to'], rule.to, rule.from),
              ]),
            ]
          : []),
        ...(rule.services.length > 1
          ? rule.services.map((id) =>
              mistake('service-missing', { ...values, service: id }, [
                set(
                  [...path, 'services'],
                  rule.services,
                  rule.services.filter((s) => s !== id),
                ),
              ]),
            )
          : []),
        // Only where a rule of the other kind stands below does its place matter.
        ...(policy.rules.slice(i + 1).some((r) => r.action !== rule.action)
          ? [
              mistake('rule-late', values, [
                set(['policies', policy.deviceId, 'rules', '#order'], order, [
                  ...order.filter((id) => id !== rule.id),
                  rule.id,
                ]),
              ]),
            ]
          : []),
      ]
    }),
  )
}

function otherMistakes(plan: Plan): Mistake[] {
  return [
    ...plan.ssids.flatMap((ssid) =>
      plan.networks
        .filter((n) => n.id !== ssid.networkId)
        .map((network) =>
          mistake('ssid-vlan', { ssid: ssid.id, network: network.id }, [
            set(['ssids', ssid.id, 'networkId'], ssid.networkId, network.id),
          ]),
        ),
    ),
    ...plan.tunnels.flatMap((tunnel) =>
      tunnel.peers.flatMap((peer) =>
        peer.theirAllowed.map((gone) =>
          mistake('allowed-wrong', { peer: peer.id, prefix: gone }, [
            set(
              ['tunnels', tunnel.id, 'peers', peer.id, 'theirAllowed'],
              peer.theirAllowed,
              peer.theirAllowed.filter((a) => a !== gone),
            ),
          ]),
        ),
      ),
    ),
    ...plan.forwards.map((forward) =>
      mistake('not-forwarded', { forward: forward.id }, [
        { kind: 'removed', path: ['forwards', forward.id], before: json(forward), after: null },
      ]),
    ),
  ]
}

/**
 * Every single mistake of the catalogue that this plan has room for, in a fixed order.
 * @param facts what was seen, where it tells of ports and cables to think of
 */
export const mistakesOf = (plan: Plan, facts: readonly Fact[] = []): Mistake[] => [
  ...downs(plan),
  ...portMistakes(plan),
  ...cableMistakes(plan, facts),
  ...slowCables(plan, facts),
  ...addressMistakes(plan),
  ...ruleMistakes(plan),
  ...otherMistakes(plan),
]
