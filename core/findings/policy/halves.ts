// Question: what do rules and intents leave half done: one direction, the way to management, IPv6, a network
// that nobody is in?
// Method: the matrices of both families, read for patterns that are mistakes more often than not.
// Source: generalisation and correlation of ordered rules (Al-Shaer and Hamed, 2004, from memory); the rest
// is common practice, without a source: management is the network that infrastructure has its addresses in,
// guests are where an SSID isolates.
import { hasTrait } from '#core/queries'
import { formatServices, intersect, isNothing, NOTHING, type ServiceSet } from '#core/filter'
import type { PlanIndex } from '#core/queries'
import type { Rule, Selector, Ssid } from '#core/schema'
import { GATEWAY, type ReachabilityMatrix, type Site } from '#core/reachability'
import { cellIn, passing, ipv6Excess } from '../cells'
import { draft, removed, set, type Draft, type Mend } from '../finding'
import { nameOfFlow, nameOfKey } from '#core/reachability'
import { refusal } from './repairs'

/**
 * Of so many refusals in one direction the other is mended; what else there is has a mend once these are
 * made.
 */
const MOST_MENDED = 20

/** Ends of a refusal between two networks; null where it is none, or the one network's with itself. */
function refusedPair({ action, chain, from, to }: Rule): readonly [from: string, to: string] | null {
  if (action === 'accept' || chain !== 'forward') return null
  if (from.kind !== 'network' || to.kind !== 'network' || from.id === to.id) return null
  return [from.id, to.id]
}

/** Refusals in one direction, where the other is open although nobody means it. */
export function oneWayFindings(index: PlanIndex, matrix: ReachabilityMatrix): Draft[] {
  let mended = 0
  return index.plan.policies.flatMap((policy) =>
    policy.rules.flatMap((rule, i): Draft[] => {
      const [from, to] = refusedPair(rule) ?? []
      if (from === undefined || to === undefined) return []
      const back = cellIn(matrix, to, from)
      const open = passing(back)
      if (isNothing(open) || !isNothing(back?.intended ?? NOTHING)) return []
      const values = {
        number: i + 1,
        from: nameOfKey(index, from),
        to: nameOfKey(index, to),
        services: formatServices(open),
      }
      const both = mended++ < MOST_MENDED ? refusal(index, to, from, rule.action) : null
      return [draft('P04', 'warning', ['policies', policy.deviceId, 'rules', rule.id], values, both?.mend)]
    }),
  )
}

/**
 * Where a gateway's own pages and shells usually listen:
 * SSH, Telnet, HTTP, HTTPS and their second ports (IANA), SNMP.
 */
const MANAGED_BY: ServiceSet = {
  tcp: [
    [22, 23],
    [80, 80],
    [443, 443],
    [8080, 8080],
    [8443, 8443],
  ],
  udp: [[161, 161]],
  icmp: false,
}

/** Networks that infrastructure has its addresses in, but for those of guests. */
function managedNetworks(index: PlanIndex, guests: ReadonlySet<string>): Set<string> {
  const homes = index.plan.devices.filter((d) => hasTrait(d, 'addressed')).map((d) => d.homeNetworkId)
  return new Set(homes.filter((id) => id !== null).filter((id) => !guests.has(id)))
}

export function managementFindings(index: PlanIndex, matrix: ReachabilityMatrix): Draft[] {
  const guests = new Set(index.plan.ssids.filter((s) => s.isolation).map((s) => s.networkId))
  const told = (from: string, to: string, open: ServiceSet): Draft[] => {
    if (isNothing(open)) return []
    const unasked = to !== GATEWAY && isNothing(cellIn(matrix, from, to)?.intended ?? NOTHING)
    const values = { from: nameOfKey(index, from), to: nameOfKey(index, to), services: formatServices(open) }
    const mend = unasked ? refusal(index, from, to, 'drop')?.mend : null
    return [draft('P05', 'blocker', ['cells', from, to], values, mend)]
  }
  return [...guests].flatMap((from) => [
    ...[...managedNetworks(index, guests)].flatMap((to) => told(from, to, passing(cellIn(matrix, from, to)))),
    ...told(from, GATEWAY, intersect(passing(cellIn(matrix, from, GATEWAY)), MANAGED_BY)),
  ])
}

/** True where the hosts of an SSID are meant to have all of the internet and nothing else, as guests have. */
function isForGuests({ plan }: PlanIndex, { networkId }: Ssid): boolean {
  const isOwn = (s: Selector) => s.kind === 'network' && s.id === networkId
  const own = plan.intents.filter((i) => isOwn(i.from))
  return (
    own.some((i) => i.to.kind === 'internet' && i.services.length === 0) &&
    own.every((i) => i.to.kind === 'internet' || i.to.kind === 'gateway') &&
    !plan.intents.some((i) => isOwn(i.to))
  )
}

/** Guests, as far as intents tell, on an SSID where they hear each other. */
export function guestFindings(index: PlanIndex): Draft[] {
  const { plan } = index
  // Where there is one network alone, its people are at home there.
  if (plan.networks.length < 2) return []
  return plan.ssids
    .filter((ssid) => !ssid.isolation && isForGuests(index, ssid))
    .map((ssid) => {
      const place = ['ssids', ssid.id, 'isolation']
      const values = { kind: 'air' as const, ssid: ssid.name }
      return draft('F04', 'note', place, values, {
        code: 'keep-apart',
        values,
        changes: [set(place, false, true)],
      })
    })
}

/** Guests that their SSID keeps apart in the air, while rules let them into networks that nobody means. */
export function openGuestFindings(index: PlanIndex, matrix: ReachabilityMatrix): Draft[] {
  const managed = managedNetworks(index, new Set())
  return index.plan.ssids
    .filter((ssid) => ssid.isolation && isForGuests(index, ssid))
    .flatMap((ssid) =>
      matrix.cells
        .filter(({ from, to }) => from === ssid.networkId && index.networks.has(to) && !managed.has(to))
        .filter((cell) => cell.judged && !isNothing(passing(cell)) && isNothing(cell.intended))
        .map((cell) => {
          const services = formatServices(passing(cell))
          const values = {
            kind: 'networks' as const,
            ssid: ssid.name,
            to: nameOfKey(index, cell.to),
            services,
          }
          const mend = refusal(index, cell.from, cell.to, 'drop')?.mend
          return draft('F04', 'warning', ['cells', cell.from, cell.to], values, mend)
        }),
    )
}

/** Who a selector names that is there, and has nobody in it; null otherwise. */
function emptyIn({ index, endpoints }: Site, selector: Selector): string | null {
  if (selector.kind === 'network' && index.networks.has(selector.id))
    return endpoints.some((e) => e.homeNetworkId === selector.id) ? null : nameOfKey(index, selector.id)
  if (selector.kind !== 'device') return null
  const device = index.devices.get(selector.id)
  return !device || endpoints.some((e) => e.deviceId === selector.id) ? null : device.name
}

/** Intents that nobody is there to ask for, or to answer: nothing can say whether they hold. */
export function emptyFindings(site: Site): Draft[] {
  return site.index.plan.intents.flatMap((intent) => {
    const who = emptyIn(site, intent.from) ?? emptyIn(site, intent.to)
    if (who === null) return []
    const place = ['intents', intent.id]
    const mend: Mend = {
      code: 'remove-intent',
      values: { intent: nameOfFlow(site.index, intent) },
      changes: [removed(place, intent)],
    }
    return [draft('P06', 'note', place, { intent: nameOfFlow(site.index, intent), who }, mend)]
  })
}

/** What passes by IPv6 and no intent asks for, beyond what IPv4 lets through unasked as well. */
export function ipv6Findings(index: PlanIndex, ipv4: ReachabilityMatrix, ipv6: ReachabilityMatrix): Draft[] {
  return ipv6.cells
    .filter((c) => c.judged)
    .flatMap((cell) => {
      const excess = ipv6Excess(ipv4, cell)
      if (isNothing(excess)) return []
      const [from, to] = [nameOfKey(index, cell.from), nameOfKey(index, cell.to)]
      const values = { from, to, services: formatServices(excess) }
      return [draft('P08', 'blocker', ['cells', cell.from, cell.to, 'six'], values)]
    })
}
