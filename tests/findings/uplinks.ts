import { the, type LoosePlan } from '../plans'
import { capped, handed, heard, inspected, probeOf, routed, shared, tunnelled, two } from './changes'
import { access } from '#server/demo/build'
import { uplinkByVlan } from '../twin/cases-hard'
import type { Case } from './case'

/** Beside the forward of 8443, one more of four ports of the same line. */
const twoForwards = (plan: LoosePlan, from: number, proto: 'tcp' | 'udp') => {
  handed(plan, 'line')
  const first = plan.forwards[0]!
  first.to = 8443
  plan.forwards.push({ ...first, id: 'late', proto, from, to: from + 3, toAddress: '10.9.20.10' })
}
/** A forward of one UDP port. */
const handedAt = (plan: LoosePlan, from: number) => {
  handed(plan, 'line')
  Object.assign(plan.forwards[0]!, { proto: 'udp', from, to: from })
}

const onSubnet = (plan: LoosePlan, address: string) => {
  the(plan.uplinks, 'line').facts.address = address
}
/** A tunnel and a spare line; its peers are dialled or dial in. */
const dialled = (
  plan: LoosePlan,
  outside: 'own' | 'shared',
  endpoint: string | null,
  publicName: string | null,
) => {
  two(plan)
  the(plan.uplinks, 'spare').outside = outside
  tunnelled(plan, { endpoint }, { endpoint })
  the(plan.tunnels, 'wg').publicName = publicName
}

export const UPLINKS_CASES: readonly Case[] = [
  [
    'W02',
    'a probe target that is not outside',
    'uplinks.line.probe',
    (p) => (two(p), void (probeOf(p).targets = ['192.168.8.1', '198.51.100.1'])),
    (p) => two(p),
  ],
  [
    'W02',
    'an uplink with a spare and no probe',
    'uplinks.line.probe',
    (p) => (two(p), void (the(p.uplinks, 'line').probe = null)),
    (p) => void (the(p.uplinks, 'line').probe = null),
  ],
  [
    'W02',
    'one target alone',
    'uplinks.line.probe',
    (p) => (two(p), void (probeOf(p).targets = ['198.51.100.1'])),
    (p) => two(p),
  ],
  [
    'W03',
    'a change-over later than wished',
    'uplinks.line.probe',
    (p) => (two(p), void (p.site.mostOutageS = 15)),
    (p) => (two(p), void (p.site.mostOutageS = 16)),
  ],
  [
    'W03',
    'more false alarms than wished',
    'uplinks.line.probe',
    (p) => (two(p), void Object.assign(probeOf(p), { misses: 1 }), void (p.site.mostFalseAlarms = 1)),
    (p) => (two(p), void (p.site.mostFalseAlarms = 1)),
  ],
  [
    'W04',
    'uplinks that share a duct',
    'uplinks.line.sharedRisks',
    (p) => (two(p), p.uplinks.forEach((u) => (u.sharedRisks = ['the duct']))),
    (p) => (two(p), void (the(p.uplinks, 'line').sharedRisks = ['the duct'])),
  ],
  [
    'W05',
    'a port forward that dies with its uplink',
    'uplinks.line.id',
    (p) => (two(p), handed(p, 'line')),
    (p) => (two(p), handed(p, 'line'), handed(p, 'spare')),
  ],
  [
    'W06',
    'an uplink faster than its gateway inspects',
    'uplinks.line.downMbps',
    (p) => (two(p), inspected(p), void (the(p.uplinks, 'line').downMbps = 901)),
    (p) => (two(p), inspected(p), void (the(p.uplinks, 'line').downMbps = 900)),
  ],
  [
    'W08',
    'a spare whose data is soon gone',
    'uplinks.spare.facts.capGb',
    (p) => (two(p), capped(p, 100)),
    (p) => (two(p), capped(p, 200)),
  ],
  [
    'W15',
    'a cellular uplink that hears little',
    'uplinks.line.facts.cellular.rsrpDbm',
    (p) => heard(p, -101, 5),
    (p) => heard(p, -100, 0),
  ],
  [
    'W15',
    'a cellular uplink in noise',
    'uplinks.line.facts.cellular.rsrpDbm',
    (p) => heard(p, -70, -1),
    (p) => heard(p, -70, 0),
  ],
  [
    'W09',
    'an uplink that returns at once',
    'uplinks.line.holdDownS',
    (p) => (two(p), void (the(p.uplinks, 'line').holdDownS = 0)),
    (p) => two(p),
  ],
  [
    'W14',
    'shares that do not follow the speeds',
    'uplinks.spare.weight',
    (p) => shared(p, 10, 1),
    (p) => shared(p, 100, 1),
  ],
  [
    'W16',
    'a forward to an address of the pool',
    'forwards.line.toAddress',
    (p) => (handed(p, 'line'), void (p.forwards[0]!.toAddress = '10.9.10.150')),
    (p) => handed(p, 'line'),
  ],
  [
    'W13',
    'a forward that people inside will call in vain',
    'forwards.line.hairpin',
    (p) => handed(p, 'line'),
    (p) => (handed(p, 'line'), void (p.forwards[0]!.hairpin = true)),
  ],
  [
    'W18',
    'two forwards of one port, the second in part',
    'forwards.late.from',
    (p) => twoForwards(p, 8443, 'tcp'),
    (p) => twoForwards(p, 8444, 'tcp'),
  ],
  [
    'W18',
    'two forwards of one port and one protocol',
    'forwards.late.from',
    (p) => twoForwards(p, 8440, 'tcp'),
    (p) => twoForwards(p, 8443, 'udp'),
  ],
  [
    'W19',
    'a forward of the port at which a tunnel is dialled',
    'forwards.line.from',
    (p) => (tunnelled(p, {}, { endpoint: null }), handedAt(p, 51820)),
    (p) => (tunnelled(p, {}, { endpoint: null }), handedAt(p, 51821)),
  ],
  [
    'W20',
    'a next hop on no subnet of the gateway',
    'routes.to-0.via',
    (p) => routed(p, '10.40.0.0/16', '10.9.30.1', 0),
    (p) => routed(p, '10.40.0.0/16', '10.9.20.10', 0),
  ],
  [
    'W20',
    'a next hop that is the gateway itself',
    'routes.to-0.via',
    (p) => routed(p, '10.40.0.0/16', '10.9.20.1', 0),
    (p) => routed(p, '10.40.0.0/16', '10.9.20.2', 0),
  ],
  [
    'W20',
    'two routes to one prefix with one metric',
    'routes.to-1.prefix',
    (p) => (routed(p, '10.40.0.0/16', '10.9.20.10', 3), routed(p, '10.40.0.0/16', '10.9.20.11', 3)),
    (p) => (routed(p, '10.40.0.0/16', '10.9.20.10', 3), routed(p, '10.40.0.0/16', '10.9.20.11', 4)),
  ],
  [
    'W20',
    'a default route beside uplinks that share',
    'routes.to-0.prefix',
    (p) => (two(p), p.uplinks.forEach((u) => (u.priority = 1)), routed(p, '0.0.0.0/0', '10.9.20.10', 0)),
    (p) => (two(p), routed(p, '0.0.0.0/0', '10.9.20.10', 0)),
  ],
  [
    'W20',
    'a route to a subnet that the gateway stands on',
    'routes.to-0.prefix',
    (p) => routed(p, '10.9.10.0/24', '10.9.20.10', 0),
    (p) => routed(p, '10.9.0.0/23', '10.9.20.10', 0),
  ],
  [
    'W20',
    'a route that leads a part of a subnet of the gateway elsewhere',
    'routes.to-0.prefix',
    (p) => routed(p, '10.9.10.0/25', '10.9.20.10', 0),
    (p) => routed(p, '10.9.10.0/23', '10.9.20.10', 0),
  ],
  [
    'W21',
    'an uplink without a cable',
    'uplinks.line.portId',
    (p) => void (p.links = p.links.filter((l) => l.id !== 'ont.lan-gate.1')),
    () => undefined,
  ],
  [
    'W21',
    'an uplink that its own switch does not carry',
    'uplinks.line.portId',
    uplinkByVlan(access(700), access(701)),
    uplinkByVlan(access(700), access(700)),
  ],
  [
    'W02',
    'a probe of an address on the uplink’s own subnet',
    'uplinks.line.probe',
    (p) => (two(p), onSubnet(p, '198.51.100.2/28')),
    (p) => (two(p), onSubnet(p, '198.51.100.18/28')),
  ],
  [
    'W05',
    'people who dial in over an uplink whose spare is shared',
    'uplinks.line.id',
    (p) => dialled(p, 'shared', null, null),
    (p) => dialled(p, 'shared', 'far.example:51820', null),
  ],
  [
    'W05',
    'people who dial an address that does not follow',
    'uplinks.line.id',
    (p) => dialled(p, 'own', null, null),
    (p) => dialled(p, 'own', null, 'site.example'),
  ],
  ['W10', 'nobody told', 'site.toldTo', (p) => two(p), (p) => (two(p), void (p.site.toldTo = 'the Keeper'))],
]
