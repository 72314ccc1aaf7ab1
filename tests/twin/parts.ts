import type { Draft, Peer } from '#core/schema'
import { aTunnel, peerOf } from '../fixtures/tunnels'
import {
  access,
  cat6,
  device,
  hosts,
  inNetwork,
  link,
  ports,
  rule,
  toGateway,
  trunk,
  theDevice,
} from '#server/demo/build'
import { BLANK_PORT } from '#core/edit'
import type { FailureScenario } from '#core/queries'
import { portOf, site, the, type LoosePlan } from '../plans'

// Parts that are added to the small site of two networks and one line.

export type Change = (p: LoosePlan) => void
export type HardCase = readonly [what: string, change: (plan: LoosePlan) => void, scenario: FailureScenario]
export const rules = (p: LoosePlan) => p.policies[0]?.rules ?? []
export const second: Change = (plan) => {
  plan.devices.push(
    device(
      's2',
      'Second switch',
      'switch',
      '',
      'Attic',
      'management',
      ports({ 1: trunk(99, 10, 20), 2: access(10), 3: access(20) }),
    ),
    hosts('far', 'Far desk', 'Attic', 'staff', 1),
  )
  portOf(plan, 'sw', 'p4').mode = trunk(99, 10, 20)
  plan.links.push(link('sw:4', 's2:1', cat6(9)), link('s2:2', 'far:1', cat6(3)))
}
export const spare: Change = (plan) => {
  the(plan.devices, 'gate').ports.push({ id: 'p3', name: '3', mode: { mode: 'wan' }, ...BLANK_PORT })
  the(plan.devices, 'internet').ports.push({ id: 'p2', name: '2', mode: { mode: 'plain' }, ...BLANK_PORT })
  plan.links.push(link('internet:2', 'gate:3', { kind: 'line' }))
  plan.uplinks.push({ ...structuredClone(the(plan.uplinks, 'line')), id: 'spare', portId: 'p3', priority: 2 })
}

export const third = (plan: LoosePlan, more = 0) => {
  spare(plan)
  for (let n = 4; n <= 4 + more; n++) {
    the(plan.devices, 'gate').ports.push({ id: `p${n}`, name: `${n}`, mode: { mode: 'wan' }, ...BLANK_PORT })
    the(plan.devices, 'internet').ports.push({
      id: `p${n - 1}`,
      name: `${n - 1}`,
      mode: { mode: 'plain' },
      ...BLANK_PORT,
    })
    plan.links.push(link(`internet:${n - 1}`, `gate:${n}`, { kind: 'line' }))
    plan.uplinks.push({
      ...the(plan.uplinks, 'spare'),
      id: n === 4 ? 'third' : `uplink${n}`,
      portId: `p${n}`,
    })
  }
}

/** A peer that keeps its way open while it is dialled, so that the twin need not wait. */
export const peer = (...given: Parameters<typeof peerOf>): Draft<Peer> => {
  const made = peerOf(...given)
  return { ...made, keepaliveS: made.endpoint === null ? null : 1 }
}
export const tunnel = (...peers: ReturnType<typeof peer>[]) =>
  aTunnel({
    address6: null as string | null,
    peers,
  })
export const route = (plan: LoosePlan, prefix: string, via: string, metric = 0): void =>
  void plan.routes.push({ id: `to${plan.routes.length}`, deviceId: 'gate', prefix, via, metric })

export const roads: Change = (plan) => {
  plan.tunnels.push(
    tunnel(
      peer(
        'mainland',
        'site',
        ['10.9.200.2/32', '10.20.0.0/22'],
        ['10.9.10.0/24', '10.9.200.0/24'],
        'far.example:51820',
      ),
      peer('keeper', 'person', ['10.9.200.9/32'], ['10.9.0.0/16', '10.20.0.0/22']),
    ),
  )
  rules(plan).push(
    rule('t1', { kind: 'peer', id: 'mainland' }, inNetwork('staff'), ['https', 'ping'], ''),
    rule('t2', inNetwork('staff'), { kind: 'tunnel', id: 'wg' }, ['ssh', 'ping'], ''),
    rule('t3', { kind: 'peer', id: 'keeper' }, inNetwork('servers'), ['files'], ''),
    rule('t4', { kind: 'tunnel', id: 'wg' }, toGateway, ['ping'], '', 'input'),
    rule('t5', { kind: 'peer', id: 'keeper' }, { kind: 'peer', id: 'mainland' }, ['ssh'], ''),
  )
}
// Both families through tunnels and routed ports.
export const bothFamilies: Change = (plan) => {
  const wg = plan.tunnels[0]!
  wg.address6 = 'fd61:6a11:20::1/64'
  wg.peers[0]!.allowed.push('2001:db8:77::/48')
  wg.peers[0]!.theirAllowed.push('2001:db8:5:10::/64', 'fd61:6a11:20::/64')
  wg.peers[1]!.allowed.push('fd61:6a11:20::9/128')
  wg.peers[1]!.theirAllowed.push('2001:db8:5::/48', '2001:db8:77::/48')
}

/** The site that edits by chance are made on: two switches, two lines, a tunnel, and room for IPv6. */
export const randomSite = (edits: readonly Change[]) =>
  site((plan) => {
    second(plan)
    spare(plan)
    roads(plan)
    bothFamilies(plan)
    // IPv6 is there as soon as an edit gives a network a prefix.
    for (const [id, delegated6] of [
      ['line', '2001:db8:5::/48'],
      ['spare', '2001:db8:6::/48'],
    ] as const)
      the(plan.uplinks, id).facts = { ...the(plan.uplinks, id).facts, delegated6 }
    for (const edit of edits) edit(plan)
  })

/** One device goes out by a provider’s tunnel, and waits where that is down. */
export const provider: Change = (plan) => {
  plan.tunnels.push(tunnel(peer('exit', 'provider', ['0.0.0.0/0'], ['10.9.200.1/32'], 'exit.example:51820')))
  plan.policyRoutes.push({
    id: 'v',
    deviceId: 'gate',
    from: theDevice('box'),
    services: [],
    out: { kind: 'tunnel', id: 'wg' },
    orElse: 'refuse',
    note: '',
  })
  rules(plan).push(rule('v1', theDevice('box'), { kind: 'tunnel', id: 'wg' }, ['web', 'ping'], ''))
}
