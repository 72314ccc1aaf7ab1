import type { FailureScenario } from '#core/queries'
import { access, cat6, device, hosts, link, plain, ports, ssid, trunk, wifi } from '#server/demo/build'
import { portOf } from '../plans'
import type { Change } from './parts'

const RADIO = { mode: 'radio' } as const
const TAGGED = trunk(20, 10)
/** What joins the access point: an extender that passes what it gets, or an access point that sorts frames. */
const JOINERS = {
  extender: ports({ up: plain, down: plain }),
  'access-point': ports({ up: RADIO, down: TAGGED }),
} as const

/** Behind what has joined the servers' SSID a switch whose trunk carries the staff's network with a tag. */
export const switchOnAir =
  (fourAddress: boolean, joiner: keyof typeof JOINERS = 'extender'): Change =>
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
      device('ext', 'Joiner', joiner, '', 'Hall', null, structuredClone(JOINERS[joiner])),
      device(
        's3',
        'Hall switch',
        'switch',
        '',
        'Hall',
        null,
        ports({ 1: TAGGED, 2: access(10), 3: access(20) }),
      ),
      hosts('far', 'Hall desk', 'Hall', 'staff', 1),
      hosts('near', 'Hall box', 'Hall', 'servers', 1),
    )
    plan.ssids.push(ssid({ id: 'air', name: 'air', networkId: 'servers', isolation: false, apIds: ['ap'] }))
    plan.links.push(
      link('sw:4', 'ap:1', cat6(4)),
      link('ap:radio', 'ext:up', wifi('air', fourAddress)),
      link('ext:down', 's3:1', cat6(3)),
      link('s3:2', 'far:1', cat6(3)),
      link('s3:3', 'near:1', cat6(3)),
    )
  }

/**
 * An isolated SSID with stations at an access point of a model, at one that has joined it or at an extender of it, and
 * two hosts on cables behind that.
 */
export const isolatedBehind =
  (model: string, joiner: keyof typeof JOINERS, fourAddress = false): Change =>
  (plan) => {
    portOf(plan, 'sw', 'p4').mode = trunk(99, 10)
    const own = joiner === 'extender' ? plain : access(10)
    const sockets = ports({ 1: own, 2: own })
    plan.devices.push(
      device(
        'ap',
        'AP',
        'access-point',
        model,
        'Room',
        'management',
        ports({ 1: trunk(99, 10), radio: RADIO }),
      ),
      device('ext', 'Joiner', joiner, '', 'Hall', null, [...structuredClone(JOINERS[joiner]), ...sockets]),
      hosts('at-ap', 'At the AP', 'Room', 'staff', 1),
      hosts('at-joiner', 'At the joiner', 'Hall', 'staff', 1),
      hosts('wired', 'Wired', 'Hall', 'staff', 2),
    )
    const apIds = joiner === 'extender' ? ['ap'] : ['ap', 'ext']
    plan.ssids.push(ssid({ id: 'air', name: 'air', networkId: 'staff', isolation: true, apIds }))
    plan.links.push(
      link('sw:4', 'ap:1', cat6(4)),
      link('ap:radio', 'ext:up', wifi('air', fourAddress)),
      link('ap:radio', 'at-ap:1', wifi('air')),
      link(joiner === 'extender' ? 'ext:down' : 'ext:up', 'at-joiner:1', wifi('air')),
      link('ext:1', 'wired:1', cat6(3)),
      link('ext:2', 'wired:2', cat6(3)),
    )
  }

/** What passes over the air between access points, extenders and what is behind them. */
export const ON_AIR: readonly (readonly [string, Change, FailureScenario])[] = [
  ['a switch behind an extender that has joined with four-address frames', switchOnAir(true), []],
  [
    'the same with three addresses: tags do not pass, and a desk behind it gets no address',
    switchOnAir(false),
    [],
  ],
  [
    'an access point that has joined another, with four-address frames',
    switchOnAir(true, 'access-point'),
    [],
  ],
  [
    'the same with three addresses: it carries the network that it has joined, and no other',
    switchOnAir(false, 'access-point'),
    [],
  ],
  ['an isolated SSID behind an extender, hosts on cables behind it', isolatedBehind('A2X', 'extender'), []],
  ['the same where isolation spans all access points', isolatedBehind('A2', 'extender'), []],
  ['an isolated SSID at an access point behind another', isolatedBehind('A2X', 'access-point'), []],
  ['the same by four-address frames', isolatedBehind('A2X', 'access-point', true), []],
]
