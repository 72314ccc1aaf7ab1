// Question: what does an ordered rule list let through from one place to another?
// Method: first match, exactly: each rule takes its services out of what no rule has decided yet. Which rules speak of a side is
// kept as bits, so that only those that speak of both are met.
// Source: first-match semantics as of any packet filter with terminal verdicts (nftables' accept and drop).
import { contains, networkOf, parseIpv4, parsePrefix4, type Ipv4, type Prefix4 } from '#core/address'
import { byId, countUpTo, eachShared, eitherBits, memoOn, memoOnParts, noBits, orNull, setBit, type BitRow } from '#core/base'
import type { PlanIndex, Policy, Rule, Selector, Service } from '#core/model'
import { EVERYTHING, intersect, isNothing, minus, NOTHING, servicesOf, union, type ServiceSet } from './services'

/** The `via` of a tunnel's interface. */
export const tunnelVia = (tunnelId: string): string => `tunnel:${tunnelId}`

/** One side of a packet at a gateway: the interface it uses and its address. */
export interface Side {
  /** Network id, `uplink`, `tunnel:` with a tunnel's id, or `self` for the gateway's own sockets. */
  readonly via: string
  readonly address: Ipv4
}

/** What one rule, or the default (rule null), decided. */
export interface Decision {
  readonly rule: Rule | null
  readonly action: Rule['action']
  readonly services: ServiceSet
}

export type Matcher = (side: Side) => boolean

/** The prefixes of a list of texts that can be read. */
export const prefixesOf = (texts: readonly string[]): Prefix4[] => texts.flatMap((text) => orNull(parsePrefix4(text)) ?? [])

const addressesByDevice = memoOn((index: PlanIndex): ReadonlyMap<string, readonly Ipv4[]> => {
  const known = new Map<string, Ipv4[]>()
  for (const { deviceId, ip } of index.plan.networks.flatMap((n) => n.fixed)) {
    const parsed = deviceId === null ? null : parseIpv4(ip)
    if (deviceId !== null && parsed?.ok) known.set(deviceId, [...(known.get(deviceId) ?? []), parsed.value])
  }
  return known
})

/** Addresses that belong to a device for good. */
export const fixedAddresses = (index: PlanIndex, deviceId: string): readonly Ipv4[] => addressesByDevice(index).get(deviceId) ?? []

type Told<K extends Selector['kind']> = Extract<Selector, { readonly kind: K }>
/** The one interface that a selector speaks of. */
function viaOf(selector: Told<'network' | 'internet' | 'gateway' | 'tunnel'>): string {
  switch (selector.kind) {
    case 'network': return selector.id
    case 'internet': return 'uplink'
    case 'gateway': return 'self'
    case 'tunnel': return tunnelVia(selector.id)
  }
}
/** Read once: an edit seldom changes a selector. */
const prefixOf = memoOn((selector: Told<'prefix'>): Prefix4 | null => orNull(parsePrefix4(selector.prefix)))

/** A test for whether a selector speaks of a side. */
export function matcherOf(index: PlanIndex, selector: Selector): Matcher {
  switch (selector.kind) {
    case 'any':
      return () => true
    case 'inside':
      return (side) => index.networks.has(side.via)
    case 'network':
    case 'internet':
    case 'gateway':
    case 'tunnel': {
      const via = viaOf(selector)
      return (side) => side.via === via
    }
    case 'device': {
      const own = new Set(fixedAddresses(index, selector.id))
      return (side) => own.has(side.address)
    }
    case 'prefix': {
      const prefix = prefixOf(selector)
      return prefix ? (side) => contains(prefix, side.address) : () => false
    }
    case 'peer': {
      const tunnel = index.plan.tunnels.find((t) => t.peers.some((p) => p.id === selector.id))
      const own = prefixesOf(tunnel?.peers.find((p) => p.id === selector.id)?.allowed ?? [])
      return (side) => tunnel !== undefined && side.via === tunnelVia(tunnel.id) && own.some((prefix) => contains(prefix, side.address))
    }
  }
}

interface Entry {
  readonly rule: Rule
  readonly services: ServiceSet
}
/** Which rules speak of a side, as bits by their place in the list. */
export interface Marks {
  readonly id: number
  readonly from: BitRow
  readonly to: BitRow
}

/** Rules made ready to be asked many times. */
export interface CompiledPolicy {
  readonly policy: Policy
  readonly rules: readonly Entry[]
  /** What is known of sides; many hosts are of one kind. */
  marks(side: Side): Marks
}

/** Rule lists by device. */
export type Policies = ReadonlyMap<string, CompiledPolicy>

/** The rule lists of a plan; what is learnt of them under one weather holds under every other. */
export const policiesOf = memoOn((index: PlanIndex): Policies => new Map(index.plan.policies.map((policy) => [policy.deviceId, compilePolicy(index, policy)])))

/** The set of each list of ids that names some of these services; an edit leaves most lists as they were. */
const servicesIn = memoOn((services: readonly Service[]) => {
  const named = byId(services)
  return memoOn((ids: readonly string[]) => servicesOf(ids, named))
})

export function compilePolicy(index: PlanIndex, policy: Policy): CompiledPolicy {
  const services = servicesIn(index.plan.services)
  const rules = policy.rules.map((rule) => ({ rule, services: services(rule.services) }))
  return { policy, rules, marks: markerOf(index, policy) }
}

type End = 'from' | 'to'
const END: readonly End[] = ['from', 'to']
const ANY: Selector = { kind: 'any' }
function push<K>(map: Map<K, number[]>, key: K, i: number): void {
  const list = map.get(key)
  if (list) list.push(i)
  else map.set(key, [i])
}

/** Places in a list by what is said there of one end. */
class Listed {
  readonly always: number[] = []
  readonly inside: number[] = []
  readonly byVia = new Map<string, number[]>()
  /** By prefix: those that name it, or a device that has its one address. */
  readonly byPrefix = new Map<number, number[]>()
  readonly others: { readonly i: number; readonly speaks: Matcher }[] = []
  add(index: PlanIndex, selector: Selector, i: number): void {
    switch (selector.kind) {
      case 'any': return void this.always.push(i)
      case 'inside': return void this.inside.push(i)
      case 'network': case 'internet': case 'gateway': case 'tunnel': return push(this.byVia, viaOf(selector), i)
      case 'prefix': case 'device': return prefixesIn(index, selector).forEach((p) => push(this.byPrefix, nameOf(p), i))
      case 'peer': return void this.others.push({ i, speaks: matcherOf(index, selector) })
    }
  }
}

type MarksOf = (side: Side) => Marks
/** What rules speak of is kept while no rule speaks of anything else; what they do about it may change. */
const lastMarks = memoOnParts<MarksOf>(8)
function markerOf(index: PlanIndex, policy: Policy): MarksOf {
  const { networks, tunnels, devices } = index.plan
  return lastMarks(networks, [tunnels, devices, tellApart(index), ...policy.rules.flatMap((rule) => [rule.chain, rule.from, rule.to])], () => marker(index, policy))
}

/** Answers which rules of a list speak of a side: what is said of its interface, and of each prefix its address lies in, is found once. */
function marker(index: PlanIndex, policy: Policy): MarksOf {
  const { prefixes, around } = numbering(distinct([...tellingPrefixes(index), ...spokenPrefixes(index, policy.rules)]))
  const [said, rows] = [{ from: new Listed(), to: new Listed() }, () => noBits(policy.rules.length)]
  policy.rules.forEach((rule, i) => END.forEach((end) => said[end].add(index, end === 'to' && rule.chain === 'input' ? ANY : rule[end], i)))
  const vias = new Map<string, Marks>()
  const places = new Map<number, Omit<Marks, 'id'>>()
  const known = new Map<number, Marks>()
  const viaBits = (via: string) => {
    const held = vias.get(via)
    if (held) return held
    const bits = (end: End) => {
      const words = rows()
      for (const list of [said[end].always, index.networks.has(via) ? said[end].inside : [], said[end].byVia.get(via) ?? []]) for (const i of list) setBit(words, i)
      return words
    }
    const made = { id: vias.size, from: bits('from'), to: bits('to') }
    vias.set(via, made)
    return made
  }
  const placeBits = (number: number, inside: readonly number[]) => {
    const held = places.get(number)
    if (held) return held
    const bits = (end: End) => {
      const words = rows()
      for (const p of inside) for (const i of said[end].byPrefix.get(nameOf(prefixes[p] as Prefix4)) ?? []) setBit(words, i)
      return words
    }
    const made = { from: bits('from'), to: bits('to') }
    places.set(number, made)
    return made
  }
  return (side) => {
    const via = viaBits(side.via)
    const { number, inside } = around(side.address)
    const key = via.id * SIDES + number
    const held = known.get(key)
    if (held) return held
    const place = placeBits(number, inside)
    const join = (end: End) => {
      const words = eitherBits([via[end], place[end]])
      for (const { i, speaks } of said[end].others) if (speaks(side)) setBit(words, i)
      return words
    }
    const made = { id: known.size, from: join('from'), to: join('to') }
    known.set(key, made)
    return made
  }
}

/** Largest number of sides for which pairs are told apart by one number. */
const SIDES = 2 ** 26

/** Who decides what, in order, for new connections from one side to the other. The sets are disjoint and cover all. */
export function decide(compiled: CompiledPolicy, chain: Rule['chain'], from: Side, to: Side): readonly Decision[] {
  return decideMarked(compiled, chain, compiled.marks(from), compiled.marks(to))
}

/** The same for sides whose marks are known. */
export function decideMarked(compiled: CompiledPolicy, chain: Rule['chain'], { from }: Pick<Marks, 'from'>, { to }: Pick<Marks, 'to'>): readonly Decision[] {
  const decisions: Decision[] = []
  let open: ServiceSet = EVERYTHING
  eachShared(from, to, (i) => {
    const entry = compiled.rules[i] as Entry
    const taken = entry.rule.chain === chain ? intersect(open, entry.services) : NOTHING
    if (isNothing(taken)) return true
    decisions.push({ rule: entry.rule, action: entry.rule.action, services: taken })
    open = minus(open, taken)
    return !isNothing(open)
  })
  if (!isNothing(open)) decisions.push({ rule: null, action: compiled.policy[chain], services: open })
  return decisions
}

/** What a list decides of sides that none of its rules speaks of. */
export const byDefault = (compiled: CompiledPolicy, chain: Rule['chain']): readonly Decision[] => [{ rule: null, action: compiled.policy[chain], services: EVERYTHING }]

/** What a list of decisions lets through. */
export function accepted(decisions: readonly Decision[]): ServiceSet {
  let set: ServiceSet = NOTHING
  for (const decision of decisions) if (decision.action === 'accept') set = union(set, decision.services)
  return set
}

const alone = (address: Ipv4): Prefix4 => ({ base: address, length: 32 })
const readAt = (text: string, length: number): Prefix4[] => [parseIpv4(text)].flatMap((read) => (read.ok ? [{ base: networkOf(read.value, length), length }] : []))
function prefixesIn(index: PlanIndex, selector: Selector): Prefix4[] {
  if (selector.kind === 'prefix') {
    const prefix = prefixOf(selector)
    return prefix ? [prefix] : []
  }
  return selector.kind === 'device' ? fixedAddresses(index, selector.id).map(alone) : []
}
const spokenPrefixes = (index: PlanIndex, list: readonly Pick<Rule, 'from' | 'to'>[]): Prefix4[] => list.flatMap((r) => [...prefixesIn(index, r.from), ...prefixesIn(index, r.to)])
const nameOf = (p: Prefix4): number => p.base * 64 + p.length
const distinct = (list: readonly Prefix4[]): Prefix4[] => [...new Map(list.map((p) => [nameOf(p), p])).values()]

/** An address with its length, as an interface has it; null where it cannot be read. */
export function faceOf(text: string): { readonly address: Ipv4; readonly prefix: Prefix4 } | null {
  const [ip = '', length = ''] = text.split('/')
  const address = orNull(parseIpv4(ip))
  if (address === null || !/^\d{1,2}$/.test(length) || Number(length) > 32) return null
  return { address, prefix: { base: networkOf(address, Number(length)), length: Number(length) } }
}

/** Ports of gateways that have an address of their own. */
export const routedPorts = memoOn((index: PlanIndex) => index.plan.devices.filter((d) => d.kind === 'gateway').flatMap((device) => device.ports.flatMap((port) => {
  const face = port.mode.mode === 'routed' ? faceOf(port.mode.address) : null
  return face ? [{ device, port, face }] : []
})))

/** Every prefix by which the way of a packet is decided: routes, tunnels, forwards, subnets, hosts' own masks. */
const wayPrefixes = (index: PlanIndex): readonly Prefix4[] => {
  const { policyRoutes, routes, networks, tunnels, forwards, devices } = index.plan
  return ofWays(networks, [policyRoutes, routes, tunnels, forwards, devices], () => distinct([
    ...policyRoutes.flatMap((r) => prefixesIn(index, r.from)),
    ...prefixesOf([...routes.map((r) => r.prefix), ...tunnels.flatMap((t) => t.peers).flatMap((p) => [...p.allowed, ...p.theirAllowed])]),
    ...forwards.flatMap((f) => readAt(f.toAddress, 32)),
    ...routedPorts(index).map((r) => r.face.prefix),
    ...networks.flatMap((network) => {
      const subnet = orNull(parsePrefix4(network.subnet))
      if (!subnet) return []
      const typed = network.fixed.filter((f) => f.deviceId !== null && f.how === 'static').flatMap((f) => readAt(f.ip, f.mask ?? subnet.length))
      return [subnet, ...readAt(network.gateway, subnet.length), ...typed]
    }),
  ]))
}
const ofWays = memoOnParts<readonly Prefix4[]>(4)

/** The same, and what rules and intents speak of. */
const tellingPrefixes = memoOn((index: PlanIndex): readonly Prefix4[] => {
  const { policies, intents } = index.plan
  const ways = wayPrefixes(index)
  const spoken = [...policies.flatMap((p) => p.rules), ...intents].flatMap((r) => [r.from, r.to])
  return lastTold(ways, spoken, () => distinct([...ways, ...spoken.flatMap((s) => prefixesIn(index, s))]))
})
const lastTold = memoOnParts<readonly Prefix4[]>(4)

const edgesOf = (prefixes: readonly Prefix4[]): number[] => [...new Set(prefixes.flatMap((p) => [p.base, p.base + 2 ** (32 - p.length)]))].sort((a, b) => a - b)

/** Addresses at which some rule, route, subnet or mask starts to treat its neighbours differently, in order. */
export const cutPoints = (index: PlanIndex): readonly number[] => numbering(tellingPrefixes(index)).edges

interface Around {
  /** Two addresses of one number are in the same of all the prefixes. */
  readonly number: number
  /** Places of those prefixes in the list. */
  readonly inside: readonly number[]
}
interface Numbering {
  readonly prefixes: readonly Prefix4[]
  /** Where stretches begin, in order. */
  readonly edges: readonly number[]
  around(address: Ipv4): Around
}

/** An edit seldom changes the prefixes a plan speaks of: what was learnt of them is kept. */
const MOST_NUMBERINGS = 8
const numberings = new Map<string, Numbering>()
const numbering = memoOn((prefixes: readonly Prefix4[]): Numbering => {
  const name = prefixes.map((p) => nameOf(p)).join()
  const known = numberings.get(name)
  if (known) return known
  if (numberings.size >= MOST_NUMBERINGS) numberings.clear()
  const made = numbersBy(prefixes)
  numberings.set(name, made)
  return made
})

/** Prefixes either lie in each other or apart: one walk over their edges, with those that are open on a pile, finds every stretch. */
function numbersBy(prefixes: readonly Prefix4[]): Numbering {
  const edges = edgesOf(prefixes)
  const byBase = prefixes.map((prefix, i) => ({ prefix, i, end: prefix.base + 2 ** (32 - prefix.length) })).sort((a, b) => a.prefix.base - b.prefix.base || a.prefix.length - b.prefix.length)
  const stretches: Around[] = [{ number: 0, inside: [] }]
  const numbers = new Map<string, Around>([['', stretches[0] as Around]])
  const open: typeof byBase = []
  let next = 0
  for (const edge of edges) {
    while (open.length > 0 && (open.at(-1)?.end ?? 0) <= edge) open.pop()
    for (let p = byBase[next]; p && p.prefix.base === edge; p = byBase[++next]) open.push(p)
    const inside = open.map((p) => p.i)
    const name = inside.join()
    const known = numbers.get(name) ?? { number: numbers.size, inside }
    numbers.set(name, known)
    stretches.push(known)
  }
  return { prefixes, edges, around: (address) => stretches[countUpTo(edges, address)] as Around }
}

/** One function for each numbering: the same where nothing is told apart otherwise. */
const numberOf = memoOn(({ around }: Numbering) => (address: Ipv4): number => around(address).number)
/** Numbers by which addresses differ at all, and by which they differ in their way alone. */
export const tellApart = memoOn((index: PlanIndex) => numberOf(numbering(tellingPrefixes(index))))
export const tellWaysApart = memoOn((index: PlanIndex) => numberOf(numbering(wayPrefixes(index))))
