import { describe, expect, it } from 'vitest'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import { access, cat6, device, fixed, hosts, link, ports, trunk, wifi, ssid } from '#server/demo/build'
import { formatIpv4 } from '#core/address'
import { indexPlan } from '#core/queries'
import { GATEWAY, INTERNET, matrixOf, openSite, walkFlow } from '.'
import { gatewayCalling, gatewaySeenBy } from './gateway-choice'
import { boxOfTwoHomes, telephoneWithComputer } from '../../tests/fixtures/homes'
import { type Change, passes, endpoint, stopOf } from '../../tests/fixtures/reachability'

describe('addresses of hosts', () => {
  it('a client leases from the pool that its VLAN leads to', () => {
    expect(endpoint('desk')).toMatchObject({ how: 'leased', networkId: 'staff', prefixLength: 24 })
    expect(endpoint('desk').ranges.map((r) => `${formatIpv4(r.from)} ${formatIpv4(r.to)}`)).toEqual([
      '10.9.10.100 10.9.10.199',
    ])
  })
  it('in the wrong VLAN it leases there', () => {
    expect(
      endpoint('desk', (plan) => {
        the(plan.networks, 'servers').pool = { from: '10.9.20.100', to: '10.9.20.120' }
        the(plan.networks, 'servers').dhcp = 'serve'
        portOf(plan, 'sw', 'p2').mode = access(20)
      }),
    ).toMatchObject({ how: 'leased', networkId: 'servers', homeNetworkId: 'staff' })
  })
  it.each<[string, Change]>([
    ['without a server', (p) => void (the(p.networks, 'staff').dhcp = 'none')],
    ['where the VLAN is cut off', (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 20))],
    [
      'where the pool is not in the interface’s subnet',
      (p) => void (the(p.networks, 'staff').gateway = '10.9.77.1'),
    ],
  ])('%s it gives itself a link-local address and reaches nothing', (_, change) => {
    expect(endpoint('desk', change)).toMatchObject({ how: 'link-local', networkId: null, gateway: null })
    expect(passes('staff', INTERNET, change)).toBe('nothing')
    expect(stopOf('staff', INTERNET, change)).toBe('no-address')
  })
  it('a reserved address is held only in its own network', () => {
    const reserve: Change = (plan) =>
      void the(plan.networks, 'staff').fixed.push(fixed('10.9.10.5', 'Desk', 'desk', 'reserved'))
    expect(endpoint('desk', reserve)).toMatchObject({ how: 'reserved' })
    expect(
      endpoint('desk', (p) => (reserve(p), void (the(p.networks, 'staff').dhcp = 'none'))),
    ).toMatchObject({ how: 'link-local' })
  })
})

describe('hosts decide by their own mask and gateway', () => {
  const box =
    (change: (f: LoosePlan['networks'][number]['fixed'][number]) => void): Change =>
    (plan) => {
      const entry = the(plan.networks, 'servers').fixed[0]
      if (entry) change(entry)
    }
  it('a mask too wide makes a far host look near: the reply is never sent to the gateway', () => {
    const wide = box((f) => void (f.mask = 16))
    expect(passes('staff', 'servers', wide)).toBe('nothing')
    expect(stopOf('staff', 'servers', wide)).toBe('neighbour-unanswered')
  })
  it('a wrong gateway loses the reply', () => {
    expect(
      stopOf(
        'staff',
        'servers',
        box((f) => void (f.gateway = '10.9.20.254')),
      ),
    ).toBe('gateway-unanswered')
  })
  it('a gateway that no VLAN leads to is not heard, whoever is called', () => {
    const cut: Change = (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10))
    for (const to of ['staff', INTERNET, GATEWAY])
      expect(stopOf('servers', to, cut)).toBe(to === GATEWAY ? 'neighbour-unanswered' : 'gateway-unanswered')
  })
  it('a gateway off its own link is never asked', () => {
    expect(
      stopOf(
        'staff',
        'servers',
        box((f) => void (f.gateway = '10.9.10.1')),
      ),
    ).toBe('gateway-off-link')
  })
  it('a right mask written out changes nothing', () => {
    expect(
      passes(
        'staff',
        'servers',
        box((f) => Object.assign(f, { mask: 24, gateway: '10.9.20.1' })),
      ),
    ).toBe('tcp 443, icmp')
  })
})

describe('one link, several hosts', () => {
  it('hosts of one SSID with client isolation do not see each other, without it they do', () => {
    const air =
      (isolation: boolean): Change =>
      (plan) => {
        plan.devices.push(
          device(
            'ap',
            'AP',
            'access-point',
            'A2',
            'Room',
            'management',
            ports({ 1: trunk(99, 10), radio: { mode: 'radio' } }),
          ),
        )
        plan.devices.push(hosts('one', 'One', 'Room', 'staff', 1), hosts('two', 'Two', 'Room', 'staff', 1))
        portOf(plan, 'sw', 'p4').mode = trunk(99, 10)
        plan.links.push(
          link('sw:4', 'ap:1', cat6(4)),
          link('ap:radio', 'one:1', wifi('air')),
          link('ap:radio', 'two:1', wifi('air')),
        )
        plan.ssids.push(ssid({ id: 'air', name: 'Air', networkId: 'staff', isolation, apIds: ['ap'] }))
      }
    const between = (isolation: boolean) => {
      const opened = openSite(indexPlan(site(air(isolation))), [])
      const flow = {
        from: 'one',
        fromAddress: 0x0a090a64,
        to: 'two',
        toAddress: 0x0a090a65,
        proto: 'tcp' as const,
        port: 80,
      }
      return walkFlow(opened, flow)?.lines.at(-1)
    }
    expect(between(true)).toMatchObject({ kind: 'stopped', code: 'isolated' })
    expect(between(false)).toEqual({ kind: 'delivered' })
    expect(passes('staff', INTERNET, air(true))).toBe('all')
  })
})

describe('a host of several homes', () => {
  const seen = (change: Change) => {
    const opened = openSite(indexPlan(site(change)), [])
    return opened.endpoints
      .filter((e) => e.deviceId === 'box')
      .map(({ networkId, node, how }) => [networkId, node.tag, how])
  }
  it('has an address in each, by the tag that it sends', () => {
    expect(seen(boxOfTwoHomes())).toEqual([
      ['servers', 0, 'static'],
      ['staff', 10, 'leased'],
    ])
    expect(passes('staff', 'staff', boxOfTwoHomes())).toBe('all')
  })
  it('has only what its port takes', () => {
    expect(seen(boxOfTwoHomes(access(20)))).toEqual([
      ['servers', 0, 'static'],
      [null, 10, 'link-local'],
    ])
  })
  it('has all networks where it tags all', () => {
    const all: Change = (plan) => {
      portOf(plan, 'box', 'p1').mode = { mode: 'trunk', native: null, tagged: 'all' }
      portOf(plan, 'sw', 'p3').mode = { mode: 'trunk', native: null, tagged: 'all' }
    }
    expect(seen(all).map(([networkId, tag]) => [networkId, tag])).toEqual([
      [null, 99],
      ['staff', 10],
      ['servers', 20],
    ])
  })
  it('a telephone has its own network, and the computer behind it another', () => {
    const opened = openSite(indexPlan(site(telephoneWithComputer())), [])
    const at = (id: string) => opened.endpoints.find((e) => e.deviceId === id)?.networkId
    expect([at('tel'), at('behind')]).toEqual(['voice', 'staff'])
  })
})

describe('the gateway of a host', () => {
  it('calls it from the network that its address lies in, and is called as its own network has it', () => {
    // Typed in for the staff's network, where its cable leads, by somebody who keeps the servers' gateway.
    const moved: Change = (plan) => {
      const [assignment] = the(plan.networks, 'servers').fixed
      Object.assign(assignment!, { ip: '10.9.10.7', mask: 24, gateway: '10.9.20.77' })
      portOf(plan, 'sw', 'p3').mode = access(10)
    }
    const opened = openSite(indexPlan(site(moved)), [])
    const endpoint = opened.endpoints.find((e) => e.deviceId === 'box')!
    expect(gatewayCalling(opened, { kind: 'endpoint', endpoint })?.address).toBe(0x0a090a01)
    expect(gatewaySeenBy(opened, { kind: 'endpoint', endpoint })?.address).toBe(0x0a091401)
    const { cells } = matrixOf(opened)
    const [there, back] = [
      cells.find((cell) => cell.from === GATEWAY && cell.to === 'servers'),
      cells.find((cell) => cell.from === 'servers' && cell.to === GATEWAY),
    ]
    expect(there).toMatchObject({ allPairs: { icmp: true }, example: { fromAddress: 0x0a090a01 } })
    expect(back).toMatchObject({ allPairs: { icmp: false } })
  })
  it('is that of where it landed, not of where it belongs', () => {
    const misplugged: Change = (plan) => {
      Object.assign(the(plan.networks, 'servers'), {
        dhcp: 'serve',
        pool: { from: '10.9.20.100', to: '10.9.20.120' },
      })
      portOf(plan, 'sw', 'p2').mode = access(20)
    }
    // By its own gateway it may ask for names; the staff's would be one hop farther.
    const opened = openSite(indexPlan(site(misplugged)), [])
    const host = opened.endpoints.find((e) => e.deviceId === 'desk')
    expect(host && gatewaySeenBy(opened, { kind: 'endpoint', endpoint: host })?.address).toBe(0x0a091401)
    const lost = openSite(
      indexPlan(site((p) => (misplugged(p), void (the(p.networks, 'servers').dhcp = 'none')))),
      [],
    )
    const alone = lost.endpoints.find((e) => e.deviceId === 'desk')
    expect(alone && gatewaySeenBy(lost, { kind: 'endpoint', endpoint: alone })?.address).toBe(0x0a090a01)
  })
})
