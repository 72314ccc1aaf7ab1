// Question: is every network's addressing legal, free of collisions and large enough?
// Method: each network by itself, then all of them together.
import { defineStage, type PlanIndex } from '#core/queries'
import type { Network, NetworkId, Plan } from '#core/schema'
import { onSheet, type Draft, type Finding } from '../finding'
import { claimTrouble, fieldFindings, twiceFindings, unreservedFindings } from './assignments'
import { prefixFindings, typedIpv6Findings } from './ipv6'
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
    ...typedIpv6Findings(network),
  ]
}

/** As many as a plan may have. */
const MOST_NETWORKS = 4094
/** A network by itself: an edit of another leaves all that hangs on it. */
const networkAlone = defineStage('a network', (index, id: NetworkId) => index.networks.get(id), {
  keys: MOST_NETWORKS,
})
const ofNetwork = defineStage(
  'address findings of a network',
  (index, id: NetworkId) => {
    const network = index.get(networkAlone, id)
    return {
      own: network ? ownFindings(network) : [],
      trouble: network ? claimTrouble(readNetwork(network)) : { strays: false, twice: false },
    }
  },
  { keys: MOST_NETWORKS },
)

/** An address that somebody has already is not offered as a gateway's. */
function withFreeGateway({ networks }: Plan, found: Draft): Draft {
  if (found.mend?.code !== 'use-gateway') return found
  const { ip } = found.mend.values
  const isTaken = networks.some((n) => n.gateway === ip || n.fixed.some((assignment) => assignment.ip === ip))
  return isTaken ? { ...found, mend: null } : found
}

const findings = defineStage('address findings', (index): Finding[] => {
  const { plan } = index
  const reads = plan.networks.map(readNetwork)
  const each = plan.networks.map(({ id }) => index.get(ofNetwork, id))
  const together = subnetFindings(index, reads)
  const crossing = together.some((d) => d.code === 'A05')
  return onSheet('addresses', [
    ...each.flatMap(({ own }) => own).map((found) => withFreeGateway(plan, found)),
    ...together,
    ...twiceFindings(
      plan,
      each.map(({ trouble }) => trouble),
      crossing,
    ),
    ...unreservedFindings(plan),
    ...plan.networks.flatMap((n) => relayFindings(plan, n)),
    ...prefixFindings(plan),
  ])
})
/** Every finding of group A. */
export const checkAddresses = (index: PlanIndex): readonly Finding[] => index.get(findings)

export { MOST_BLOCKED, poolSize } from './pools'
