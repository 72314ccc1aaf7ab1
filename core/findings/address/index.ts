// Question: is every network's addressing legal, free of collisions and large enough?
// Method: each network by itself, then all of them together.
import { defineStage, type PlanIndex } from '#core/queries'
import type { Network } from '#core/schema'
import { onSheet, type Draft, type Finding } from '../finding'
import { fieldFindings, twiceFindings, unreservedFindings } from './assignments'
import { prefixFindings, typedSixFindings } from './ipv6'
import { readNetwork } from './network-text'
import { dhcpFindings, poolFindings, relayFindings } from './pools'
import { gatewayFindings, subnetFindings } from './subnets'

/** Findings of a network that nothing else in the plan can change. */
function ownFindings(network: Network): readonly Draft[] {
  const read = readNetwork(network)
  return [
    ...gatewayFindings(read),
    ...poolFindings(read),
    ...fieldFindings(read),
    ...dhcpFindings(read),
    ...typedSixFindings(network),
  ]
}

const findings = defineStage('address findings', ({ plan }): Finding[] => {
  const reads = plan.networks.map(readNetwork)
  const together = subnetFindings(plan, reads)
  const crossing = together.some((d) => d.code === 'A05')
  return onSheet('addresses', [
    ...plan.networks.flatMap(ownFindings),
    ...together,
    ...twiceFindings(plan, crossing),
    ...unreservedFindings(plan),
    ...plan.networks.flatMap((n) => relayFindings(plan, n)),
    ...prefixFindings(plan),
  ])
})
/** Every finding of group A. */
export const checkAddresses = (index: PlanIndex): readonly Finding[] => index.get(findings)

export { MOST_BLOCKED, poolSize } from './pools'
