import { BLANK_RADIO } from '#core/edit'
import { cat6, device, link, plain, ports } from '#server/demo/build'
import type { Draft, RadioSettings } from '#core/schema'
import type { LoosePlan } from '../plans'
import type { Case } from './case'

type Settings = Draft<RadioSettings>
/** Everything is said of an end that its link is computed by, and nothing else. */
const END = {
  ...BLANK_RADIO.ends.a,
  antennaM: 20,
  powerDbm: 10,
  gainDbi: 16,
  feederDb: 0.5,
  protection: 'a rod',
}
type Solar = Settings['ends']['a']['solar']
/** The far end is fed by the sun. */
const sunny =
  (solar: Solar) =>
  ({ ends }: Settings): void =>
    void (ends.b.solar = solar)
/** A tree of 10 m in the middle, that grows. */
const growing =
  (growsM: number) =>
  ({ profile }: Settings): void =>
    void Object.assign(profile[0] ?? {}, { obstacleM: 10, growsM })

const anEnd = (): Settings['ends']['a'] => structuredClone(END) as Settings['ends']['a']

/** Two bridges 1 km apart on 5,600 MHz over flat ground, with room for the zone. */
function bridged(plan: LoosePlan, change: (settings: Settings) => void = () => undefined): void {
  plan.site.country = 'GB'
  for (const id of ['near', 'far'])
    plan.devices.push(
      device(id, id === 'near' ? 'Near' : 'Far', 'bridge-radio', '', 'Roof', null, ports({ radio: plain })),
    )
  const radio: Settings = {
    mhz: 5600,
    widthMhz: 20,
    generation: 'ac',
    streams: 1,
    rangeSetM: null,
    neededMbps: null,
    polarization: 'vertical',
    rainMmPerHour: 0,
    marginDb: 10,
    networkName: '',
    security: null,
    gustMps: null,
    ends: { a: anEnd(), b: anEnd() },
    profile: [{ id: 'middle', atM: 500, groundM: 0, obstacleM: 0, growsM: 0 }],
  }
  change(radio)
  plan.links.push({ ...link('near:radio', 'far:radio', { kind: 'radio', lengthM: 1000, radio }), id: 'hop' })
}
/** The near end by a cable to a switch; its port offers a speed. */
const wired =
  (speedMbps: number) =>
  (plan: LoosePlan): void => {
    const near = plan.devices.find(({ id }) => id === 'near')
    near?.ports.push({ ...near.ports[0]!, id: 'plan', name: 'lan', speedMbps })
    const behind = device('behind', 'Behind', 'switch', '', 'Roof', null, ports({ 1: plain }))
    behind.ports[0]!.speedMbps = speedMbps
    plan.devices.push(behind)
    plan.links.push(link('near:lan', 'behind:1', cat6(5)))
  }
/** Fast enough on the air that a port of 100 Mb/s is the narrower: two streams at -56.4 dBm in 80 MHz. */
const broad = (settings: Settings): void => {
  power(20)(settings)
  Object.assign(settings, { widthMhz: 80, streams: 2 })
}
/** Power at both ends. */
const power =
  (dBm: number) =>
  ({ ends }: Settings): void => {
    ends.a.powerDbm = dBm
    ends.b.powerDbm = dBm
  }
/** With ground of a height surveyed at the first end. */
const grounded =
  (groundM: number, change: (settings: Settings) => void) =>
  (settings: Settings): void => {
    settings.profile.push({ id: 'start', atM: 0, groundM, obstacleM: 0, growsM: 0 })
    change(settings)
  }
type Role = Settings['ends']['a']['role']
const roles =
  (first: Role, second: Role) =>
  ({ ends }: Settings): void => {
    ends.a.role = first
    ends.b.role = second
  }
const case_ = (
  code: Case[0],
  what: string,
  wrong: (settings: Settings) => void,
  right: (settings: Settings) => void,
): Case => [code, what, 'links.hop.medium', (plan) => bridged(plan, wrong), (plan) => bridged(plan, right)]

/** Fields of an end's page as they were found; the near plan has them right. */
const addressed = (what: string, wrong: Readonly<Record<'address' | 'mask' | 'gateway', string>>): Case =>
  case_(
    'R09',
    what,
    ({ ends }) => void Object.assign(ends.b.asSet, wrong),
    ({ ends }) =>
      void Object.assign(ends.b.asSet, { address: '10.0.0.2', mask: '255.255.255.0', gateway: '10.0.0.1' }),
  )

export const RADIO_CASES: readonly Case[] = [
  // 107.41 dB of free space (P.525): of P dBm P - 76.41 arrive, and -82 + 10 dBm are asked for.
  case_('R01', 'less to spare than is asked for', power(4.3), power(4.5)),
  case_('R02', 'more than a country permits', power(11.6), power(11.4)),
  case_(
    'R02',
    'a frequency that a country does not permit',
    (settings) => void (settings.mhz = 5900),
    (settings) => void (settings.mhz = 5600),
  ),
  // Zone of 3.66 m in the middle of 1 km at 5,600 MHz: 60 % are 2.19 m, under 20 m and 0.015 m of bulge.
  case_(
    'R03',
    'an obstacle in the zone',
    ({ profile }) => void (profile[0]!.obstacleM = 17.9),
    ({ profile }) => void (profile[0]!.obstacleM = 17.7),
  ),
  // -66.41 dBm less 10 dB are MCS 2, 19.5 Mb/s on the air: 8 frames of 1,548 octets in 5,349 us carry 17.9 Mb/s.
  case_(
    'R04',
    'less is carried than is needed',
    (settings) => void (settings.neededMbps = 18),
    (settings) => void (settings.neededMbps = 17),
  ),
  case_(
    'R05',
    'an end that was found on another frequency',
    ({ ends }) => void (ends.b.asSet.mhz = 5620),
    ({ ends }) => void (ends.b.asSet.mhz = 5600),
  ),
  case_(
    'R05',
    'ends that were found with different widths',
    ({ ends }) => (void (ends.a.asSet.widthMhz = 40), void (ends.b.asSet.widthMhz = 20)),
    ({ ends }) => (void (ends.a.asSet.widthMhz = 40), void (ends.b.asSet.widthMhz = 40)),
  ),
  case_(
    'R05',
    'an end that was found to join another name',
    (settings) => (void (settings.networkName = 'hop'), void (settings.ends.a.asSet.networkName = 'Hop')),
    (settings) => (void (settings.networkName = ''), void (settings.ends.a.asSet.networkName = 'Hop')),
  ),
  case_(
    'R05',
    'an end that was found with another encryption',
    (settings) => (void (settings.security = 'wpa3'), void (settings.ends.b.asSet.security = 'wpa2')),
    (settings) => (void (settings.security = 'wpa3'), void (settings.ends.b.asSet.security = 'wpa3')),
  ),
  case_(
    'R05',
    'an end that was found as a router',
    ({ ends }) => void (ends.b.asSet.mode = 'router'),
    ({ ends }) => void (ends.b.asSet.mode = 'bridge'),
  ),
  case_(
    'R05',
    'an end that was found with another key',
    ({ ends }) => void (ends.a.asSet.keyAsGiven = false),
    ({ ends }) => void (ends.a.asSet.keyAsGiven = true),
  ),
  case_(
    'R06',
    'a range that is shorter than the link',
    (settings) => void (settings.rangeSetM = 999),
    (settings) => void (settings.rangeSetM = 1000),
  ),
  case_(
    'R07',
    'an end that reads 7 dB less than is computed',
    ({ ends }) => void (ends.b.readDbm = -73),
    ({ ends }) => void (ends.b.readDbm = -72),
  ),
  case_('R08', 'two stations', roles('station', 'station'), roles('station', 'access-point')),
  case_(
    'R10',
    'an antenna of unknown height',
    ({ ends }) => void (ends.a.antennaM = null),
    ({ ends }) => void (ends.a.antennaM = 20),
  ),
  // 10 m under the line, less 0.015 m of bulge and 2.19 m of zone, leave 7.79 m to grow.
  case_('R11', 'a tree that closes the path within ten years', growing(0.8), growing(0.77)),
  case_(
    'R12',
    'an end of whose earth nothing is said',
    ({ ends }) => void (ends.b.protection = ''),
    ({ ends }) => void (ends.b.protection = 'bonded to the main earth'),
  ),
  // 100 W for an hour bring 70 Wh of the 72 that 3 W take in a day.
  case_(
    'R13',
    'a panel that brings less than is taken',
    sunny({ panelW: 100, sunHours: 1, batteryWh: 1000, drawW: 3 }),
    sunny({ panelW: 100, sunHours: 1, batteryWh: 1000, drawW: 2.9 }),
  ),
  // 80 % of 900 Wh are three days of 10 W.
  case_(
    'R13',
    'a battery that lasts less than three days without sun',
    sunny({ panelW: 1000, sunHours: 2, batteryWh: 890, drawW: 10 }),
    sunny({ panelW: 1000, sunHours: 2, batteryWh: 900, drawW: 10 }),
  ),
  addressed('a mask where the gateway belongs', {
    address: '10.0.0.2',
    mask: '10.0.0.1',
    gateway: '255.255.255.0',
  }),
  addressed('an address that is none', { address: '10.0.0', mask: '255.255.255.0', gateway: '10.0.0.1' }),
  addressed('a length for a mask', { address: '10.0.0.2', mask: '/24', gateway: '10.0.0.1' }),
  addressed('a gateway elsewhere', { address: '10.0.0.2', mask: '255.255.255.0', gateway: '10.0.1.1' }),
  addressed('its own address as gateway', {
    address: '10.0.0.1',
    mask: '255.255.255.0',
    gateway: '10.0.0.1',
  }),
  [
    'R15',
    'a port of 100 Mb/s behind a faster air',
    'links.hop.medium',
    (plan) => (bridged(plan, broad), wired(100)(plan)),
    (plan) => (bridged(plan, broad), wired(1000)(plan)),
  ],
  // 20 m are 66 feet; over ground of 5 m they are typed as 66 m.
  case_(
    'R14',
    'a height in feet',
    grounded(5, ({ ends }) => void (ends.a.antennaM = 66)),
    grounded(5, ({ ends }) => void (ends.a.antennaM = 65)),
  ),
  case_(
    'R14',
    'an antenna under the ground',
    grounded(21, () => undefined),
    grounded(20, () => undefined),
  ),
  case_(
    'R14',
    'a link that looks steeply up',
    ({ ends }) => void (ends.a.antennaM = 221),
    ({ ends }) => void (ends.a.antennaM = 220),
  ),
]
