import { portOf } from '../plans'
import { access, network, trunk } from '#server/demo/build'
import { boxOfTwoHomes, telephoneWithComputer } from '../fixtures/homes'
import { strip, ring } from './changes'
import type { Case } from './case'

export const LAYER2_CASES: readonly Case[] = [
  [
    'E01',
    'a VLAN nobody planned on a port',
    'devices.gate.ports.p2',
    (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10, 20, 77)),
    (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 20, 10)),
  ],
  [
    'E02',
    'a VLAN that stops short',
    'devices.gate.ports.p2',
    (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10)),
    (plan) => {
      portOf(plan, 'gate', 'p2').mode = trunk(99, 10)
      plan.devices = plan.devices.filter((d) => d.id !== 'box')
      plan.links = plan.links.filter((l) => l.b.deviceId !== 'box')
    },
  ],
  [
    'E03',
    'native VLANs that differ',
    'devices.gate.ports.p2',
    (p) => void (portOf(p, 'sw', 'p1').mode = trunk(20, 10, 99)),
    (plan) => {
      portOf(plan, 'sw', 'p1').mode = trunk(20, 10, 99)
      portOf(plan, 'gate', 'p2').mode = trunk(20, 10, 99)
    },
  ],
  [
    'E04',
    'tags into an unmanaged switch',
    'devices.sw.ports.p4',
    (p) => (strip(p), void (portOf(p, 'sw', 'p4').mode = trunk(99, 10))),
    (p) => (strip(p), void (portOf(p, 'sw', 'p4').mode = access(10))),
  ],
  [
    'E11',
    'hosts in another network than they belong in',
    'devices.sw.ports.p2',
    (p) => void (portOf(p, 'sw', 'p2').mode = access(20)),
    (p) => void (portOf(p, 'sw', 'p2').mode = trunk(10, 20)),
  ],
  [
    'E11',
    'a host of two homes, untagged in another than its first',
    'devices.sw.ports.p3',
    boxOfTwoHomes(trunk(10, 20)),
    boxOfTwoHomes(),
  ],
  [
    'E02',
    'a host that tags, on a port that takes no tags',
    'devices.sw.ports.p3',
    boxOfTwoHomes(access(20)),
    boxOfTwoHomes(),
  ],
  [
    'E02',
    'a telephone that tags, on a port that takes no tags',
    'devices.sw.ports.p4',
    telephoneWithComputer(access(10)),
    telephoneWithComputer(),
  ],
  [
    'E01',
    'a VLAN nobody planned on a host',
    'devices.box.ports.p1',
    (p) => (boxOfTwoHomes()(p), void (portOf(p, 'box', 'p1').mode = trunk(20, 10, 77))),
    boxOfTwoHomes(),
  ],
  [
    'E05',
    'a ring that nobody breaks',
    'devices.strip',
    (p) => (strip(p), ring(p)),
    (p) => (strip(p), ring(p), void (p.links.length -= 1)),
  ],
  [
    'E13',
    'a VLAN that nobody needs',
    'devices.gate.ports.p2',
    (plan) => (
      plan.networks.push(network('spare', 44, 'Spare', '10.9.44.0/24', '10.9.44.1', null, 1, [], 'gate')),
      void (portOf(plan, 'gate', 'p2').mode = trunk(99, 10, 20, 44))
    ),
    (plan) =>
      void plan.networks.push(
        network('spare', 44, 'Spare', '10.9.44.0/24', '10.9.44.1', null, 1, [], 'gate'),
      ),
  ],
]
