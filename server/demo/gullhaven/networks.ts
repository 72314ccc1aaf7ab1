import type { Network } from '#core/schema'
import { fixed, network } from '../build'
import { type Variant } from './places'

export function networks({ clean }: Variant): Network[] {
  const infrastructure = [
    fixed('10.61.0.2', 'Laboratory switch', 'lab-switch'),
    fixed('10.61.0.4', 'Skerry switch', 'skerry-switch'),
    fixed('10.61.0.5', 'Controller', 'controller'),
    fixed('10.61.0.11', 'Laboratory AP 1', 'lab-ap-1', 'reserved'),
    fixed('10.61.0.12', 'Laboratory AP 2', 'lab-ap-2', 'reserved'),
    fixed('10.61.0.13', 'Boathouse AP', 'boat-ap', 'reserved'),
    fixed('10.61.0.14', 'Visitor AP', 'visit-ap', 'reserved'),
    fixed('10.61.0.31', 'Skerry bridge, end A', 'bridge-a'),
    fixed('10.61.0.32', 'Skerry bridge, end B', 'bridge-b'),
    ...(clean ? [fixed('10.61.0.3', 'Boathouse switch', 'boat-switch')] : []),
  ]
  const given = [
    {
      ...network(
        'management',
        99,
        'Management',
        '10.61.0.0/24',
        '10.61.0.1',
        ['10.61.0.100', '10.61.0.199'],
        16,
        infrastructure,
      ),
      options: {
        dns: [],
        ntp: ['10.61.0.1'],
        domain: 'gullhaven.example',
        controller: { option: 143 as const, address: '10.61.0.5' },
      },
    },
    network('staff', 10, 'Staff', '10.61.1.0/24', '10.61.1.1', ['10.61.1.100', '10.61.1.219'], 38, [
      fixed('10.61.1.10', 'Admin desk', 'admin-desk', 'reserved'),
    ]),
    network('servers', 20, 'Servers', '10.61.2.0/26', '10.61.2.1', null, 6, [
      { ...fixed('10.61.2.10', 'File server', 'file-server'), ip6: 'fd61:6a11:c0de:20::10' },
      fixed('10.61.2.11', 'Tide-data server', 'tide-server'),
      fixed('10.61.2.12', 'Recorder', 'recorder'),
    ]),
    network(
      'instruments',
      30,
      'Instruments',
      '10.61.2.64/26',
      '10.61.2.65',
      ['10.61.2.80', '10.61.2.119'],
      21,
    ),
    network('cameras', 40, 'Cameras', '10.61.3.0/24', '10.61.3.1', ['10.61.3.50', '10.61.3.149'], 9),
    network('voice', 50, 'Voice', '10.61.4.0/24', '10.61.4.1', ['10.61.4.20', '10.61.4.99'], 8),
    // An open day brings 60 guests an hour who stay for three.
    {
      ...network('guests', 60, 'Guests', '10.61.6.0/23', '10.61.6.1', ['10.61.6.10', '10.61.7.254'], 180),
      leaseS: clean ? 10_800 : 28_800,
      arrivalsPerH: 60,
      stayH: 3,
    },
  ]
  return given.map((network) => ({
    ...network,
    prefix6: `fd61:6a11:c0de:${network.vlan}::/64`,
    mode6: 'slaac' as const,
    pinned: network.id === 'management',
  }))
}
