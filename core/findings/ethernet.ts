// Question: will the cables and ports carry every VLAN to where it is needed?
// Method: knots of the VLAN threads, then each port and each cable by itself.
// Source:
// IEEE 802.1Q-2022 (VLANs), ISO/IEC 11801-1 (100 m copper channel); copper between buildings: common
// practice.
import { buildingOf } from '#core/brief'
import { CHANNEL_M, opticFor } from '#core/cabling'
import { vlanGaps, modeFor, trunkProposals } from '#core/layer2'
import {
  defineStage,
  endsOf,
  farEnd,
  findPort,
  isHost,
  isVlanAware,
  modelOf,
  specOf,
  tags,
  vidsOf,
  type Change,
  type Device,
  type Link,
  type OpticName,
  type PlanIndex,
  type PortMode,
  type PortRef,
} from '#core/model'
import { labelOf, portPlace, set, type Draft, type Finding } from './finding'
import { checkWired } from './wired'

export function tagOn(index: PlanIndex, ref: PortRef, vlan: number): Change | null {
  const mode = findPort(index, ref)?.mode
  if (mode?.mode !== 'trunk' || mode.tagged === 'all') return null
  return set([...portPlace(ref), 'mode'], mode, {
    mode: 'trunk',
    native: mode.native,
    tagged: [...mode.tagged, vlan].sort((a, b) => a - b),
  })
}

function knotFindings(index: PlanIndex): Draft[] {
  return vlanGaps(index, []).map((knot) => {
    const change = knot.mend === 'tag' ? tagOn(index, knot.port, knot.vlan) : null
    const affected = knot.affected.map((id) => index.devices.get(id)?.name ?? id)
    return {
      code: 'E02',
      severity: 'blocker',
      place: portPlace(knot.port),
      values: {
        network: index.networkHeads.get(knot.networkId)?.name ?? '',
        vlan: knot.vlan,
        ...labelOf(index, knot.port),
        affected: affected.join(', '),
        key: knot.vlan,
      },
      mend: change && {
        code: 'tag',
        values: { vlan: knot.vlan, ...labelOf(index, knot.port) },
        changes: [change],
      },
    }
  })
}

function portFindings(index: PlanIndex, device: Device): Draft[] {
  if (!isVlanAware(device)) return []
  return device.ports.flatMap((port) => {
    const strange = vidsOf(port.mode).filter((vid) => !index.networkByVlan.has(vid))
    if (strange.length === 0) return []
    const ref = { deviceId: device.id, portId: port.id }
    return strange.map((vlan): Draft => {
      const mode = port.mode
      const change =
        mode.mode === 'trunk' && mode.tagged !== 'all' && tags(mode, vlan)
          ? set([...portPlace(ref), 'mode'], mode, { ...mode, tagged: mode.tagged.filter((t) => t !== vlan) })
          : null
      return {
        code: 'E01',
        severity: 'warning',
        place: portPlace(ref),
        values: { vlan, ...labelOf(index, ref), key: vlan },
        mend: change && { code: 'untag', values: { vlan, ...labelOf(index, ref) }, changes: [change] },
      }
    })
  })
}

function linkFindings(index: PlanIndex, link: Link): Draft[] {
  const device = index.devices.get(link.a.deviceId)
  const second = index.devices.get(link.b.deviceId)
  if (!device || !second) return []
  const out: Draft[] = []
  const modes = [modeFor(index, device, link.a, link), modeFor(index, second, link.b, link)] as const
  const native = (mode: PortMode) => {
    if (mode.mode === 'access') return mode.vlan
    if (mode.mode === 'trunk') return mode.native
    return undefined
  }
  const [na, nb] = [native(modes[0]), native(modes[1])]
  if (isVlanAware(device) && isVlanAware(second) && na !== undefined && nb !== undefined && na !== nb) {
    const [at, to] = [labelOf(index, link.a), labelOf(index, link.b)]
    out.push({
      code: 'E03',
      severity: 'blocker',
      place: portPlace(link.a),
      values: {
        device: at.device,
        port: at.port,
        native: na ?? 'none',
        otherDevice: to.device,
        otherPort: to.port,
        otherNative: nb ?? 'none',
      },
      mend: null,
    })
  }
  for (const [ref, mode] of [
    [link.a, modes[0]],
    [link.b, modes[1]],
  ] as const)
    out.push(...edgeFindings(index, link, ref, mode))
  return [...out, ...copperFindings(index, link)]
}

function copperFindings(index: PlanIndex, link: Link): Draft[] {
  const { medium } = link
  const buildings = endsOf(link).map((ref) =>
    buildingOf(index.plan, index.devices.get(ref.deviceId)?.place ?? ''),
  )
  const between =
    medium.kind === 'copper' &&
    (medium.run === 'between' ||
      (buildings[0] !== null &&
        buildings[1] !== null &&
        buildings[0] !== buildings[1] &&
        medium.lengthM > SHORT_HOP_M))
  if (medium.kind !== 'copper' || (medium.lengthM <= CHANNEL_M && !between)) return []
  const [from, to] = endsOf(link).map((ref) => Object.values(labelOf(index, ref)).join(' '))
  return [
    {
      code: 'E07',
      severity: 'warning',
      place: ['links', link.id, 'medium'],
      values: { from: from ?? '', to: to ?? '', lengthM: medium.lengthM, between: between ? 1 : 0 },
      mend: moveToFibre(index, link, medium.lengthM),
    },
  ]
}

/** Between buildings a lead this short, as along a shared wall, is not told of (practice). */
const SHORT_HOP_M = 60

/**
 * Moves a cable to free fibre ports at both ends, with their lights; null where an end whose model is known
 * has none.
 */
function moveToFibre(index: PlanIndex, link: Link, lengthM: number): Finding['mend'] {
  const changes: Change[] = []
  let optic: OpticName | null = null
  for (const end of ['a', 'b'] as const) {
    const ref = link[end]
    const device = index.devices.get(ref.deviceId)
    const port = findPort(index, ref)
    if (!device || !port) return null
    if (!modelOf(index, device.model)) continue
    const free = device.ports.find(
      (port) =>
        specOf(index, { deviceId: device.id, portId: port.id })?.kind === 'sfp' &&
        !index.linksAt.has(`${device.id}/${port.id}`),
    )
    const speeds = free ? specOf(index, { deviceId: device.id, portId: free.id })?.speedsMbps : undefined
    optic ??= opticFor(
      'OS2',
      lengthM,
      (speeds ?? []).filter((s) => s <= 1000),
    )
    if (!free || optic === null) return null
    const place = portPlace({ deviceId: device.id, portId: free.id })
    changes.push(
      set([...place, 'mode'], free.mode, port.mode),
      set([...place, 'optic'], free.optic, optic),
      set([...portPlace(ref), 'mode'], port.mode, { mode: 'off' }),
      set(['links', link.id, end, 'portId'], ref.portId, free.id),
    )
  }
  changes.push(
    set(['links', link.id, 'medium'], link.medium, { kind: 'fibre', grade: 'OS2', lengthM, run: 'between' }),
  )
  return { code: 'fibre', values: { grade: 'OS2', optic: optic ?? '' }, changes }
}

/** VLANs that a trunk carries although nothing beyond it needs them. */
function idleFindings(index: PlanIndex): Draft[] {
  return trunkProposals(index, NOTHING_FAILED)
    .filter((p) => p.prune.length > 0 && p.add.length === 0)
    .map((proposal) => ({
      code: 'E13',
      severity: 'note',
      place: portPlace(proposal.port),
      values: { ...labelOf(index, proposal.port), vlans: proposal.prune.join(', ') },
      mend: {
        code: 'prune',
        values: { vlans: proposal.prune.join(', '), port: labelOf(index, proposal.port).port },
        changes: [set([...portPlace(proposal.port), 'mode'], proposal.before, proposal.after)],
      },
    }))
}

function untaggedVid(mode: PortMode): number | null {
  if (mode.mode === 'access') return mode.vlan
  return mode.mode === 'trunk' ? mode.native : null
}

/**
 * What a VLAN-aware port does to the plain device behind it: hosts in the wrong network, tags into an
 * unmanaged switch.
 */
function edgeFindings(index: PlanIndex, link: Link, ref: PortRef, mode: PortMode): Draft[] {
  const near = index.devices.get(ref.deviceId)
  const far = index.devices.get(farEnd(link, ref).deviceId)
  if (!near || !far || !isVlanAware(near)) return []
  const untagged = untaggedVid(mode)
  if (
    far.kind === 'unmanaged' &&
    mode.mode === 'trunk' &&
    (mode.tagged === 'all' || mode.tagged.length > 0)
  ) {
    const lands =
      untagged === null ? 'nowhere' : (index.networkByVlan.get(untagged)?.name ?? String(untagged))
    return [
      {
        code: 'E04',
        severity: 'note',
        place: portPlace(ref),
        values: { ...labelOf(index, ref), switch: far.name, lands },
        mend: null,
      },
    ]
  }
  const wanted = far.wants === null ? undefined : index.networkHeads.get(far.wants)
  if (!isHost(far) || !wanted || link.medium.kind === 'wifi' || untagged === null || untagged === wanted.vlan)
    return []
  const landed = index.networkByVlan.get(untagged)?.name ?? `VLAN ${untagged}`
  const place = [...portPlace(ref), 'mode']
  return [
    {
      code: 'E11',
      severity: 'blocker',
      place: portPlace(ref),
      values: { ...labelOf(index, ref), hosts: far.name, wanted: wanted.name, landed },
      mend: {
        code: 'access',
        values: { vlan: wanted.vlan, ...labelOf(index, ref) },
        changes: [set(place, mode, { mode: 'access', vlan: wanted.vlan })],
      },
    },
  ]
}

const NOTHING_FAILED: ReadonlySet<string> = new Set()
const findings = defineStage('layer 2 findings', layer2Findings)
/** Every finding of group E, under all well. */
export const checkEthernet = (index: PlanIndex): readonly Finding[] => index.get(findings)

function layer2Findings(index: PlanIndex): Finding[] {
  const e11 = new Set<string>()
  const told = new Set<string>()
  // An unmanaged switch is told of once, whichever of its neighbours tag.
  const links = index.plan.links
    .flatMap((link) => linkFindings(index, link))
    .filter((draft) => {
      if (draft.code !== 'E04') return true
      const name = String(draft.values['switch'])
      return !told.has(name) && told.add(name)
    })
  for (const draft of links) if (draft.code === 'E11') e11.add(draft.place.join('/'))
  const knots = knotFindings(index).filter((f) => !e11.has(f.place.join('/')))
  return [
    ...knots,
    ...index.plan.devices.flatMap((d) => portFindings(index, d)),
    ...links,
    ...idleFindings(index),
    ...checkWired(index),
  ].map((d) => ({ ...d, sheet: d.code === 'E08' ? ('power' as const) : ('loom' as const) }))
}
