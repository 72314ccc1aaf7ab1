import { the, type LoosePlan } from '../plans'

import { routed, staff, rules, OTHER_KEY, known, KEY, tunnelled, provided, sealed, both } from './changes'
import { aPeer, aTunnel } from '../fixtures/tunnels'
import { BLANK_IPSEC } from '#core/edit'
import type { Case } from './case'

/** A tunnel that carries IPv6 in packets of so many bytes. */
const tunnelOfSix = (plan: LoosePlan, mtu: number) => {
  tunnelled(plan, {}, {})
  Object.assign(the(plan.tunnels, 'wg'), { mtu, address6: 'fd61:6a11:20::1/64' })
}

/** A second tunnel of the same gateway, to one more site. */
const secondTunnel = (plan: LoosePlan, listenPort: number, allowed: string) => {
  tunnelled(plan, { allowed: ['10.20.0.0/22'] }, {})
  const peer = aPeer({ id: 'other', allowed: [allowed], endpoint: 'other.example:51820', keepaliveS: 25 })
  plan.tunnels.push({
    ...aTunnel({ id: 'second', name: 'Second', address: '10.9.201.1/24', listenPort }),
    peers: [peer],
  })
}

/** A tunnel that is dialled into, through a modem that routes. */
const modemInFront = (plan: LoosePlan, modemForwards: boolean | null) => {
  tunnelled(plan, { endpoint: null }, {})
  Object.assign(the(plan.uplinks, 'line').facts, { modem: 'routing', modemForwards })
}

export const TUNNELS_CASES: readonly Case[] = [
  [
    'V01',
    'one key for two',
    'tunnels.wg.peers.b.publicKey',
    (p) => tunnelled(p, { publicKey: KEY }, { publicKey: KEY }),
    (p) => tunnelled(p, { publicKey: KEY }, {}),
  ],
  [
    'V02',
    'two peers with the same addresses',
    'tunnels.wg.peers.b.allowed',
    (p) => tunnelled(p, {}, { allowed: ['10.20.1.0/24'] }),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V03',
    'nobody can dial in',
    'tunnels.wg.peers',
    (p) => (tunnelled(p, { endpoint: null }, {}), void (the(p.uplinks, 'line').outside = 'shared')),
    (p) => (tunnelled(p, {}, {}), void (the(p.uplinks, 'line').outside = 'shared')),
  ],
  [
    'V04',
    'a far LAN that is here too',
    'tunnels.wg.peers.b.allowed',
    (p) => tunnelled(p, {}, { allowed: ['10.9.10.0/24'] }),
    (p) => tunnelled(p, {}, { allowed: ['10.19.10.0/24'] }),
  ],
  [
    'V05',
    'a tunnel that no rule opens',
    'tunnels.wg.peers.a',
    (p) => (tunnelled(p, {}, {}), void rules(p).pop()),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V05',
    'a tunnel whose far end sends nothing into it, whatever the rules say',
    'tunnels.wg.peers.a',
    (p) => tunnelled(p, { theirAllowed: [] }, {}),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V06',
    'public addresses inside a tunnel',
    'tunnels.wg.address',
    (p) => (tunnelled(p, {}, {}), void (p.tunnels[0]!.address = '172.32.0.1/24')),
    (p) => (tunnelled(p, {}, {}), void (p.tunnels[0]!.address = '172.31.0.1/24')),
  ],
  [
    'V07',
    'a modem in front that keeps the calls',
    'uplinks.line.facts.modemForwards',
    (p) => modemInFront(p, false),
    (p) => modemInFront(p, true),
  ],
  [
    'V07',
    'a modem in front of which nobody has said what it forwards',
    'uplinks.line.facts.modemForwards',
    (p) => modemInFront(p, null),
    (p) => modemInFront(p, true),
  ],
  [
    'V08',
    'a changing address without a name',
    'tunnels.wg.publicName',
    (p) => (tunnelled(p, { endpoint: null }, {}), void (p.tunnels[0]!.publicName = null)),
    (p) => tunnelled(p, { endpoint: null }, {}),
  ],
  [
    'V17',
    'a name that follows its address late',
    'tunnels.wg.nameEveryS',
    (p) => tunnelled(p, { endpoint: null }, {}),
    (p) => (tunnelled(p, { endpoint: null }, {}), void (the(p.uplinks, 'line').kind = 'static')),
  ],
  [
    'V20',
    'a tunnel from behind a translation without a keepalive',
    'tunnels.wg.peers.a.keepaliveS',
    (p) => (tunnelled(p, { keepaliveS: null }, {}), void (the(p.uplinks, 'line').outside = 'shared')),
    (p) => tunnelled(p, { keepaliveS: null }, {}),
  ],
  [
    'V20',
    'a keepalive that is too seldom',
    'tunnels.wg.peers.a.keepaliveS',
    (p) => tunnelled(p, { endpoint: null, keepaliveS: 121 }, {}),
    (p) => tunnelled(p, { endpoint: null, keepaliveS: 120 }, {}),
  ],
  [
    'V18',
    'a translation that is not one to one',
    'tunnels.wg.mapped.m',
    (p) => known(p, '10.99.10.0/25'),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V18',
    'a translation to addresses that are somebody’s',
    'tunnels.wg.mapped.m',
    (p) => known(p, '10.30.1.0/24'),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V18',
    'a translation that the far end knows nothing of',
    'tunnels.wg.mapped.m',
    (p) => known(p, '10.99.10.0/24'),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V19',
    'a peer with two keys',
    'tunnels.wg.peers.a.next',
    (p) => tunnelled(p, { publicKey: KEY, next: { publicKey: OTHER_KEY, until: '2026-12-09' } }, {}),
    (p) => tunnelled(p, { publicKey: KEY }, {}),
  ],
  [
    'V01',
    'a next key that is another’s',
    'tunnels.wg.peers.b.next',
    (p) => tunnelled(p, { publicKey: KEY }, { next: { publicKey: KEY, until: '2026-12-09' } }),
    (p) => tunnelled(p, { publicKey: KEY }, { next: { publicKey: OTHER_KEY, until: '2026-12-09' } }),
  ],
  [
    'V10',
    'the narrower uplink of a tunnel',
    'tunnels.wg.peers.a.downMbps',
    (p) => tunnelled(p, { downMbps: 200, upMbps: 50 }, {}),
    (p) => tunnelled(p, { downMbps: 200 }, {}),
  ],
  [
    'V09',
    'an MTU too large',
    'tunnels.wg.mtu',
    (plan) => (
      tunnelled(plan, {}, {}),
      void (plan.tunnels[0]!.mtu = 1440),
      void (the(plan.uplinks, 'line').kind = 'pppoe')
    ),
    (p) => (tunnelled(p, {}, {}), void (p.tunnels[0]!.mtu = 1440)),
  ],
  [
    'V09',
    'an MTU too large for a peer that is called by IPv6',
    'tunnels.wg.mtu',
    (p) => (tunnelled(p, { endpoint: '[2001:db8::1]:51820' }, {}), void (p.tunnels[0]!.mtu = 1421)),
    (p) => (tunnelled(p, { endpoint: '[2001:db8::1]:51820' }, {}), void (p.tunnels[0]!.mtu = 1420)),
  ],
  [
    'V12',
    'their names are looked up outside it',
    'policyRoutes.v',
    provided,
    (p) => (provided(p), void (staff(p).options.dns = ['10.50.0.1'])),
  ],
  [
    'V15',
    'two ends of IPsec that do not fit',
    'ipsec.far',
    (p) => sealed(p, { subnets: ['10.2.0.0/16'] }),
    (p) => sealed(p, {}),
  ],
  [
    'V16',
    'an algorithm that is forbidden',
    'ipsec.far',
    (plan) =>
      sealed(plan, { esp: { encryption: ['DES', 'AES_GCM_16/256'], integrity: [], prf: [], groups: [19] } }),
    (p) => sealed(p, { esp: { encryption: ['AES_GCM_16/256'], integrity: [], prf: [], groups: [19] } }),
  ],
  [
    'V21',
    'a tunnel within a network, by one address',
    'tunnels.wg.address',
    (p) => (tunnelled(p, {}, {}), void (p.tunnels[0]!.address = '10.9.10.254/31')),
    (p) => (tunnelled(p, {}, {}), void (p.tunnels[0]!.address = '10.9.11.0/31')),
  ],
  [
    'V22',
    'an endpoint that its own tunnel carries',
    'tunnels.wg.peers.a.endpoint',
    (p) => tunnelled(p, { endpoint: '10.20.3.255:51820' }, {}),
    (p) => tunnelled(p, { endpoint: '10.20.4.0:51820' }, {}),
  ],
  [
    'V22',
    'the same by IPv6',
    'tunnels.wg.peers.a.endpoint',
    (p) => tunnelled(p, { endpoint: '[2001:db8:77::1]:51820', allowed: ['2001:db8:77::/48'] }, {}),
    (p) => tunnelled(p, { endpoint: '[2001:db8:78::1]:51820', allowed: ['2001:db8:77::/48'] }, {}),
  ],
  [
    'V23',
    'IPv6 in packets of 1,279 bytes',
    'tunnels.wg.mtu',
    (p) => tunnelOfSix(p, 1279),
    (p) => tunnelOfSix(p, 1280),
  ],
  [
    'V24',
    'two tunnels at one port',
    'tunnels.second.listenPort',
    (p) => secondTunnel(p, 51820, '10.30.0.0/24'),
    (p) => secondTunnel(p, 51821, '10.30.0.0/24'),
  ],
  [
    'V25',
    'two tunnels to one prefix',
    'tunnels.second.peers.other.allowed',
    (p) => secondTunnel(p, 51821, '10.20.0.0/22'),
    (p) => secondTunnel(p, 51821, '10.20.0.0/23'),
  ],
  [
    'V25',
    'a static route to a prefix of a tunnel',
    'tunnels.wg.peers.a.allowed',
    (p) => (tunnelled(p, { allowed: ['10.40.0.0/16'] }, {}), routed(p, '10.40.0.0/16', '10.9.20.10', 0)),
    (p) => (tunnelled(p, { allowed: ['10.40.0.0/16'] }, {}), routed(p, '10.40.0.0/16', '10.9.20.10', 5)),
  ],
  [
    'V26',
    'a tunnel whose silence nobody notices',
    'policyRoutes.v.orElse',
    (p) => (provided(p), void (p.policyRoutes[0]!.orElse = 'next')),
    (p) => (provided(p), void (p.policyRoutes[0]!.orElse = 'refuse')),
  ],
  ['V11', 'some go by a provider’s tunnel', 'policyRoutes.v', provided, (p) => tunnelled(p, {}, {})],
  ['V14', 'their IPv6 goes beside it', 'policyRoutes.v', (p) => (both(p), provided(p)), provided],
  [
    'V15',
    'two ends of IPsec with no algorithm in common',
    'ipsec.far',
    (plan) =>
      sealed(plan, {
        esp: { encryption: ['AES_CBC/256'], integrity: ['HMAC_SHA2_256_128'], prf: [], groups: [19] },
      }),
    (plan) =>
      sealed(plan, {
        esp: { encryption: ['AES_CBC/256', 'AES_GCM_16/256'], integrity: [], prf: [], groups: [19] },
      }),
  ],
  [
    'V15',
    'two ends of IPsec that prove themselves otherwise',
    'ipsec.far',
    (p) => sealed(p, { auth: 'certificate' }),
    (p) => sealed(p, { auth: 'certificate' }, { auth: 'certificate' }),
  ],
  [
    'V15',
    'two ends of IPsec that both wait',
    'ipsec.far',
    (p) => sealed(p, { starts: false }),
    (p) => sealed(p, { starts: false }, { starts: true }),
  ],
  [
    'V15',
    'an end of IPsec that has nowhere to call',
    'ipsec.far',
    (p) => sealed(p, {}, { address: '' }),
    (p) => sealed(p, { address: '' }),
  ],
  [
    'V15',
    'two ends of IPsec of one identity',
    'ipsec.far',
    (p) => sealed(p, {}, { identity: 'a.example' }),
    (p) => sealed(p, { identity: '' }, { identity: '' }),
  ],
  [
    'V16',
    'an algorithm that is advised against',
    'ipsec.far',
    (plan) =>
      sealed(plan, {
        esp: { encryption: ['AES_GCM_16/256', '3DES'], integrity: ['HMAC_SHA1_96'], prf: [], groups: [19] },
      }),
    (plan) =>
      sealed(plan, {
        esp: {
          encryption: ['AES_GCM_16/256', 'AES_CBC/128'],
          integrity: ['HMAC_SHA1_96'],
          prf: [],
          groups: [19],
        },
      }),
  ],
  [
    'V16',
    'an algorithm that nobody knows',
    'ipsec.far',
    (p) => sealed(p, { ike: { ...BLANK_IPSEC.ike, groups: [19, 99] } }),
    (p) => sealed(p, { ike: { ...BLANK_IPSEC.ike, groups: [19, 31] } }),
  ],
  [
    'V18',
    'what a translation means',
    'tunnels.wg.mapped.m',
    (plan) => (
      known(plan, '10.99.10.0/24'),
      plan.tunnels[0]!.peers.forEach((peer) => peer.theirAllowed.push('10.99.10.0/24'))
    ),
    (p) => tunnelled(p, {}, {}),
  ],
]
