import { internet, rule, toGateway } from '#server/demo/build'
import type { LoosePlan } from '../plans'
import { roads, rules, type HardCase } from './parts'

/** Hands a port of the first line to an address, and what follows it up to `to`. */
export const forward = (
  plan: LoosePlan,
  proto: 'tcp' | 'udp',
  from: number,
  toAddress: string,
  to = from,
): void =>
  void plan.forwards.push({
    id: `f${plan.forwards.length}`,
    deviceId: 'gate',
    uplinkId: 'line',
    proto,
    from,
    to,
    toPort: from,
    toAddress,
    hairpin: false,
    note: '',
  })
/** The internet may call everybody, and the gateway. */
export const openInside = (plan: LoosePlan): void =>
  void rules(plan).push(
    rule('in', internet, { kind: 'inside' }, [], ''),
    rule('self', internet, toGateway, [], '', 'input'),
  )

/** Ports that are handed inside, one before another, and back to the gateway. */
export const FORWARDS: readonly HardCase[] = [
  [
    'two forwards of one port: the first has it',
    (plan) => {
      openInside(plan)
      forward(plan, 'tcp', 443, '10.9.20.10')
      forward(plan, 'tcp', 440, '10.9.99.2', 445)
    },
    [],
  ],
  [
    'a forward back to the gateway: who calls its port gets it, also by another port',
    (plan) => {
      openInside(plan)
      for (const policy of plan.policies) policy.input = 'accept'
      forward(plan, 'tcp', 443, '10.9.10.1', 444)
      forward(plan, 'tcp', 8022, '10.9.20.1')
      plan.forwards[1]!.toPort = 22
    },
    [],
  ],
  [
    'a forward of the port at which a tunnel is dialled',
    (plan) => {
      roads(plan)
      forward(plan, 'udp', 51820, '10.9.20.10')
      plan.forwards[0]!.toPort = 5000
    },
    [],
  ],
  [
    'a forward of what the gateway would answer itself',
    (plan) => (openInside(plan), forward(plan, 'tcp', 443, '10.9.20.10')),
    [],
  ],
]
