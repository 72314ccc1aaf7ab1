// Question: which facts are still missing, and what cannot be done before somebody finds them out?
// Method: each kind of thing has facts that later work depends on; a fact is missing where the plan holds null
// or nothing.
// Source: what must be known of a line before it is unplugged: common practice, without a published source.
import { endsOf, indexPlan, isRadio, type PlanIndex, hasTrait } from '#core/queries'
import type { Building, DeviceId, Link, Network, Plan, Uplink } from '#core/schema'

export type FactKey =
  | 'credentials'
  | 'tagging'
  | 'priority-tag'
  | 'mac-lock'
  | 'link-speed'
  | 'contracted-speed'
  | 'data-cap'
  | 'public-address'
  | 'static-address'
  | 'static-dns'
  | 'modem-mode'
  | 'sim'
  | 'apn'
  | 'antennas'
  | 'signal'
  | 'price'
  | 'distance'
  | 'headcount'
  | 'clients'
  | 'serial'
  | 'reservation-mac'
  | 'far-subnets'
  | 'country'
  | 'other-way'
export type Blocks = 'plan' | 'rehearse' | 'stage' | 'adopt' | 'prove' | 'hand-over'

export interface MissingFact {
  readonly key: FactKey
  /** Path of the field. */
  readonly place: readonly string[]
  /** Name of the thing it is about. */
  readonly about: string
  readonly blocks: readonly Blocks[]
}

type LineFact = readonly [
  key: FactKey,
  field: string,
  isMissing: (u: Uplink) => boolean,
  blocks: readonly Blocks[],
]
const LINE_FACTS: readonly LineFact[] = [
  [
    'credentials',
    'credentialsAt',
    (u) => u.kind === 'pppoe' && u.facts.credentialsAt === null,
    ['stage', 'adopt'],
  ],
  ['static-address', 'address', (u) => u.kind === 'static' && u.facts.address === null, ['plan', 'stage']],
  ['static-dns', 'dns', (u) => u.kind === 'static' && u.facts.dns.length === 0, ['stage']],
  ['tagging', 'tagKnown', (u) => u.tag === null && !u.facts.tagKnown, ['stage']],
  ['priority-tag', 'pcp', (u) => u.tag !== null && u.facts.pcp === null, ['stage']],
  ['mac-lock', 'macLock', (u) => u.facts.macLock === null, ['stage']],
  ['link-speed', 'linkSpeed', (u) => u.facts.linkSpeed === null, ['stage']],
  ['contracted-speed', 'downMbps', (u) => u.downMbps === 0 || u.upMbps === 0, ['prove']],
  ['data-cap', 'capGb', (u) => u.facts.capGb === null, ['plan']],
  ['public-address', 'outsideKnown', (u) => !u.facts.outsideKnown, ['plan', 'prove']],
  ['modem-mode', 'modem', (u) => u.facts.modem === null, ['plan']],
  ['sim', 'cellular.sim', (u) => u.facts.cellular?.sim === null, ['stage']],
  ['apn', 'cellular.apn', (u) => u.facts.cellular?.apn === null, ['stage']],
  ['antennas', 'cellular.antennas', (u) => u.facts.cellular?.antennas === null, ['stage']],
  ['signal', 'cellular.rsrpDbm', (u) => u.facts.cellular?.rsrpDbm === null, ['plan']],
  [
    'price',
    'cellular.pricePerMonth',
    (uplink) =>
      uplink.facts.cellular?.pricePerMonth === null ||
      (uplink.facts.cellular?.pricePerGb === null && (uplink.facts.capGb ?? 0) > 0),
    ['hand-over'],
  ],
]

/** What is not known of one line. */
export function missingOfUplink(uplink: Uplink): MissingFact[] {
  return LINE_FACTS.filter(([, , isMissing]) => isMissing(uplink)).map(([key, field, , blocks]) => ({
    key,
    place: ['uplinks', uplink.id, ...(field === 'downMbps' ? [field] : ['facts', ...field.split('.')])],
    about: uplink.name,
    blocks,
  }))
}

/** The building a device stands in, by its place: a room's building, or a building of that name. */
export function buildingOf(plan: Plan, place: string): string | null {
  const room = plan.brief.rooms.find((r) => r.name === place)
  return room?.buildingId ?? plan.brief.buildings.find((b) => b.name === place)?.id ?? null
}

/** Pairs of buildings that cables or radios join, without a distance. */
function missingDistances(index: PlanIndex): MissingFact[] {
  const { plan } = index
  const pairs = new Map<string, MissingFact>()
  for (const link of plan.links) {
    if (link.medium.kind === 'wifi' || link.medium.kind === 'line') continue
    const ids = endsOf(link).map((ref) => buildingOf(plan, index.devices.get(ref.deviceId)?.place ?? ''))
    const [first, second] = [...ids].sort() as [string | null, string | null]
    if (first === null || second === null || first === second) continue
    if (plan.brief.spans.some((s) => [s.a, s.b].sort().join(' ') === `${first} ${second}` && s.distanceM > 0))
      continue
    const name = (id: string) => plan.brief.buildings.find((x) => x.id === id)?.name ?? id
    pairs.set(`${first} ${second}`, {
      key: 'distance',
      place: ['brief', 'spans'],
      about: `${name(first)} to ${name(second)}`,
      blocks: ['plan'],
    })
  }
  return [...pairs.values()]
}

const withoutMac = (network: Network) => network.fixed.filter((f) => f.how === 'reserved' && f.mac === null)

/** Every fact that is missing, lines first. */
export function missingFacts(plan: Plan): MissingFact[] {
  const index = indexPlan(plan)
  const fact = (key: FactKey, place: readonly string[], about: string, ...blocks: Blocks[]): MissingFact => ({
    key,
    place,
    about,
    blocks,
  })
  const owned = new Map(
    plan.brief.equipment.flatMap((e) => (e.deviceId === null ? [] : [[e.deviceId, e] as const])),
  )
  return [
    ...plan.uplinks.flatMap(missingOfUplink),
    ...missingDistances(index),
    ...plan.brief.rooms
      .filter((r) => r.people === null)
      .map((r) => fact('headcount', ['brief', 'rooms', r.id, 'people'], r.name, 'plan')),
    ...plan.networks
      .filter((n) => n.expected === 0)
      .map((n) => fact('clients', ['networks', n.id, 'expected'], n.name, 'plan')),
    ...plan.devices
      .filter((d) => hasTrait(d, 'configured') && !owned.get(d.id)?.serial)
      .map((d) => fact('serial', ['devices', d.id], d.name, 'adopt')),
    ...plan.networks.flatMap((network) => {
      const open = withoutMac(network).filter((f) => !(f.deviceId !== null && owned.get(f.deviceId)?.mac))
      const first = open[0]
      return first
        ? [
            fact(
              'reservation-mac',
              ['networks', network.id, 'fixed', first.id, 'mac'],
              open.length === 1
                ? `${first.name}, ${first.ip}`
                : `${network.name}, ${open.length} reservations`,
              'stage',
            ),
          ]
        : []
    }),
    ...plan.brief.far
      .filter((f) => f.subnets.length === 0)
      .map((f) => fact('far-subnets', ['brief', 'far', f.id, 'subnets'], f.name, 'plan')),
    ...(plan.site.country === '' && plan.devices.some(isRadio)
      ? [fact('country', ['site', 'country'], plan.site.name, 'stage')]
      : []),
    ...(plan.uplinks.length > 0 && plan.brief.otherWay === ''
      ? [fact('other-way', ['brief', 'otherWay'], plan.site.name, 'stage')]
      : []),
  ]
}

/** The buildings in which a link's ends stand; null for an end in none. */
export function endBuildings(plan: Plan, link: Link): readonly [Building | null, Building | null] {
  const at = (deviceId: DeviceId): Building | null => {
    const id = buildingOf(plan, plan.devices.find((device) => device.id === deviceId)?.place ?? '')
    return plan.brief.buildings.find((building) => building.id === id) ?? null
  }
  return [at(link.a.deviceId), at(link.b.deviceId)]
}
