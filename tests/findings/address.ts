import { the, type LoosePlan } from '../plans'
import { device, fixed } from '#server/demo/build'
import { farTunnel, staff, servers, typed, type Change } from './changes'
import type { Case } from './case'

const publicStaff: Change = (plan) =>
  void Object.assign(staff(plan), { subnet: '172.32.0.0/24', gateway: '172.32.0.1', pool: null })

const pooled = (plan: LoosePlan, from: string, to: string) =>
  void (staff(plan).pool = { from: `10.9.10.${from}`, to: `10.9.10.${to}` })
const excluded = (plan: LoosePlan, from: string, to: string) =>
  void staff(plan).exclusions.push({ from: `10.9.10.${from}`, to: `10.9.10.${to}` })
const boxAt = (plan: LoosePlan, ip: string, subnet: string) => {
  servers(plan).subnet = subnet
  servers(plan).fixed[0]!.ip = ip
}

export const ADDRESS_CASES: readonly Case[] = [
  [
    'A01',
    'a gateway in another subnet',
    'networks.staff.gateway',
    (p) => void (staff(p).gateway = '10.9.11.1'),
    (p) => void (staff(p).gateway = '10.9.10.254'),
  ],
  [
    'A02',
    'the broadcast address as gateway',
    'networks.staff.gateway',
    (p) => void (staff(p).gateway = '10.9.10.255'),
    (p) => void (staff(p).gateway = '10.9.10.254'),
  ],
  [
    'A03',
    'a static address in the pool',
    'networks.staff.pool',
    (p) => void staff(p).fixed.push(fixed('10.9.10.150', 'Printer', null)),
    (p) => void staff(p).fixed.push(fixed('10.9.10.150', 'Printer', null, 'reserved')),
  ],
  [
    'A04',
    'a pool that leaves its subnet',
    'networks.staff.pool',
    (p) => void (staff(p).pool = { from: '10.9.10.200', to: '10.9.11.20' }),
    (p) => void (staff(p).pool = { from: '10.9.10.200', to: '10.9.10.254' }),
  ],
  [
    'A05',
    'two subnets that overlap',
    'networks.servers.subnet',
    (p) => void Object.assign(servers(p), { subnet: '10.9.10.128/25', gateway: '10.9.10.129', fixed: [] }),
    (p) => void Object.assign(servers(p), { subnet: '10.9.11.0/25', gateway: '10.9.11.1', fixed: [] }),
  ],
  [
    'A08',
    'one address for two things',
    'networks.staff.fixed.at-10-9-10-1.ip',
    (p) => void staff(p).fixed.push(fixed('10.9.10.1', 'Printer', null)),
    (p) => void staff(p).fixed.push(fixed('10.9.10.2', 'Printer', null)),
  ],
  [
    'A09',
    'public addresses inside',
    'networks.staff.subnet',
    publicStaff,
    (p) => void Object.assign(staff(p), { subnet: '172.31.0.0/24', gateway: '172.31.0.1', pool: null }),
  ],
  [
    'A09',
    'public addresses inside, of which the provider routes a part',
    'networks.staff.subnet',
    (p) => (publicStaff(p), void (p.uplinks[0]!.facts.routed4 = ['172.32.0.0/25'])),
    (p) => (publicStaff(p), void (p.uplinks[0]!.facts.routed4 = ['172.32.0.0/23'])),
  ],
  [
    'A10',
    'a pool smaller than who is expected',
    'networks.staff.pool',
    (p) => void (staff(p).expected = 101),
    (p) => void (staff(p).expected = 100),
  ],
  [
    'A13',
    'one VLAN for two networks',
    'networks.servers.vlan',
    (p) => void (servers(p).vlan = 10),
    (p) => void (servers(p).vlan = 21),
  ],
  [
    'A14',
    'the subnet of every home',
    'networks.staff.subnet',
    (p) => void Object.assign(staff(p), { subnet: '192.168.1.0/24', gateway: '192.168.1.1', pool: null }),
    (p) => void Object.assign(staff(p), { subnet: '192.168.61.0/24', gateway: '192.168.61.1', pool: null }),
  ],
  [
    'A15',
    'two networks in one octet',
    'networks.servers.subnet',
    (plan) => {
      Object.assign(staff(plan), { subnet: '10.9.20.128/25', gateway: '10.9.20.129', pool: null })
      servers(plan).subnet = '10.9.20.0/25'
    },
    (p) => void (servers(p).subnet = '10.9.20.0/25'),
  ],
  [
    'A16',
    'an extender without an address of its own',
    'devices.ext',
    (p) => void p.devices.push(device('ext', 'Extender', 'extender', '', 'Room', 'management', [])),
    (p) => void p.devices.push(device('ext', 'Extender', 'extender', '', 'Room', null, [])),
  ],
  [
    'A16',
    'infrastructure without an address of its own',
    'devices.sw',
    (p) => void (the(p.networks, 'management').fixed = []),
    (plan) =>
      void (the(plan.networks, 'management').fixed = [fixed('10.9.99.9', 'Switch', 'sw', 'reserved')]),
  ],
  [
    'A17',
    'a network outside the site’s block',
    'networks.staff.subnet',
    (p) => void Object.assign(staff(p), { subnet: '10.10.0.0/24', gateway: '10.10.0.1', pool: null }),
    (p) => void Object.assign(staff(p), { subnet: '10.9.255.0/24', gateway: '10.9.255.1', pool: null }),
  ],
  [
    'A06',
    'the upstream side of an uplink inside',
    'networks.staff.subnet',
    (p) => void (the(p.uplinks, 'line').facts.address = '10.9.10.77/28'),
    (p) => void (the(p.uplinks, 'line').facts.address = '10.9.11.77/28'),
  ],
  [
    'A07',
    'another site’s subnet',
    'networks.staff.subnet',
    (plan) => void plan.brief.far.push({ id: 'f', name: 'Office', subnets: ['10.9.8.0/21'], tunnel: null }),
    (plan) =>
      void plan.brief.far.push({
        id: 'f',
        name: 'Office',
        subnets: ['10.9.0.0/21'],
        tunnel: '10.9.200.0/29',
      }),
  ],
  [
    'A11',
    'a mask where a gateway belongs',
    'networks.servers.fixed.at-10-9-20-10.gateway',
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').gateway = '255.255.255.0'),
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').gateway = '10.9.20.1'),
  ],
  [
    'A11',
    'a mask that is not the network’s',
    'networks.servers.fixed.at-10-9-20-10.mask',
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').mask = 16),
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').mask = 24),
  ],
  [
    'A12',
    'a lease too long for the turnover',
    'networks.staff.leaseS',
    (p) => void Object.assign(staff(p), { arrivalsPerH: 20, stayH: 2 }),
    (p) => void Object.assign(staff(p), { arrivalsPerH: 20, stayH: 2, leaseS: 7200 }),
  ],
  [
    'A18',
    'one MAC reserved twice',
    'networks.staff.fixed.b.mac',
    (plan) =>
      void staff(plan).fixed.push(
        { ...fixed('10.9.10.5', 'A', null, 'reserved'), id: 'a', mac: '00-00-5E-00-53-01' },
        { ...fixed('10.9.10.6', 'B', null, 'reserved'), id: 'b', mac: '00-00-5E-00-53-01' },
      ),
    (plan) =>
      void staff(plan).fixed.push({
        ...fixed('10.9.10.5', 'A', null, 'reserved'),
        id: 'a',
        mac: '00-00-5E-00-53-01',
      }),
  ],
  [
    'A19',
    'a relay to nobody',
    'networks.staff.relayTo',
    (p) => void Object.assign(staff(p), { dhcp: 'relay', relayTo: '10.9.20.11' }),
    (p) => void Object.assign(staff(p), { dhcp: 'relay', relayTo: '10.9.20.10' }),
  ],
  [
    'A20',
    'an IPv6 prefix outside the site’s',
    'networks.staff.prefix6',
    (p) => (void (p.site.prefix6 = 'fd00:1::/48'), void (staff(p).prefix6 = 'fd00:2:0:10::/64')),
    (p) => (void (p.site.prefix6 = 'fd00:1::/48'), void (staff(p).prefix6 = 'fd00:1:0:10::/64')),
  ],
  [
    'A21',
    'one IPv6 prefix for two networks',
    'networks.servers.prefix6',
    (p) => (void (staff(p).prefix6 = 'fd00::/64'), void (servers(p).prefix6 = 'fd00::/64')),
    (p) => (void (staff(p).prefix6 = 'fd00::/64'), void (servers(p).prefix6 = 'fd00:0:0:1::/64')),
  ],
  [
    'A22',
    'SLAAC on a prefix that is not a /64',
    'networks.staff.prefix6',
    (p) => void Object.assign(staff(p), { prefix6: 'fd00::/60', mode6: 'slaac' }),
    (p) => void Object.assign(staff(p), { prefix6: 'fd00::/60', mode6: 'stateful' }),
  ],
  [
    'A24',
    'a typed IPv6 address outside its network’s',
    'networks.servers.fixed.at-10-9-20-10.ip6',
    (p) => typed(p, '2001:db8:7::10'),
    (p) => typed(p, '2001:db8:5:20::10'),
  ],
  [
    'A24',
    'the gateway’s IPv6 address typed into a host',
    'networks.servers.fixed.at-10-9-20-10.ip6',
    (p) => typed(p, '2001:db8:5:20::1'),
    (p) => typed(p, '2001:db8:5:20::2'),
  ],
  [
    'A24',
    'a typed IPv6 address in a network without',
    'networks.servers.fixed.at-10-9-20-10.ip6',
    (p) => (typed(p, '2001:db8:5:20::10'), void (servers(p).mode6 = 'off')),
    (p) => typed(p, '2001:db8:5:20::10'),
  ],
  [
    'A23',
    'an exclusion outside the pool',
    'networks.staff.exclusions',
    (p) => void (staff(p).exclusions = [{ from: '10.9.10.20', to: '10.9.10.30' }]),
    (p) => void (staff(p).exclusions = [{ from: '10.9.10.120', to: '10.9.10.130' }]),
  ],
  [
    'A03',
    'the gateway in the pool, where it is not excluded',
    'networks.staff.pool',
    (p) => (pooled(p, '1', '100'), excluded(p, '2', '9')),
    (p) => (pooled(p, '1', '100'), excluded(p, '1', '9')),
  ],
  [
    'A04',
    'a pool that leaves its subnet, where that is not excluded',
    'networks.staff.pool',
    (p) => (pooled(p, '0', '100'), excluded(p, '1', '9')),
    (p) => (pooled(p, '0', '100'), excluded(p, '0', '9')),
  ],
  [
    'A10',
    'a pool of which exclusions leave too little',
    'networks.staff.pool',
    (p) => (pooled(p, '100', '199'), excluded(p, '119', '199')),
    (p) => (pooled(p, '100', '199'), excluded(p, '120', '199')),
  ],
  [
    'A25',
    'a network that serves without a pool',
    'networks.staff.pool',
    (p) => void (staff(p).pool = null),
    (p) => void Object.assign(staff(p), { pool: null, dhcp: 'none' }),
  ],
  [
    'A25',
    'a pool of which all is excluded',
    'networks.staff.pool',
    (p) => (excluded(p, '100', '199'), void (staff(p).expected = 0)),
    (p) => (excluded(p, '101', '199'), void (staff(p).expected = 0)),
  ],
  [
    'A26',
    'an address of another subnet',
    'networks.servers.fixed.at-10-9-20-10.ip',
    (p) => boxAt(p, '10.9.21.0', '10.9.20.0/24'),
    (p) => boxAt(p, '10.9.20.254', '10.9.20.0/24'),
  ],
  [
    'A26',
    'the address of the subnet itself',
    'networks.servers.fixed.at-10-9-20-10.ip',
    (p) => boxAt(p, '10.9.20.0', '10.9.20.0/30'),
    (p) => boxAt(p, '10.9.20.0', '10.9.20.0/31'),
  ],
  [
    'A26',
    'the broadcast address',
    'networks.servers.fixed.at-10-9-20-10.ip',
    (p) => boxAt(p, '10.9.20.3', '10.9.20.0/30'),
    (p) => boxAt(p, '10.9.20.2', '10.9.20.0/30'),
  ],
  [
    'A07',
    'a tunnel that is another site’s',
    'networks.staff.subnet',
    (plan) => farTunnel(plan, '10.9.10.248/29'),
    (plan) => farTunnel(plan, '10.9.11.0/29'),
  ],
  [
    'A11',
    'a mask where an address belongs',
    'networks.servers.fixed.at-10-9-20-10.ip',
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').ip = '255.255.255.0'),
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').ip = '10.9.20.255'),
  ],
  [
    'A11',
    'a host that is its own gateway',
    'networks.servers.fixed.at-10-9-20-10.gateway',
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').gateway = '10.9.20.10'),
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').gateway = '10.9.20.11'),
  ],
  [
    'A20',
    'IPv6 without a prefix',
    'networks.staff.prefix6',
    (p) => void (staff(p).mode6 = 'slaac'),
    (p) => void Object.assign(staff(p), { mode6: 'slaac', prefix6: '2001:db8:5:10::/64' }),
  ],
  [
    'A24',
    'an IPv6 address of a host that types none in',
    'networks.servers.fixed.at-10-9-20-10.ip6',
    (p) => (typed(p, '2001:db8:5:20::10'), void (servers(p).fixed[0]!.how = 'reserved')),
    (p) => typed(p, '2001:db8:5:20::10'),
  ],
]
