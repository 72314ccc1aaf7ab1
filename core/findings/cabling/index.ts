// Question: do speed, light, length and power fit at every cable, and every port what it is made for?
// Method: each link by its medium and its ends, each port by its model, each bundle by its members.
// Source: IEEE 802.3-2022 (speeds), IEEE 802.1AX (bundles), ISO/IEC 11801-1 (100 m copper channel); copper
// between buildings: common practice.
import { buildingOf } from '#core/brief'
import { CHANNEL_M, linkSpeed, opticFor } from '#core/cabling'
import { endsOf, findPort, hasTrait, modelOf, portKey, specOf, type PlanIndex } from '#core/queries'
import type { Change } from '#core/edit'
import type { Device, Link, OpticName, Port, DeviceId } from '#core/schema'
import { draft, labelOf, portPlace, set, type Draft, type Mend } from '../finding'
import { opticFindings } from './optics'
import { powerFindings } from './power'
import type { CablingValues } from './values'

function speedFindings(index: PlanIndex, link: Link): Draft[] {
  const speed = linkSpeed(index, link)
  const [from = '', to = ''] = endsOf(link).map((ref) => Object.values(labelOf(index, ref)).join(' '))
  const place = ['links', link.id, 'medium']
  if (speed.limit === 'no-common') return [draft('E06', 'blocker', place, { kind: 'no-common', from, to })]
  const { medium } = link
  if (speed.limit !== 'medium' || medium.kind !== 'copper' || medium.lengthM > CHANNEL_M) return []
  return [
    draft('E06', speed.mbps === null ? 'blocker' : 'warning', place, {
      kind: 'medium',
      from,
      to,
      mbps: speed.mbps ?? 0,
      offeredMbps: speed.offeredMbps ?? 0,
      category: medium.category,
      lengthM: medium.lengthM,
    }),
  ]
}

/** Ports of the gateway that are slower than the uplink behind them. */
function uplinkFindings(index: PlanIndex): Draft[] {
  return index.plan.uplinks.flatMap((uplink): Draft[] => {
    const ref = { deviceId: uplink.deviceId, portId: uplink.portId }
    const fastest = findPort(index, ref)?.speedMbps ?? Math.max(0, ...(specOf(index, ref)?.speedsMbps ?? []))
    const uplinkMbps = Math.max(uplink.downMbps, uplink.upMbps)
    if (fastest === 0 || fastest >= uplinkMbps) return []
    const values = { ...labelOf(index, ref), mbps: fastest, uplink: uplink.name, uplinkMbps, key: uplink.id }
    return [draft('E06', 'warning', portPlace(ref), { kind: 'uplink', ...values })]
  })
}

/** What a port is used for against its model; null where it fits. */
function misuseOf(index: PlanIndex, device: Device, port: Port, uplinkPorts: ReadonlySet<string>) {
  const ref = { deviceId: device.id, portId: port.id }
  const role = specOf(index, ref)?.role
  const { mode } = port.mode
  const asWan = mode === 'wan' || uplinkPorts.has(portKey(ref))
  if (role === 'lan' && asWan) return 'lan-as-wan' as const
  const inUse = (index.linksAt.get(portKey(ref))?.length ?? 0) > 0
  const asLan = !asWan && inUse && mode !== 'off' && mode !== 'routed'
  return role === 'wan' && asLan ? ('wan-as-lan' as const) : null
}

function roleFindings(index: PlanIndex): Draft[] {
  const uplinkPorts = new Set(index.plan.uplinks.map((u) => portKey(u)))
  return index.plan.devices
    .filter((device) => modelOf(index, device.model))
    .flatMap((device) =>
      device.ports.flatMap((port) => {
        const ref = { deviceId: device.id, portId: port.id }
        const kind = misuseOf(index, device, port, uplinkPorts)
        return kind ? [draft('E09', 'warning', portPlace(ref), { kind, ...labelOf(index, ref) })] : []
      }),
    )
}

/** An injector whose two cables are crossed: what wants power hangs on the side that gives none. */
function crossedFindings(index: PlanIndex, injector: Device): Draft[] {
  const cablesAt = (role: string) =>
    injector.ports
      .map((port) => ({ deviceId: injector.id, portId: port.id }))
      .filter((ref) => specOf(index, ref)?.role === role)
      .flatMap((ref) => index.linksAt.get(portKey(ref)) ?? [])
  const loadOn = (link: Link) =>
    endsOf(link).find((ref) => ref.deviceId !== injector.id && specOf(index, ref)?.load)
  const crossed = cablesAt('network').find(loadOn)
  if (!crossed || cablesAt('powered').some(loadOn)) return []
  const load = index.devices.get(loadOn(crossed)?.deviceId ?? '')?.name ?? ''
  const values = { kind: 'crossed' as const, device: injector.name, port: '' as const, load }
  return [draft('E09', 'blocker', ['devices', injector.id], values)]
}

type BundleTrouble = CablingValues['E12']['why']

/** The first thing that keeps the members of a bundle apart; null where nothing does. */
function bundleTrouble(index: PlanIndex, members: readonly Link[]): BundleTrouble | null {
  const [first] = members
  if (!first || members.length < 2) return 'alone'
  const pair = (link: Link) => [link.a.deviceId, link.b.deviceId].sort().join(' ')
  if (members.some((link) => pair(link) !== pair(first))) return 'other-device'
  const modesAt = (deviceId: DeviceId) =>
    members
      .flatMap(endsOf)
      .filter((ref) => ref.deviceId === deviceId)
      .map((ref) => JSON.stringify(findPort(index, ref)?.mode))
  if (endsOf(first).some((ref) => new Set(modesAt(ref.deviceId)).size > 1)) return 'modes'
  return new Set(members.map((link) => linkSpeed(index, link).mbps)).size > 1 ? 'speeds' : null
}

/** Bundles whose members do not belong together. */
function bundleFindings(index: PlanIndex): Draft[] {
  const names = new Set(index.plan.links.flatMap((l) => (l.lag === null ? [] : [l.lag])))
  return [...names].flatMap((lag): Draft[] => {
    const members = index.plan.links.filter((l) => l.lag === lag)
    const why = bundleTrouble(index, members)
    if (why === null) return []
    const place = ['links', members[0]?.id ?? '', 'lag']
    return [draft('E12', why === 'alone' ? 'note' : 'blocker', place, { lag, why, members: members.length })]
  })
}

/** What nothing leads to: no cable, no radio, no Wi-Fi. */
function looseFindings(index: PlanIndex): Draft[] {
  return index.plan.devices
    .filter((device) => hasTrait(device, 'placed'))
    .flatMap(({ id, name, kind, ports }): Draft[] => {
      const loose = ports.filter(
        (port) => !index.linksAt.get(portKey({ deviceId: id, portId: port.id }))?.length,
      )
      const isLoose = loose.length === ports.length
      if (!isLoose && (kind !== 'hosts' || loose.length === 0)) return []
      const values = { device: name, loose: loose.length, of: ports.length }
      return [draft('E14', isLoose ? 'warning' : 'note', ['devices', id], values)]
    })
}

/** Between buildings a lead this short, as along a shared wall, is not told of (practice). */
const SHORT_HOP_M = 60

/** True where copper goes from one building to another. */
function isBetween(index: PlanIndex, link: Link, lengthM: number): boolean {
  const [first, second] = endsOf(link).map((ref) =>
    buildingOf(index.plan, index.devices.get(ref.deviceId)?.place ?? ''),
  )
  return first !== null && second !== null && first !== second && lengthM > SHORT_HOP_M
}

function copperFindings(index: PlanIndex, link: Link): Draft[] {
  const { medium } = link
  if (medium.kind !== 'copper') return []
  const between = medium.run === 'between' || isBetween(index, link, medium.lengthM)
  if (medium.lengthM <= CHANNEL_M && !between) return []
  const [from = '', to = ''] = endsOf(link).map((ref) => Object.values(labelOf(index, ref)).join(' '))
  const values = { from, to, lengthM: medium.lengthM, between }
  return [
    draft('E07', 'warning', ['links', link.id, 'medium'], values, moveToFibre(index, link, medium.lengthM)),
  ]
}

/** Gigabit optics are what is usual between buildings; Mb/s. */
const USUAL_OPTIC_MBPS = 1000

/** A free fibre port of a device and a transceiver for it; null where there is none. */
function freeFibrePort(index: PlanIndex, device: Device, lengthM: number) {
  const port = device.ports.find(({ id }) => {
    const ref = { deviceId: device.id, portId: id }
    return specOf(index, ref)?.kind === 'sfp' && !index.linksAt.has(portKey(ref))
  })
  if (!port) return null
  const { speedsMbps = [] } = specOf(index, { deviceId: device.id, portId: port.id }) ?? {}
  const usual = speedsMbps.filter((mbps) => mbps <= USUAL_OPTIC_MBPS)
  return { port, optic: opticFor('OS2', lengthM, usual) }
}

/**
 * Moves a cable to free fibre ports at both ends, with their transceivers; null where an end whose model is
 * known has none.
 */
function moveToFibre(index: PlanIndex, link: Link, lengthM: number): Mend | null {
  const changes: Change[] = []
  let optic: OpticName | null = null
  for (const end of ['a', 'b'] as const) {
    const ref = link[end]
    const device = index.devices.get(ref.deviceId)
    const port = findPort(index, ref)
    if (!device || !port) return null
    if (!modelOf(index, device.model)) continue
    const free = freeFibrePort(index, device, lengthM)
    optic ??= free?.optic ?? null
    if (!free || optic === null) return null
    const place = portPlace({ deviceId: device.id, portId: free.port.id })
    changes.push(
      set([...place, 'mode'], free.port.mode, port.mode),
      set([...place, 'optic'], free.port.optic, optic),
      set([...portPlace(ref), 'mode'], port.mode, { mode: 'off' }),
      set(['links', link.id, end, 'portId'], ref.portId, free.port.id),
    )
  }
  const fibre = { kind: 'fibre', grade: 'OS2', lengthM, run: 'between' }
  changes.push(set(['links', link.id, 'medium'], link.medium, fibre))
  return { code: 'fibre', values: { grade: 'OS2', optic: optic ?? '' }, changes }
}

/** Findings of cables, ports and power, under all well. */
export function checkCabling(index: PlanIndex): Draft[] {
  return [
    ...powerFindings(index),
    ...index.plan.links.flatMap((link) => [
      ...speedFindings(index, link),
      ...opticFindings(index, link),
      ...copperFindings(index, link),
    ]),
    ...uplinkFindings(index),
    ...roleFindings(index),
    ...index.plan.devices.filter((d) => d.kind === 'injector').flatMap((d) => crossedFindings(index, d)),
    ...bundleFindings(index),
    ...looseFindings(index),
  ]
}
