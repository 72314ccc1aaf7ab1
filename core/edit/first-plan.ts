// Question: what does an ordinary site begin with, given what somebody can say of it in a minute?
// Method: the usual choices, made with the steps that a planner would take one by one; all of it can be changed.
// Source: common practice, without a published source: a network each for people, guests and management, three
// devices for each person at most, management untagged on trunks, guests let out and nowhere else.
import type { Device, DeviceId, Network, Plan, PortMode, Selector, SsidSettings } from '#core/schema'
import { modelOf, indexPlan } from '#core/queries'
import { ok, problem, refuse, type Result } from '#core/util'
import { layAllotments, proposeSubnets } from './allot'
import { BLANK_PLACE, BLANK_SSID_SETTINGS } from './blanks'
import { addressInfrastructure, setPorts } from './bulk'
import { joinSsid } from './devices'
import { freshId } from './propose'
import { addDevice, addUplink, blankPlan, connect } from './wire'

export interface SiteWishes {
  readonly name: string
  /** IPv4 prefix that everything is numbered from. */
  readonly supernet: string
  /** ISO 3166-1 alpha-2; empty for not said. */
  readonly country: string
  /** People with a desk and a cable to it, 1 to `MOST_DESKS`. */
  readonly desks: number
  /** Rooms with people or access points in them, 1 to `MOST_ROOMS`. */
  readonly rooms: number
  /** 0 to `MOST_ACCESS_POINTS`. */
  readonly accessPoints: number
  /** Guests on the air at once; 0 for no network for them. They need an access point. */
  readonly guests: number
  /** Internet connections, 1 or 2. */
  readonly uplinks: number
  /** True where the first comes through a router of somebody else. */
  readonly behindRouter: boolean
}

export const MOST_DESKS = 150
export const MOST_ACCESS_POINTS = 20
export const MOST_ROOMS = 100
/** Devices on the air for each person: a telephone and a computer. */
const STATIONS_EACH = 2
/** Access points that one large switch feeds by their class, 30 W each of 190 W. */
const FED_BY_SWITCH = 6
const CABLE = { kind: 'copper', category: 'Cat6', run: 'indoor' } as const
const [IN_RACK_M, TO_ROOM_M] = [2, 20]

const VLAN = { main: 10, guests: 20, management: 99 } as const
/** Where a switch is connected to what is above it. */
const UP = { S8P: '8', S24P: '25' } as const
/** Sockets for what is no switch; the first of several large ones gives one of them to each of the others. */
const SOCKETS = { S8P: 7, S24P: 24 } as const

/** A plan that grows by steps, of which the first refusal ends it. */
class Growth {
  private refused: Result<Plan> | null = null
  constructor(private plan: Plan) {}
  get now(): Plan {
    return this.plan
  }
  step(make: (plan: Plan) => Result<Plan>): this {
    if (this.refused) return this
    const made = make(this.plan)
    if (made.ok) this.plan = made.value
    else this.refused = made
    return this
  }
  put(make: (plan: Plan) => Plan): this {
    return this.step((plan) => ok(make(plan)))
  }
  add(name: string, kind: Device['kind'], model: string, vlan: number | null, count = 1): DeviceId {
    let id = ''
    this.step((plan) => {
      const homeNetworkId = plan.networks.find((n) => n.vlan === vlan)?.id ?? null
      const place = kind === 'hosts' || kind === 'access-point' ? '' : 'Rack'
      const added = addDevice(plan, { name, kind, model, place, homeNetworkId, count })
      if (!added.ok) return added
      id = added.value.id
      return ok(added.value.plan)
    })
    return id
  }
  cable(from: readonly [DeviceId, string], to: readonly [DeviceId, string], lengthM: number): this {
    const [first, second] = [from, to].map(([deviceId, name]) => ({ deviceId, portId: `p${name}` }))
    return first && second ? this.step((plan) => connect(plan, first, second, { ...CABLE, lengthM })) : this
  }
  set(deviceId: DeviceId, ports: string, mode: PortMode): this {
    return this.step((plan) => setPorts(plan, deviceId, ports, { mode }))
  }
  get result(): Result<Plan> {
    return this.refused ?? ok(this.plan)
  }
}

/** Management untagged; guests only where an access point is beyond. */
function trunkOf(plan: Plan, sendsWifi = true): PortMode {
  const idle: readonly number[] = sendsWifi ? [VLAN.management] : [VLAN.management, VLAN.guests]
  const tagged = plan.networks.map(({ vlan }) => vlan).filter((vlan) => !idle.includes(vlan))
  return { mode: 'trunk', native: VLAN.management, tagged }
}

function withNetworks(growth: Growth, wishes: SiteWishes): void {
  const stations = wishes.accessPoints > 0 ? wishes.desks * STATIONS_EACH : 0
  const infrastructure = wishes.accessPoints + switchesFor(wishes) + 1
  const needs = [
    { id: 'main', name: 'Main', count: wishes.desks + stations, vlan: VLAN.main },
    ...(hasGuests(wishes) ? [{ id: 'guests', name: 'Guests', count: wishes.guests, vlan: VLAN.guests }] : []),
    { id: 'management', name: 'Management', count: infrastructure, vlan: VLAN.management },
  ]
  growth
    .put((plan) => ({
      ...plan,
      brief: {
        ...plan.brief,
        needs: needs.map((need) => ({ ...need, growthPct: 100, networkId: null })),
      },
    }))
    .step((plan) => {
      const options = { move: false, adopted: new Set<string>(), moveAdopted: false }
      const given = proposeSubnets(plan, options)
      return given.some(({ after }) => after === null)
        ? refuse(problem('no-room', '', { block: plan.site.supernet }))
        : ok(layAllotments(plan, given))
    })
}

const BUILDING = 'building'
/** Rooms are filled in turn: `turn` is 0 for the first access point. */
const roomName = (rooms: number, turn: number): string => `Room ${(turn % rooms) + 1}`

/** Rooms of one building, among which people are shared out alike. */
function withRooms(plan: Plan, { rooms, desks }: SiteWishes): Plan {
  const list = Array.from({ length: rooms }, (_, turn) => ({
    id: `room-${turn + 1}`,
    name: roomName(rooms, turn),
    buildingId: BUILDING,
    people: Math.floor((desks + rooms - 1 - turn) / rooms),
    outline: null,
    readDbm: null,
  }))
  return {
    ...plan,
    brief: {
      ...plan.brief,
      buildings: [{ id: BUILDING, name: 'Main building', ...BLANK_PLACE }],
      rooms: list,
    },
  }
}

const hasGuests = ({ guests, accessPoints }: SiteWishes): boolean => guests > 0 && accessPoints > 0

/** Whether one small switch does: a socket for all, and current for its access points. */
const isSmall = ({ desks, accessPoints }: SiteWishes): boolean =>
  desks + accessPoints <= SOCKETS.S8P && accessPoints <= 2

function switchesFor(wishes: SiteWishes): number {
  if (isSmall(wishes)) return 1
  const sockets = Math.ceil((wishes.desks + wishes.accessPoints - 1) / (SOCKETS.S24P - 1))
  return Math.max(sockets, Math.ceil(wishes.accessPoints / FED_BY_SWITCH))
}

/** Switches in a star: each hangs on the first by a socket of its own, and the first on the gateway. */
function withSwitches(growth: Growth, wishes: SiteWishes, gateway: DeviceId): DeviceId[] {
  const [model, count] = [isSmall(wishes) ? 'S8P' : 'S24P', switchesFor(wishes)] as const
  const switches: DeviceId[] = []
  for (let n = 1; n <= count; n++) {
    const id = growth.add(count === 1 ? 'Switch' : `Switch ${n}`, 'switch', model, VLAN.management)
    const [first] = switches
    // Sockets of the first from above: 24, 23, ...
    const above = first === undefined ? ([gateway, '3'] as const) : ([first, String(26 - n)] as const)
    // Access points go to the switches in turn.
    const trunk = trunkOf(growth.now, n <= wishes.accessPoints)
    growth
      .set(id, portsOf(growth.now, id), { mode: 'access', vlan: VLAN.main })
      .set(id, UP[model], trunk)
      .set(above[0], above[1], trunk)
      .cable(above, [id, UP[model]], IN_RACK_M)
    switches.push(id)
  }
  return switches
}

/** The copper sockets of a switch, as a span. */
function portsOf(plan: Plan, deviceId: DeviceId): string {
  const device = plan.devices.find(({ id }) => id === deviceId)
  const model = device && modelOf(indexPlan(plan), device.model)
  return (model?.ports ?? [])
    .filter(({ kind }) => kind === 'copper')
    .map(({ names }) => names)
    .join(', ')
}

/** The next free socket of each switch, from the lowest. */
class Sockets {
  private readonly next = new Map<DeviceId, number>()
  constructor(
    private readonly switches: readonly DeviceId[],
    private readonly each: number,
  ) {}
  /** Of all switches in turn, from a given place. */
  take(turn: number): readonly [DeviceId, string] {
    for (let i = 0; i < this.switches.length; i++) {
      const id = this.switches[(turn + i) % this.switches.length] as DeviceId
      const port = (this.next.get(id) ?? 0) + 1
      // The first switch keeps a socket for each of the others.
      const kept = id === this.switches[0] ? this.switches.length - 1 : 0
      if (port > this.each - kept) continue
      this.next.set(id, port)
      return [id, String(port)]
    }
    return ['', '']
  }
}

const placed = (plan: Plan, deviceId: DeviceId, place: string): Plan => ({
  ...plan,
  devices: plan.devices.map((device) => (device.id === deviceId ? { ...device, place } : device)),
})

function withEdge(growth: Growth, wishes: SiteWishes, switches: readonly DeviceId[]): void {
  const sockets = new Sockets(switches, isSmall(wishes) ? SOCKETS.S8P : SOCKETS.S24P)
  const aps: DeviceId[] = []
  for (let n = 1; n <= wishes.accessPoints; n++) {
    const ap = growth.add(`Access point ${n}`, 'access-point', 'A2', VLAN.management)
    growth.put((plan) => placed(plan, ap, roomName(wishes.rooms, n - 1)))
    const socket = sockets.take(n - 1)
    growth
      .set(socket[0], socket[1], trunkOf(growth.now))
      .set(ap, '1', trunkOf(growth.now))
      .cable(socket, [ap, '1'], TO_ROOM_M)
    aps.push(ap)
  }
  if (wishes.desks > 0) {
    const desks = growth.add('Desks', 'hosts', '', VLAN.main, wishes.desks)
    for (let n = 1; n <= wishes.desks; n++) growth.cable(sockets.take(0), [desks, String(n)], TO_ROOM_M)
  }
  if (aps.length > 0) withWifi(growth, wishes, aps)
}

/** Old stations still get in, and nobody speaks at the slowest rates (common practice, without a source). */
const USUAL_SSID_SETTINGS: SsidSettings = { ...BLANK_SSID_SETTINGS, security: 'wpa2-wpa3', leastMbps: 6 }

/** Names for the air that tell nobody whose it is. */
const NEUTRAL_NAMES = [
  ...['Amber', 'Birch', 'Cedar', 'Dune', 'Elder', 'Fern', 'Heath', 'Iris'],
  ...['Juniper', 'Larch', 'Maple', 'Nettle', 'Osier', 'Poplar', 'Rowan', 'Willow'],
] as const
/** One of them that is none of the site's own words; always the same for a name. */
function airName(siteName: string): string {
  const free = NEUTRAL_NAMES.filter((name) => !siteName.toLowerCase().includes(name.toLowerCase()))
  const sum = [...siteName].reduce((total, letter) => total + (letter.codePointAt(0) ?? 0), 0)
  return free[sum % free.length] ?? NEUTRAL_NAMES[0]
}

function withWifi(growth: Growth, wishes: SiteWishes, apIds: readonly DeviceId[]): void {
  const air = (id: string, name: string, vlan: number, isolation: boolean) =>
    growth.put((plan) => {
      const networkId = plan.networks.find((n) => n.vlan === vlan)?.id ?? ''
      const ssid = {
        id: freshId(plan.ssids, id),
        name,
        networkId,
        isolation,
        apIds: [...apIds],
        settings: USUAL_SSID_SETTINGS,
      }
      return { ...plan, ssids: [...plan.ssids, ssid] }
    })
  const named = airName(wishes.name)
  air('main-air', named, VLAN.main, false)
  const people = growth.add('Wi-Fi devices', 'hosts', '', VLAN.main, wishes.desks * STATIONS_EACH)
  growth.step((plan) => joinSsid(plan, people, 'main-air'))
  if (!hasGuests(wishes)) return
  air('guest-air', `${named} Guests`, VLAN.guests, true)
  const guests = growth.add('Guests on Wi-Fi', 'hosts', '', VLAN.guests, wishes.guests)
  growth.step((plan) => joinSsid(plan, guests, 'guest-air'))
}

const networkAt = (plan: Plan, vlan: number): Network | undefined =>
  plan.networks.find((n) => n.vlan === vlan)

/** What may pass, once as what is meant and once as rules of the gateway. */
function withRules(plan: Plan, gateway: DeviceId): Plan {
  const internet: Selector = { kind: 'internet' }
  const into = (vlan: number): Selector => ({ kind: 'network', id: networkAt(plan, vlan)?.id ?? '' })
  const inside: Selector = { kind: 'inside' }
  const passes = [
    { to: internet, from: into(VLAN.main), services: [], note: 'Main: the internet' },
    ...(networkAt(plan, VLAN.guests)
      ? [
          {
            from: into(VLAN.guests),
            to: internet,
            services: [],
            note: 'Guests: the internet and nothing else',
          },
        ]
      : []),
    {
      from: into(VLAN.management),
      to: internet,
      services: ['web', 'dns', 'ntp'],
      note: 'Devices fetch firmware and time',
    },
    {
      from: into(VLAN.main),
      to: into(VLAN.management),
      services: ['ssh', 'https', 'ping'],
      note: 'Devices are managed from Main',
    },
    {
      from: inside,
      to: { kind: 'gateway' } as const,
      services: ['dns', 'ping'],
      note: 'Names, for everybody',
    },
  ]
  const base = { log: false, when: null }
  const policy = {
    deviceId: gateway,
    forward: 'drop' as const,
    input: 'drop' as const,
    pairs: [],
    rules: passes.map(({ to, ...rest }, i) => ({
      id: `rule-${i + 1}`,
      chain: to.kind === 'gateway' ? ('input' as const) : ('forward' as const),
      action: 'accept' as const,
      to,
      ...rest,
      ...base,
    })),
  }
  return {
    ...plan,
    policies: [policy],
    intents: passes.map((pass, i) => ({ id: `intent-${i + 1}`, ...pass, ...base, survives: [] })),
  }
}

function withUplinks(growth: Growth, wishes: SiteWishes): void {
  for (let n = 1; n <= wishes.uplinks; n++) growth.step((plan) => addUplink(plan, `Uplink ${n}`))
  if (!wishes.behindRouter) return
  growth.put((plan) => ({
    ...plan,
    uplinks: plan.uplinks.map((uplink, i) =>
      i === 0 ? { ...uplink, facts: { ...uplink.facts, modem: 'routing' as const } } : uplink,
    ),
  }))
}

/**
 * A first plan of a site: networks, gateway, uplinks, switches, access points, Wi-Fi, hosts, rules and what is
 * meant.
 * Problems: no-room where the block is too small.
 */
export function firstPlan(wishes: SiteWishes): Result<Plan> {
  const blank = blankPlan(wishes.name, wishes.supernet)
  const growth = new Growth({ ...blank, site: { ...blank.site, country: wishes.country } })
  growth.put((plan) => withRooms(plan, wishes))
  withNetworks(growth, wishes)
  const gateway = growth.add('Gateway', 'gateway', 'G4', null)
  withUplinks(growth, wishes)
  const switches = withSwitches(growth, wishes, gateway)
  withEdge(growth, wishes, switches)
  return growth.put((plan) => addressInfrastructure(plan, 'static')).put((plan) => withRules(plan, gateway))
    .result
}
