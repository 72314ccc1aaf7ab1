// Question: some senders go out by a tunnel; what of theirs goes beside it?
// Method: each policy route into a tunnel: names that are looked up, IPv6, other services.
// Source: common practice, without a published source.
import { isNothing, minus, servicesOf, type ServiceSet } from '#core/filter'
import type { PolicyRoute } from '#core/schema'
import type { PlanIndex } from '#core/queries'
import { INTERNET, speaksIpv6, zonesOfSelector, type ReachabilityMatrix } from '#core/reachability'
import { cellIn, passing } from '../cells'
import { nameOfEnd } from '#core/reachability'
import { draft, set, type Draft, type Mend } from '../finding'

const DNS: ServiceSet = { tcp: [], udp: [[53, 53]], icmp: false }

/** @param six the matrix of IPv6; null where nobody speaks it */
function besideFindings(index: PlanIndex, route: PolicyRoute, ipv6: ReachabilityMatrix | null): Draft[] {
  const tunnel = index.plan.tunnels.find((t) => t.id === route.out.id)?.name
  if (tunnel === undefined) return []
  const place = ['policyRoutes', route.id]
  const who = nameOfEnd(index, route.from)
  const senders = zonesOfSelector(index, route.from).flatMap((id) => index.networks.get(id) ?? [])
  const withDns = isNothing(minus(DNS, servicesOf(route.services, index.services)))
  // Asked of the gateway, a name is looked up over the lines, whoever asks.
  const asking = senders.filter(
    ({ options, gateway }) => !withDns || options.dns.length === 0 || options.dns.includes(gateway),
  )
  const leaking = senders.filter(
    (n) => speaksIpv6(n) && ipv6 !== null && !isNothing(passing(cellIn(ipv6, n.id, INTERNET))),
  )
  const all = route.services.length === 0
  const services = route.services.map((id) => index.services.get(id)?.name ?? id).join(', ')
  const out: Draft[] = [draft('V11', 'note', place, { tunnel, who, services, rest: !all })]
  if (asking.length > 0) out.push(draft('V12', 'warning', place, { tunnel, who }))
  if (leaking.length > 0) out.push(draft('V14', 'warning', place, { tunnel, who }))
  if (route.orElse === 'next') out.push(waitingFinding(route, tunnel, who))
  return out
}

/** A way on that is never taken: what the tunnel loses nobody sees. */
function waitingFinding({ id, orElse }: PolicyRoute, tunnel: string, who: string): Draft {
  const place = ['policyRoutes', id, 'orElse']
  const mend: Mend = { code: 'refuse-else', values: {}, changes: [set(place, orElse, 'refuse')] }
  return draft('V26', 'warning', place, { tunnel, who }, mend)
}

export const policyRouteFindings = (index: PlanIndex, ipv6: ReachabilityMatrix | null): Draft[] =>
  index.plan.policyRoutes
    .filter((route) => route.out.kind === 'tunnel')
    .flatMap((route) => besideFindings(index, route, ipv6))
