import fc from 'fast-check'
import type { PortMode, Rule, Selector } from '#core/model'
import type { LoosePlan } from '../plans'

// Single mistakes and changes, made by chance, on a site of two switches, two lines and three networks.

type Edit = (plan: LoosePlan) => void
const VLANS = [10, 20, 99]
const mode: fc.Arbitrary<PortMode> = fc.oneof(
  fc.constantFrom(...VLANS).map((vlan): PortMode => ({ mode: 'access', vlan })),
  // A native VLAN that is tagged as well has no bundle of cables that could stand in for it, and is left out.
  fc.tuple(fc.option(fc.constantFrom(...VLANS)), fc.subarray(VLANS)).map(([native, tagged]): PortMode => ({ mode: 'trunk', native, tagged: tagged.filter((v) => v !== native) })),
  fc.constant<PortMode>({ mode: 'off' }),
)
const selector: fc.Arbitrary<Selector> = fc.constantFrom<Selector>(
  { kind: 'any' }, { kind: 'inside' }, { kind: 'internet' }, { kind: 'network', id: 'staff' }, { kind: 'network', id: 'servers' }, { kind: 'network', id: 'management' },
  { kind: 'device', id: 'box' }, { kind: 'prefix', prefix: '10.9.10.128/25' }, { kind: 'prefix', prefix: '10.9.0.0/17' }, { kind: 'prefix', prefix: '198.51.100.0/24' },
)
const rule: fc.Arbitrary<Rule> = fc.record({
  id: fc.uuid(), chain: fc.constantFrom('forward', 'input'), action: fc.constantFrom('accept', 'drop', 'reject'), from: selector, to: selector,
  services: fc.subarray(['https', 'ssh', 'dns', 'ping', 'files']), note: fc.constant('by chance'),
})

export const randomEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.tuple(fc.constantFrom('gate', 'sw', 's2'), fc.nat(3), mode).map(([id, n, m]): Edit => (p) => {
    const port = p.devices.find((d) => d.id === id)?.ports[n]
    if (port && port.mode.mode !== 'wan') port.mode = structuredClone(m) as never
  }),
  fc.tuple(fc.nat(4), rule).map(([at, r]): Edit => (p) => void p.policies[0]?.rules.splice(at, 0, structuredClone(r) as never)),
  fc.nat(3).map((n): Edit => (p) => void p.policies[0]?.rules.splice(n, 1)),
  fc.tuple(fc.nat(2), fc.constantFrom('10.9.10.1', '10.9.20.1', '10.9.99.1', '10.9.10.200', '10.9.11.1')).map(([n, ip]): Edit => (p) => {
    const network = p.networks[n]
    // Two interfaces of one router with one address are a finding (A08) and no router that works.
    if (network && !p.networks.some((x, i) => i !== n && (x.gateway === ip || x.gateway.startsWith(ip.split('.').slice(0, 3).join('.'))))) network.gateway = ip
  }),
  fc.tuple(fc.constantFrom(8, 16, 24, 28, 30), fc.constantFrom('10.9.20.1', '10.9.10.1', '10.9.20.77')).map(([mask, gateway]): Edit => (p) => {
    const own = p.networks[2]?.fixed[0]
    if (own) Object.assign(own, { mask, gateway })
  }),
  fc.constantFrom<'serve' | 'none'>('serve', 'none').map((dhcp): Edit => (p) => {
    const network = p.networks[2]
    if (network) Object.assign(network, { dhcp, pool: { from: '10.9.20.100', to: '10.9.20.140' } })
  }),
  fc.constantFrom<'accept' | 'drop'>('accept', 'drop').map((verdict): Edit => (p) => {
    const policy = p.policies[0]
    if (policy) policy.forward = verdict
  }),
)
