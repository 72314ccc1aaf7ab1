import { describe, expect, it } from 'vitest'
import { dnsmasqConf, keaConf } from '#core/export'
import type { DeviceId } from '#core/schema'
import { boxAt, excluded } from '../../tests/twin/cases-hard'
import { endpoint, gridOf, passes, type Change } from '../../tests/fixtures/reachability'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import { access, cat6, fixed, hosts, link } from '#server/demo/build'
import { formatIpv4 } from '#core/address'
import { formatServices } from '#core/filter'

// What a DHCP server does with what is typed into a plan; the kernel twin asks dnsmasq for the same leases.

const rangesOf = (id: string, change: (plan: LoosePlan) => void) =>
  endpoint(id, change).ranges.map(({ from, to }) => `${formatIpv4(from)}-${formatIpv4(to)}`)

describe('who was given a gateway’s own address', () => {
  it('is heard by no gateway: it takes the packets for itself', () => {
    const taken: Change = (plan) => void (the(plan.networks, 'servers').fixed[0]!.ip = '10.9.20.1')
    expect([passes('staff', 'servers'), passes('staff', 'servers', taken)]).toEqual([
      'tcp 443, icmp',
      'nothing',
    ])
    // Another in the same network is reached as before.
    const another: Change = (plan) => {
      taken(plan)
      plan.devices.push(hosts('second', 'Second', 'Room', 'servers', 1))
      portOf(plan, 'sw', 'p4').mode = access(20)
      plan.links.push(link('sw:4', 'second:1', cat6(2)))
      the(plan.networks, 'servers').fixed.push(fixed('10.9.20.11', 'Second', 'second'))
    }
    expect(formatServices(gridOf(another).cell('staff', 'servers').somePairs)).toBe('tcp 443, icmp')
  })
})

describe('a reserved address', () => {
  it.each([
    ['on the subnet is kept', '10.9.20.50', '10.9.20.50-10.9.20.50', 'reserved'],
    ['in the pool is kept', '10.9.20.110', '10.9.20.110-10.9.20.110', 'reserved'],
    ['elsewhere is not: the host leases like any other', '10.9.10.7', '10.9.20.100-10.9.20.140', 'leased'],
    ['of the server itself is not', '10.9.20.1', '10.9.20.100-10.9.20.140', 'leased'],
  ])('%s', (_, ip, ranges, how) => {
    expect(rangesOf('box', boxAt(ip, 'reserved'))).toEqual([ranges])
    expect(endpoint('box', boxAt(ip, 'reserved')).how).toBe(how)
  })

  it('in the pool goes to nobody else', () => {
    expect(rangesOf('more', boxAt('10.9.20.110', 'reserved'))).toEqual([
      '10.9.20.100-10.9.20.109',
      '10.9.20.111-10.9.20.140',
    ])
  })

  it('leaves nothing for others where the pool is no larger', () => {
    const one = boxAt('10.9.20.100', 'reserved', (plan) => {
      the(plan.networks, 'servers').pool = { from: '10.9.20.100', to: '10.9.20.100' }
    })
    expect(endpoint('box', one).how).toBe('reserved')
    expect(endpoint('more', one).how).toBe('link-local')
  })
})

describe('a pool of which everything is excluded', () => {
  const nothing = boxAt('10.9.20.50', 'reserved', excluded(['1', '120'], ['121', '254']))

  it('is served to nobody, by the engine as by the files', () => {
    expect(endpoint('more', nothing).how).toBe('link-local')
    expect(endpoint('box', nothing).how).toBe('link-local')
    const gate = 'gate' as DeviceId
    expect(dnsmasqConf(site(nothing), gate)).not.toContain('lan.20')
    expect(keaConf(site(nothing), gate)).not.toContain('lan.20')
  })

  it('but for one address serves that one', () => {
    const one = boxAt('10.9.20.50', 'static', excluded(['1', '119'], ['121', '254']))
    expect(rangesOf('more', one)).toEqual(['10.9.20.120-10.9.20.120'])
  })
})

// RFC 919 section 7 and RFC 1122 section 3.2.1.3: nobody is called by a broadcast address; RFC 3021: of two
// addresses none is one.
describe('a broadcast address', () => {
  const boxOf = (subnet: string, gateway: string, ip: string) => (plan: LoosePlan) => {
    Object.assign(the(plan.networks, 'servers'), { subnet, gateway })
    the(plan.networks, 'servers').fixed[0]!.ip = ip
  }
  it.each([
    ['10.9.20.0/24', '10.9.20.1', '10.9.20.255', 'nothing'],
    ['10.9.20.0/24', '10.9.20.1', '10.9.20.254', 'tcp 443, icmp'],
    ['10.9.20.0/30', '10.9.20.1', '10.9.20.3', 'nothing'],
    ['10.9.20.0/30', '10.9.20.1', '10.9.20.2', 'tcp 443, icmp'],
    ['10.9.20.0/31', '10.9.20.0', '10.9.20.1', 'tcp 443, icmp'],
  ])('of %s with the gateway %s: a box at %s', (subnet, gateway, ip, services) => {
    expect(passes('staff', 'servers', boxOf(subnet, gateway, ip))).toBe(services)
  })
})
