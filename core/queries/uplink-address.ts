// Question: which address will a line have, and does one of its gateway's own networks hold it?
// Method: what the contract or an earlier look says, else the subnet that a routing modem in front hands out.
// Source: RFC 1812 section 2.2.5.2 (one subnet on one link); a router that is given one subnet on two interfaces
// refuses the second, or loses one of them (common practice, no source).
import { overlaps, parsePrefix4, readInterface4, type Prefix4 } from '#core/address'
import { orNull } from '#core/util'
import type { Network, Uplink } from '#core/schema'
import { farEnd, modelOf } from './lookup'
import { portKey, type PlanIndex } from './plan-index'

export interface LineAddress {
  readonly text: string
  readonly prefix: Prefix4
}

/** The address and subnet of a line, as far as it is known; null otherwise. */
export function lineAddress(index: PlanIndex, uplink: Uplink): LineAddress | null {
  const text = uplink.facts.address ?? (uplink.facts.modem === 'routing' ? modemAddress(index, uplink) : null)
  const own = text === null ? null : readInterface4(text)
  return text !== null && own ? { text, prefix: own.prefix } : null
}

/** The factory address of the modem on a line's port, from whose subnet it hands out. */
function modemAddress(index: PlanIndex, { deviceId, portId }: Uplink): string | null {
  const port = { deviceId, portId }
  for (const link of index.linksAt.get(portKey(port)) ?? []) {
    const factory = modelOf(index, index.devices.get(farEnd(link, port).deviceId)?.model ?? '')?.factory
    if (factory?.kind === 'dhcp-server') return factory.address
  }
  return null
}

/** The network of a line's own gateway that holds the line's address; null where none does. */
export function networkAroundUplink(index: PlanIndex, uplink: Uplink): Network | null {
  const own = lineAddress(index, uplink)
  if (!own) return null
  const around = index.plan.networks.find(({ routerId, subnet }) => {
    const prefix = orNull(parsePrefix4(subnet))
    return routerId === uplink.deviceId && prefix !== null && overlaps(prefix, own.prefix)
  })
  return around ?? null
}
