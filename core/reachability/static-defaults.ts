// Question: does a static default route take what a gateway sends by itself, its tunnels among it?
// Method: rules choose an uplink for what is passed on; what the gateway sends itself knows the main table alone.
// Whether a next hop leads on to the internet is not followed: it is taken not to.
// Source: ip-rule(8) (`suppress_prefixlength 0` passes over default routes for marked packets); wg(8): a tunnel's
// own packets are sent by the gateway itself.
import { orNull } from '#core/util'
import { parsePrefix4 } from '#core/address'
import { nextHopPrefix } from '#core/filter'
import type { PlanIndex } from '#core/queries'
import type { DeviceId } from '#core/schema'

/** The lowest metric of each gateway's static default routes of IPv4 whose next hop is heard. */
export function staticDefaults(index: PlanIndex): ReadonlyMap<DeviceId, number> {
  const lowest = new Map<DeviceId, number>()
  for (const { deviceId, prefix, via, metric } of index.plan.routes) {
    if (orNull(parsePrefix4(prefix))?.length !== 0 || !nextHopPrefix(index, { deviceId, via })) continue
    lowest.set(deviceId, Math.min(lowest.get(deviceId) ?? metric, metric))
  }
  return lowest
}
