// Question: which one rule mends what the grid shows: lets an intent through, or refuses what nobody means?
// Method: the rule is laid on the plan and the grid asked again; a repair is told only where what was wrong
// is right then, and nothing that was right is wrong.
// Source: the plan's own semantics; no figures used.
import { groupBy } from '#core/util'
import { atInstant, type PlanIndex, type FailureScenario } from '#core/queries'
import { changesBetween, freshId, type Change } from '#core/edit'
import type { Intent, Plan, Policy, Rule, Selector } from '#core/schema'
import { intersect, isNothing, minus, NOTHING, sameSet, servicesOf, type ServiceSet } from '#core/filter'
import {
  GATEWAY,
  matrixOf,
  openSite,
  openIpv6Site,
  outerGatewayId,
  peerKey,
  ruleEnds,
  selectorOf,
  verdictsOf,
  walkFlow,
  type MatrixCell,
  type FlowRef,
  type ReachabilityMatrix,
  type Site,
} from '#core/reachability'
import { cellIn, passing, ipv6Excess } from '../cells'
import type { Finding, Mend } from '../finding'
import { nameOfFlow, nameOfKey } from '#core/reachability'
import { refusalNote } from '../words'
import type { Under } from './values'

/** What a rule calls a row or column of the grid for IPv6 alone, where a network has a prefix of its own. */
function ipv6SelectorOf(plan: Plan, key: string): Selector | null {
  const prefix = plan.networks.find((n) => n.id === key)?.prefix6
  return prefix ? { kind: 'prefix', prefix } : selectorOf(plan, key)
}

/** A plan with one rule more, and the changes that make it. */
function withRule(
  plan: Plan,
  policy: Policy,
  rule: Rule,
  at: number,
): { readonly after: Plan; readonly changes: readonly Change[] } {
  const rules = policy.rules.toSpliced(at, 0, rule)
  return {
    after: { ...plan, policies: plan.policies.map((p) => (p === policy ? { ...p, rules } : p)) },
    changes: changesBetween(policy.rules, rules, ['policies', policy.deviceId, 'rules']),
  }
}
/** The gateway between two ends: the one that either is a network of, or the one that the internet sees. */
function policyBetween(index: PlanIndex, from: string, to: string): Policy | undefined {
  const home =
    index.networks.get(from)?.routerId ??
    index.networks.get(to)?.routerId ??
    index.plan.tunnels.find((t) => t.peers.some((p) => [from, to].includes(peerKey(p.id))))?.deviceId ??
    outerGatewayId(index.plan)
  return index.plan.policies.find((p) => p.deviceId === home)
}

/**
 * Services of the plan that together are exactly these; none for everything there is; null where no list of
 * them says it.
 */
function namesOf(index: PlanIndex, wanted: ServiceSet, all: ServiceSet): string[] | null {
  if (sameSet(wanted, all)) return []
  const ids = index.plan.services
    .map((s) => s.id)
    .filter((id) => {
      const own = servicesOf([id], index.services)
      return !isNothing(own) && isNothing(minus(own, wanted))
    })
  return sameSet(servicesOf(ids, index.services), wanted) && ids.length > 0 ? ids : null
}

/**
 * A refusal from one end to another before every other rule of the gateway between them, not tried; null
 * where none says it.
 */
export function refusal(
  index: PlanIndex,
  from: string,
  to: string,
  action: Rule['action'],
  { services = [], ipv6 = false }: { readonly services?: readonly string[]; readonly ipv6?: boolean } = {},
): { readonly mend: Mend; readonly after: Plan } | null {
  const { plan } = index
  const policy = policyBetween(index, from, to)
  const [first, second] = ipv6
    ? [ipv6SelectorOf(plan, from), ipv6SelectorOf(plan, to)]
    : [selectorOf(plan, from), selectorOf(plan, to)]
  if (!policy || !first || !second || from === GATEWAY) return null
  const note = refusalNote(nameOfKey(index, from), nameOfKey(index, to), ipv6)
  const { after, changes } = withRule(
    plan,
    policy,
    {
      id: freshId(policy.rules, 'refused'),
      chain: to === GATEWAY ? 'input' : 'forward',
      action,
      from: first,
      to: second,
      services: [...services],
      note,
      log: false,
      when: null,
    },
    0,
  )
  const named = services.map((id) => index.services.get(id)?.name ?? id).join(', ')
  return {
    after,
    mend: {
      code: 'refuse',
      values: {
        from: nameOfKey(index, from),
        to: nameOfKey(index, to),
        services: named,
        ipv6,
      },
      changes,
    },
  }
}

/** True where nothing that some intent asks for is withheld after that was not before. */
const keepsAll = (before: ReachabilityMatrix, after: ReachabilityMatrix): boolean =>
  after.verdicts.every((verdict) =>
    isNothing(
      minus(
        verdict.missing,
        before.verdicts.find((w) => w.intentId === verdict.intentId)?.missing ?? NOTHING,
      ),
    ),
  )

/**
 * A refusal of what passes between two ends and nobody means, tried.
 * `six`: of the IPv6 grid, beyond what IPv4 lets through as well.
 */
function refusalOf(
  index: PlanIndex,
  grid: ReachabilityMatrix,
  cell: MatrixCell,
  excess: ServiceSet,
  ipv6: boolean,
): Mend | null {
  const services = namesOf(index, excess, passing(cell))
  // What a schedule lets through at some times is not refused for good.
  if (services === null || index.plan.intents.some((i) => i.when !== null)) return null
  const tried = refusal(index, cell.from, cell.to, 'drop', { services, ipv6 })
  const after4 = tried && index.of(tried.after)
  const site = after4 && (ipv6 ? openIpv6Site(after4, []) : openSite(after4, []))
  if (!tried || !site) return null
  const after = matrixOf(site)
  const now = cellIn(after, cell.from, cell.to)
  const kept = isNothing(minus(intersect(passing(cell), cell.intended), passing(now)))
  return now && kept && isNothing(intersect(now.unexpected, excess)) && keepsAll(grid, after)
    ? tried.mend
    : null
}

/** Rules that one repair of an intent has at most: one for each way that parts of it take. */
const MOST_RULES = 3

/** The plan with a rule for one flow of an intent that a rule refuses; null where no rule refuses it. */
function withPermission(site: Site, intent: Intent, example: FlowRef | null) {
  const walk = example && walkFlow(site, example)
  const refused = walk?.lines.find((line) => line.kind === 'rule' && line.action !== 'accept')
  if (!walk || refused?.kind !== 'rule') return null
  const { plan } = site
  const policy = plan.policies.find((p) => p.deviceId === refused.deviceId)
  if (!policy) return null
  const found = policy.rules.findIndex((r) => r.id === refused.ruleId)
  const at = found === -1 ? policy.rules.length : found
  const rule: Rule = {
    id: freshId(policy.rules, 'added'),
    chain: refused.chain,
    action: 'accept',
    ...ruleEnds(plan, walk, refused.deviceId, intent),
    services: intent.services,
    note: intent.note,
    log: intent.log,
    when: intent.when,
  }
  return { after: withRule(plan, policy, rule, at).after, number: at + 1 }
}

/** True where something passes after that nobody means and that did not before. */
function opensMore(before: PlanIndex, after: PlanIndex, scenario: FailureScenario): boolean {
  const was = matrixOf(openSite(before, scenario))
  return matrixOf(openSite(after, scenario)).cells.some(
    ({ from, to, unexpected }) => !isNothing(minus(unexpected, cellIn(was, from, to)?.unexpected ?? NOTHING)),
  )
}

/** Rules that let an intent through where others refuse it, tried; null where few are not enough. */
function permissionFor({ index, plan }: Site, intent: Intent, scenario: FailureScenario): Mend | null {
  const numbers: number[] = []
  let now = plan
  for (let tries = 0; tries <= MOST_RULES; tries++) {
    const site = openSite(index.of(now), scenario)
    const [verdict] = verdictsOf(site, [intent])
    if (verdict && isNothing(verdict.missing)) break
    const next = tries < MOST_RULES ? withPermission(site, intent, verdict?.example ?? null) : null
    if (!next) return null
    numbers.push(next.number)
    now = next.after
  }
  if (numbers.length === 0 || opensMore(index, index.of(now), scenario)) return null
  const changes = changesBetween(plan, now)
  const values = { intent: nameOfFlow(index, intent), number: numbers[0] ?? 0, rules: numbers.length }
  return { code: 'permit', values, changes }
}

/**
 * Repairs of each kind of finding that are tried; what else is wrong is told without one until these are
 * made.
 */
const MOST_TRIED = 3

interface Matrices {
  readonly ipv4: ReachabilityMatrix
  /** Of IPv6; null where nobody asks. */
  readonly ipv6: ReachabilityMatrix | null
}

/** A rule that lets an intent through that does not hold; null where one rule is not enough. */
function permissionForIntent(index: PlanIndex, intentId: string, under: Under | null): Mend | null {
  const intent = index.plan.intents.find((i) => i.id === intentId)
  // Under a failure another rule seldom helps; at a time of the week it may.
  if (!intent || under?.kind === 'down' || under?.kind === 'rain') return null
  const scenario = under ? [atInstant(under.minute)] : []
  return permissionFor(openSite(index, scenario), intent, scenario)
}

function repairOf(index: PlanIndex, { ipv4, ipv6 }: Matrices, finding: Finding): Mend | null {
  const [, from = '', to = ''] = finding.place
  if (finding.code === 'P01' && finding.values.kind === 'missing')
    return permissionForIntent(index, from, finding.values.under)
  const ofIpv6 = finding.code === 'P08'
  const matrix = ofIpv6 ? ipv6 : ipv4
  const cell = matrix && cellIn(matrix, from, to)
  if (!cell || (finding.code === 'P01' && finding.values.under)) return null
  return refusalOf(index, matrix, cell, ofIpv6 ? ipv6Excess(ipv4, cell) : cell.unexpected, ofIpv6)
}

/**
 * The findings, with a mend for the first ones that tell what the matrix shows and that one rule mends.
 * Each trial asks for a matrix: too slow for every stroke of a key.
 */
export function withRepairs(index: PlanIndex, findings: readonly Finding[]): readonly Finding[] {
  const open = findings.filter((f) => f.mend === null && (f.code === 'P01' || f.code === 'P08'))
  if (open.length === 0) return findings
  const ipv6Site = open.some((f) => f.code === 'P08') ? openIpv6Site(index, []) : null
  const matrices = { ipv4: matrixOf(openSite(index, [])), ipv6: ipv6Site && matrixOf(ipv6Site) }
  const kinds = groupBy(open, (f) => `${f.code} ${f.place[0]}`)
  const tried = [...kinds.values()].flatMap((list) => list.slice(0, MOST_TRIED))
  const mends = new Map(tried.map((f) => [f, repairOf(index, matrices, f)] as const))
  return findings.map((f) => (mends.get(f) ? { ...f, mend: mends.get(f) ?? null } : f))
}
