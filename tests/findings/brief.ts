import { portOf, the } from '../plans'
import { makeSerial } from '#core/queries'
import { box, boxes, ap } from './changes'
import type { Case } from './case'

export const BRIEF_CASES: readonly Case[] = [
  [
    'D04',
    'a serial that does not check',
    'brief.equipment.x.serial',
    (p) => box(p, 'GH-7A01-K5R0'),
    (p) => box(p, makeSerial('GH', '7A01K5R')),
  ],
  [
    'D04',
    'the board’s serial',
    'brief.equipment.x.serial',
    (p) => box(p, makeSerial('GB', '7A01K5R')),
    (p) => box(p, makeSerial('GH', '7A01K5R')),
  ],
  [
    'D04',
    'one serial for two boxes',
    'brief.equipment.y.serial',
    (p) => (box(p, makeSerial('GH', '7A01K5R')), box(p, makeSerial('GH', '7A01K5R'), 'y')),
    (p) => (box(p, makeSerial('GH', '7A01K5R')), box(p, makeSerial('GH', '7A02K5R'), 'y')),
  ],
  [
    'D08',
    'radios without a country',
    'site.country',
    (p) => (ap(p), void (p.site.country = '')),
    (p) => (ap(p), void (p.site.country = 'XG')),
  ],
  [
    'W01',
    'a fact of an uplink that nobody knows',
    'uplinks.line.facts.macLock',
    (p) => void (the(p.uplinks, 'line').facts.macLock = null),
    (p) => void (the(p.uplinks, 'line').facts.macLock = 'no'),
  ],
  [
    'W07',
    'a port that is shipped locked',
    'uplinks.line.facts.portEnabled',
    (plan) =>
      void (
        (the(plan.devices, 'gate').model = 'G4'),
        (portOf(plan, 'gate', 'p1').name = '2'),
        (portOf(plan, 'gate', 'p2').name = '4')
      ),
    (plan) =>
      void (
        (the(plan.devices, 'gate').model = 'G4'),
        (portOf(plan, 'gate', 'p1').name = '2'),
        (portOf(plan, 'gate', 'p2').name = '4'),
        (the(plan.uplinks, 'line').facts.portEnabled = true)
      ),
  ],
  [
    'W11',
    'an address of the provider’s shared space',
    'uplinks.line.facts.address',
    (p) => void (the(p.uplinks, 'line').facts.address = '100.127.255.4/30'),
    (p) => void (the(p.uplinks, 'line').facts.address = '100.128.0.4/30'),
  ],
  [
    'W11',
    'a router in front that hands nothing on',
    'uplinks.line.facts.modem',
    (p) => void Object.assign(the(p.uplinks, 'line').facts, { modem: 'routing', modemForwards: false }),
    (p) => void Object.assign(the(p.uplinks, 'line').facts, { modem: 'bridge', modemForwards: false }),
  ],
  [
    'W11',
    'a router in front that hands all on',
    'uplinks.line.facts.modem',
    (p) => void Object.assign(the(p.uplinks, 'line').facts, { modem: 'routing', modemForwards: true }),
    (p) => void Object.assign(the(p.uplinks, 'line').facts, { modem: 'none', modemForwards: true }),
  ],
  [
    'W11',
    'a private address behind what is said to be a bridge',
    'uplinks.line.facts.modem',
    (p) => void Object.assign(the(p.uplinks, 'line').facts, { modem: 'bridge', address: '192.168.255.2/24' }),
    (p) => void Object.assign(the(p.uplinks, 'line').facts, { modem: 'bridge', address: '192.169.0.2/24' }),
  ],
  [
    'W17',
    'an address of its own that is the provider’s shared one',
    'uplinks.line.facts.address',
    (plan) =>
      void Object.assign(the(plan.uplinks, 'line'), {
        outside: 'own',
        facts: { ...the(plan.uplinks, 'line').facts, address: '100.64.9.4/30' },
      }),
    (p) => void Object.assign(the(p.uplinks, 'line').facts, { address: '198.51.100.4/30' }),
  ],
  [
    'D04',
    'what is no serial',
    'brief.equipment.x.serial',
    (p) => box(p, '7A01K5R'),
    (p) => box(p, makeSerial('GH', '7A01K5R')),
  ],
  [
    'D04',
    'one MAC address for two boxes',
    'brief.equipment.y.mac',
    (p) => boxes(p, { mac: '00-00-5E-00-53-01' }, { mac: '00-00-5E-00-53-01' }),
    (p) => boxes(p, { mac: '00-00-5E-00-53-01' }, { mac: '00-00-5E-00-53-02' }),
  ],
  [
    'D04',
    'two boxes for one device',
    'brief.equipment.y.deviceId',
    (p) => boxes(p, { deviceId: 'sw' }, { deviceId: 'sw' }),
    (p) => boxes(p, { deviceId: 'sw' }, { deviceId: 'gate' }),
  ],
  [
    'D04',
    'a box of another model than its device',
    'brief.equipment.x.model',
    (p) => (boxes(p, { deviceId: 'sw', model: 'S24P' }, {}), void (the(p.devices, 'sw').model = 'S8P')),
    (p) => (boxes(p, { deviceId: 'sw', model: 'S8P' }, {}), void (the(p.devices, 'sw').model = 'S8P')),
  ],
  [
    'W07',
    'an uplink on a port that is off',
    'uplinks.line.facts.portEnabled',
    (p) => void (portOf(p, 'gate', 'p1').mode = { mode: 'off' }),
    (p) => void (portOf(p, 'gate', 'p1').mode = { mode: 'wan' }),
  ],
]
