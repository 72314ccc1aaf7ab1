import { USUAL_NAME } from '#core/edit'
import type { IpsecLink, Peer, Tunnel, Uplink } from '#core/schema'
import { ipsecEnd } from '../build'
import { type Variant } from './places'

/** One target on the copy with mistakes; two, both of which must be silent, on the clean one. */
export const watched = ({
  clean,
}: Variant): Pick<Uplink, 'probe' | 'holdDownS' | 'sharedRisks' | 'usualGbPerDay' | 'availablePct'> => ({
  probe: {
    kind: 'icmp',
    targets: clean ? ['198.51.100.53', '203.0.113.53'] : ['198.51.100.53'],
    quorum: clean ? 2 : 1,
    everyS: 5,
    timeoutS: 1,
    misses: 3,
    returns: 4,
  },
  holdDownS: 60,
  sharedRisks: ['duct along the quay'],
  usualGbPerDay: 24,
  availablePct: 99.5,
})
export const person = (id: string, name: string, ip: string, theirAllowed: readonly string[]): Peer => ({
  id,
  name,
  kind: 'person',
  publicKey: null,
  next: null,
  allowed: [`${ip}/32`],
  theirAllowed,
  endpoint: null,
  downMbps: null,
  upMbps: null,
  keepaliveS: null,
})
/** The harbour's office keeps a firewall of its own, which speaks IPsec. */
export const HARBOUR: IpsecLink = {
  id: 'harbour',
  name: 'Harbour Office',
  deviceId: 'gateway',
  ours: ipsecEnd('gullhaven.example', 'vpn.gullhaven.example', ['10.61.2.0/24'], true),
  theirs: ipsecEnd('harbour.example', '198.51.100.30', ['10.62.4.0/24'], false),
}

export const TUNNELS: readonly Tunnel[] = [
  {
    id: 'mainland-link',
    name: 'Mainland tunnel',
    deviceId: 'gateway',
    publicName: 'vpn.gullhaven.example',
    ...USUAL_NAME,
    address: '10.61.20.1/29',
    address6: null,
    listenPort: 51820,
    mtu: 1420,
    publicKey: null,
    mapped: [],
    peers: [
      // This side dials, so that it works over either line.
      {
        id: 'mainland',
        name: 'Mainland Office',
        kind: 'site',
        publicKey: null,
        next: null,
        allowed: ['10.61.20.2/32', '10.61.16.0/22'],
        theirAllowed: ['10.61.2.0/26', '10.61.20.1/32'],
        endpoint: 'vpn.carrow.example:51820',
        downMbps: 200,
        upMbps: 50,
        keepaliveS: 25,
      },
      person('keeper-away', 'Keeper on the road', '10.61.20.3', [
        '10.61.0.0/24',
        '10.61.2.0/26',
        '10.61.20.1/32',
      ]),
      person('surveyor', 'Surveyor on the road', '10.61.20.4', ['10.61.2.0/26']),
      person('boat-crew', 'Boat crew', '10.61.20.5', ['10.61.2.0/26']),
    ],
  },
]
