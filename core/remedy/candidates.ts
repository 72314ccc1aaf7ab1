// Question: which single entry of a plan could be what keeps a flow from passing?
// Method: the flow is walked to where it ends; what decides there says which entries may be changed, and how.
// Source: the plan's own semantics; which repair a practitioner tries for which stop is common practice,
// without a source.
import { portKey } from '#core/queries'
import type { Intent, PortRef } from '#core/schema'
import type { Site, Walk, WalkLine } from '#core/reachability'
import type { Candidate } from './candidate'
import { addressCandidates, hostCandidates } from './host-candidates'
import { around, cableCandidates, nativeCandidates, portCandidates, swapCandidates } from './port-candidates'
import { ruleCandidates } from './rule-candidates'
import { wayCandidates } from './way-candidates'

export type { Candidate, RemedyCode } from './candidate'

/**
 * Everything that might let an intent's flow pass, going by where its walk ends.
 * `walk`: of a flow that the intent asks for and that does not pass.
 */
export function candidatesFor(site: Site, intent: Intent, walk: Walk): Candidate[] {
  const { plan, endpoints } = site
  const ends = [walk.flow.from, walk.flow.to].flatMap((id) => endpoints.find((e) => e.id === id) ?? [])
  const deviceIds = ends.map((e) => e.deviceId)
  const vlans = [
    ...new Set(ends.flatMap((e) => plan.networks.find((n) => n.id === e.homeNetworkId)?.vlan ?? [])),
  ]
  const refused = walk.lines.filter(
    (l): l is WalkLine & { kind: 'rule' } => l.kind === 'rule' && l.action !== 'accept',
  )
  const dropped = walk.lines.flatMap((l) => (l.kind === 'dropped-at' ? [l.port] : []))
  const suspects = [...dropped, ...around(site, deviceIds)].filter(
    (ref, i, all) => all.findIndex((r) => portKey(r) === portKey(ref)) === i,
  )
  const lines = plan.uplinks.map((u): PortRef => ({ deviceId: u.deviceId, portId: u.portId }))
  const stopped = walk.lines.some((l) => l.kind === 'stopped' && l.code !== 'rule')
  return [
    ...refused.flatMap((line) => ruleCandidates(plan, intent, walk, line)),
    ...(stopped
      ? [
          ...portCandidates(site, vlans, suspects),
          ...nativeCandidates(site),
          ...swapCandidates(site, suspects, vlans),
          ...cableCandidates(site, [...suspects, ...lines], vlans),
          ...addressCandidates(plan, deviceIds),
          ...hostCandidates(plan, deviceIds),
        ]
      : []),
    ...wayCandidates(site, intent, walk),
  ]
}
