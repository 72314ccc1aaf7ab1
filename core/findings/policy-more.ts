// Question: what do rules and intents leave half done: a service that never gets through, one direction, the
// way to management, IPv6?
// Method: the grids of both families and the rules' bits, read for patterns that are mistakes more often than
// not.
// Source: generalisation and correlation of ordered rules (Al-Shaer and Hamed, 2004, from memory); the rest
// is common practice, without a source: management is the network that infrastructure has its addresses in,
// guests are where an SSID isolates.
import type { Json, Plan, PlanIndex, Selector } from '#core/model'
import {
  formatServices,
  intersect,
  isNothing,
  minus,
  NOTHING,
  servicesOf,
  type ServiceSet,
} from '#core/filter'
import {
  GATEWAY,
  matrixOf,
  INTERNET,
  openSix,
  speaksSix,
  type ReachabilityMatrix,
  type Site,
} from '#core/reachability'
import { draft, set, type Draft } from './finding'
import { cellIn, nameOfKey, passing, refusal, sixExcess } from './repairs'

/**
 * Of so many refusals in one direction the other is mended; what else there is has a mend once these are
 * made.
 */
const MOST_MENDED = 20

/** Refusals in one direction, where the other is open although nobody means it. */
function oneWayFindings(index: PlanIndex, grid: ReachabilityMatrix): Draft[] {
  let mended = 0
  return index.plan.policies.flatMap((policy) =>
    policy.rules.flatMap((rule, i): Draft[] => {
      if (
        rule.action === 'accept' ||
        rule.chain !== 'forward' ||
        rule.from.kind !== 'network' ||
        rule.to.kind !== 'network'
      )
        return []
      const back = cellIn(grid, rule.to.id, rule.from.id)
      const open = passing(back)
      if (isNothing(open) || !isNothing(back?.intended ?? NOTHING)) return []
      return [
        draft(
          'P04',
          'warning',
          ['policies', policy.deviceId, 'rules', rule.id],
          {
            number: i + 1,
            from: nameOfKey(index, rule.from.id),
            to: nameOfKey(index, rule.to.id),
            services: formatServices(open),
          },
          mended++ < MOST_MENDED
            ? (refusal(index, rule.to.id, rule.from.id, rule.action)?.mend ?? null)
            : null,
        ),
      ]
    }),
  )
}

const INFRASTRUCTURE: ReadonlySet<string> = new Set([
  'switch',
  'access-point',
  'bridge-radio',
  'extender',
  'controller',
])
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

function managementFindings(index: PlanIndex, grid: ReachabilityMatrix): Draft[] {
  const { plan } = index
  const guests = new Set(plan.ssids.filter((s) => s.isolation).map((s) => s.networkId))
  const managed = new Set(
    plan.devices.flatMap((device) =>
      INFRASTRUCTURE.has(device.kind) && device.wants !== null && !guests.has(device.wants)
        ? [device.wants]
        : [],
    ),
  )
  const told = (from: string, to: string, open: ServiceSet) =>
    isNothing(open)
      ? []
      : [
          draft(
            'P05',
            'blocker',
            ['cells', from, to],
            { from: nameOfKey(index, from), to: nameOfKey(index, to), services: formatServices(open) },
            to !== GATEWAY && isNothing(cellIn(grid, from, to)?.intended ?? NOTHING)
              ? (refusal(index, from, to, 'drop')?.mend ?? null)
              : null,
          ),
        ]
  return [...guests].flatMap((from) => [
    ...[...managed].flatMap((to) => told(from, to, passing(cellIn(grid, from, to)))),
    ...told(from, GATEWAY, intersect(passing(cellIn(grid, from, GATEWAY)), MANAGED_BY)),
  ])
}

/**
 * Networks whose hosts are meant to have all of the internet and nothing else, on an SSID where they hear
 * each other: guests, as far as intents tell.
 */
function guestFindings({ plan }: PlanIndex): Draft[] {
  const isOf = (s: Selector, networkId: string) => s.kind === 'network' && s.id === networkId
  // Where there is one network alone, its people are at home there.
  if (plan.networks.length < 2) return []
  return plan.ssids
    .filter((s) => !s.isolation)
    .flatMap((ssid) => {
      const mine = plan.intents.filter((i) => isOf(i.from, ssid.networkId))
      const guests =
        mine.some((i) => i.to.kind === 'internet' && i.services.length === 0) &&
        mine.every((i) => i.to.kind === 'internet' || i.to.kind === 'gateway') &&
        !plan.intents.some((i) => isOf(i.to, ssid.networkId))
      const place = ['ssids', ssid.id, 'isolation']
      return guests
        ? [
            draft(
              'F04',
              'note',
              place,
              { ssid: ssid.name },
              { code: 'keep-apart', values: { ssid: ssid.name }, changes: [set(place, false, true)] },
            ),
          ]
        : []
    })
}

/** Intents that nobody is there to ask for, or to answer: nothing can say whether they hold. */
function emptyFindings(site: Site): Draft[] {
  const { index } = site
  const nobody = (selector: Selector): string | null => {
    if (selector.kind === 'network' && index.networks.has(selector.id))
      return site.endpoints.some((e) => e.wants === selector.id) ? null : nameOfKey(index, selector.id)
    if (selector.kind === 'device' && index.devices.has(selector.id))
      return site.endpoints.some((e) => e.deviceId === selector.id)
        ? null
        : (index.devices.get(selector.id)?.name ?? selector.id)
    return null
  }
  return index.plan.intents.flatMap((intent) => {
    const who = nobody(intent.from) ?? nobody(intent.to)
    return who === null
      ? []
      : [
          draft(
            'P06',
            'note',
            ['intents', intent.id],
            { intent: intent.note, who },
            {
              code: 'remove-intent',
              values: { intent: intent.note },
              changes: [
                {
                  kind: 'removed',
                  path: ['intents', intent.id],
                  before: intent as unknown as Json,
                  after: null,
                },
              ],
            },
          ),
        ]
  })
}

/** What passes by IPv6 and no intent asks for, beyond what IPv4 lets through unasked as well. */
function sixFindings(index: PlanIndex, grid: ReachabilityMatrix, six: ReachabilityMatrix): Draft[] {
  return six.cells
    .filter((c) => c.judged)
    .flatMap((cell) => {
      const services = sixExcess(grid, cell)
      return isNothing(services)
        ? []
        : [
            draft('P08', 'blocker', ['cells', cell.from, cell.to, 'six'], {
              from: nameOfKey(index, cell.from),
              to: nameOfKey(index, cell.to),
              services: formatServices(services),
            }),
          ]
    })
}

/** Who is sent into a tunnel by a policy route: networks by id. */
function sendersOf(plan: Plan, from: Selector): string[] {
  if (from.kind === 'group')
    return (plan.groups.find((g) => g.id === from.id)?.members ?? []).flatMap((m) => sendersOf(plan, m))
  switch (from.kind) {
    case 'network':
      return [from.id]
    case 'device':
      return plan.devices.flatMap((d) => (d.id === from.id && d.wants !== null ? [d.wants] : []))
    case 'any':
    case 'inside':
      return plan.networks.map((n) => n.id)
    default:
      return []
  }
}

/** Some senders go out by a tunnel: what goes beside it. */
function besideFindings(index: PlanIndex, six: ReachabilityMatrix | null): Draft[] {
  const { plan } = index
  return plan.policyRoutes
    .filter((r) => r.out.kind === 'tunnel')
    .flatMap((route): Draft[] => {
      const tunnel = plan.tunnels.find((t) => t.id === route.out.id)
      if (!tunnel) return []
      const place = ['policyRoutes', route.id]
      const senders = sendersOf(plan, route.from).flatMap((id) => index.networks.get(id) ?? [])
      const names = senders.map((n) => n.name).join(', ')
      const dns = isNothing(
        minus({ tcp: [], udp: [[53, 53]], icmp: false }, servicesOf(route.services, index.services)),
      )
      // Asked of the gateway, a name is looked up over the lines, whoever asks.
      const asking = senders.filter(
        (n) => !dns || n.options.dns.length === 0 || n.options.dns.includes(n.gateway),
      )
      const leaking = senders.filter(
        (n) => speaksSix(n) && six !== null && !isNothing(passing(cellIn(six, n.id, INTERNET))),
      )
      return [
        draft('V11', 'note', place, {
          tunnel: tunnel.name,
          who: names,
          services:
            route.services.length === 0
              ? 'everything'
              : route.services.map((id) => index.services.get(id)?.name ?? id).join(', '),
          rest: route.services.length === 0 ? 'no' : 'yes',
        }),
        ...(asking.length > 0
          ? [
              draft('V12', 'warning', place, {
                tunnel: tunnel.name,
                who: asking.map((n) => n.name).join(', '),
              }),
            ]
          : []),
        ...(leaking.length > 0
          ? [
              draft('V14', 'warning', place, {
                tunnel: tunnel.name,
                who: leaking.map((n) => n.name).join(', '),
              }),
            ]
          : []),
      ]
    })
}

/** The findings of this file. */
export function checkHalves(site: Site, grid: ReachabilityMatrix): Draft[] {
  const { index } = site
  const opened = openSix(index, [])
  const six = opened && matrixOf(opened)
  return [
    ...oneWayFindings(index, grid),
    ...managementFindings(index, grid),
    ...guestFindings(index),
    ...emptyFindings(site),
    ...(six ? sixFindings(index, grid, six) : []),
    ...besideFindings(index, six),
  ]
}
