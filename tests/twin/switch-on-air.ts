import { access, cat6, device, hosts, link, plain, ports, ssid, trunk, wifi } from '#server/demo/build'
import { portOf } from '../plans'
import type { Change } from './parts'

const RADIO = { mode: 'radio' } as const
/** Behind an extender of the servers' SSID a switch whose trunk carries the staff's network with a tag. */
export const switchOnAir =
  (fourAddress: boolean): Change =>
  (plan) => {
    portOf(plan, 'sw', 'p4').mode = trunk(99, 10, 20)
    plan.devices.push(
      device(
        'ap',
        'AP',
        'access-point',
        '',
        'Room',
        'management',
        ports({ 1: trunk(99, 10, 20), radio: RADIO }),
      ),
      device('ext', 'Extender', 'extender', '', 'Hall', null, ports({ up: plain, down: plain })),
      device('s3', 'Hall switch', 'switch', '', 'Hall', null, ports({ 1: trunk(20, 10), 2: access(10) })),
      hosts('far', 'Hall desk', 'Hall', 'staff', 1),
    )
    plan.ssids.push(ssid({ id: 'air', name: 'air', networkId: 'servers', isolation: false, apIds: ['ap'] }))
    plan.links.push(
      link('sw:4', 'ap:1', cat6(4)),
      link('ap:radio', 'ext:up', wifi('air', fourAddress)),
      link('ext:down', 's3:1', cat6(3)),
      link('s3:2', 'far:1', cat6(3)),
    )
  }
