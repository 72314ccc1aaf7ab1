// Question: what single things go wrong when a plan is built?
// Method: a catalogue of mistakes, each laid on the plan as it stands; what is down is told by the weather instead.
// Source: the order of how common they are is common practice, without a source: 5 is met every week, 1 once in years.
import { DARK, isVlanAware, portKey, type Change, type Fixed, type Json, type Plan, type PortMode } from '#core/model'

export type MistakeCode =
  | 'link-down' | 'device-off' | 'line-down' | 'line-dark' | 'wan-tag' | 'vlan-missing' | 'wrong-pvid' | 'native-differs' | 'cables-swapped' | 'gateway-mistyped' | 'mask-mistyped' | 'dhcp-off'
  | 'rule-missing' | 'rule-reversed' | 'rule-late' | 'service-missing' | 'ssid-vlan' | 'peer-down' | 'allowed-wrong' | 'not-forwarded'

export interface Mistake {
  readonly code: MistakeCode
  /** Ids and numbers that its words need. */
  readonly values: Readonly<Record<string, string | number>>
  /** 1 to 5: how common it is. */
  readonly commonness: number
  readonly changes: readonly Change[]
  /** What is down, for mistakes that are failures. */
  readonly failed: readonly string[]
}

const COMMON: Readonly<Record<MistakeCode, number>> = {
  'link-down': 5, 'device-off': 4, 'vlan-missing': 5, 'wrong-pvid': 4, 'cables-swapped': 4, 'service-missing': 4, 'rule-missing': 4, 'gateway-mistyped': 3, 'mask-mistyped': 2, 'dhcp-off': 3, 'native-differs': 3,
  'rule-late': 3, 'rule-reversed': 2, 'line-down': 3, 'line-dark': 2, 'wan-tag': 3, 'ssid-vlan': 3, 'peer-down': 3, 'allowed-wrong': 3, 'not-forwarded': 3,
}
const json = (value: unknown): Json => value as Json
const mistake = (code: MistakeCode, values: Mistake['values'], changes: readonly Change[], failed: readonly string[] = []): Mistake => ({ code, values, commonness: COMMON[code], changes, failed })
const set = (path: readonly string[], before: unknown, after: unknown): Change => ({ kind: 'set', path, before: json(before), after: json(after) })

function downs(plan: Plan): Mistake[] {
  return [
    ...plan.links.filter((l) => l.medium.kind !== 'line').map((l) => mistake('link-down', { link: l.id }, [], [l.id])),
    ...plan.devices.filter((d) => d.kind !== 'cloud').map((d) => mistake('device-off', { device: d.id }, [], [d.id])),
    ...plan.uplinks.flatMap((u) => [
      mistake('line-down', { line: u.id }, [], [u.id]), mistake('line-dark', { line: u.id }, [], [DARK + u.id]),
      ...(u.tag === null ? [] : [mistake('wan-tag', { line: u.id, tag: u.tag }, [set(['uplinks', u.id, 'tag'], u.tag, null)])]),
    ]),
    ...plan.tunnels.flatMap((t) => t.peers.map((p) => mistake('peer-down', { peer: p.id }, [], [p.id]))),
  ]
}

function portMistakes(plan: Plan): Mistake[] {
  const linked = new Set(plan.links.flatMap((l) => [portKey(l.a), portKey(l.b)]))
  const vlans = plan.networks.map((n) => n.vlan)
  return plan.devices.filter(isVlanAware).flatMap((device) => {
    const ports = device.ports.filter((p) => linked.has(portKey({ deviceId: device.id, portId: p.id })))
    const at = (portId: string) => ['devices', device.id, 'ports', portId, 'mode']
    const values = (portId: string) => ({ device: device.id, port: portId })
    return ports.flatMap((port, i): Mistake[] => {
      const { mode } = port
      const out: Mistake[] = []
      const becomes = (after: PortMode) => [set(at(port.id), mode, after)]
      if (mode.mode === 'trunk' && mode.tagged !== 'all') {
        const { tagged } = mode
        for (const vlan of tagged) out.push(mistake('vlan-missing', { ...values(port.id), vlan }, becomes({ ...mode, tagged: tagged.filter((v) => v !== vlan) })))
        for (const vlan of vlans) if (vlan !== mode.native) out.push(mistake('native-differs', { ...values(port.id), vlan }, becomes({ ...mode, native: vlan, tagged: tagged.filter((v) => v !== vlan) })))
      }
      if (mode.mode === 'access') for (const vlan of vlans) if (vlan !== mode.vlan) out.push(mistake('wrong-pvid', { ...values(port.id), vlan }, becomes({ mode: 'access', vlan })))
      const next = ports[i + 1]
      if (next && JSON.stringify(next.mode) !== JSON.stringify(mode)) out.push(mistake('cables-swapped', { ...values(port.id), other: next.id }, [set(at(port.id), mode, next.mode), set(at(next.id), next.mode, mode)]))
      return out
    })
  })
}

function addressMistakes(plan: Plan): Mistake[] {
  const typed = (networkId: string, fixed: Fixed, field: 'gateway' | 'mask', value: string | number) => [set(['networks', networkId, 'fixed', fixed.id, field], fixed[field], value)]
  return plan.networks.flatMap((network) => [
    ...(network.dhcp === 'serve' ? [mistake('dhcp-off', { network: network.id }, [set(['networks', network.id, 'dhcp'], 'serve', 'none')])] : []),
    ...network.fixed.filter((f) => f.how === 'static' && f.deviceId !== null).flatMap((f) => [
      ...plan.networks.filter((n) => n.id !== network.id).slice(0, 1).map((other) => mistake('gateway-mistyped', { device: f.deviceId ?? '', ip: other.gateway }, typed(network.id, f, 'gateway', other.gateway))),
      ...[16, 30].filter((m) => m !== f.mask).map((m) => mistake('mask-mistyped', { device: f.deviceId ?? '', length: m }, typed(network.id, f, 'mask', m))),
    ]),
  ])
}

function ruleMistakes(plan: Plan): Mistake[] {
  return plan.policies.flatMap((policy) => policy.rules.flatMap((rule, i): Mistake[] => {
    const path = ['policies', policy.deviceId, 'rules', rule.id]
    const values = { rule: rule.id, number: i + 1 }
    const order = policy.rules.map((r) => r.id)
    return [
      mistake('rule-missing', values, [{ kind: 'removed', path, before: json(rule), after: null }]),
      ...(rule.chain === 'forward' ? [mistake('rule-reversed', values, [set([...path, 'from'], rule.from, rule.to), set([...path, 'to'], rule.to, rule.from)])] : []),
      ...(rule.services.length > 1 ? rule.services.map((id) => mistake('service-missing', { ...values, service: id }, [set([...path, 'services'], rule.services, rule.services.filter((s) => s !== id))])) : []),
      // Only where a rule of the other kind stands below does its place matter.
      ...(policy.rules.slice(i + 1).some((r) => r.action !== rule.action) ? [mistake('rule-late', values, [set(['policies', policy.deviceId, 'rules', '#order'], order, [...order.filter((id) => id !== rule.id), rule.id])])] : []),
    ]
  }))
}

function otherMistakes(plan: Plan): Mistake[] {
  return [
    ...plan.ssids.flatMap((s) => plan.networks.filter((n) => n.id !== s.networkId).map((n) => mistake('ssid-vlan', { ssid: s.id, network: n.id }, [set(['ssids', s.id, 'networkId'], s.networkId, n.id)]))),
    ...plan.tunnels.flatMap((t) => t.peers.flatMap((p) => p.theirAllowed.map((gone) => mistake('allowed-wrong', { peer: p.id, prefix: gone }, [set(['tunnels', t.id, 'peers', p.id, 'theirAllowed'], p.theirAllowed, p.theirAllowed.filter((a) => a !== gone))])))),
    ...plan.forwards.map((f) => mistake('not-forwarded', { forward: f.id }, [{ kind: 'removed', path: ['forwards', f.id], before: json(f), after: null }])),
  ]
}

/** Every single mistake of the catalogue that this plan has room for, in a fixed order. */
export const mistakesOf = (plan: Plan): Mistake[] => [...downs(plan), ...portMistakes(plan), ...addressMistakes(plan), ...ruleMistakes(plan), ...otherMistakes(plan)]
