// Question: will the cables and ports carry every VLAN to where it is needed, and does any frame run in a ring?
// Method: the gaps of the VLANs, then each port and each cable by itself, then the spanning tree.
// Source: IEEE 802.1Q-2022 (VLANs), IEEE 802.1D-2004 clause 17 (spanning tree).
import { layer2Of, modeFor, trunkProposals, UNTAGGED, uplinkVids, vlanGaps, type VlanGap } from '#core/layer2'
import {
  farEnd,
  findPort,
  indexPlan,
  isHost,
  isVlanAware,
  socketInterfaces,
  tags,
  vidsOf,
  type PlanIndex,
} from '#core/queries'
import { applyChanges, type Change } from '#core/edit'
import type { Device, Link, Port, PortMode, PortRef } from '#core/schema'
import { draft, labelOf, portPlace, set, type Draft, type Mend } from '../finding'

/** Mends of ports that are tried, each on a plan of its own; what else there is has one once these are made. */
const MOST_TRIED = 20

interface Checking {
  readonly index: PlanIndex
  readonly tries: { left: number }
}

const nameOf = (index: PlanIndex, id: string): string => index.devices.get(id)?.name ?? id

function tagOn(index: PlanIndex, ref: PortRef, vlan: number): Change | null {
  const mode = findPort(index, ref)?.mode
  if (mode?.mode !== 'trunk' || mode.tagged === 'all') return null
  return set([...portPlace(ref), 'mode'], mode, {
    mode: 'trunk',
    native: mode.native,
    tagged: [...mode.tagged, vlan].sort((a, b) => a - b),
  })
}

function gapFindings(index: PlanIndex): Draft[] {
  return vlanGaps(index, []).map((gap) => {
    const change = gap.mend === 'tag' ? tagOn(index, gap.port, gap.vlan) : null
    const at = { vlan: gap.vlan, ...labelOf(index, gap.port) }
    const values = {
      network: index.networkHeads.get(gap.networkId)?.name ?? '',
      ...at,
      affected: gap.affected.map((id) => nameOf(index, id)).join(', '),
      key: gap.vlan,
    }
    const mend: Mend | null = change && { code: 'tag', values: at, changes: [change] }
    return draft('E02', 'blocker', portPlace(gap.port), values, mend)
  })
}

/** Takes a VLAN off a trunk that names it; null where the port carries it otherwise. */
function untagged(place: readonly string[], mode: PortMode, vlan: number): Change | null {
  if (mode.mode !== 'trunk' || mode.tagged === 'all' || !tags(mode, vlan) || mode.native === vlan) return null
  return set([...place, 'mode'], mode, { ...mode, tagged: mode.tagged.filter((t) => t !== vlan) })
}

function strangeVlans(index: PlanIndex, device: Device, port: Port): Draft[] {
  const ref = { deviceId: device.id, portId: port.id }
  const strange = vidsOf(port.mode).filter(
    (vid) => !index.networkByVlan.has(vid) && !uplinkVids(index).has(vid),
  )
  return strange.map((vlan) => {
    const values = { vlan, ...labelOf(index, ref) }
    const change = untagged(portPlace(ref), port.mode, vlan)
    const mend: Mend | null = change && { code: 'untag', values, changes: [change] }
    return draft('E01', 'warning', portPlace(ref), { ...values, key: vlan }, mend)
  })
}

const portFindings = (index: PlanIndex, device: Device): Draft[] =>
  isVlanAware(device) || isHost(device)
    ? device.ports.flatMap((port) => strangeVlans(index, device, port))
    : []

/** The VLAN of untagged frames; null where there is none, undefined where the port reads no tags at all. */
function nativeVid(mode: PortMode): number | null | undefined {
  if (mode.mode === 'access') return mode.vlan
  return mode.mode === 'trunk' ? mode.native : undefined
}

const untaggedVid = (mode: PortMode): number | null => nativeVid(mode) ?? null

/** Tags go into a switch that does not read them: everybody behind it is in the port's untagged network. */
function taggedIntoPlainSwitch(index: PlanIndex, ref: PortRef, mode: PortMode, far: Device): Draft[] {
  if (far.kind !== 'unmanaged' || mode.mode !== 'trunk') return []
  if (mode.tagged !== 'all' && mode.tagged.length === 0) return []
  const untagged = untaggedVid(mode)
  const lands = untagged === null ? 'nowhere' : (index.networkByVlan.get(untagged)?.name ?? String(untagged))
  return [draft('E04', 'note', portPlace(ref), { ...labelOf(index, ref), switch: far.name, lands })]
}

const gapKey = ({ port, vlan }: VlanGap): string => `${port.deviceId}.${port.portId} ${vlan}`

/**
 * The port becomes an access port of a VLAN; null where that VLAN would then stop short elsewhere: two mistakes
 * made up for each other, and the other is to be mended first.
 */
function accessMend(index: PlanIndex, ref: PortRef, mode: PortMode, vlan: number): Mend | null {
  const change = set([...portPlace(ref), 'mode'], mode, { mode: 'access', vlan })
  const after = applyChanges(index.plan, [change])
  if (!after.ok) return null
  const known = new Set(vlanGaps(index, []).map(gapKey))
  if (vlanGaps(indexPlan(after.value), []).some((gap) => !known.has(gapKey(gap)))) return null
  return { code: 'access', values: { vlan, ...labelOf(index, ref) }, changes: [change] }
}

/** Hosts on a cable land in another network than the one they want. */
function hostsInOtherNetwork(
  { index, tries }: Checking,
  link: Link,
  ref: PortRef,
  mode: PortMode,
  far: Device,
): Draft[] {
  const { portId } = farEnd(link, ref)
  const own = socketInterfaces(
    index,
    far,
    far.ports.findIndex(({ id }) => id === portId),
  )
  const wanted = own.find(({ tag }) => tag === UNTAGGED)?.network
  const untagged = untaggedVid(mode)
  if (!wanted || untagged === null || untagged === wanted.vlan) return []
  const landed = index.networkByVlan.get(untagged)?.name ?? `VLAN ${untagged}`
  const values = { ...labelOf(index, ref), hosts: far.name, wanted: wanted.name, landed }
  // Where its socket tags as well, an access port would cut that off.
  const mend = own.length > 1 || tries.left-- <= 0 ? null : accessMend(index, ref, mode, wanted.vlan)
  return [draft('E11', 'blocker', portPlace(ref), values, mend)]
}

/** What a VLAN-aware port does to the plain device behind it. */
function edgeFindings(checking: Checking, link: Link, ref: PortRef, mode: PortMode): Draft[] {
  const { index } = checking
  const near = index.devices.get(ref.deviceId)
  const far = index.devices.get(farEnd(link, ref).deviceId)
  if (!near || !far || !isVlanAware(near)) return []
  const intoSwitch = taggedIntoPlainSwitch(index, ref, mode, far)
  if (intoSwitch.length > 0 || link.medium.kind === 'wifi') return intoSwitch
  return hostsInOtherNetwork(checking, link, ref, mode, far)
}

function nativeFindings(index: PlanIndex, link: Link, modes: readonly [PortMode, PortMode]): Draft[] {
  const [native, otherNative] = [nativeVid(modes[0]), nativeVid(modes[1])]
  if (native === undefined || otherNative === undefined || native === otherNative) return []
  const [near, far] = [labelOf(index, link.a), labelOf(index, link.b)]
  return [
    draft('E03', 'blocker', portPlace(link.a), {
      device: near.device,
      port: near.port,
      native: native ?? 'none',
      otherDevice: far.device,
      otherPort: far.port,
      otherNative: otherNative ?? 'none',
    }),
  ]
}

function linkFindings(checking: Checking, link: Link): Draft[] {
  const { index } = checking
  const [first, second] = [index.devices.get(link.a.deviceId), index.devices.get(link.b.deviceId)]
  if (!first || !second) return []
  const modes = [modeFor(index, first, link.a, link), modeFor(index, second, link.b, link)] as const
  return [
    ...(isVlanAware(first) && isVlanAware(second) ? nativeFindings(index, link, modes) : []),
    ...edgeFindings(checking, link, link.a, modes[0]),
    ...edgeFindings(checking, link, link.b, modes[1]),
  ]
}

const NOTHING_FAILED: ReadonlySet<string> = new Set()

/** VLANs that a trunk carries although nothing beyond it needs them. */
function idleFindings(index: PlanIndex): Draft[] {
  return trunkProposals(index, NOTHING_FAILED)
    .filter((p) => p.prune.length > 0 && p.add.length === 0)
    .map(({ port, prune, before, after }) => {
      const values = { ...labelOf(index, port), vlans: prune.join(', ') }
      const mend: Mend = {
        code: 'prune',
        values: { vlans: values.vlans, port: values.port },
        changes: [set([...portPlace(port), 'mode'], before, after)],
      }
      return draft('E13', 'note', portPlace(port), values, mend)
    })
}

const loopFindings = (index: PlanIndex): Draft[] =>
  layer2Of(index, [])
    .loops()
    .map((loop) =>
      draft('E05', 'blocker', ['devices', loop[0] ?? ''], {
        devices: loop.map((id) => nameOf(index, id)).join(', '),
        key: loop.join(' '),
      }),
    )

/** Every finding of VLANs and loops, under all well. */
export function checkLayer2(index: PlanIndex): Draft[] {
  const told = new Set<string>()
  const checking: Checking = { index, tries: { left: MOST_TRIED } }
  // An unmanaged switch is told of once, whichever of its neighbours tag.
  const links = index.plan.links
    .flatMap((link) => linkFindings(checking, link))
    .filter((d) => d.code !== 'E04' || (!told.has(d.values.switch) && told.add(d.values.switch)))
  // Hosts in another network than theirs are told as that, and not as a gap in theirs.
  const landedElsewhere = new Set(links.filter((d) => d.code === 'E11').map((d) => d.place.join('/')))
  return [
    ...gapFindings(index).filter((f) => !landedElsewhere.has(f.place.join('/'))),
    ...index.plan.devices.flatMap((device) => portFindings(index, device)),
    ...links,
    ...idleFindings(index),
    ...loopFindings(index),
  ]
}
