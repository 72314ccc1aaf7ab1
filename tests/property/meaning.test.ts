import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ipv4 } from '#core/address'
import { includes } from '#core/filter'
import { atInstant, indexPlan } from '#core/queries'
import { flowBetween, openSite, type Party, type Site } from '#core/reachability'
import type { Plan, Protocol, Rule, Selector } from '#core/schema'
import { inNetwork, inside, internet, rule, theDevice, toGateway } from '#server/demo/build'
import { isLetThrough, type Packet, type Who } from '../fixtures/slow-rules'
import { site, type LoosePlan } from '../plans'

// The plan language by examples, from what its words say and from the standards named beside them; run on the engine
// and on a slow one that shares nothing with it. Then rules by chance, on both.

const DESK: Who = { kind: 'host', address: '10.9.10.150', networkId: 'staff' }
const BOX: Who = { kind: 'host', address: '10.9.20.10', networkId: 'servers' }
const OUT: Who = { kind: 'internet', address: '198.51.100.7' }
const GATE: Who = { kind: 'gateway' }
const numberOf = (text: string) => ipv4(text.split('.').reduce((sum, part) => sum * 256 + Number(part), 0))

function endOf(world: Site, who: Who, facing: Who): { party: Party; address: ReturnType<typeof ipv4> } {
  if (who.kind === 'internet') return { party: { kind: 'internet' }, address: numberOf(who.address) }
  if (who.kind === 'gateway')
    return {
      party: { kind: 'gateway', deviceId: 'gate' },
      address: numberOf(facing === DESK ? '10.9.10.1' : '10.9.20.1'),
    }
  const endpoint = world.endpoints.find(({ homeNetworkId }) => homeNetworkId === who.networkId)
  if (!endpoint) throw new Error(`nobody stands in ${who.networkId}`)
  return { party: { kind: 'endpoint', endpoint }, address: numberOf(who.address) }
}
function engineLetsThrough(plan: Plan, { from, to, proto, port, minute }: Packet): boolean {
  const world = openSite(indexPlan(plan), [atInstant(minute)])
  return includes(flowBetween(world, endOf(world, from, to), endOf(world, to, from)).services, proto, port)
}

const MONDAY_10 = 10 * 60
const packet = (from: Who, to: Who, proto: Protocol, port: number, minute = MONDAY_10): Packet => ({
  from,
  to,
  proto,
  port,
  minute,
})
/** A gateway with these rules alone. */
const ruled = (rules: readonly Rule[], change: (plan: LoosePlan) => void = () => undefined): Plan =>
  site((plan) => {
    plan.policies[0]!.rules = structuredClone(rules) as LoosePlan['policies'][0]['rules']
    change(plan)
  })
const accept = (from: Selector, to: Selector, services: readonly string[] = []) =>
  rule(`accept ${JSON.stringify([from, to, services])}`.slice(0, 60), from, to, services, '')
const drop = (from: Selector, to: Selector, services: readonly string[] = []): Rule => ({
  ...accept(from, to, services),
  id: `drop ${JSON.stringify([from, to])}`.slice(0, 60),
  action: 'drop',
})
const prefix = (text: string): Selector => ({ kind: 'prefix', prefix: text })
const ofGroup: Selector = { kind: 'group', id: 'people' }
const grouped =
  (...members: Exclude<Selector, { kind: 'group' }>[]) =>
  (plan: LoosePlan): void =>
    void plan.groups.push({ id: 'people', name: 'People', members: structuredClone(members) as never })
const timed =
  (days: readonly number[], from: string, to: string) =>
  (plan: LoosePlan): void => {
    plan.schedules.push({ id: 'hours', name: 'Hours', days: [...days], from, to })
    plan.policies[0]!.rules[0]!.when = 'hours'
  }
const at = (day: number, time: string): number =>
  (day - 1) * 1440 + Number(time.slice(0, 2)) * 60 + Number(time.slice(3))
const [STAFF, SERVERS] = [inNetwork('staff'), inNetwork('servers')]

const EXAMPLES: readonly (readonly [what: string, plan: Plan, packet: Packet, passes: boolean])[] = [
  // Ordered lists: nft(8), "the first matching verdict ends the evaluation".
  [
    'the first rule that fits decides: accepted',
    ruled([accept(STAFF, SERVERS), drop(STAFF, SERVERS)]),
    packet(DESK, BOX, 'tcp', 22),
    true,
  ],
  [
    'the first rule that fits decides: dropped',
    ruled([drop(STAFF, SERVERS), accept(STAFF, SERVERS)]),
    packet(DESK, BOX, 'tcp', 22),
    false,
  ],
  [
    'a rule of another service is passed over',
    ruled([drop(STAFF, SERVERS, ['ssh']), accept(STAFF, SERVERS)]),
    packet(DESK, BOX, 'tcp', 23),
    true,
  ],
  ['a rule speaks of one direction', ruled([accept(SERVERS, STAFF)]), packet(DESK, BOX, 'tcp', 22), false],
  [
    'what is rejected does not pass',
    ruled([{ ...drop(STAFF, SERVERS), action: 'reject' }]),
    packet(DESK, BOX, 'tcp', 22),
    false,
  ],
  [
    'a rule that logs lets through all the same',
    ruled([{ ...accept(STAFF, SERVERS), log: true }]),
    packet(DESK, BOX, 'tcp', 22),
    true,
  ],
  // Ports as registered (RFC 6335): DNS 53 over both, HTTPS 443, SSH 22.
  [
    'an empty list of services is all of them',
    ruled([accept(STAFF, SERVERS)]),
    packet(DESK, BOX, 'udp', 65_535),
    true,
  ],
  ['DNS is TCP too', ruled([accept(STAFF, SERVERS, ['dns'])]), packet(DESK, BOX, 'tcp', 53), true],
  [
    'HTTPS is no other port',
    ruled([accept(STAFF, SERVERS, ['https'])]),
    packet(DESK, BOX, 'tcp', 444),
    false,
  ],
  ['SSH is not UDP', ruled([accept(STAFF, SERVERS, ['ssh'])]), packet(DESK, BOX, 'udp', 22), false],
  ['a ping is of ICMP alone', ruled([accept(STAFF, SERVERS, ['ping'])]), packet(DESK, BOX, 'icmp', 0), true],
  [
    'the last port of a range is in it',
    ruled([accept(STAFF, SERVERS, ['calls'])]),
    packet(DESK, BOX, 'udp', 16_482),
    true,
  ],
  [
    'the next one is not',
    ruled([accept(STAFF, SERVERS, ['calls'])]),
    packet(DESK, BOX, 'udp', 16_483),
    false,
  ],
  [
    'the first port of a range is in it',
    ruled([accept(STAFF, SERVERS, ['calls'])]),
    packet(DESK, BOX, 'udp', 16_384),
    true,
  ],
  [
    'the one before is not',
    ruled([accept(STAFF, SERVERS, ['calls'])]),
    packet(DESK, BOX, 'udp', 16_383),
    false,
  ],
  // Who is meant.
  ['inside is not the internet', ruled([accept(inside, inside)]), packet(DESK, OUT, 'tcp', 80), false],
  ['inside is every network', ruled([accept(inside, inside)]), packet(BOX, DESK, 'tcp', 80), true],
  [
    'a rule to the gateway says so by its chain',
    ruled([{ ...accept(inside, inside), chain: 'input' }]),
    packet(DESK, GATE, 'tcp', 80),
    true,
  ],
  [
    'any is the internet too',
    ruled([accept({ kind: 'any' }, { kind: 'any' })]),
    packet(DESK, OUT, 'tcp', 80),
    true,
  ],
  [
    'the internet is no network of the site',
    ruled([accept(STAFF, internet)]),
    packet(DESK, BOX, 'tcp', 80),
    false,
  ],
  [
    'a rule through the gateway says nothing of itself',
    ruled([accept({ kind: 'any' }, { kind: 'any' })]),
    packet(DESK, GATE, 'tcp', 22),
    false,
  ],
  [
    'a rule to the gateway says nothing of others',
    ruled([{ ...accept({ kind: 'any' }, { kind: 'any' }), chain: 'input' }]),
    packet(DESK, BOX, 'tcp', 22),
    false,
  ],
  [
    'the gateway by its name',
    ruled([{ ...accept(STAFF, toGateway, ['dns']), chain: 'input' }]),
    packet(DESK, GATE, 'udp', 53),
    true,
  ],
  ['a device is its address', ruled([accept(STAFF, theDevice('box'))]), packet(DESK, BOX, 'tcp', 22), true],
  ['another device is not', ruled([accept(STAFF, theDevice('sw'))]), packet(DESK, BOX, 'tcp', 22), false],
  // RFC 4632: 10.9.20.8/30 is .8 to .11, 10.9.20.12/30 is .12 to .15.
  [
    'a prefix holds its addresses',
    ruled([accept(STAFF, prefix('10.9.20.8/30'))]),
    packet(DESK, BOX, 'tcp', 22),
    true,
  ],
  ['and none beside', ruled([accept(STAFF, prefix('10.9.20.12/30'))]), packet(DESK, BOX, 'tcp', 22), false],
  [
    'a prefix speaks of the internet too',
    ruled([accept(STAFF, prefix('198.51.100.0/24'))]),
    packet(DESK, OUT, 'tcp', 22),
    true,
  ],
  [
    'a group is any of its members',
    ruled([accept(ofGroup, SERVERS)], grouped(internet, STAFF)),
    packet(DESK, BOX, 'tcp', 22),
    true,
  ],
  [
    'a group without members is nobody',
    ruled([accept(ofGroup, SERVERS)], grouped()),
    packet(DESK, BOX, 'tcp', 22),
    false,
  ],
  // What is left.
  [
    'no rule: through the gateway as its policy says',
    ruled([], (plan) => void (plan.policies[0]!.forward = 'accept')),
    packet(DESK, BOX, 'tcp', 22),
    true,
  ],
  [
    'no rule: to the gateway as its other policy says',
    ruled([], (plan) => void (plan.policies[0]!.forward = 'accept')),
    packet(DESK, GATE, 'tcp', 22),
    false,
  ],
  [
    'a pair of ends goes before the policy',
    ruled(
      [],
      (plan) => void plan.policies[0]!.pairs.push({ id: 'p', from: STAFF, to: SERVERS, action: 'accept' }),
    ),
    packet(DESK, BOX, 'tcp', 22),
    true,
  ],
  [
    'the first pair that fits decides',
    ruled(
      [],
      (plan) =>
        void plan.policies[0]!.pairs.push(
          { id: 'p', from: inside, to: inside, action: 'drop' },
          { id: 'q', from: STAFF, to: SERVERS, action: 'accept' },
        ),
    ),
    packet(DESK, BOX, 'tcp', 22),
    false,
  ],
  [
    'a rule goes before a pair',
    ruled(
      [drop(STAFF, SERVERS, ['ssh'])],
      (plan) => void plan.policies[0]!.pairs.push({ id: 'p', from: STAFF, to: SERVERS, action: 'accept' }),
    ),
    packet(DESK, BOX, 'tcp', 22),
    false,
  ],
  // Times: the beginning is in, the end is not; days by ISO 8601, Monday is 1.
  [
    'in office hours',
    ruled([accept(STAFF, SERVERS)], timed([1], '08:00', '18:00')),
    packet(DESK, BOX, 'tcp', 22, at(1, '08:00')),
    true,
  ],
  [
    'at their end',
    ruled([accept(STAFF, SERVERS)], timed([1], '08:00', '18:00')),
    packet(DESK, BOX, 'tcp', 22, at(1, '18:00')),
    false,
  ],
  [
    'on another day',
    ruled([accept(STAFF, SERVERS)], timed([1], '08:00', '18:00')),
    packet(DESK, BOX, 'tcp', 22, at(2, '09:00')),
    false,
  ],
  [
    'over midnight',
    ruled([accept(STAFF, SERVERS)], timed([7], '22:00', '06:00')),
    packet(DESK, BOX, 'tcp', 22, at(1, '05:59')),
    true,
  ],
  [
    'over midnight, before it began',
    ruled([accept(STAFF, SERVERS)], timed([7], '22:00', '06:00')),
    packet(DESK, BOX, 'tcp', 22, at(7, '05:59')),
    false,
  ],
]

describe('the plan language by examples', () => {
  it.each(EXAMPLES)('%s', (_, plan, given, passes) => {
    expect(isLetThrough(plan, given)).toBe(passes)
    expect(engineLetsThrough(plan, given)).toBe(passes)
  })
})

const SELECTORS: readonly Selector[] = [
  { kind: 'any' },
  inside,
  STAFF,
  SERVERS,
  inNetwork('management'),
  internet,
  toGateway,
  theDevice('box'),
  theDevice('sw'),
  prefix('10.9.10.128/25'),
  prefix('10.9.20.10/32'),
  prefix('198.51.100.0/24'),
  prefix('10.0.0.0/8'),
  ofGroup,
]
const selector = fc.constantFrom(...SELECTORS)
const verdict = fc.constantFrom('accept', 'drop', 'reject')
const anyRule = fc.record({
  chain: fc.constantFrom('forward', 'input'),
  action: verdict,
  from: selector,
  to: selector,
  services: fc.subarray(['https', 'ssh', 'dns', 'ping', 'calls', 'video'], { maxLength: 3 }),
  log: fc.boolean(),
  when: fc.constantFrom(null, null, 'hours'),
})
const anyPair = fc.record({ from: selector, to: selector, action: fc.constantFrom('accept', 'drop') })
const rested = fc.constantFrom('accept', 'drop')
const anyPlan = fc
  .record({
    rules: fc.array(anyRule, { maxLength: 8 }),
    pairs: fc.array(anyPair, { maxLength: 3 }),
    forward: rested,
    input: rested,
    members: fc.subarray(SELECTORS.slice(0, -1) as Exclude<Selector, { kind: 'group' }>[], { maxLength: 3 }),
    days: fc.subarray([1, 2, 3, 4, 5, 6, 7], { minLength: 1 }),
    hours: fc.constantFrom(['08:00', '18:00'], ['22:00', '06:00'], ['00:00', '24:00']),
  })
  .map(({ rules, pairs, forward, input, members, days, hours: [from = '', to = ''] }) =>
    site((plan) => {
      grouped(...members)(plan)
      plan.schedules.push({ id: 'hours', name: 'Hours', days, from, to })
      const numbered = <T>(list: readonly T[]) => list.map((one, i) => ({ ...one, id: `r${i}`, note: '' }))
      Object.assign(plan.policies[0]!, { rules: numbered(rules), pairs: numbered(pairs), forward, input })
    }),
  )
const anyPacket = fc.record({
  from: fc.constantFrom(DESK, BOX),
  to: fc.constantFrom(DESK, BOX, OUT, GATE),
  service: fc.constantFrom<readonly [Protocol, number]>(
    ['tcp', 443],
    ['tcp', 22],
    ['tcp', 53],
    ['udp', 53],
    ['icmp', 0],
    ['udp', 16_384],
    ['udp', 16_483],
    ['tcp', 1],
  ),
  minute: fc.integer({ min: 0, max: 7 * 1440 - 1 }),
})

describe('rules by chance', () => {
  it('mean on the engine what they mean one after the other', () => {
    let [asked, passed] = [0, 0]
    fc.assert(
      fc.property(anyPlan, fc.array(anyPacket, { minLength: 10, maxLength: 10 }), (plan, packets) => {
        for (const { from, to, service, minute } of packets) {
          if (from === to) continue
          const given = packet(from, to, ...service, minute)
          const passes = isLetThrough(plan, given)
          asked++
          if (passes) passed++
          expect({ given, passes: engineLetsThrough(plan, given) }).toEqual({ given, passes })
        }
      }),
      { numRuns: 500 },
    )
    expect(asked).toBeGreaterThan(3000)
    expect(passed / asked).toBeGreaterThan(0.2)
  })
})
