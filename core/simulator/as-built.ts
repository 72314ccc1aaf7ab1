// Question: how does the site in the lab differ from the plan, and what does a new device meet there?
// Method: the plan with one fault laid on it; a device in factory state speaks untagged on its way to the
// gateway.
// Source:
// RFC 8572 section 5.1 (a device in factory state takes an address and asks); the faults are common practice.
import { formatIpv4, type Ipv4 } from '#core/address'
import { bridgeNode, cableTree, ingressVid, modeFor, UNTAGGED } from '#core/layer2'
import { indexPlan, isVlanAware, type PlanIndex } from '#core/queries'
import type { Plan, PortRef, DeviceId, NetworkId, RuleId, ServiceId } from '#core/schema'
import { leaseAt, openSite } from '#core/reachability'

/** A mistake made while building: one service left out of one rule. */
export interface LabFault {
  readonly kind: 'service-left-out'
  readonly deviceId: DeviceId
  readonly ruleId: RuleId
  readonly serviceId: ServiceId
}

/**
 * The site as the lab has built it: the plan, but for the fault.
 * A fault whose rule is gone changes nothing.
 */
export function asBuilt(plan: Plan, fault: LabFault | null): Plan {
  if (fault === null) return plan
  return {
    ...plan,
    policies: plan.policies.map((policy) =>
      policy.deviceId !== fault.deviceId
        ? policy
        : {
            ...policy,
            rules: policy.rules.flatMap((rule) => {
              if (rule.id !== fault.ruleId || !rule.services.includes(fault.serviceId)) return [rule]
              const services = rule.services.filter((id) => id !== fault.serviceId)
              return services.length === 0 ? [] : [{ ...rule, services }]
            }),
          },
    ),
  }
}

/** What a device of the lab shows of itself. */
export type LabSign =
  | 'none'
  | 'starting'
  | 'no-link'
  | 'no-address'
  | 'foreign'
  | 'no-controller'
  | 'looking'
  | 'unclaimed'
  | 'wrong-model'
  | 'firmware-old'
  | 'loading'
  | 'applying'
  | 'configured'
  | 'gave-up'
  | 'stopped'

/** What a device in factory state meets when it is plugged in and powered. */
export type PlugIn =
  | {
      readonly kind: 'lease'
      readonly networkId: NetworkId
      readonly address: string
      readonly controller: boolean
    }
  | { readonly kind: 'no-answer' }
  | { readonly kind: 'not-plugged' }

/** By device, the port at the other end of its cable towards the first gateway; none for what hangs on nothing. */
export function uplinkPeers(index: PlanIndex): ReadonlyMap<DeviceId, PortRef> {
  const gateway = index.plan.devices.find((device) => device.kind === 'gateway')
  const tree = gateway ? cableTree(index, new Set(), gateway.id) : new Map<never, null>()
  return new Map(
    [...tree].flatMap(([id, step]) =>
      step ? [[id, step.link.a.deviceId === id ? step.link.b : step.link.a] as const] : [],
    ),
  )
}

/**
 * Tries DHCP for a device in factory state at a port.
 * A plan without a controller is served from elsewhere: whoever has an address reaches that.
 * @param at the switch port its cable ends in
 * @param nth which address of the pool the server hands out, counted from 0; wraps at the pool's end
 */
export function plugIn(plan: Plan, at: PortRef | null, nth: number): PlugIn {
  if (at === null) return { kind: 'not-plugged' }
  const index = indexPlan(plan)
  const site = openSite(index, [])
  const peer = index.devices.get(at.deviceId)
  const link = index.linksAt.get(`${at.deviceId}/${at.portId}`)?.[0]
  if (!peer) return { kind: 'not-plugged' }
  const mode = link
    ? modeFor(index, peer, at, link)
    : (peer.ports.find((p) => p.id === at.portId)?.mode ?? { mode: 'off' as const })
  const vid = isVlanAware(peer) ? ingressVid(mode, UNTAGGED) : UNTAGGED
  if (vid === null) return { kind: 'no-answer' }
  const lease = leaseAt(site, bridgeNode(peer.id, vid))
  if (!lease) return { kind: 'no-answer' }
  const handed = lease.ranges.reduce((sum, r) => sum + r.to - r.from + 1, 0)
  let left = nth % handed
  const home = plan.devices.find((d) => d.kind === 'controller')?.homeNetworkId
  const isController = (id: NetworkId) => home === undefined || id === home
  for (const range of lease.ranges) {
    const size = range.to - range.from + 1
    if (left < size)
      return {
        kind: 'lease',
        networkId: lease.networkId,
        address: formatIpv4((range.from + left) as Ipv4),
        controller: isController(lease.networkId),
      }
    left -= size
  }
  return { kind: 'no-answer' }
}
