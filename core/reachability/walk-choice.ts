// Question: what does a rule call the ends of a flow that is sent into a tunnel?
import type { DeviceId, Intent, Plan, PolicyRoute, Rule } from '#core/schema'
import type { Walk } from './walk'

/** The policy route that sends a walk into a tunnel at a device; undefined where none does. */
function tunnelChoice(plan: Plan, walk: Walk, deviceId: DeviceId): PolicyRoute | undefined {
  return walk.lines.flatMap((line) => {
    const isThere = line.kind === 'chosen' && line.deviceId === deviceId && !line.back
    if (!isThere || line.exit?.kind !== 'tunnel') return []
    return plan.policyRoutes.find(({ id }) => id === line.policyRouteId) ?? []
  })[0]
}

/**
 * The ends of a rule of a device for a flow that an intent asks for: those of the intent.
 * Where a policy route sends it into a tunnel, its sender and that tunnel, which is not the internet.
 */
export function ruleEnds(
  plan: Plan,
  walk: Walk,
  deviceId: DeviceId,
  { from, to }: Intent,
): Pick<Rule, 'from' | 'to'> {
  const choice = tunnelChoice(plan, walk, deviceId)
  return choice?.out.kind === 'tunnel' ? { from: choice.from, to: choice.out } : { from, to }
}
