import { portOf, the } from '../plans'
import { relayed } from '../twin/cases-hard'
import { access, inNetwork, internet, intent, network, rule, theDevice } from '#server/demo/build'
import { rules, hours, timedPair, outOnly, guests, both, byAddress, refused, type Change } from './changes'
import type { Case } from './case'

/** The relay's server on a VLAN where nobody asks it. */
const cutOff: Change = (p) => (relayed()(p), void (portOf(p, 'sw', 'p3').mode = access(10)))

export const POLICY_CASES: readonly Case[] = [
  [
    'P01',
    'something passes that nobody means',
    'cells.servers.internet',
    (p) => void rules(p).push(rule('x', inNetwork('servers'), internet, ['web'], '')),
    (plan) => {
      rules(plan).push(rule('x', inNetwork('servers'), internet, ['web'], ''))
      plan.intents.push(intent('x', inNetwork('servers'), internet, ['web'], 'updates'))
    },
  ],
  [
    'P02',
    'a rule that can never match',
    'policies.gate.rules.x',
    (p) => void rules(p).push(rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], '')),
    (p) => void rules(p).unshift(rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], '')),
  ],
  [
    'P03',
    'a service of a rule that another refuses first',
    'policies.gate.rules.r1.services',
    (plan) =>
      void rules(plan).unshift({
        ...rule('x', inNetwork('staff'), inNetwork('servers'), ['ping'], ''),
        action: 'drop',
      }),
    (plan) =>
      void rules(plan).unshift({
        ...rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.128/25' }, ['ping'], ''),
        action: 'drop',
      }),
  ],
  [
    'P03',
    'a service that another refuses first by IPv4 and by IPv6, and not by IPv4 alone',
    'policies.gate.rules.r1.services',
    (plan) => {
      both(plan)
      rules(plan).unshift({
        ...rule('x', inNetwork('staff'), inNetwork('servers'), ['ping'], ''),
        action: 'drop',
      })
    },
    (plan) => {
      both(plan)
      rules(plan).unshift({
        ...rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/24' }, ['ping'], ''),
        action: 'drop',
      })
    },
  ],
  [
    'P02',
    'a rule that can never match by IPv4 nor by IPv6, and not by IPv4 alone',
    'policies.gate.rules.x',
    (plan) => {
      both(plan)
      rules(plan).push(rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], ''))
    },
    (plan) => {
      both(plan)
      rules(plan).unshift(
        rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/24' }, ['https', 'ping'], ''),
      )
    },
  ],
  [
    'P09',
    'a refusal of what the default refuses anyway',
    'policies.gate.rules.x',
    (plan) =>
      void rules(plan).push({
        ...rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''),
        action: 'drop',
      }),
    (plan) =>
      void rules(plan).push({
        ...rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''),
        action: 'reject',
      }),
  ],
  [
    'P09',
    'a rule whose work a later one does as well',
    'policies.gate.rules.x',
    (plan) =>
      void rules(plan).unshift(
        rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/28' }, ['https'], ''),
      ),
    (plan) =>
      void rules(plan).unshift({
        ...rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/28' }, ['https'], ''),
        log: true,
      }),
  ],
  [
    'P10',
    'a rule for a prefix that is nobody’s',
    'policies.gate.rules.x',
    (plan) =>
      void rules(plan).push(
        rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.77.0.0/16' }, ['ssh'], ''),
      ),
    (plan) => (
      rules(plan).push(
        rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.77.0.0/16' }, ['ssh'], ''),
      ),
      void plan.routes.push({
        id: 'r',
        deviceId: 'gate',
        prefix: '10.77.0.0/16',
        via: '10.9.20.10',
        metric: 0,
      })
    ),
  ],
  [
    'P10',
    'a rule for a device whose address is leased',
    'policies.gate.rules.x',
    (p) => void rules(p).push(rule('x', theDevice('desk'), inNetwork('servers'), ['ssh'], '')),
    (p) => void rules(p).push(rule('x', theDevice('box'), internet, ['ssh'], '')),
  ],
  [
    'P05',
    'guests who reach the switches',
    'cells.staff.management',
    (plan) => (
      guests(plan),
      void rules(plan).push(rule('x', inNetwork('staff'), inNetwork('management'), ['https'], '')),
      void plan.intents.push(intent('x', inNetwork('staff'), inNetwork('management'), ['https'], ''))
    ),
    guests,
  ],
  [
    'P05',
    'guests who reach the switches and are not meant to',
    'cells.staff.management',
    (plan) => (
      guests(plan),
      void rules(plan).push(rule('x', inNetwork('staff'), inNetwork('management'), ['https'], ''))
    ),
    guests,
  ],
  [
    'P06',
    'an intent for a network without anybody',
    'intents.x',
    (plan) => (
      plan.networks.push(network('empty', 40, 'Empty', '10.9.40.0/24', '10.9.40.1', null, 1, [], 'gate')),
      void plan.intents.push(intent('x', inNetwork('empty'), internet, ['web'], 'They go out'))
    ),
    (plan) =>
      void plan.networks.push(
        network('empty', 40, 'Empty', '10.9.40.0/24', '10.9.40.1', null, 1, [], 'gate'),
      ),
  ],
  [
    'P08',
    'a refusal by IPv4 address that IPv6 passes by',
    'cells.staff.servers.six',
    (p) => (both(p), byAddress(p)),
    byAddress,
  ],
  [
    'P11',
    'a name server whose port the rules drop',
    'networks.staff.options.dns',
    (p) => void rules(p).pop(),
    (p) => void (the(rules(p), 'r3').services = ['dns']),
  ],
  [
    'P11',
    'a name server in another network, which no rule lets ask',
    'networks.staff.options.dns',
    (p) => void (the(p.networks, 'staff').options.dns = ['10.9.20.10']),
    (plan) => {
      the(plan.networks, 'staff').options.dns = ['10.9.20.10']
      the(rules(plan), 'r1').services.push('dns')
    },
  ],
  [
    'P11',
    'a name server that nobody is',
    'networks.staff.options.dns',
    (p) => void (the(p.networks, 'staff').options.dns = ['10.9.20.77']),
    (p) => void (the(p.networks, 'staff').options.dns = ['192.0.2.53']),
  ],
  ['P11', 'a relay whose server is on the wrong VLAN', 'networks.staff.relayTo', cutOff, relayed()],
  [
    'P11',
    'a relay whose server is cut off, and is a host of the plan',
    'networks.staff.relayTo',
    cutOff,
    // What is behind an address that the plan does not know cannot be judged.
    (p) => (cutOff(p), void (the(p.networks, 'staff').relayTo = '10.9.20.222')),
  ],
  [
    'P11',
    'a relay whose server is cut off, and not an address left from when it was one',
    'networks.staff.relayTo',
    cutOff,
    (p) => (cutOff(p), void (the(p.networks, 'staff').dhcp = 'none')),
  ],
  [
    'F04',
    'guests who hear each other',
    'ssids.s.isolation',
    (p) => (guests(p), outOnly(p), void (p.ssids[0]!.isolation = false)),
    (p) => (guests(p), outOnly(p)),
  ],
  [
    'F04',
    'guests by what they may, and not those who may more',
    'ssids.s.isolation',
    (p) => (guests(p), outOnly(p), void (p.ssids[0]!.isolation = false)),
    (p) => (guests(p), void (p.ssids[0]!.isolation = false)),
  ],
  [
    'F04',
    'guests kept apart in the air and let into the servers',
    'cells.staff.servers',
    (plan) => (
      guests(plan),
      outOnly(plan),
      void rules(plan).push(rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], ''))
    ),
    (p) => (guests(p), outOnly(p)),
  ],
  [
    'P01',
    'something passes at a time when nobody means it',
    'cells.servers.internet',
    (plan) => (
      hours(plan),
      void rules(plan).push({
        ...rule('x', inNetwork('servers'), internet, ['web'], ''),
        when: 'office',
      })
    ),
    (plan) => {
      hours(plan)
      rules(plan).push({ ...rule('x', inNetwork('servers'), internet, ['web'], ''), when: 'office' })
      plan.intents.push({
        ...intent('x', inNetwork('servers'), internet, ['web'], 'updates'),
        when: 'office',
      })
    },
  ],
  [
    'P01',
    'an intent for always that a rule meets in office hours alone',
    'intents.x',
    (plan) => (
      hours(plan),
      void rules(plan).push({
        ...rule('x', inNetwork('servers'), internet, ['web'], ''),
        when: 'office',
      }),
      void plan.intents.push(intent('x', inNetwork('servers'), internet, ['web'], 'updates'))
    ),
    (plan) => (
      hours(plan),
      void rules(plan).push(rule('x', inNetwork('servers'), internet, ['web'], '')),
      void plan.intents.push(intent('x', inNetwork('servers'), internet, ['web'], 'updates'))
    ),
  ],
  [
    'P02',
    'a rule of the same hours as the one that takes all of it',
    'policies.gate.rules.y',
    (p) => (hours(p), timedPair(p, 'office')),
    (p) => (hours(p), timedPair(p, null)),
  ],
  [
    'P07',
    'a rule of a schedule that is gone',
    'policies.gate.rules.x',
    (plan) =>
      void rules(plan).push({
        ...rule('x', inNetwork('staff'), inNetwork('servers'), ['ssh'], ''),
        action: 'drop',
        when: 'holidays',
      }),
    (plan) => (
      hours(plan),
      void rules(plan).push({
        ...rule('x', inNetwork('staff'), inNetwork('servers'), ['ssh'], ''),
        action: 'drop',
        when: 'office',
      })
    ),
  ],
  [
    'P07',
    'a group whose member is gone',
    'groups.g.members',
    (plan) =>
      void plan.groups.push({
        id: 'g',
        name: 'G',
        members: [inNetwork('staff'), inNetwork('attic')],
      }),
    (p) => void p.groups.push({ id: 'g', name: 'G', members: [inNetwork('staff')] }),
  ],
  [
    'P07',
    'a default of a pair whose end is gone',
    'policies.gate.pairs.d',
    (plan) =>
      void plan.policies[0]!.pairs.push({
        id: 'd',
        from: inNetwork('attic'),
        to: internet,
        action: 'drop',
      }),
    (plan) =>
      void plan.policies[0]!.pairs.push({
        id: 'd',
        from: inNetwork('servers'),
        to: internet,
        action: 'drop',
      }),
  ],
  [
    'P07',
    'a rule that names a group there is none of',
    'policies.gate.rules.x',
    (p) => void rules(p).push(rule('x', { kind: 'group', id: 'g' }, internet, ['web'], '')),
    (plan) => (
      plan.groups.push({ id: 'g', name: 'G', members: [inNetwork('servers')] }),
      void rules(plan).push(rule('x', { kind: 'group', id: 'g' }, internet, ['web'], ''))
    ),
  ],
  [
    'P07',
    'a rule that names what is not there',
    'policies.gate.rules.x',
    (p) => void rules(p).push(rule('x', inNetwork('attic'), internet, ['web'], '')),
    (p) => void rules(p).push(rule('x', inNetwork('servers'), internet, ['web'], '')),
  ],
  ['P04', 'a refusal one way', 'policies.gate.rules.no', (p) => (refused(p), void p.intents.pop()), refused],
]
