// Question: is every static route taken?
// Method: its next hop against the subnets of its gateway, and routes of one prefix against each other.
// Source: RFC 1812 sections 4.2.2.11 and 5.2.4 (the longest prefix decides); ip-route(8): one route of a prefix and a
// metric.
import { contains, formatPrefix4, parsePrefix4 } from '#core/address'
import { localPrefixes, nextHopPrefix } from '#core/filter'
import { sharingGroups, uplinksInOrder, type PlanIndex } from '#core/queries'
import { orNull } from '#core/util'
import { draft, type Draft } from '../finding'

/** Routing rules choose among uplinks that share before any default route is asked for. */
const isBehindShared = ({ plan }: PlanIndex, gatewayId: string): boolean =>
  sharingGroups(uplinksInOrder(plan).filter(({ deviceId }) => deviceId === gatewayId)).length > 0

/** Static routes of IPv4 that no gateway takes, or not before its uplinks. */
export function routeFindings(index: PlanIndex): Draft[] {
  const { routes } = index.plan
  return routes.flatMap((route, place): Draft[] => {
    const prefix = orNull(parsePrefix4(route.prefix))
    if (!prefix) return []
    const { deviceId, via, metric } = route
    const gateway = index.devices.get(deviceId)?.name ?? deviceId
    const values = { prefix: route.prefix, via, gateway }
    if (!nextHopPrefix(index, route))
      return [draft('W20', 'blocker', ['routes', route.id, 'via'], { ...values, kind: 'unheard' })]
    const behind = (): Draft[] => [
      draft('W20', 'warning', ['routes', route.id, 'prefix'], { ...values, kind: 'behind' }),
    ]
    const isInside = localPrefixes(index, deviceId).some(
      (one) => prefix.length > one.prefix.length && contains(one.prefix, prefix.base),
    )
    if (isInside)
      return [draft('W20', 'warning', ['routes', route.id, 'prefix'], { ...values, kind: 'inside' })]
    const isSame = (other: string) => other === formatPrefix4(prefix)
    const own =
      metric === 0 && localPrefixes(index, deviceId).some((one) => isSame(formatPrefix4(one.prefix)))
    const first = routes
      .slice(0, place)
      .find((one) => one.deviceId === deviceId && one.metric === metric && isSame(one.prefix))
    if (!own && !first) return prefix.length === 0 && isBehindShared(index, deviceId) ? behind() : []
    const other = first?.via ?? ''
    return [draft('W20', 'warning', ['routes', route.id, 'prefix'], { ...values, kind: 'second', other })]
  })
}
