import { device, ports, plain, ssid, trunk, cat6, link, wifi as onAir } from '#server/demo/build'
import { BLANK_PLACE } from '#core/edit'
import { portOf, the, type LoosePlan } from '../plans'
import type { Case } from './case'

const BRICK = { top: 'brick', right: 'brick', bottom: 'brick', left: 'brick' } as const

/** A room of 30 m, or one that is another's neighbour, with so many people at work. */
const room = (plan: LoosePlan, id: string, xM: number, widthM: number, people: number | null): void => {
  if (plan.brief.buildings.length === 0)
    plan.brief.buildings.push({ id: 'house', name: 'House', ...BLANK_PLACE })
  plan.brief.rooms.push({
    id,
    name: `Room ${id}`,
    buildingId: 'house',
    people,
    outline: { floor: 0, xM, yM: 0, widthM, depthM: 6, walls: BRICK },
    readDbm: null,
  })
}
const read = (plan: LoosePlan, id: string, dBm: number | null): void =>
  void (the(plan.brief.rooms, id).readDbm = dBm)
const undraw = (plan: LoosePlan, id: string): void => void (the(plan.brief.rooms, id).outline = null)

type Radio = LoosePlan['wifi']['radios'][number]
/** Access points at the switch, in a drawn room, each with a radio of 5 GHz. */
export function radios(plan: LoosePlan, ...own: readonly Partial<Radio>[]): void {
  plan.site.country = 'GB'
  if (plan.brief.rooms.length === 0) room(plan, 'hall', 0, 30, null)
  own.forEach((radio, i) => {
    const id = `ap${i + 1}`
    const at = `sw:${i + 4}`
    plan.devices.push(
      device(
        id,
        `AP ${'abc'[i]}`,
        'access-point',
        '',
        'Room hall',
        'management',
        ports({ 1: trunk(99, 10) }),
      ),
    )
    if (i === 0) portOf(plan, 'sw', 'p4').mode = trunk(99, 10)
    else
      the(plan.devices, 'sw').ports.push({
        ...portOf(plan, 'sw', 'p4'),
        id: `p${i + 4}`,
        name: String(i + 4),
      })
    plan.links.push(link(at, `${id}:1`, cat6(4)))
    plan.networks
      .find(({ id: one }) => one === 'management')
      ?.fixed.push({
        id: `of-${id}`,
        ip: `10.9.99.${60 + i}`,
        name: id,
        deviceId: id,
        mask: null,
        gateway: null,
        mac: null,
        ip6: null,
        how: 'static',
      })
    plan.wifi.radios.push({
      id: `r${i + 1}`,
      deviceId: id,
      band: '5',
      generation: 'ax',
      streams: 2,
      channel: 36,
      widthMhz: 20,
      powerDbm: 14,
      gainDbi: 4,
      ...radio,
    })
  })
}
type Settings = Parameters<typeof ssid>[1]
/** An SSID at those access points. */
const sent = (plan: LoosePlan, settings: Settings, ...apIds: readonly string[]): void =>
  void plan.ssids.push(
    ssid({ id: 's', name: 'Air', networkId: 'staff', isolation: false, apIds: [...apIds] }, settings),
  )

/** The first access point at a place of the house, indoors and 3 m high where nothing else is said. */
const hung = (plan: LoosePlan, rest: Partial<LoosePlan['wifi']['placements'][number]>): void =>
  void plan.wifi.placements.push({
    deviceId: 'ap1',
    buildingId: 'house',
    floor: 0,
    xM: 1,
    yM: 1,
    heightM: 3,
    outdoors: false,
    beam: null,
    ...rest,
  })
const outdoors = (plan: LoosePlan, isOutdoors: boolean): void => hung(plan, { outdoors: isOutdoors })
/** An access point in the middle of a hall of 300 m, and an extender of it so far from it at the same height. */
function extended(plan: LoosePlan, awayM: number): void {
  room(plan, 'hall', 0, 300, null)
  radios(plan, {})
  sent(plan, { security: 'wpa2' }, 'ap1')
  the(plan.devices, 'ap1').ports.push(...ports({ air: { mode: 'radio' } }))
  const both = ports({ up: plain, down: plain })
  plan.devices.push(device('ext', 'Extender', 'extender', '', 'Far', null, both))
  plan.links.push(link('ap1:air', 'ext:up', onAir('s')))
  plan.wifi.placements.push({
    deviceId: 'ext',
    buildingId: 'house',
    floor: 0,
    xM: 150 + awayM,
    yM: 3,
    heightM: 2.5,
    outdoors: false,
    beam: null,
  })
}
/** So many are expected on the air of the access points' SSID, beside those who are cabled. */
function crowded(plan: LoosePlan, stations: number): void {
  radios(plan, {})
  sent(plan, { security: 'wpa2', leastMbps: 6 }, 'ap1')
  const cabled = plan.devices.filter(
    ({ kind, homeNetworkId }) => kind !== 'gateway' && homeNetworkId === 'staff',
  )
  the(plan.networks, 'staff').expected = stations + cabled.reduce((sum, { count }) => sum + count, 0)
}
/** A second name of the network of the first, at the same access point. */
function twice(plan: LoosePlan, settings: Settings): void {
  radios(plan, {})
  sent(plan, { security: 'wpa2', leastMbps: 6, ...settings }, 'ap1')
  sent(plan, { security: 'wpa2', leastMbps: 6 }, 'ap1')
  Object.assign(plan.ssids.at(-1) ?? {}, { id: 's5', name: 'Air 5 GHz' })
}
/** An extender of one network, and an SSID of another at some devices. */
function repeated(plan: LoosePlan, ...apIds: readonly string[]): void {
  extended(plan, 50)
  sent(plan, { security: 'wpa2' }, ...apIds)
  Object.assign(plan.ssids.at(-1) ?? {}, { id: 'other', name: 'Other', networkId: 'management' })
}
const ownRadio = (plan: LoosePlan, band: Radio['band']): void =>
  void plan.wifi.radios.push({ ...the(plan.wifi.radios, 'r1'), id: `ext${band}`, deviceId: 'ext', band })
/** A second access point that has joined the first, and sends an SSID of management beside its own. */
function behind(plan: LoosePlan, fourAddress: boolean): void {
  radios(plan, {}, { channel: 44 })
  sent(plan, { security: 'wpa2' }, 'ap1', 'ap2')
  plan.ssids.push({ ...structuredClone(the(plan.ssids, 's')), id: 'other', name: 'Other' })
  Object.assign(the(plan.ssids, 'other'), { networkId: 'management', apIds: ['ap2'] })
  for (const id of ['ap1', 'ap2']) the(plan.devices, id).ports.push(...ports({ air: { mode: 'radio' } }))
  plan.links = plan.links.filter(({ b }) => b.deviceId !== 'ap2')
  the(plan.devices, 'ap2').mains = true
  plan.links.push(link('ap1:air', 'ap2:air', onAir('s', fourAddress)))
}
const greeted = (plan: LoosePlan, portal: NonNullable<NonNullable<Settings>['portal']>): void => {
  radios(plan, {})
  sent(plan, { security: 'owe', leastMbps: 6, portal }, 'ap1')
}
const limit = (what: string, wrong: Partial<Radio>, right: Partial<Radio>, field = 'channel'): Case => [
  'F11',
  what,
  `wifi.radios.r1.${field}`,
  (plan) => radios(plan, wrong),
  (plan) => radios(plan, right),
]

/** A site, and an SSID, of those names. */
function named(plan: LoosePlan, siteName: string, ssidName: string): void {
  sent(plan, { security: 'wpa3' })
  plan.site.name = siteName
  Object.assign(plan.ssids[0] ?? {}, { name: ssidName })
}

export const WIFI_CASES: readonly Case[] = [
  [
    'F01',
    'an SSID that is open',
    'ssids.s.settings.security',
    (p) => (radios(p, {}), sent(p, { security: 'open', leastMbps: 6 }, 'ap1')),
    (p) => (radios(p, {}), sent(p, { security: 'owe', leastMbps: 6 }, 'ap1')),
  ],
  [
    'F06',
    'two radios that hear each other on one channel',
    'wifi.radios.r1.channel',
    (p) => radios(p, {}, {}),
    (p) => radios(p, {}, { channel: 40 }),
  ],
  [
    'F07',
    'beacons at the slowest rate, of many names',
    'devices.ap1',
    (plan) => {
      radios(plan, { band: '2.4', channel: 6 })
      for (let i = 0; i < 4; i++) {
        sent(plan, { security: 'wpa2' }, 'ap1')
        Object.assign(plan.ssids.at(-1) ?? {}, { id: `s${i}`, name: `Air ${i}` })
      }
    },
    (plan) => {
      radios(plan, { band: '2.4', channel: 6 })
      for (let i = 0; i < 3; i++) {
        sent(plan, { security: 'wpa2' }, 'ap1')
        Object.assign(plan.ssids.at(-1) ?? {}, { id: `s${i}`, name: `Air ${i}` })
      }
    },
  ],
  [
    'F09',
    'a name that is hidden',
    'ssids.s.settings.hidden',
    (p) => (radios(p, {}), sent(p, { security: 'wpa3', hidden: true }, 'ap1')),
    (p) => (radios(p, {}), sent(p, { security: 'wpa3' }, 'ap1')),
  ],
  [
    'F09',
    'a list of MAC addresses',
    'ssids.s.settings.macList',
    (p) => (radios(p, {}), sent(p, { security: 'wpa3', macList: true }, 'ap1')),
    (p) => (radios(p, {}), sent(p, { security: 'wpa3' }, 'ap1')),
  ],
  [
    'F18',
    'stations that join at the press of a button',
    'ssids.s.settings.wps',
    (p) => (radios(p, {}), sent(p, { security: 'wpa2', wps: true }, 'ap1')),
    (p) => (radios(p, {}), sent(p, { security: 'wpa2' }, 'ap1')),
  ],
  [
    'F03',
    'a name that says whose it is',
    'ssids.s.name',
    (p) => named(p, 'Ferry Office', 'ferry-guest'),
    (p) => named(p, 'Ferry Office', 'office-guest'),
  ],
  [
    'F20',
    'an extender with one radio for both ways',
    'devices.ext',
    (p) => (extended(p, 50), void (the(p.devices, 'ext').model = 'E2')),
    (p) => (extended(p, 50), void (the(p.devices, 'ext').model = 'E1')),
  ],
  [
    'F20',
    'one radio of a model of one’s own',
    'devices.ext',
    (p) => (extended(p, 50), ownRadio(p, '5')),
    (p) => (extended(p, 50), ownRadio(p, '5'), ownRadio(p, '2.4')),
  ],
  // 9 feet are 2.7 m.
  [
    'F21',
    'a height in feet',
    'devices.ap1',
    (p) => (radios(p, {}), hung(p, { heightM: 9 })),
    (p) => (radios(p, {}), hung(p, { heightM: 2.7 })),
  ],
  limit('more power than a country permits', { powerDbm: 19.1 }, { powerDbm: 19 }, 'powerDbm'),
  limit('a channel that a country does not permit', { channel: 177 }, { channel: 149 }),
  limit('a channel that is none', { channel: 37 }, { channel: 40 }),
  limit(
    'a width that a channel has no room for',
    { channel: 140, widthMhz: 160 },
    { channel: 100, widthMhz: 160 },
    'widthMhz',
  ),
  [
    'F11',
    'a channel where an access point must not begin',
    'wifi.radios.r1.channel',
    (p) => (radios(p, { band: '6', channel: 37, powerDbm: 0 }), void (p.site.country = 'US')),
    (p) => radios(p, { band: '6', channel: 37, powerDbm: 0 }),
  ],
  [
    'F11',
    'a channel for indoors, outdoors',
    'wifi.radios.r1.channel',
    (plan) => (radios(plan, {}), outdoors(plan, true)),
    (plan) => (radios(plan, {}), outdoors(plan, false)),
  ],
  // Forty stations a radio.
  ['F10', 'more stations than a radio serves', 'devices.ap1', (p) => crowded(p, 41), (p) => crowded(p, 40)],
  [
    'F13',
    'a second name where stations are moved between bands',
    'ssids.s.settings.steering',
    (p) => twice(p, { steering: true }),
    (p) => twice(p, {}),
  ],
  [
    'F14',
    'an extender that is to send an SSID of another network',
    'devices.ext',
    (p) => repeated(p, 'ap1', 'ext'),
    (p) => repeated(p, 'ap1'),
  ],
  [
    'F14',
    'an access point that sends an SSID of another network than the one that it has joined',
    'devices.ap2',
    (p) => behind(p, false),
    (p) => behind(p, true),
  ],
  [
    'F19',
    'a portal without terms',
    'ssids.s.settings.portal',
    (p) => greeted(p, { terms: false, minutes: 60 }),
    (p) => greeted(p, { terms: true, minutes: 60 }),
  ],
  [
    'F19',
    'a portal that lets in for ever',
    'ssids.s.settings.portal',
    (p) => greeted(p, { terms: true, minutes: null }),
    (p) => greeted(p, { terms: true, minutes: 60 }),
  ],
  [
    'F12',
    'no slowest rate at three access points',
    'ssids.s.settings.leastMbps',
    (plan) => (
      radios(plan, {}, { channel: 40 }, { channel: 44 }),
      sent(plan, { security: 'wpa2' }, 'ap1', 'ap2', 'ap3')
    ),
    (plan) => (
      radios(plan, {}, { channel: 40 }, { channel: 44 }),
      sent(plan, { security: 'wpa2' }, 'ap1', 'ap2')
    ),
  ],
  [
    'F17',
    'people where next to nothing is heard',
    'brief.rooms.far.outline',
    (p) => (radios(p, {}), room(p, 'far', 200, 6, 3)),
    (p) => (radios(p, {}), room(p, 'far', 30, 6, 3)),
  ],
  [
    'F08',
    'an extender that hears less than 65 %',
    // 18 dBm EIRP at 5,180 MHz: 85.5 dB of free space (P.525) leave -67.5 dBm, 86.7 m away.
    'devices.ext.place',
    (p) => extended(p, 88),
    (p) => extended(p, 86),
  ],
  [
    'F17',
    'people where less was read than is predicted',
    'brief.rooms.far.outline',
    (p) => (radios(p, {}), room(p, 'far', 30, 6, 3), read(p, 'far', -76)),
    (p) => (radios(p, {}), room(p, 'far', 200, 6, 3), read(p, 'far', -75)),
  ],
  [
    'F17',
    'a reading in a room that is not drawn',
    'brief.rooms.far.outline',
    (p) => (room(p, 'far', 30, 6, 3), undraw(p, 'far'), read(p, 'far', -76)),
    (p) => (room(p, 'far', 30, 6, 3), undraw(p, 'far'), read(p, 'far', null)),
  ],
]
