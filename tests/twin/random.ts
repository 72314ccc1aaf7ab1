import { draft } from '#server/demo/build'
import { freshId } from '#core/edit'
import { type Condition, down, upstreamDown } from '#core/queries'
import fc from 'fast-check'
import type { PortMode, Rule, Selector } from '#core/schema'
import type { LoosePlan } from '../plans'

// Single mistakes and changes, made by chance, on a site of two switches, two lines and three networks.

type Edit = (plan: LoosePlan) => void
/** Every other forward is handed to calls from inside too. */
const HAIRPINS = [true, false]
const VLANS = [10, 20, 99]
const mode: fc.Arbitrary<PortMode> = fc.oneof(
  fc.constantFrom(...VLANS).map((vlan): PortMode => ({ mode: 'access', vlan })),
  // A native VLAN that is tagged as well has no bundle of cables that could stand in for it, and is left out.
  fc.tuple(fc.option(fc.constantFrom(...VLANS)), fc.subarray(VLANS)).map(([native, tagged]): PortMode => ({
    mode: 'trunk',
    native,
    tagged: tagged.filter((v) => v !== native),
  })),
  fc.constant<PortMode>({ mode: 'off' }),
)
const selector: fc.Arbitrary<Selector> = fc.constantFrom<Selector>(
  { kind: 'any' },
  { kind: 'inside' },
  { kind: 'internet' },
  { kind: 'network', id: 'staff' },
  { kind: 'network', id: 'servers' },
  { kind: 'network', id: 'management' },
  { kind: 'tunnel', id: 'wg' },
  { kind: 'peer', id: 'keeper' },
  { kind: 'peer', id: 'mainland' },
  { kind: 'device', id: 'box' },
  { kind: 'prefix', prefix: '10.9.10.128/25' },
  { kind: 'prefix', prefix: '10.9.0.0/17' },
  { kind: 'prefix', prefix: '198.51.100.0/24' },
  { kind: 'group', id: 'mixed' },
)
const ipv6: fc.Arbitrary<Selector> = fc.oneof(
  selector,
  fc.constantFrom<Selector>(
    { kind: 'prefix', prefix: '2001:db8:5:10::/64' },
    { kind: 'prefix', prefix: '2001:db8:5::/48' },
    { kind: 'prefix', prefix: '2001:db8:ffff::/48' },
    { kind: 'prefix', prefix: '::/0' },
  ),
)
const rule: fc.Arbitrary<Rule> = fc.record({
  id: fc.uuid(),
  chain: fc.constantFrom('forward', 'input'),
  action: fc.constantFrom('accept', 'drop', 'reject'),
  from: selector,
  to: selector,
  log: fc.constant(false),
  when: fc.constant(null),
  services: fc.subarray(['https', 'ssh', 'dns', 'ping', 'files']),
  note: fc.constant('by chance'),
})

const KEPT = {
  kind: 'icmp',
  targets: ['198.51.100.1'],
  quorum: 1,
  everyS: 5,
  timeoutS: 1,
  misses: 3,
  returns: 3,
}

/** What may fail under a plan made by chance; at most one of them. */
export const FAILURES: readonly Condition[] = [
  ...['line', 'spare', 'mainland', 'keeper', 'gate.2-sw.1', 'sw.3-box.1', 's2'].map(down),
  ...['r1.2-r2.1', 'bundle-1'].map(down),
  ...['line', 'spare'].map(upstreamDown),
]

export const randomEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.tuple(fc.constantFrom('gate', 'sw', 's2'), fc.nat(3), mode).map(([id, nth, mode]): Edit => (plan) => {
    const port = plan.devices.find((d) => d.id === id)?.ports[nth]
    if (port && port.mode.mode !== 'wan') port.mode = draft(mode)
  }),
  fc.tuple(fc.nat(4), rule).map(
    ([at, rest]): Edit =>
      (plan) =>
        void plan.policies[0]?.rules.splice(at, 0, draft(rest)),
  ),
  fc.nat(3).map(
    (nth): Edit =>
      (plan) =>
        void plan.policies[0]?.rules.splice(nth, 1),
  ),
  fc
    .tuple(fc.nat(2), fc.constantFrom('10.9.10.1', '10.9.20.1', '10.9.99.1', '10.9.10.200', '10.9.11.1'))
    .map(([nth, ip]): Edit => (plan) => {
      const network = plan.networks[nth]
      // Two interfaces of one router with one address are a finding (A08) and no router that works.
      if (
        network &&
        !plan.networks.some(
          (x, i) =>
            i !== nth && (x.gateway === ip || x.gateway.startsWith(ip.split('.').slice(0, 3).join('.'))),
        )
      )
        network.gateway = ip
    }),
  fc
    .tuple(fc.constantFrom(8, 16, 24, 28, 30), fc.constantFrom('10.9.20.1', '10.9.10.1', '10.9.20.77'))
    .map(([mask, gateway]): Edit => (plan) => {
      const own = plan.networks[2]?.fixed[0]
      if (own) Object.assign(own, { mask, gateway })
    }),
  fc.constantFrom<'serve' | 'none'>('serve', 'none').map((dhcp): Edit => (plan) => {
    const network = plan.networks[2]
    if (network) Object.assign(network, { dhcp, pool: { from: '10.9.20.100', to: '10.9.20.140' } })
  }),
  fc
    .record({
      from: selector,
      services: fc.subarray(['https', 'ssh', 'dns', 'ping', 'files'], { maxLength: 2 }),
      id: fc.constantFrom('line', 'spare'),
      orElse: fc.constantFrom<'next' | 'refuse'>('next', 'refuse'),
    })
    .map(
      ({ from, services, id, orElse }): Edit =>
        (plan) =>
          void plan.policyRoutes.push({
            id: `c${plan.policyRoutes.length}`,
            deviceId: 'gate',
            from: structuredClone(from),
            services: [...services],
            out: { kind: 'uplink', id },
            orElse,
            note: '',
          }),
    ),
  fc
    .record({
      uplinkId: fc.constantFrom('line', 'spare'),
      proto: fc.constantFrom<'tcp' | 'udp'>('tcp', 'udp'),
      from: fc.constantFrom(443, 8443, 53),
      more: fc.nat(2),
      toPort: fc.constantFrom(443, 22, 53),
      toAddress: fc.constantFrom('10.9.20.10', '10.9.10.100'),
    })
    .map(({ more, from, ...rest }): Edit => (plan) => {
      // Of two forwards of one port the first has it; the engine is asked where there is one answer.
      const taken = plan.forwards.some(
        (forward) =>
          forward.uplinkId === rest.uplinkId &&
          forward.proto === rest.proto &&
          forward.from <= from + more &&
          from <= forward.to,
      )
      if (!taken)
        plan.forwards.push({
          id: `f${plan.forwards.length}`,
          deviceId: 'gate',
          ...rest,
          from,
          to: from + more,
          hairpin: HAIRPINS[plan.forwards.length % 2] ?? false,
          note: '',
        })
    }),
  fc.constantFrom<'own' | 'shared'>('own', 'shared').chain((outside) =>
    fc.constantFrom('line', 'spare').map(
      (id): Edit =>
        (plan) =>
          void Object.assign(plan.uplinks.find((u) => u.id === id) ?? {}, { outside }),
    ),
  ),
  fc.constantFrom('line', 'spare').map(
    (id): Edit =>
      (plan) =>
        void Object.assign(plan.uplinks.find((u) => u.id === id) ?? {}, { probe: KEPT }),
  ),
  fc
    .tuple(
      fc.nat(1),
      fc.subarray([
        '10.9.10.0/24',
        '10.9.20.0/24',
        '10.9.99.0/24',
        '10.9.200.0/24',
        '10.99.10.0/24',
        '10.99.20.0/28',
      ]),
    )
    .map(
      ([nth, allowed]): Edit =>
        (plan) =>
          void Object.assign(plan.tunnels[0]?.peers[nth] ?? {}, { theirAllowed: allowed }),
    ),
  fc
    .constantFrom(['10.9.10.0/24', '10.99.10.0/24'], ['10.9.20.0/24', '10.99.20.0/24'])
    .map(([inside = '', outside = '']): Edit => (plan) => {
      const tunnel = plan.tunnels[0]
      if (tunnel && !tunnel.mapped.some((m) => m.inside === inside))
        tunnel.mapped.push({ id: `m${tunnel.mapped.length}`, inside, outside })
    }),
  fc.nat(3).map(
    (weight): Edit =>
      (plan) =>
        plan.uplinks.forEach((uplink, i) =>
          Object.assign(uplink, { priority: 1, weight: 1 + weight * i, probe: KEPT }),
        ),
  ),
  // The keeper's address alone would make two places of one name (V02); beside others it is taken over, as wg
  // has it.
  fc
    .subarray(['10.9.200.2/32', '10.20.0.0/22', '10.20.1.0/24', '10.9.200.9/32'], { minLength: 1 })
    .filter((allowed) => allowed[0] !== '10.9.200.9/32')
    .map(
      (allowed): Edit =>
        (plan) =>
          void Object.assign(plan.tunnels[0]?.peers[0] ?? {}, { allowed: [...allowed] }),
    ),
  fc
    .record({
      at: fc.nat(4),
      from: ipv6,
      to: ipv6,
      action: fc.constantFrom('accept', 'drop'),
      services: fc.subarray(['https', 'ssh', 'dns', 'ping']),
    })
    .map(
      ({ at, ...rest }): Edit =>
        (plan) =>
          void plan.policies[0]?.rules.splice(at, 0, {
            id: freshId(plan.policies[0].rules, 'six'),
            chain: 'forward',
            note: 'by chance',
            log: false,
            when: null,
            ...draft(rest),
          }),
    ),
  fc
    .tuple(fc.nat(2), fc.constantFrom('2001:db8:5:77::/64', '2001:db8:6:77::/64', 'fd61::/64', null))
    .map(([nth, prefix6]): Edit => (plan) => {
      const network = plan.networks[nth]
      if (network && !plan.networks.some((x) => prefix6 !== null && x.prefix6 === prefix6))
        Object.assign(network, { prefix6, mode6: 'slaac' })
    }),
  fc
    .uniqueArray(
      ipv6.filter((s) => s.kind !== 'group'),
      { minLength: 1, maxLength: 3, selector: (s) => JSON.stringify(s) },
    )
    .map(
      (members): Edit =>
        (plan) =>
          void (plan.groups = [{ id: 'mixed', name: 'Mixed', members: structuredClone(members) }]),
    ),
  fc.record({ from: ipv6, to: ipv6, action: fc.constantFrom<'accept' | 'drop'>('accept', 'drop') }).map(
    ({ from, to, action }): Edit =>
      (plan) =>
        void plan.policies[0]?.pairs.push({
          id: `p${plan.policies[0].pairs.length}`,
          from: structuredClone(from),
          to: structuredClone(to),
          action,
        }),
  ),
  fc
    .constantFrom('2001:db8:5:20::77', '2001:db8:5:10::77', '2001:db8:5:77::77', null)
    .map((ip6): Edit => (plan) => {
      const own = plan.networks[2]?.fixed[0]
      if (own) own.ip6 = ip6
    }),
  fc.constantFrom<'accept' | 'drop'>('accept', 'drop').map((verdict): Edit => (plan) => {
    const policy = plan.policies[0]
    if (policy) policy.forward = verdict
  }),
)
