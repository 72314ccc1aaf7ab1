// Question: what is a thing of the plan called, in a finding or a test?
import { peerNamed, type PlanIndex } from '#core/queries'
import type { Selector } from '#core/schema'
import { GATEWAY, INTERNET, peerKey } from './zones'

/** Name of a thing that can fail: a device, an uplink, or a link by its ends. */
export function nameOfThing(index: PlanIndex, id: string): string {
  const { uplinks, tunnels } = index.plan
  const named =
    uplinks.find((u) => u.id === id) ?? tunnels.find((t) => t.id === id) ?? peerNamed(index.plan, id)
  if (named) return named.name
  const device = index.devices.get(id)
  if (device) return device.name
  const link = index.plan.links.find((l) => l.id === id)
  if (!link) return id
  return [link.a, link.b]
    .map((ref) => `${index.devices.get(ref.deviceId)?.name ?? ref.deviceId} ${ref.portId.replace(/^p/, '')}`)
    .join(' to ')
}

/** Name of an end of a rule. */
export function nameOfEnd(index: PlanIndex, end: Selector): string {
  if (end.kind === 'prefix') return end.prefix
  return 'id' in end
    ? (index.networks.get(end.id)?.name ?? index.groups.get(end.id)?.name ?? nameOfThing(index, end.id))
    : end.kind
}

/** What a rule or an intent says of itself, or its two ends where it says nothing. */
export const nameOfFlow = (
  index: PlanIndex,
  { note, from, to }: { readonly note: string; readonly from: Selector; readonly to: Selector },
): string => (note.trim() === '' ? `${nameOfEnd(index, from)} to ${nameOfEnd(index, to)}` : note)

/** Name of a row or column of the reach matrix. */
export function nameOfKey(index: PlanIndex, key: string): string {
  if (key === GATEWAY) return 'Gateway'
  if (key === INTERNET) return 'Internet'
  return index.networks.get(key)?.name ?? peerNamed(index.plan, key.slice(peerKey('').length))?.name ?? key
}
