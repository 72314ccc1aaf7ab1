import { formatIpv4, ipv4 } from '#core/address'
import type { Device, Fixed, Link, Plan, PortMode } from '#core/model'
import { BLANK_BRIEF, BLANK_NETWORK, BLANK_SITE, PLAN_FORMAT, PLAN_VERSION } from '#core/model'

// A plan of any size, the same for the same numbers: a gateway, one core switch, edge switches, and a group of hosts on each.

export interface Size {
  readonly switches: number
  readonly portsEach: number
  readonly networks: number
  readonly fixedEach: number
}

const row = (n: number, mode: (i: number) => PortMode) => Array.from({ length: n }, (_, i) => ({ id: `p${i + 1}`, name: String(i + 1), mode: mode(i), speedMbps: null, optic: null, poe: 'auto' as const }))

/** `switches` edge switches with a host device on each of their access ports' first half, `networks` networks. */
export function largePlan({ switches, portsEach, networks, fixedEach }: Size): Plan {
  const vlans = Array.from({ length: networks }, (_, i) => 10 + i)
  const all: PortMode = { mode: 'trunk', native: vlans[0] ?? 10, tagged: vlans.slice(1) }
  // Each edge switch is sent what its hosts need, and no more.
  const trunkOf = (s: number): PortMode => ({ mode: 'trunk', native: vlans[0] ?? 10, tagged: (s + 1) % networks === 0 ? [] : [vlans[(s + 1) % networks] ?? 10] })
  const link = (a: string, ap: number, b: string, bp: number): Link => ({ id: `${a}.${ap}-${b}.${bp}`, a: { deviceId: a, portId: `p${ap}` }, b: { deviceId: b, portId: `p${bp}` }, medium: { kind: 'copper', category: 'Cat6', lengthM: 20, run: 'indoor' }, lag: null })
  const device = (id: string, kind: Device['kind'], wants: string | null, ports: Device['ports'], count = 1): Device => ({ id, name: id, kind, model: '', place: 'House', wants, count, mains: false, stpPriority: null, ports })
  const devices: Device[] = [
    device('gate', 'gateway', 'n0', row(2, () => all)),
    device('core', 'switch', 'n0', row(switches + 2, (i) => (i < 2 ? all : trunkOf(i - 2)))),
  ]
  const links: Link[] = [link('gate', 2, 'core', 1)]
  for (let s = 0; s < switches; s++) {
    const id = `sw${s}`
    devices.push(device(id, 'switch', 'n0', row(portsEach, (i) => (i === 0 ? trunkOf(s) : { mode: 'access', vlan: vlans[(s + i) % networks] ?? 10 }))))
    links.push(link('core', s + 3, id, 1))
    const hosts = `h${s}`
    devices.push(device(hosts, 'hosts', `n${(s + 1) % networks}`, row(1, () => ({ mode: 'plain' })), 10))
    links.push(link(id, 2, hosts, 1))
  }
  const fixed = (n: number): Fixed[] => Array.from({ length: fixedEach }, (_, i) => ({ id: `f${i}`, ip: formatIpv4(ipv4(0x0a000000 + n * 0x10000 + 256 + i)), name: `host ${i}`, deviceId: null, how: 'static', mask: null, gateway: null, mac: null }))
  const own = (ids: readonly string[]): Fixed[] => ids.map((id, i) => ({ id: `own-${id}`, ip: formatIpv4(ipv4(0x0a000000 + 0x4000 + i)), name: id, deviceId: id, how: 'static', mask: null, gateway: null, mac: null }))
  return {
    format: PLAN_FORMAT, version: PLAN_VERSION, site: { ...BLANK_SITE, name: 'Large', supernet: '10.0.0.0/8' }, brief: BLANK_BRIEF, models: [], templates: [], services: [], devices, links, uplinks: [], ssids: [], policies: [], intents: [], routes: [],
    networks: vlans.map((vlan, n) => ({
      ...BLANK_NETWORK, id: `n${n}`, vlan, name: `Network ${n}`, subnet: `10.${n}.0.0/16`, gateway: `10.${n}.0.1`, routerId: 'gate', dhcp: 'serve', pool: { from: `10.${n}.128.0`, to: `10.${n}.255.200` }, expected: 100, fixed: n === 0 ? [...fixed(n), ...own(devices.filter((d) => d.kind === 'switch').map((d) => d.id))] : fixed(n),
    })),
  }
}
