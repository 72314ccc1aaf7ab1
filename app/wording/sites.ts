import type { Plan } from '#core/schema'
import { count } from './count'

/** What a plan has, in one sentence. */
export function planSummary(plan: Plan): string {
  const of = (kind: string) => plan.devices.filter((device) => device.kind === kind).length
  const parts = [
    count(plan.networks.length, 'network'),
    count(plan.uplinks.length, 'internet connection'),
    count(of('gateway'), 'gateway'),
    count(of('switch'), 'switch', 'switches'),
    count(of('access-point'), 'access point'),
    count(plan.ssids.length, 'Wi-Fi name'),
    count(plan.policies.flatMap((policy) => policy.rules).length, 'rule'),
    count(plan.links.length, 'cable or radio link', 'cables and radio links'),
  ]
  return `${parts.filter((part) => !part.startsWith('0 ')).join(', ')}.`
}
