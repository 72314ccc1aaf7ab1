// Question: what must be tried on site to prove that the plan's intent holds?
// Method: each end of a radio link that is computed gives one test of its level; each intent gives one for every pair
// of groups it names and for every failure it must survive; each group gives one that nothing else passes; each serving
// network gives one of its DHCP, and each uplink that another stands in for one of the change-over.
import { outage } from '#core/failover'
import {
  byVlan,
  down,
  downIn,
  endsOf,
  indexPlan,
  uplinksInOrder,
  membersOf,
  nextUplink,
  type PlanIndex,
  type FailureScenario,
} from '#core/queries'
import { expectedDbm, TOLERANCE_DB, radioLinks } from '#core/radio'
import type { Intent, LinkId, Plan, Selector, NetworkId } from '#core/schema'
import { formatServices, isNothing, intersect, servicesOf } from '#core/filter'
import {
  GATEWAY,
  nameOfKey,
  matrixOf,
  INTERNET,
  zonesOfSelector,
  openSite,
  type MatrixCell,
  type ReachabilityMatrix,
  type Site,
} from '#core/reachability'
import { seenText } from './words'

export interface AcceptanceTest {
  /** Stable as long as the intent, network and failure it comes from keep their ids. */
  readonly id: string
  readonly kind: 'passes' | 'nothing-else' | 'lease' | 'failover' | 'level'
  /** Grid key of where it is tried from; empty for `level`. */
  readonly from: string
  /** Grid key of where to; empty for `nothing-else`, `lease` and `level`. */
  readonly to: string
  readonly intentId: string | null
  /** Device, link or uplink to take down first; empty for none. */
  readonly under: string
  /** What must pass, as text. */
  readonly services: string
  /** Longest time until traffic is on the next line, s; null where no time is asked for. */
  readonly withinS: number | null
  /** What an end of a radio link is to read, once it is aimed; null of all else. */
  readonly level: LevelWanted | null
}
export interface LevelWanted {
  readonly linkId: LinkId
  readonly end: 'a' | 'b'
  /** In clear weather; what an estimate may miss is left off. */
  readonly leastDbm: number
}

/** What was seen when a test was tried. */
export interface Observation {
  readonly testId: string
  readonly passed: boolean
  /** What was met: what failed to pass, or passed unasked; an address; `as intended`. */
  readonly value: string
}

const hasHosts = (plan: Plan, networkId: NetworkId): boolean =>
  plan.devices.some((d) => d.homeNetworkId === networkId && d.kind !== 'gateway')

/** Acceptance tests of one plan at most: more than a day's work of many people, and a moment's of a server. */
export const MOST_TESTS = 20_000

/** At most so many tests `testsOf` makes of the intents, without making any. */
export function countPassTests(plan: Plan): number {
  const index = indexPlan(plan)
  return plan.intents.reduce(
    (sum, { from, to, survives }) =>
      sum + (1 + survives.length) * zonesOfSelector(index, from).length * zonesOfSelector(index, to).length,
    0,
  )
}

function passTests(index: PlanIndex, intent: Intent): AcceptanceTest[] {
  const services = formatServices(servicesOf(intent.services, index.services))
  return ['', ...intent.survives].flatMap((under) =>
    zonesOfSelector(index, intent.from).flatMap((from) =>
      zonesOfSelector(index, intent.to)
        .filter((to) => to !== from)
        .map((to) => ({
          id: `passes:${intent.id}:${from}:${to}${under === '' ? '' : `:${under}`}`,
          kind: 'passes' as const,
          from,
          to,
          intentId: intent.id,
          under,
          services,
          withinS: null,
          level: null,
        })),
    ),
  )
}

/** Each line that another stands in for and that is probed: cut, it must be given up in time. */
function failoverTests(plan: Plan): AcceptanceTest[] {
  const uplinks = uplinksInOrder(plan)
  return uplinks.flatMap((uplink): AcceptanceTest[] => {
    const next = nextUplink(uplinks, uplink)
    return uplink.probe && next
      ? [
          {
            id: `failover:${uplink.id}`,
            kind: 'failover',
            from: GATEWAY,
            to: INTERNET,
            intentId: null,
            under: uplink.id,
            services: '',
            withinS: outage(uplink.probe, next).worstS,
            level: null,
          },
        ]
      : []
  })
}

/** Both ends of each radio link that can be computed. */
const levelTests = (index: PlanIndex): AcceptanceTest[] =>
  radioLinks(index).flatMap((link) =>
    (['a', 'b'] as const).flatMap((end): AcceptanceTest[] => {
      const expected = expectedDbm(link, end)
      if (expected === null) return []
      const leastDbm = Math.round(10 * (expected - TOLERANCE_DB)) / 10
      return [
        {
          id: `level:${link.id}:${end}`,
          kind: 'level',
          from: '',
          to: '',
          intentId: null,
          under: '',
          services: '',
          withinS: null,
          level: { linkId: link.id, end, leastDbm },
        },
      ]
    }),
  )

/**
 * The acceptance tests of a plan, in the order they are best tried: radio links, addresses, then what
 * passes, then changing over, then isolation.
 */
export function testsOf(plan: Plan): AcceptanceTest[] {
  const index = indexPlan(plan)
  const networks = byVlan(plan).filter((n) => hasHosts(plan, n.id))
  // Where no line leads in there is nobody outside to try anything.
  const callers = plan.uplinks.length > 0 ? [INTERNET] : []
  const blank = { to: '', intentId: null, under: '', services: '', withinS: null, level: null }
  return [
    ...levelTests(index),
    ...networks
      .filter((n) => n.dhcp === 'serve')
      .map((n) => ({ ...blank, id: `lease:${n.id}`, kind: 'lease' as const, from: n.id })),
    ...plan.intents.flatMap((intent) => passTests(index, intent)),
    ...failoverTests(plan),
    ...[...networks.map((n) => n.id), ...callers].map((from) => ({
      ...blank,
      id: `only:${from}`,
      kind: 'nothing-else' as const,
      from,
    })),
  ]
}

function leaseSeen(site: Site, test: AcceptanceTest): Observation {
  const clients = site.endpoints.filter((e) => e.homeNetworkId === test.from && e.how !== 'static')
  const without = clients.filter((e) => e.networkId !== test.from)
  const devices = without.map((e) => site.index.devices.get(e.deviceId)?.name ?? e.deviceId)
  return {
    testId: test.id,
    passed: without.length === 0,
    value: seenText(without.length === 0 ? { kind: 'leased' } : { kind: 'no-lease', devices }),
  }
}

/** By the settings that a site is built with: how late its gateway may be. */
function failoverSeen(built: Plan, test: AcceptanceTest): Observation {
  const uplink = built.uplinks.find((u) => u.id === test.under)
  const next = uplink && nextUplink(uplinksInOrder(built), uplink)
  const worstS = uplink?.probe && next ? outage(uplink.probe, next).worstS : null
  return {
    testId: test.id,
    passed: worstS !== null && worstS <= (test.withinS ?? 0),
    value: seenText(
      worstS === null || !next ? { kind: 'no-failover' } : { kind: 'failover', uplink: next.name, worstS },
    ),
  }
}

/** What an end of a link reads as it is built; nothing while the link, or one of its ends, is down. */
function levelSeen(index: PlanIndex, test: AcceptanceTest, down: ReadonlySet<string>): Observation {
  const link = radioLinks(index).find(({ id }) => id === test.level?.linkId)
  const isDown =
    !link || [link.id, ...endsOf(link.link).map(({ deviceId }) => deviceId)].some((id) => down.has(id))
  const levelDbm = isDown || !test.level ? null : expectedDbm(link, test.level.end)
  const passed = levelDbm !== null && test.level !== null && levelDbm >= test.level.leastDbm
  return { testId: test.id, passed, value: seenText({ kind: 'level', levelDbm }) }
}

function othersSeen(site: Site, grid: ReachabilityMatrix, test: AcceptanceTest): Observation {
  const leaks = grid.cells.filter((c) => c.from === test.from && c.judged && !isNothing(c.unexpected))
  const to = leaks.map((c) => ({ name: nameOfKey(site.index, c.to), services: c.unexpected }))
  return {
    testId: test.id,
    passed: leaks.length === 0,
    value: seenText(leaks.length === 0 ? { kind: 'nothing-else' } : { kind: 'leaks', to }),
  }
}

function passSeen(grid: ReachabilityMatrix, cell: MatrixCell | undefined, test: AcceptanceTest): Observation {
  const missing = grid.verdicts.find((v) => v.intentId === test.intentId)?.missing
  const lost = cell && missing ? intersect(cell.missing, missing) : null
  const passed = lost !== null && isNothing(lost)
  return {
    testId: test.id,
    passed,
    value: seenText(passed ? { kind: 'as-intended' } : { kind: 'lost', services: lost }),
  }
}

/** Devices that have an address of a group's own, of those that a selector speaks of. */
function membersIn(index: PlanIndex, key: string, selector: Selector): string[] {
  const named = membersOf(index, selector)
  return index.plan.devices
    .filter(
      (device) =>
        device.homeNetworkId === key &&
        device.kind !== 'gateway' &&
        named.some((s) => s.kind !== 'device' || s.id === device.id),
    )
    .map((d) => d.id)
}

/**
 * Who is off cannot be tried from, and does not answer: what is off of those a test is tried from or to; null
 * where it is tried all the same.
 */
function offIn(index: PlanIndex, test: AcceptanceTest, off: ReadonlySet<string>): string | null {
  if (off.size === 0) return null
  const intent = index.plan.intents.find((i) => i.id === test.intentId)
  const from = membersIn(index, test.from, intent?.from ?? { kind: 'any' })
  const silent =
    from.length > 0 && from.every((id) => off.has(id))
      ? from[0]
      : intent && membersIn(index, test.to, intent.to).find((id) => off.has(id))
  return silent === undefined ? null : (index.devices.get(silent)?.name ?? silent)
}

/**
 * Tries every test on a site as it is built, the way a person would: from the group named, under the failure
 * named, and with what is down anyway.
 */
export function tryTests(
  index: PlanIndex,
  tests: readonly AcceptanceTest[],
  scenario: FailureScenario = [],
): Observation[] {
  const opened = new Map<string, { site: Site; grid: ReachabilityMatrix }>()
  const under = (failed: string) => {
    const known = opened.get(failed)
    if (known) return known
    const site = openSite(index, failed === '' ? scenario : [...scenario, down(failed)])
    const made = { site, grid: matrixOf(site) }
    opened.set(failed, made)
    return made
  }
  const downNow = downIn(scenario)
  return tests.map((test) => {
    const { site, grid } = under(test.under)
    const off = test.kind === 'lease' || test.kind === 'passes' ? offIn(index, test, downNow) : null
    if (off !== null) return { testId: test.id, passed: false, value: seenText({ kind: 'off', device: off }) }
    if (test.kind === 'lease') return leaseSeen(site, test)
    if (test.kind === 'failover') return failoverSeen(index.plan, test)
    if (test.kind === 'level') return levelSeen(index, test, downNow)
    if (test.kind === 'nothing-else') return othersSeen(site, grid, test)
    return passSeen(
      grid,
      grid.cells.find((c) => c.from === test.from && c.to === test.to),
      test,
    )
  })
}

export type CellProof = 'proven' | 'contradicted' | 'open'

/**
 * What the results so far say of one cell of the grid: all its tests passed, one failed, or something is
 * still open.
 */
export function proofOfCell(
  tests: readonly AcceptanceTest[],
  passed: ReadonlyMap<string, boolean>,
  from: string,
  to: string,
): CellProof {
  const mine = tests.filter(
    (test) =>
      test.from === from &&
      ((test.kind === 'passes' && test.to === to && test.under === '') || test.kind === 'nothing-else'),
  )
  if (mine.length === 0) return 'open'
  const results = mine.map((t) => passed.get(t.id))
  const own = mine.filter((t) => t.kind === 'passes').map((t) => passed.get(t.id))
  if (own.includes(false)) return 'contradicted'
  return results.every((r) => r === true) ? 'proven' : 'open'
}
