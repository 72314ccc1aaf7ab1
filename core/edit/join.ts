// Question: what changes in a plan when an extender or an access point joins another one by radio?
// Method: one link over Wi-Fi from a radio that sends the SSID; the SSID's stations hear whoever repeats it as well.
import { failableThings, joinedLinks, portKey } from '#core/queries'
import type { Device, DeviceId, Link, Plan, PortRef, SsidId } from '#core/schema'
import { groupBy, ok, problem, refuse, type Result } from '#core/util'
import { BLANK_LINK } from './blanks'
import { freshId } from './propose'

/** A device that sends an SSID, with the SSID. */
export interface Sender {
  readonly deviceId: DeviceId
  readonly ssidId: SsidId
}

const deviceOf = (plan: Plan, id: DeviceId) => plan.devices.find((device) => device.id === id)
type JoinedById = ReturnType<typeof joinedLinks>

const senderIn = (joined: JoinedById, id: DeviceId): Sender | null => {
  const { senderId, ssidId } = joined.get(id) ?? {}
  return senderId && ssidId ? { deviceId: senderId, ssidId } : null
}

/** The SSID that an extender or access point has joined, and where; null where it has joined none. */
export const joinedTo = (plan: Plan, id: DeviceId): Sender | null => senderIn(joinedLinks(plan), id)

/** Extenders that have joined an SSID, and so send it on. */
export function extendersWith(plan: Plan, ssidId: SsidId): Device[] {
  const joined = joinedLinks(plan)
  return plan.devices.filter(({ id, kind }) => kind === 'extender' && joined.get(id)?.ssidId === ssidId)
}

function sendingIn({ id, kind, ports }: Device, joined: JoinedById): PortRef | null {
  const radios = ports.filter(({ mode }) => mode.mode === 'radio' || kind === 'extender')
  const own = kind === 'extender' ? joined.get(id)?.own.portId : undefined
  const port = radios.findLast((one) => one.id !== own) ?? radios[0]
  return port ? { deviceId: id, portId: port.id } : null
}

/**
 * The port by which a device sends: the radio of an access point; of an extender one that it has not joined by, the
 * last where it has several.
 */
export const sendingPort = (plan: Plan, device: Device): PortRef | null =>
  sendingIn(device, joinedLinks(plan))

/** The port by which a device joins: the radio of an access point, the first of an extender. */
function joiningPort({ id, kind, ports }: Device): PortRef | null {
  const port = kind === 'extender' ? ports[0] : ports.find(({ mode }) => mode.mode === 'radio')
  return port ? { deviceId: id, portId: port.id } : null
}

/** True where what a device has joined leads back to another device, or to itself. */
function leadsTo(joined: JoinedById, from: DeviceId, target: DeviceId): boolean {
  const seen = new Set<DeviceId>()
  let at: DeviceId | undefined = from
  while (at !== undefined && !seen.has(at)) {
    if (at === target) return true
    seen.add(at)
    at = joined.get(at)?.senderId
  }
  return false
}

/**
 * Every SSID that a device could join, with who sends it; never what hangs on the device itself. Only extenders join
 * extenders.
 */
export function sendersFor(plan: Plan, device: Pick<Device, 'id' | 'kind'>): Sender[] {
  const joined = joinedLinks(plan)
  return plan.devices.flatMap((sender): Sender[] => {
    const { id, kind } = sender
    if (leadsTo(joined, id, device.id) || !sendingIn(sender, joined)) return []
    if (kind === 'extender') {
      const ssidId = device.kind === 'extender' ? joined.get(id)?.ssidId : undefined
      return ssidId ? [{ deviceId: id, ssidId }] : []
    }
    if (kind !== 'access-point') return []
    const sent = plan.ssids.filter(({ apIds }) => apIds.includes(id))
    return sent.map((ssid) => ({ deviceId: id, ssidId: ssid.id }))
  })
}

/** The plan without a device's cables by which it would reach another one as well: with its radio they are a ring. */
function uncabled(plan: Plan, deviceId: DeviceId, target: DeviceId): Plan {
  const isAir = ({ medium }: Link) => medium.kind === 'wifi'
  const others = groupBy(
    plan.links.filter((link) => !isAir(link)).flatMap(({ a, b }) => [[a, b] as const, [b, a] as const]),
    ([from]) => from.deviceId,
  )
  const reaches = (link: Link): boolean => {
    const seen = new Set([deviceId])
    const next = [link.a.deviceId === deviceId ? link.b.deviceId : link.a.deviceId]
    for (let at = next.pop(); at !== undefined; at = next.pop()) {
      if (at === target) return true
      if (seen.has(at)) continue
      seen.add(at)
      next.push(...(others.get(at) ?? []).map(([, to]) => to.deviceId))
    }
    return false
  }
  const isOwn = ({ a, b }: Link) => a.deviceId === deviceId || b.deviceId === deviceId
  return { ...plan, links: plan.links.filter((link) => isAir(link) || !isOwn(link) || !reaches(link)) }
}

/** The plan without what a device has joined. */
function offAir(plan: Plan, id: DeviceId): Plan {
  const joined = joinedLinks(plan).get(id)
  if (!joined) return plan
  return offAir({ ...plan, links: plan.links.filter((link) => link.id !== joined.link.id) }, id)
}

/**
 * An extender or an access point joins what another one sends, instead of a cable that leads there, or, with null,
 * nothing any more; whether it speaks four-address frames stays as it was.
 * Problems: no-such-device, no-radio where it has none or the other one does not send the SSID.
 */
export function joinSender(plan: Plan, deviceId: DeviceId, to: Sender | null): Result<Plan> {
  const device = deviceOf(plan, deviceId)
  if (!device) return refuse(problem('no-such-device', deviceId, { text: deviceId }))
  const off = offAir(plan, deviceId)
  if (!to) return ok(off)
  const isSent = sendersFor(off, device).some(
    (one) => one.deviceId === to.deviceId && one.ssidId === to.ssidId,
  )
  const sender = deviceOf(off, to.deviceId)
  const [far, own] = [sender && sendingPort(off, sender), joiningPort(device)]
  if (!isSent || !far || !own) return refuse(problem('no-radio', '', { text: device.name }))
  const id = freshId(failableThings(off), `${portKey(far)}-${portKey(own)}`.replaceAll('/', '.'))
  const fourAddress = joinedLinks(plan).get(deviceId)?.fourAddress ?? false
  const medium = { kind: 'wifi', ssidId: to.ssidId, fourAddress, suffix: '' } as const
  const { links } = uncabled(off, deviceId, to.deviceId)
  return ok({ ...off, links: [...links, { id, a: far, b: own, medium, ...BLANK_LINK }] })
}

/** The plan without whoever has joined an SSID where it is not sent any more. */
export function withoutUnsent(plan: Plan, ssidId: SsidId): Plan {
  const apIds = plan.ssids.find(({ id }) => id === ssidId)?.apIds ?? []
  const unsent = [...joinedLinks(plan)].filter(
    ([, to]) =>
      to.ssidId === ssidId &&
      !apIds.includes(to.senderId) &&
      deviceOf(plan, to.senderId)?.kind !== 'extender',
  )
  return unsent.reduce((now, [id]) => offAir(now, id), plan)
}
