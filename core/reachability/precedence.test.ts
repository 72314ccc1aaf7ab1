import { describe, expect, it } from 'vitest'
import { ipv4 } from '#core/address'
import { ipBatch } from '#core/export'
import { formatServices } from '#core/filter'
import type { DeviceId } from '#core/schema'
import { gridOf, passes, stopOf, walkOf, type Change } from '../../tests/fixtures/reachability'
import { answering } from '../../tests/twin/cases-default-routes'
import { HARD } from '../../tests/twin/cases-hard'
import { roads, spare } from '../../tests/twin/parts'
import { site, the, type LoosePlan } from '../../tests/plans'

// Where a plan leaves two readings. The kernel twin builds each of these sites and tries them: what it does is
// the answer (ip-route(8), wg(8), nft(8): the first of two forwards).

const named = (what: string): Change => {
  const found = HARD.find(([name]) => name === what)
  if (!found) throw new Error(what)
  return found[1]
}
const batchOf = (change: Change) => ipBatch(site(change), 'gate' as DeviceId).split('\n')

describe('two ways to one prefix', () => {
  it('of two tunnels the first has it; nothing comes from the second', () => {
    const both = named('two tunnels to one prefix: the first has it')
    expect(passes('staff', 'peer:mainland', both)).toBe('tcp 22, icmp')
    const batch = batchOf(both)
    expect(batch.filter((line) => line.startsWith('route') && line.includes('10.20.0.0/22'))).toEqual([
      'route add 10.20.0.0/22 dev wg1',
    ])
    expect(batch).toContain('# 10.20.0.0/22 dev wg2: another route to it comes first')
  })

  it('of two tunnels at one port the second does not come up', () => {
    const both = named('two tunnels at one port: the second stays down')
    const apart: Change = (plan) => (both(plan), void (the(plan.tunnels, 'second').listenPort = 51_821))
    expect(passes('staff', 'peer:other', both)).toBe('nothing')
    expect(passes('staff', 'peer:other', apart)).toBe('tcp 22, icmp')
  })

  it('what names a network in a tunnel that does not come up takes nothing from it', () => {
    const both = named(
      'two tunnels at one port: no route leads into the second, and neighbours stay neighbours',
    )
    const apart: Change = (plan) => (both(plan), void (the(plan.tunnels, 'second').listenPort = 51_821))
    expect(passes('staff', 'servers', both)).toBe('tcp 443, icmp')
    expect(passes('staff', 'servers', apart)).toBe('nothing')
    // A route by a next hop there is not taken up either, so that the default route has what it names.
    const beyond: Change = (plan) => void Object.assign(plan.routes[0]!, { prefix: '10.9.20.0/25' })
    expect(passes('staff', 'servers', (plan) => (both(plan), beyond(plan)))).toBe('tcp 443, icmp')
    expect(passes('staff', 'servers', (plan) => (apart(plan), beyond(plan)))).toBe('nothing')
    expect(batchOf(both).filter((line) => /wg2|10\.9\.201\./.test(line))).toEqual([
      'addr add 10.9.201.1/24 dev wg2',
      '# link set wg2 mtu 1420 up: wg1 has its port, and it has no routes',
    ])
    expect(batchOf(apart).filter((line) => /wg2|10\.9\.201\./.test(line))).toEqual([
      'addr add 10.9.201.1/24 dev wg2',
      'link set wg2 mtu 1420 up',
      'route add 10.40.0.0/16 via 10.9.201.7',
      'route add 10.9.20.0/25 dev wg2',
      'route add 10.30.0.0/24 dev wg2',
    ])
  })

  it('a static route comes before a tunnel, unless its metric is higher', () => {
    expect(passes('staff', 'peer:mainland', named('a static route to a prefix of a tunnel'))).toBe('nothing')
    const higher = named('a static route to a prefix of a tunnel, with a higher metric')
    expect(batchOf(higher)).toContain('route add 10.20.0.0/22 via 10.9.20.10 metric 7')
    expect(walkOf('staff', 'peer:mainland', higher)?.passes).toBe(true)
  })

  it('a next hop gets what is for itself, and a host passes on nothing else', () => {
    const itself = named('a static route to a host, and its neighbours, by that host itself')
    expect(passes('staff', 'servers', itself)).toBe('tcp 443, icmp')
    const another: Change = (plan) => (itself(plan), void (plan.routes[0]!.via = '10.9.20.11'))
    expect(passes('staff', 'servers', another)).toBe('nothing')
    // Of the addresses that a lease may give, one alone is reached.
    const leased: Change = (plan) => (
      itself(plan),
      void Object.assign(plan.routes[0]!, { prefix: '10.9.10.128/25', via: '10.9.10.130' }),
      void (the(plan.networks, 'staff').pool = { from: '10.9.10.129', to: '10.9.10.199' }),
      void (plan.policies[0]!.forward = 'accept')
    )
    const { allPairs, somePairs } = gridOf(leased).cell('servers', 'staff')
    expect([allPairs, somePairs].map(formatServices)).toEqual(['nothing', 'all'])
  })

  it('a static default route takes what the gateway sends itself, tunnels among it', () => {
    const taken = named('a static default route: tunnels that the gateway dials go by it, and are down')
    const later: Change = (plan) => (taken(plan), void (plan.routes[0]!.metric = 7))
    expect([passes('staff', 'peer:mainland', taken), passes('staff', 'peer:mainland', later)]).toEqual([
      'nothing',
      'tcp 22, icmp',
    ])
    // Whoever dials in is answered the way they came.
    expect(passes('peer:keeper', 'servers', taken)).toBe('tcp 445')
  })

  it('a static default route comes after uplinks that share, for who comes from inside', () => {
    const shared = named(
      'a static default route beside uplinks that share: who comes from inside goes by them all the same',
    )
    const apart: Change = (plan) => (shared(plan), void (the(plan.uplinks, 'spare').priority = 2))
    expect([passes('staff', 'internet', shared), passes('staff', 'internet', apart)]).toEqual([
      'all',
      'nothing',
    ])
    // The gateway's own tunnels have no mark, and go by it.
    expect(passes('staff', 'peer:mainland', shared)).toBe('nothing')
    const behind = named(
      'a static default route, an uplink of its own, and two that share behind it: tunnels go by the first',
    )
    expect(passes('staff', 'peer:mainland', behind)).toBe('tcp 22, icmp')
  })

  it('a static route whose next hop nobody hears is not there', () => {
    const unheard = named('static routes whose next hops are not heard')
    expect(passes('staff', 'internet', unheard)).toBe('all')
    expect(batchOf(unheard).filter((line) => line.includes('198.51.100.0'))).toEqual([])
  })
})

describe('two takers of one port', () => {
  it('of two forwards the first has it', () => {
    const two = named('two forwards of one port: the first has it')
    expect(passes('internet', 'servers', two)).toBe('tcp 443')
    expect(passes('internet', 'management', two)).toBe('tcp 440-442 444-445')
  })

  it('what is forwarded the gateway does not answer', () => {
    const taken = named('a forward of what the gateway would answer itself')
    expect(passes('internet', 'gateway', taken)).toBe('tcp 0-442 444-65535, udp all, icmp')
  })

  it('who dials a tunnel at a forwarded port does not reach it', () => {
    const taken = named('a forward of the port at which a tunnel is dialled')
    expect(stopOf('peer:keeper', 'servers', roads)).not.toBe('tunnel-down')
    expect(stopOf('peer:keeper', 'servers', taken)).toBe('tunnel-down')
  })
})

describe('a gateway that calls a host', () => {
  // RFC 1122, 3.3.4.3: from the address of the interface that the host's address lies on, which is known by the
  // interface's own address and length, and not by what the plan calls the network's subnet.
  const astray = (plan: LoosePlan): void => {
    the(plan.networks, 'management').subnet = '10.9.20.0/28'
    the(plan.networks, 'servers').subnet = '10.9.10.0/24'
  }
  it('sends from the interface that faces it, also where another network claims its address', () => {
    expect(passes('gateway', 'servers', astray)).toBe('all')
    expect(walkOf('gateway', 'servers', astray)?.flow.fromAddress).toBe(ipv4(0x0a091401))
  })
})

describe('an uplink whose address lies in a network of its own gateway', () => {
  const at = (address: string) => (plan: LoosePlan) => {
    the(plan.uplinks, 'line').facts.address = address
  }

  it('carries nothing', () => {
    expect(passes('staff', 'internet', at('10.9.10.200/24'))).toBe('nothing')
    expect(stopOf('staff', 'internet', at('10.9.10.200/24'))).toBe('no-uplink')
    expect(passes('staff', 'internet', at('10.9.11.200/24'))).toBe('all')
    expect(passes('staff', 'internet', at('10.9.8.200/21'))).toBe('nothing')
  })

  it('also where a routing modem in front hands the address out', () => {
    const behind = (subnet: string) => (plan: LoosePlan) => {
      the(plan.uplinks, 'line').facts.modem = 'routing'
      the(plan.devices, 'ont').model = 'E1'
      Object.assign(the(plan.networks, 'staff'), {
        subnet: `${subnet}.0/24`,
        gateway: `${subnet}.1`,
        pool: null,
      })
    }
    expect(passes('servers', 'internet', behind('192.168.88'))).toBe('nothing')
    expect(stopOf('gateway', 'internet', behind('192.168.88'))).toBe('no-uplink')
    expect(stopOf('gateway', 'internet', behind('192.168.89'))).toBeUndefined()
  })
})

describe('a gateway that answers its callers', () => {
  it('does so by the line that was called, where calls are marked, and else by its default route', () => {
    expect(passes('internet', 'gateway', answering)).toBe('nothing')
    expect(passes('internet', 'gateway', (plan) => (answering(plan), spare(plan)))).toBe('all')
  })
})
