// What the plans of a run have in them, by how many: a mechanism that no plan has is not judged at all.
// Read from the plan's text alone; nothing of the engine is asked.
import type { FailureScenario } from '#core/queries'
import type { Plan } from '#core/schema'

type Has = (plan: Plan, scenario: FailureScenario) => boolean

const isGateway = ({ kind }: Plan['devices'][number]) => kind === 'gateway'
const modesOf = ({ devices }: Plan) => devices.flatMap(({ ports }) => ports.map(({ mode }) => mode))
const gatewaysOf = ({ devices }: Plan) => devices.filter(isGateway).length
const ends = (plan: Plan) => plan.policyRoutes.map(({ out }) => out.kind)
const rulesOf = ({ policies }: Plan) => policies.flatMap(({ rules }) => rules)
const selectorsOf = (plan: Plan) => rulesOf(plan).flatMap(({ from, to }) => [from.kind, to.kind])

/** True where some line's cable ends in a switch of the site. */
const isSwitched = (plan: Plan) =>
  plan.uplinks.some(({ deviceId, portId }) =>
    plan.links.some((link) => {
      const atFirst = link.a.deviceId === deviceId && link.a.portId === portId
      const [near, far] = atFirst ? [link.a, link.b] : [link.b, link.a]
      const isOwn = near.deviceId === deviceId && near.portId === portId
      return isOwn && plan.devices.some(({ id, kind }) => id === far.deviceId && kind === 'switch')
    }),
  )

/** True where some network has an IPv6 prefix, and is not without on purpose. */
export const hasIpv6 = ({ networks }: Plan): boolean =>
  networks.some(({ mode6, prefix6 }) => mode6 !== 'off' && prefix6 !== null)

/** True where cables of switches close a ring. */
export function hasRing({ devices, links }: Plan): boolean {
  const root = new Map<string, string>()
  const rootOf = (id: string): string => (root.has(id) ? rootOf(root.get(id) as string) : id)
  const isSwitch = (id: string) =>
    devices.some((d) => d.id === id && ['switch', 'unmanaged'].includes(d.kind))
  return links.some((link) => {
    const ends = [link.a.deviceId, link.b.deviceId] as const
    if (link.lag !== null || !ends.every(isSwitch)) return false
    const [first, second] = [rootOf(ends[0]), rootOf(ends[1])]
    if (first === second) return true
    root.set(first, second)
    return false
  })
}

export const MECHANISMS: Readonly<Record<string, Has>> = {
  'access ports and trunks': (plan) =>
    ['access', 'trunk'].every((m) => modesOf(plan).some(({ mode }) => mode === m)),
  'unmanaged switches': ({ devices }) => devices.some(({ kind }) => kind === 'unmanaged'),
  'spanning tree': hasRing,
  'link aggregation': ({ links }) => links.some(({ lag }) => lag !== null),
  SSIDs: ({ ssids }) => ssids.length > 0,
  'client isolation': ({ ssids }) => ssids.some(({ isolation }) => isolation),
  'access points joined by radio': ({ devices, links }) => {
    const sends = (id: string) =>
      devices.some((one) => one.id === id && ['access-point', 'extender'].includes(one.kind))
    return links.some(
      ({ medium, a: first, b: second }) =>
        medium.kind === 'wifi' && sends(first.deviceId) && sends(second.deviceId),
    )
  },
  'hosts that tag, several homes': ({ devices }) =>
    devices.some(({ kind, ports }) => kind === 'hosts' && ports.some(({ mode }) => mode.mode === 'trunk')),
  'telephones with a computer behind': ({ devices }) => devices.some(({ kind }) => kind === 'telephone'),
  'several gateways': (plan) => gatewaysOf(plan) > 1,
  'routed ports': (plan) => modesOf(plan).some(({ mode }) => mode === 'routed'),
  'static routes': ({ routes }) => routes.length > 0,
  'DHCP server': ({ networks }) => networks.some(({ dhcp }) => dhcp === 'serve'),
  'DHCP relay': ({ networks }) => networks.some(({ dhcp }) => dhcp === 'relay'),
  'DHCP reservations': ({ networks }) =>
    networks.some(({ fixed }) => fixed.some(({ how }) => how === 'reserved')),
  'DHCP exclusions': ({ networks }) => networks.some(({ exclusions }) => exclusions.length > 0),
  'typed addresses': ({ networks }) =>
    networks.some(({ fixed }) => fixed.some(({ how }) => how === 'static')),
  'IPv6 by router advertisements': ({ networks }) => networks.some(({ mode6 }) => mode6 === 'slaac'),
  'DHCPv6, stateless': ({ networks }) => networks.some(({ mode6 }) => mode6 === 'stateless'),
  'DHCPv6, stateful': ({ networks }) => networks.some(({ mode6 }) => mode6 === 'stateful'),
  'several uplinks': ({ uplinks }) => uplinks.length > 1,
  'uplinks that share': ({ uplinks }) =>
    uplinks.some((u, i) => uplinks.some((other, j) => i < j && u.priority === other.priority)),
  'uplinks behind a shared address': ({ uplinks }) => uplinks.some(({ outside }) => outside === 'shared'),
  'uplinks with probes': ({ uplinks }) => uplinks.some(({ probe }) => probe !== null),
  'routing modems': ({ uplinks }) => uplinks.some(({ facts }) => facts.modem === 'routing'),
  'tagged uplinks': ({ uplinks }) => uplinks.some(({ tag }) => tag !== null),
  'uplinks through a switch': isSwitched,
  'public networks': ({ uplinks }) => uplinks.some(({ facts }) => facts.routed4.length > 0),
  'policy routes to an uplink': (plan) => ends(plan).includes('uplink'),
  'policy routes to a tunnel': (plan) => ends(plan).includes('tunnel'),
  'port forwards': ({ forwards }) => forwards.length > 0,
  'port forwards from inside': ({ forwards }) => forwards.some(({ hairpin }) => hairpin),
  'tunnels to sites': ({ tunnels }) => tunnels.some(({ peers }) => peers.some(({ kind }) => kind === 'site')),
  'tunnels of people': ({ tunnels }) =>
    tunnels.some(({ peers }) => peers.some(({ kind }) => kind === 'person')),
  'tunnels to a provider': ({ tunnels }) =>
    tunnels.some(({ peers }) => peers.some(({ kind }) => kind === 'provider')),
  'translation one to one': ({ tunnels }) => tunnels.some(({ mapped }) => mapped.length > 0),
  'refusals by rule': (plan) => rulesOf(plan).some(({ action }) => action !== 'accept'),
  'rules for the gateway itself': (plan) => rulesOf(plan).some(({ chain }) => chain === 'input'),
  'rules by prefix': (plan) => selectorsOf(plan).includes('prefix'),
  'rules by device': (plan) => selectorsOf(plan).includes('device'),
  'rules by peer or tunnel': (plan) => selectorsOf(plan).some((kind) => kind === 'peer' || kind === 'tunnel'),
  'rules by group': (plan) => selectorsOf(plan).includes('group'),
  'rules by schedule': (plan) => rulesOf(plan).some(({ when }) => when !== null),
  'defaults for pairs': ({ policies }) => policies.some(({ pairs }) => pairs.length > 0),
  'defaults that accept': ({ policies }) => policies.some(({ forward }) => forward === 'accept'),
  'something down': (_, scenario) => scenario.some((c) => c.kind === 'down'),
  'an uplink that is dark': (_, scenario) => scenario.some(({ kind }) => kind === 'upstream-down'),
}

export type How = 'by hand' | 'by chance'

/** Counts, while plans are judged. */
export class MechanismTable {
  private readonly counts = new Map<string, Record<How, number>>(
    Object.keys(MECHANISMS).map((name) => [name, { 'by hand': 0, 'by chance': 0 }]),
  )

  add(plan: Plan, scenario: FailureScenario, how: How): void {
    for (const [name, has] of Object.entries(MECHANISMS)) {
      const counted = this.counts.get(name)
      if (counted && has(plan, scenario)) counted[how]++
    }
  }

  get rows(): readonly (readonly [name: string, byHand: number, byChance: number])[] {
    return [...this.counts].map(([name, counted]) => [name, counted['by hand'], counted['by chance']])
  }

  /** What no plan had. */
  get never(): string[] {
    return this.rows.filter(([, byHand, byChance]) => byHand + byChance === 0).map(([name]) => name)
  }
}
