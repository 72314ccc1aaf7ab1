import { portOf, the, type LoosePlan } from '../plans'
import type { PoeLoad } from '#core/schema'
import { cat6, fibre } from '#server/demo/build'
import { ap, tenGig, bundle, fedBy, injector, lit, heavy, modest, spare, strip } from './changes'
import type { Case } from './case'

/** A load of its own kind, W and V. */
const PASSIVE: PoeLoad & { standard: 'passive' } = { standard: 'passive', leastV: 18, mostV: 26, typicalW: 8 }

/** The second port for an uplink of a gateway, of which no uplink says that it is there. */
function spareless(plan: LoosePlan): LoosePlan['devices'][number]['ports'][number] {
  spare(plan)
  plan.uplinks.pop()
  the(plan.devices, 'gate').model = 'G4'
  portOf(plan, 'gate', 'p2').name = '4'
  return portOf(plan, 'gate', 'p3')
}

export const CABLING_CASES: readonly Case[] = [
  [
    'E07',
    'copper too long',
    'links.sw.2-desk.1.medium',
    (p) => void (the(p.links, 'sw.2-desk.1').medium = cat6(101)),
    (p) => void (the(p.links, 'sw.2-desk.1').medium = cat6(100)),
  ],
  [
    'E06',
    'a cable slower than both ends',
    'links.sw.4-t.1.medium',
    (p) => tenGig(p, 56),
    (p) => tenGig(p, 55),
  ],
  [
    'E06',
    'no common speed',
    'links.sw.4-t.1.medium',
    (p) => (tenGig(p, 10), void (portOf(p, 't', 'p1').speedMbps = 2500)),
    (p) => (tenGig(p, 10), void (portOf(p, 't', 'p1').speedMbps = 1000)),
  ],
  [
    'E06',
    'a slow port in front of a fast uplink',
    'devices.gate.ports.p1',
    (p) => void ((portOf(p, 'gate', 'p1').speedMbps = 100), (the(p.uplinks, 'line').downMbps = 200)),
    (p) => void ((portOf(p, 'gate', 'p1').speedMbps = 1000), (the(p.uplinks, 'line').downMbps = 200)),
  ],
  [
    'E08',
    'a device that gets no power',
    'devices.ap',
    (p) => (ap(p), void (portOf(p, 'sw', 'p4').poe = 'off')),
    (p) => ap(p),
  ],
  [
    'E09',
    'an injector with crossed cables',
    'devices.inj',
    (p) => injector(p, 'poe', 'lan'),
    (p) => injector(p, 'lan', 'poe'),
  ],
  [
    'E09',
    'an uplink on a LAN port',
    'devices.gate.ports.p1',
    (plan) =>
      void (
        (the(plan.devices, 'gate').model = 'G4'),
        (portOf(plan, 'gate', 'p1').name = '3'),
        (portOf(plan, 'gate', 'p2').name = '4')
      ),
    (p) => void ((the(p.devices, 'gate').model = 'G4'), (portOf(p, 'gate', 'p2').name = '4')),
  ],
  [
    'E09',
    'a LAN port that is set up for an uplink',
    'devices.gate.ports.p3',
    (plan) => void spareless(plan),
    (plan) => void (spareless(plan).mode = { mode: 'off' }),
  ],
  [
    'E10',
    'a fibre without a transceiver',
    'devices.sw.ports.p9',
    (p) => lit(p, null, '1000BASE-LX10'),
    (p) => lit(p, '1000BASE-LX10', '1000BASE-LX10'),
  ],
  [
    'E10',
    'light that does not fit the fibre',
    'devices.sw.ports.p9',
    (p) => lit(p, '1000BASE-SX', '1000BASE-SX'),
    (p) => lit(p, '1000BASE-LX10', '1000BASE-LX10'),
  ],
  [
    'E10',
    'copper in a port for transceivers',
    'devices.sw.ports.p9',
    (plan) => (
      lit(plan, '1000BASE-LX10', '1000BASE-LX10'),
      void ((plan.links.at(-1) as { medium: unknown }).medium = cat6(10))
    ),
    (p) => lit(p, '1000BASE-LX10', '1000BASE-LX10'),
  ],
  [
    'E12',
    'a bundle that does not hold together',
    'links.sw.4-t.1.lag',
    (p) => bundle(p, 20),
    (p) => bundle(p, 10),
  ],
  [
    'E14',
    'a host that nothing leads to',
    'devices.desk',
    (p) => void (p.links = p.links.filter((l) => l.b.deviceId !== 'desk')),
    () => undefined,
  ],
  [
    'E14',
    'a group with a socket that nothing leads to',
    'devices.desk',
    (plan) => {
      const { ports } = the(plan.devices, 'desk')
      ports.push({ ...structuredClone(portOf(plan, 'desk', 'p1')), id: 'p2', name: '2' })
    },
    () => undefined,
  ],
  ['E08', 'a budget without headroom', 'devices.sw', (p) => heavy(p, 60), (p) => heavy(p, 55)],
  ['E08', 'more than the budget', 'devices.sw', (p) => heavy(p, 66), (p) => heavy(p, 55)],
  ['E08', 'more than the budget by class alone', 'devices.sw', (p) => modest(p, 3), (p) => modest(p, 2)],
  [
    'E08',
    'a load of a higher class than its source',
    'devices.inj.ports.ppoe',
    (p) => fedBy(p, { standard: 'ieee', class: 5, typicalW: 20 }, null),
    (p) => fedBy(p, { standard: 'ieee', class: 4, typicalW: 20 }, null),
  ],
  [
    'E08',
    'power over a cable without copper',
    'devices.sw.ports.p4',
    (p) => (ap(p), void ((p.links.at(-1) as { medium: unknown }).medium = fibre('OS2', 20))),
    (p) => ap(p),
  ],
  [
    'E08',
    'volts of its own kind on a load of the standard',
    'devices.inj.ports.ppoe',
    (p) => fedBy(p, { standard: 'ieee', class: 3, typicalW: 9 }, 24),
    (p) => fedBy(p, PASSIVE, 24),
  ],
  [
    'E08',
    'the standard’s power on a load of its own kind',
    'devices.inj.ports.ppoe',
    (p) => fedBy(p, PASSIVE, null),
    (p) => fedBy(p, PASSIVE, 24),
  ],
  [
    'E08',
    'more volts than a load takes',
    'devices.inj.ports.ppoe',
    (p) => fedBy(p, PASSIVE, 27),
    (p) => fedBy(p, PASSIVE, 26),
  ],
  // 16 W at 18 V ask for 24 V with at most (24 V - 18 V) 18 V / 16 W = 6.75 ohm of loop: of Cat6, 6.66 ohm each
  // 100 m (copper of IEC 60028), that is 101 m.
  [
    'E08',
    'too few volts at the end of a long cable',
    'devices.inj.ports.ppoe',
    (p) => fedBy(p, { ...PASSIVE, typicalW: 16 }, 24, 102),
    (p) => fedBy(p, { ...PASSIVE, typicalW: 16 }, 24, 101),
  ],
  [
    'E10',
    'fibre in a socket for copper',
    'devices.sw.ports.p4',
    (p) => (strip(p), void ((p.links.at(-1) as { medium: unknown }).medium = fibre('OS2', 20))),
    (p) => strip(p),
  ],
  [
    'E10',
    'two transceivers that do not speak to each other',
    'links.sw.9-s2.9.medium',
    (p) => lit(p, '1000BASE-LX10', '10GBASE-LR'),
    (p) => lit(p, '10GBASE-LR', '10GBASE-LR'),
  ],
]
