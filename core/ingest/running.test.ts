import { aPeer, aTunnel } from '../../tests/fixtures/tunnels'
import { describe, expect, it } from 'vitest'
import { ipBatch } from '#core/export'
import type { Plan } from '#core/schema'
import { site, the, type LoosePlan } from '../../tests/plans'
import { readRunning } from '.'

// What the programs themselves print is tried in tests/twin; here are the differences that each kind can
// show, on printed lines cut down by hand, in the columns of wg(8) and of dnsmasq's leases file.

const [OURS, THEIRS, OTHER] = [
  'hSDwCYkwp1R0i33ctD73Wg2/Og0mOBr066SpjqqbTmo=',
  'xTIBA5rboUvnH4htodjb6e697QjLERt1NAB4mZqp8Dg=',
  'TrMvSoP4jYQlY6RIzBgbssQqY3vxI2Pi+y71lOWWXX0=',
]
const plan = (change: (p: LoosePlan) => void = () => undefined): Plan =>
  site((plan) => {
    plan.tunnels.push(
      aTunnel({
        publicKey: OURS,
        peers: [
          aPeer({
            id: 'far',
            name: 'Far',
            publicKey: THEIRS,
            allowed: ['10.20.0.0/22', '10.9.200.2/32'],
          }),
        ],
      }),
    )
    the(plan.networks, 'staff').fixed.push({
      id: 'pr',
      ip: '10.9.10.50',
      name: 'Printer',
      deviceId: null,
      how: 'reserved',
      mask: null,
      gateway: null,
      mac: '00-00-5E-00-53-11',
      ip6: null,
    })
    change(plan)
  })
const told = (text: string, of: Plan = plan()) => {
  const read = readRunning(of, 'gate', text)
  return read.ok
    ? read.value.drifts.map((drift) =>
        [drift.code, drift.where, drift.planned, drift.running].filter((t) => t !== '').join(' | '),
      )
    : read.problems.map((p) => p.code)
}
const SECRET = 'qC1Z0000000000000000000000000000000000000000='
const dump = (port: string, peers: readonly string[]) =>
  [`${SECRET}\t${OURS}\t${port}\toff`, ...peers].join('\n')
const peer = (key: string, allowed: string, handshake = '1764000000') =>
  `${key}\t(none)\t203.0.113.9:51820\t${allowed}\t${handshake}\t148\t92\toff`

describe('a tunnel that runs', () => {
  it('says nothing where it is as planned, whatever the order of its addresses', () => {
    expect(told(dump('51820', [peer(THEIRS, '10.9.200.2/32,10.20.0.0/22')]))).toEqual([])
    expect(
      told(`wg1\t${SECRET}\t${OURS}\t51820\toff\nwg1\t${peer(THEIRS, '10.20.0.0/22,10.9.200.2/32')}`),
    ).toEqual([])
  })
  it('shows other ports, peers, addresses, and who was never heard', () => {
    expect(told(dump('51821', [peer(THEIRS, '10.20.0.0/22', '0'), peer(OTHER, '10.1.1.1/32')]))).toEqual([
      'port-differs | Tunnel | 51820 | 51821',
      `peer-unknown | Tunnel | ${OTHER}`,
      'allowed-differs | Far | 10.20.0.0/22,10.9.200.2 | 10.20.0.0/22',
      'never-heard | Far',
    ])
    expect(told(dump('51820', []))).toEqual([`peer-missing | Far | ${THEIRS}`])
  })
  it('of a peer that changes its key has two entries, with its addresses at either', () => {
    const changing = plan(
      (p) => void (p.tunnels[0]!.peers[0]!.next = { publicKey: OTHER, until: '2026-12-09' }),
    )
    expect(
      told(dump('51820', [peer(THEIRS, '10.20.0.0/22,10.9.200.2/32'), peer(OTHER, '(none)', '0')]), changing),
    ).toEqual([])
    expect(
      told(dump('51820', [peer(THEIRS, '(none)'), peer(OTHER, '10.20.0.0/22,10.9.200.2/32')]), changing),
    ).toEqual([])
    expect(told(dump('51820', [peer(THEIRS, '(none)'), peer(OTHER, '10.20.0.0/22')]), changing)).toEqual([
      'allowed-differs | Far | 10.20.0.0/22,10.9.200.2 | 10.20.0.0/22',
    ])
  })
  it('never tells its private key', () => {
    expect(JSON.stringify(readRunning(plan(), 'gate', dump('1', [peer(OTHER, '(none)')])))).not.toContain(
      SECRET.slice(0, 8),
    )
  })
})

describe('leases', () => {
  it('in the pool, and reservations that were kept, say nothing', () => {
    expect(
      told(
        '1764000000 02:00:00:00:00:01 10.9.10.101 desk *\n1764000000 00:00:5e:00:53:11 10.9.10.50 printer 01:00\n',
      ),
    ).toEqual([])
  })
  it('outside every pool, of somebody else’s reservation, and of who has another one are told', () => {
    expect(
      told(
        '1764000000 02:00:00:00:00:01 10.9.10.7 * *\n1764000000 02:00:00:00:00:02 10.9.10.50 ' +
          'desk *\n1764000000 00:00:5e:00:53:11 10.9.10.150 printer *',
      ),
    ).toEqual([
      'lease-outside | 10.9.10.7 | 02:00:00:00:00:01',
      'lease-taken | 10.9.10.50 | 00:00:5e:00:53:11 | desk (02:00:00:00:00:02)',
      'lease-elsewhere | printer (00:00:5e:00:53:11) | 10.9.10.50 | 10.9.10.150',
    ])
  })
})

describe('addresses and routes', () => {
  const face = (ifname: string, ...at: readonly string[]) => ({
    ifname,
    addr_info: at.map((address) => ({
      family: 'inet',
      local: address.split('/')[0],
      prefixlen: Number(address.split('/')[1]),
      scope: 'global',
    })),
  })
  it('that are missing, too many, or on nothing', () => {
    const all = [
      face('lan.99', '10.9.99.1/24'),
      face('lan.10', '10.9.10.1/24'),
      face('lan.20', '10.9.20.1/24'),
      face('wg1', '10.9.200.1/24'),
      face('eth0', '192.0.2.4/24'),
    ]
    expect(told(JSON.stringify(all))).toEqual([])
    expect(told(JSON.stringify([all[0], face('lan.10', '10.9.10.2/24'), all[2]]))).toEqual([
      'not-there | wg1',
      'address-missing | lan.10 | 10.9.10.1/24',
      'address-extra | lan.10 | 10.9.10.2/24',
    ])
  })
  it('that lead elsewhere, or are not planned; those of the kernel and of the uplinks are not asked for', () => {
    const routes = [
      { dst: 'default', gateway: '198.18.1.1', dev: 'wan1' },
      { dst: '10.9.10.0/24', dev: 'lan.10', protocol: 'kernel' },
      { dst: '10.20.0.0/22', dev: 'wg1' },
      { dst: '10.9.200.2', dev: 'wg1' },
      { dst: '10.77.0.0/16', gateway: '10.9.10.9', dev: 'lan.10' },
    ]
    expect(ipBatch(plan(), 'gate')).toContain('route add 10.20.0.0/22 dev wg1')
    expect(told(JSON.stringify(routes))).toEqual(['route-extra | 10.77.0.0/16 | 10.9.10.9'])
    expect(told(JSON.stringify(routes.slice(0, 2)))).toEqual([
      'route-missing | 10.20.0.0/22 | wg1',
      'route-missing | 10.9.200.2/32 | wg1',
    ])
  })
})

describe('ip -j rule', () => {
  const always = [0, 32_766].map((priority) => ({ priority, src: 'all' }))
  const delegated = site((draft) => {
    const line = the(draft.uplinks, 'line')
    line.facts = { ...line.facts, delegated6: '2001:db8:5::/48' }
  })
  const told = (more: readonly object[]) => {
    const read = readRunning(delegated, 'gate', JSON.stringify([...always, ...more]))
    return read.ok ? read.value.drifts.map((d) => d.code) : read.problems
  }
  it('is of IPv6 where it has no rule for the table “default”', () => {
    expect(told([])).toEqual(['choice-missing', 'choice-missing'])
    expect(told([{ priority: 299 }, { priority: 300 }])).toEqual([])
    expect(told([{ priority: 32_767 }])).toEqual([])
    expect(told([{ priority: 32_767 }, { priority: 300 }])).toEqual(['choice-extra'])
  })
})

describe('what is no evidence', () => {
  it.each([
    ['nothing', ''],
    ['prose', 'the firewall is fine'],
    ['JSON of something else', '{"a":1}'],
    ['a list of something else', '[{"a":1}]'],
    ['JSON cut short', '{"nftables": ['],
    ['no chain at all', '[]'],
  ])('%s', (_, text) => expect(told(text)).toEqual(['not-evidence']))
  it('a ruleset without our chains says so', () =>
    expect(told('{"nftables":[]}')).toEqual(['chain-missing | forward', 'chain-missing | input']))
})
