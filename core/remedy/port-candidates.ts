// Which single change of ports and cables could let a flow pass?
import { trunkProposals } from '#core/layer2'
import { cableAt, endAt, findPort, isVlanAware, portKey, tags, vidsOf } from '#core/queries'
import type { Link, Plan, PortMode, PortRef } from '#core/schema'
import type { Site } from '#core/reachability'
import { swap, type Candidate } from './candidate'

const withMode = (plan: Plan, ref: PortRef, mode: PortMode): Plan => ({
  ...plan,
  devices: swap(plan.devices, ref.deviceId, (device) => ({
    ...device,
    ports: swap(device.ports, ref.portId, (p) => ({ ...p, mode })),
  })),
})
const carrying = (mode: PortMode, vlan: number): PortMode | null =>
  mode.mode === 'trunk' && mode.tagged !== 'all' && !mode.tagged.includes(vlan) && mode.native !== vlan
    ? { ...mode, tagged: [...mode.tagged, vlan].sort((a, b) => a - b) }
    : null

/** Native VLANs that differ at the ends of a cable, made alike from either end. */
export function nativeCandidates(site: Site): Candidate[] {
  const { plan, index } = site
  return plan.links.flatMap((link) =>
    [
      [link.a, link.b],
      [link.b, link.a],
    ].flatMap(([ref, far]): Candidate[] => {
      const [own, other] = [ref && findPort(index, ref)?.mode, far && findPort(index, far)?.mode]
      if (!ref || own?.mode !== 'trunk' || other?.mode !== 'trunk' || own.native === other.native) return []
      const tagged =
        own.tagged === 'all'
          ? own.tagged
          : [...own.tagged, ...(own.native === null ? [] : [own.native])]
              .filter((v, i, all) => v !== other.native && all.indexOf(v) === i)
              .sort((a, b) => a - b)
      return [
        {
          code: 'same-native',
          values: { device: ref.deviceId, port: ref.portId, vlan: other.native ?? 0 },
          after: withMode(plan, ref, { ...own, native: other.native, tagged }),
        },
      ]
    }),
  )
}

const carriesAny = (mode: PortMode, vlans: readonly number[]): boolean =>
  vlans.some((v) => tags(mode, v) || vidsOf(mode).includes(v))

/** Two cabled ports of one device, one of which is in question, with each other's modes. */
export function swapCandidates(
  site: Site,
  suspects: readonly PortRef[],
  vlans: readonly number[],
): Candidate[] {
  const { plan, index } = site
  return suspects.flatMap((ref) => {
    const device = index.devices.get(ref.deviceId)
    const own = findPort(index, ref)
    if (!device || !own || !isVlanAware(device)) return []
    return device.ports
      .filter(
        (port) =>
          port.id !== own.id &&
          index.linksAt.has(portKey({ deviceId: device.id, portId: port.id })) &&
          carriesAny(port.mode, vlans) &&
          JSON.stringify(port.mode) !== JSON.stringify(own.mode),
      )
      .map((port): Candidate => ({
        code: 'swap-ports',
        values: { device: device.id, port: own.id, other: port.id },
        after: withMode(withMode(plan, ref, port.mode), { deviceId: device.id, portId: port.id }, own.mode),
      }))
  })
}

/**
 * A cable in question, in a free port of its device that carries what is wanted; or in each other's port with
 * another, where one of the two is a line's, whose mode says nothing without it.
 */
export function cableCandidates(
  site: Site,
  suspects: readonly PortRef[],
  vlans: readonly number[],
): Candidate[] {
  const { plan, index } = site
  const moved = (links: readonly Link[], link: Link, from: PortRef, to: PortRef) =>
    swap(links, link.id, (l) => ({ ...l, [endAt(link, from)]: to }))
  return suspects.flatMap((ref) => {
    const [device, own, cable] = [index.devices.get(ref.deviceId), findPort(index, ref), cableAt(index, ref)]
    if (!device || !own || !cable || !isVlanAware(device)) return []
    const others = device.ports
      .filter((p) => p.id !== own.id && JSON.stringify(p.mode) !== JSON.stringify(own.mode))
      .map((port) => ({ port, at: { deviceId: device.id, portId: port.id } }))
    const values = (other: string) => ({ device: device.id, port: own.id, other })
    const free = new Map(
      others
        .filter(({ port, at }) => !index.linksAt.has(portKey(at)) && carriesAny(port.mode, vlans))
        .map((o) => [JSON.stringify(o.port.mode), o]),
    )
    return [
      ...[...free.values()].map(({ port, at }): Candidate => ({
        code: 'move-cable',
        values: values(port.id),
        after: { ...plan, links: moved(plan.links, cable, ref, at) },
      })),
      ...others.flatMap(({ port, at }): Candidate[] => {
        const theirs = own.mode.mode === 'wan' || port.mode.mode === 'wan' ? cableAt(index, at) : null
        return theirs
          ? [
              {
                code: 'swap-cables',
                values: values(port.id),
                after: { ...plan, links: moved(moved(plan.links, cable, ref, at), theirs, at, ref) },
              },
            ]
          : []
      }),
    ]
  })
}

/** The ports at both ends of some devices' cables; those that sort no frames change nothing. */
export const around = (site: Site, deviceIds: readonly string[]): PortRef[] =>
  site.plan.links.flatMap((link) =>
    [link.a, link.b].some((ref) => deviceIds.includes(ref.deviceId)) ? [link.a, link.b] : [],
  )

/** Ports that drop the VLANs of either end: one alone, or all on the way at once. */
export function portCandidates(
  site: Site,
  vlans: readonly number[],
  dropped: readonly PortRef[],
): Candidate[] {
  const { plan } = site
  const proposals = trunkProposals(site.index, site.layer2.failed)
  return vlans.flatMap((vlan): Candidate[] => {
    const short = proposals.filter((p) => p.add.includes(vlan)).map((p) => p.port)
    const one = [...dropped, ...short].flatMap((ref): Candidate[] => {
      const mode = findPort(site.index, ref)?.mode
      if (!mode) return []
      const tagged = carrying(mode, vlan)
      const values = { device: ref.deviceId, port: ref.portId, vlan }
      if (tagged) return [{ code: 'carry-vlan', values, after: withMode(plan, ref, tagged) }]
      const moved = mode.mode === 'off' || (mode.mode === 'access' && mode.vlan !== vlan)
      return moved
        ? [{ code: 'access-port', values, after: withMode(plan, ref, { mode: 'access', vlan }) }]
        : []
    })
    const along = short.reduce((now, ref) => {
      const mode = findPort(site.index, ref)?.mode
      const tagged = mode && carrying(mode, vlan)
      return tagged ? withMode(now, ref, tagged) : now
    }, plan)
    return [
      ...one,
      ...(short.length > 1
        ? [{ code: 'carry-along' as const, values: { vlan, count: short.length }, after: along }]
        : []),
    ]
  })
}
