import { down } from '#core/queries'
import { the, type LoosePlan } from '../plans'
import { provider, roads, route, spare, third, type HardCase } from './parts'

/** Two uplinks of one number, between which a hash of the sender chooses. */
const sharing = (plan: LoosePlan): void => {
  spare(plan)
  for (const uplink of plan.uplinks) uplink.priority = 1
}

/** Everybody may call the gateway, and a host inside is its default route. */
export const answering = (plan: LoosePlan): void => {
  roads(plan)
  route(plan, '0.0.0.0/0', '10.9.20.10')
  for (const policy of plan.policies) Object.assign(policy, { forward: 'accept', input: 'accept' })
}

/** Static default routes, beside uplinks that have numbers of their own and beside some that share. */
export const STATIC_DEFAULTS: readonly HardCase[] = [
  [
    'a static default route, and a gateway of one line that answers its callers: by that route',
    answering,
    [],
  ],
  [
    'the same gateway with two lines: by the line that was called',
    (plan) => (answering(plan), spare(plan)),
    [],
  ],
  [
    'the same gateway with a policy route: by the line that was called',
    (plan) => (
      provider(plan),
      route(plan, '0.0.0.0/0', '10.9.20.10'),
      plan.policies.forEach((policy) => void Object.assign(policy, { forward: 'accept', input: 'accept' }))
    ),
    [],
  ],
  [
    'a static default route: tunnels that the gateway dials go by it, and are down',
    (plan) => (roads(plan), route(plan, '0.0.0.0/0', '10.9.20.10')),
    [],
  ],
  [
    'a static default route beside uplinks that share: who comes from inside goes by them all the same',
    (plan) => (roads(plan), sharing(plan), route(plan, '0.0.0.0/0', '10.9.20.10')),
    [],
  ],
  [
    'the same, and one of both is cut',
    (plan) => (roads(plan), sharing(plan), route(plan, '0.0.0.0/0', '10.9.20.10')),
    [down('line')],
  ],
  [
    'the same, and both are cut',
    (plan) => (roads(plan), sharing(plan), route(plan, '0.0.0.0/0', '10.9.20.10')),
    [down('line'), down('spare')],
  ],
  [
    'a static default route beside uplinks that share, and a policy route whose tunnel is dead: else the next',
    (plan) => {
      provider(plan)
      sharing(plan)
      the(plan.tunnels, 'wg').peers[0]!.allowed = ['10.77.0.0/16']
      plan.policyRoutes[0]!.orElse = 'next'
      route(plan, '0.0.0.0/0', '10.9.20.10')
    },
    [],
  ],
  [
    'a static default route, an uplink of its own, and two that share behind it: tunnels go by the first',
    (plan) => (roads(plan), third(plan), route(plan, '0.0.0.0/0', '10.9.20.10')),
    [],
  ],
  [
    'the same, and the first is cut',
    (plan) => (roads(plan), third(plan), route(plan, '0.0.0.0/0', '10.9.20.10')),
    [down('line')],
  ],
]
