// Question: everything that is wrong with a plan, in a fixed order.
// Method: the union of all groups, blockers first, then by code and place.
import { byText } from '#core/util'
import { vlansOnLinks, vlanGaps, type VlanOnLink, type VlanGap } from '#core/layer2'
import { defineStage, type PlanIndex, type FailureScenario } from '#core/queries'
import { matrixOf, openSite, openIpv6Site, type ReachabilityMatrix } from '#core/reachability'
import { checkAddresses } from './address'
import { checkBrief } from './brief'
import { checkCabling } from './cabling'
import { findingKey, type Finding, type Severity } from './finding'
import { checkLayer2 } from './layer2'
import { checkPolicy } from './policy'
import { checkRadio } from './radio'
import { checkTunnels } from './tunnels'
import { checkUplinks } from './uplinks'
import { checkWifi } from './wifi'
import { checkWork } from './work'

const RANK: Readonly<Record<Severity, number>> = { blocker: 0, warning: 1, note: 2 }

/** Findings that make a network's own traffic fail, so that its lost intents need no finding of their own. */
const CRIPPLES: readonly Finding['code'][] = ['A01', 'A02', 'A03', 'A04', 'A05', 'A13', 'A25']

export interface Analysis {
  readonly findings: readonly Finding[]
  /** Under the scenario asked for. */
  readonly grid: ReachabilityMatrix
  readonly gaps: readonly VlanGap[]
  readonly carriedVlans: readonly VlanOnLink[]
}

/** Codes of the findings that a plan raises by itself, without the reach grid. */
export const WIRED_CODES = /^(A|D|E|W01|W07|W11|W17)/

/** Blockers first, then by code and place. */
export function sortFindings(findings: readonly Finding[]): Finding[] {
  // Ranks have one digit and codes three letters: one text compares as all three would, one after another.
  const keyed = findings.map((finding) => ({
    finding,
    key: `${RANK[finding.severity]}${finding.code}${findingKey(finding)}`,
  }))
  return keyed.sort((a, b) => byText(a.key, b.key)).map(({ finding }) => finding)
}

const ofWires = defineStage('cabling and layer 2 findings', (index): Finding[] => {
  const drafts = [...checkLayer2(index), ...checkCabling(index)]
  return drafts.map((d): Finding => ({ ...d, sheet: d.code === 'E08' ? 'power' : 'loom' }))
})

/** Every finding that the reach matrix is not needed for, nor the probes: what an edit answers first. */
export function findWired(index: PlanIndex): Finding[] {
  return sortFindings([...checkBrief(index), ...checkAddresses(index), ...index.get(ofWires)])
}

/**
 * The whole answer to an edit: findings of the plan as it is meant to run, matrix and carried VLANs under the
 * scenario.
 */
export function analyse(index: PlanIndex, scenario: FailureScenario): Analysis {
  const well = openSite(index, [])
  const ipv4 = matrixOf(well)
  const ipv6Site = openIpv6Site(index, [])
  const ipv6 = ipv6Site && matrixOf(ipv6Site)
  const now = scenario.length === 0 ? well : openSite(index, scenario)
  const address = checkAddresses(index)
  const blamed = new Set(
    address.filter((f) => f.severity === 'blocker' && CRIPPLES.includes(f.code)).map((f) => f.place[1] ?? ''),
  )
  const findings = [
    ...checkBrief(index),
    ...address,
    ...index.get(ofWires),
    ...checkUplinks(index),
    ...checkRadio(index),
    ...checkWifi(index),
    ...checkWork(index),
    ...checkTunnels(index, ipv4, ipv6),
    ...checkPolicy(well, { ipv4, ipv6 }, blamed),
  ]
  return {
    findings: sortFindings(findings),
    grid: now === well ? ipv4 : matrixOf(now),
    gaps: vlanGaps(index, now.scenario),
    carriedVlans: vlansOnLinks(index, now.scenario),
  }
}

export { checkPassphrases } from './wifi/kept-passphrases'
export { MOST_BLOCKED, poolSize } from './address'
export { withRepairs } from './policy/repairs'
export { acceptanceOf, findingKey, isAcceptance } from './finding'
export type { Finding, FindingCode, FindingValues, Mend, MendCode, MendValues, Severity } from './finding'
