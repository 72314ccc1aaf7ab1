import { parsePrefix6, readInterface6, type Prefix6 } from '#core/address'
import { orNull } from '#core/util'
import { defineStage, findPort, portKey, type PlanIndex } from './plan-index'
import type {
  Model,
  PortGroup,
  Peer,
  Uplink,
  StaticAssignment,
  Link,
  Network,
  Plan,
  PortMode,
  PortRef,
  Selector,
  Tunnel,
} from '#core/schema'
import { modelNamed, portGroupsByName } from './catalogue'

export function modelOf(index: PlanIndex, name: string): Model | undefined {
  return index.models.get(name) ?? modelNamed(name)
}

/** What the models in use say of their ports. */
const groupsByModel = defineStage('port groups by model', (index) => {
  const names = new Set(index.plan.devices.map((device) => device.model))
  return new Map(
    [...names].flatMap((name) => {
      const model = modelOf(index, name)
      return model ? [[name, portGroupsByName(model)] as const] : []
    }),
  )
})

/** What its model says of a port; null where the model is not known, or says nothing of it. */
export function specOf(index: PlanIndex, ref: PortRef): PortGroup | null {
  const groups = index.get(groupsByModel).get(index.devices.get(ref.deviceId)?.model ?? '')
  const port = findPort(index, ref)
  return groups && port ? (groups.get(port.name) ?? groups.get('*') ?? null) : null
}

/** Both ends of a link, a first. */
export function endsOf(link: Link): readonly [PortRef, PortRef] {
  return [link.a, link.b]
}

/** True where a trunk tags a VLAN. */
export function tags(mode: PortMode, vid: number): boolean {
  return mode.mode === 'trunk' && (mode.tagged === 'all' ? mode.native !== vid : mode.tagged.includes(vid))
}

/** VIDs that a mode names, native first; `all` names none. */
export function vidsOf(mode: PortMode): number[] {
  if (mode.mode === 'access') return [mode.vlan]
  return mode.mode === 'trunk'
    ? [...(mode.native === null ? [] : [mode.native]), ...(mode.tagged === 'all' ? [] : mode.tagged)]
    : []
}

/** The end of a link that is not `ref`. */
export function farEnd(link: Link, ref: PortRef): PortRef {
  return link.a.deviceId === ref.deviceId && link.a.portId === ref.portId ? link.b : link.a
}

/** Which end of a link a port is. */
export const endAt = (link: Link, ref: PortRef): 'a' | 'b' => (farEnd(link, ref) === link.b ? 'a' : 'b')

/** The one cable in a port; null where there is none, or many stations share the air. */
export function cableAt(index: PlanIndex, ref: PortRef): Link | null {
  const [link, ...more] = index.linksAt.get(portKey(ref)) ?? []
  return link && more.length === 0 && (link.medium.kind === 'copper' || link.medium.kind === 'fibre')
    ? link
    : null
}

/** A plan's networks as every table and grid lists them. */
export const byVlan = (plan: Plan): Network[] => [...plan.networks].sort((a, b) => a.vlan - b.vlan)

/**
 * The lines that carry the site together with this one when it is their turn: those of its number, of its
 * gateway, itself among them.
 */
export const uplinkGroup = (uplinks: readonly Uplink[], uplink: Uplink): readonly Uplink[] =>
  uplinks.filter((u) => u.priority === uplink.priority && u.deviceId === uplink.deviceId)
/**
 * Who carries what a line of these, in order, leaves behind: another that shares with it, or the next of its
 * gateway.
 */
export function nextUplink(uplinks: readonly Uplink[], uplink: Uplink): Uplink | undefined {
  return (
    uplinkGroup(uplinks, uplink).find((u) => u !== uplink) ??
    uplinks.slice(uplinks.indexOf(uplink) + 1).find((u) => u.deviceId === uplink.deviceId)
  )
}
/** Marks of packets have room for so many groups, and so many uplinks of one gateway. */
const MOST_GROUPS = 3
const MOST_SHARED = 31
/**
 * Uplinks of one gateway that share, group by group in the order of their turns: three groups at most, of its first 31
 * uplinks; others follow one after another.
 * @param uplinks those of the gateway, first choice first
 */
export const sharingGroups = (uplinks: readonly Uplink[]): readonly (readonly Uplink[])[] =>
  uplinks
    .map((u) => uplinkGroup(uplinks, u).filter((mate) => uplinks.indexOf(mate) < MOST_SHARED))
    .filter((group, i) => group.length > 1 && group[0] === uplinks[i])
    .slice(0, MOST_GROUPS)
/** Share of new flows that a line takes of what its group carries, %. */
export const uplinkShare = (uplinks: readonly Uplink[], uplink: Uplink): number =>
  (100 * uplink.weight) / uplinkGroup(uplinks, uplink).reduce((sum, u) => sum + u.weight, 0)
/** The lines of a plan, first choice first. */
export const uplinksInOrder = (plan: Pick<Plan, 'uplinks'>): Uplink[] =>
  [...plan.uplinks].sort((a, b) => a.priority - b.priority)

/** An earlier tunnel of the same gateway that has the port of this one, which then does not come up. */
export const earlierAtPort = (
  { tunnels }: Pick<Plan, 'tunnels'>,
  { id, deviceId, listenPort }: Tunnel,
): Tunnel | null =>
  tunnels
    .slice(
      0,
      tunnels.findIndex((tunnel) => tunnel.id === id),
    )
    .find((earlier) => earlier.deviceId === deviceId && earlier.listenPort === listenPort) ?? null

/** True where somebody outside can call the gateway over a line while it is well. */
export const canBeCalled = (uplink: Uplink): boolean =>
  uplink.outside === 'own' && (uplink.facts.modem !== 'routing' || uplink.facts.modemForwards === true)

/** The IPv6 prefix that a network's hosts use; null where IPv6 is off, or its prefix cannot be read. */
export const ipv6PrefixOf = (network: Network): Prefix6 | null =>
  network.mode6 === 'off' || network.prefix6 === null ? null : orNull(parsePrefix6(network.prefix6))

/**
 * The IPv6 address typed into a device, with its network's length; null where it makes its own, or its
 * network has none.
 */
export function typedIpv6(network: Network, fixed: StaticAssignment): ReturnType<typeof readInterface6> {
  const prefix = ipv6PrefixOf(network)
  return prefix && fixed.how === 'static' && fixed.ip6 !== null
    ? readInterface6(`${fixed.ip6}/${prefix.length}`)
    : null
}

export const peerNamed = (plan: Plan, id: string): Peer | undefined =>
  plan.tunnels.flatMap((t) => t.peers).find((p) => p.id === id)

/** What a selector speaks of, one by one: a group's members, or itself. */
export const membersOf = (
  index: Pick<PlanIndex, 'groups'>,
  selector: Selector,
): readonly Exclude<Selector, { readonly kind: 'group' }>[] =>
  selector.kind === 'group' ? (index.groups.get(selector.id)?.members ?? []) : [selector]

/** A selector as one text: equal for those that say the same, whatever the order of their keys. */
export function selectorKey(selector: Selector): string {
  if ('id' in selector) return `${selector.kind} ${selector.id}`
  return `${selector.kind} ${'prefix' in selector ? selector.prefix : ''}`
}
