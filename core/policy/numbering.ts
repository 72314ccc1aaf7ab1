// Question: which addresses does a plan tell apart, and by which of them does the way of a packet differ?
// Method: two addresses are alike where they lie in the same of all the prefixes that the plan speaks of; each stretch between two
// edges of prefixes has a number.
// Source: prefixes lie in each other or apart (RFC 4632 section 3.1).
import { contains, ipv4, parsePrefix4, type Ipv4, type Prefix4, type Range4 } from '#core/address'
import { countUpTo, memoOn, memoOnParts, orNull } from '#core/base'
import { carried, mapsOf, membersOf, portKey, ruledWhole, type PlanIndex, type Selector } from '#core/model'
import { distinct, faceOf, nameOf, prefixesIn, prefixesOf, readAt } from './selectors'

/** Ports of gateways that have an address of their own. */
export const routedPorts = memoOn((index: PlanIndex) =>
  index.plan.devices
    .filter((d) => d.kind === 'gateway')
    .flatMap((device) =>
      device.ports.flatMap((port) => {
        const face = port.mode.mode === 'routed' ? faceOf(port.mode.address) : null
        return face ? [{ device, port, face }] : []
      }),
    ),
)

/** The same as a text, for what hangs on nothing else of the devices. */
export const routedAs = memoOn((index: PlanIndex): string =>
  routedPorts(index)
    .map(
      ({ device, port, face }) =>
        `${portKey({ deviceId: device.id, portId: port.id })} ${face.address}/${face.prefix.length}`,
    )
    .join(' '),
)

/** Every prefix by which the way of a packet is decided: routes, tunnels, forwards, subnets, hosts' own masks. */
const wayPrefixes = (index: PlanIndex): readonly Prefix4[] => {
  const { policyRoutes, routes, networks, tunnels, forwards } = index.plan
  return ofWays(networks, [policyRoutes, routes, tunnels, forwards, index.plan.groups, routedAs(index)], () =>
    distinct([
      ...policyRoutes.flatMap((r) => prefixesIn(index, r.from)),
      ...prefixesOf([
        ...routes.map((r) => r.prefix),
        ...tunnels.flatMap((t) => t.peers).flatMap((p) => [...p.allowed, ...p.theirAllowed]),
      ]),
      // What a peer allows of the addresses by which it knows ours says so much of ours.
      ...tunnels.flatMap((t) =>
        mapsOf(t).flatMap(({ inside, outside }) => [
          inside,
          outside,
          ...prefixesOf(t.peers.flatMap((p) => p.theirAllowed))
            .filter((p) => p.length > outside.length && contains(outside, p.base))
            .map((p) => ({ base: carried(p.base, outside, inside), length: p.length })),
        ]),
      ),
      ...forwards.flatMap((f) => readAt(f.toAddress, 32)),
      ...routedPorts(index).map((r) => r.face.prefix),
      ...networks.flatMap((network) => {
        const subnet = orNull(parsePrefix4(network.subnet))
        if (!subnet) return []
        const typed = network.fixed
          .filter((f) => f.deviceId !== null && f.how === 'static')
          .flatMap((f) => readAt(f.ip, f.mask ?? subnet.length))
        return [subnet, ...readAt(network.gateway, subnet.length), ...typed]
      }),
    ]),
  )
}
const ofWays = memoOnParts<readonly Prefix4[]>(4)

/** The same, and what rules and intents speak of. */
export const tellingPrefixes = memoOn((index: PlanIndex): readonly Prefix4[] => {
  const { policies, intents } = index.plan
  const ways = wayPrefixes(index)
  const spoken: Selector[] = []
  const add = (selector: Selector) =>
    selector.kind === 'group' ? spoken.push(...membersOf(index, selector)) : spoken.push(selector)
  const addBoth = ({ from, to }: { readonly from: Selector; readonly to: Selector }) => (add(from), add(to))
  for (const policy of policies) ruledWhole(policy).rules.forEach(addBoth)
  intents.forEach(addBoth)
  return lastTold(ways, spoken, () => distinct([...ways, ...spoken.flatMap((s) => prefixesIn(index, s))]))
})
const lastTold = memoOnParts<readonly Prefix4[]>(4)

const edgesOf = (prefixes: readonly Prefix4[]): number[] =>
  [...new Set(prefixes.flatMap((p) => [p.base, p.base + 2 ** (32 - p.length)]))].sort((a, b) => a - b)

/** Addresses at which some rule, route, subnet or mask starts to treat its neighbours differently, in order. */
export const cutPoints = (index: PlanIndex): readonly number[] => numbering(tellingPrefixes(index)).edges

/** The first address of each stretch of some ranges that the cuts make. */
export function firstOfEach(ranges: readonly Range4[], cuts: readonly number[]): Ipv4[] {
  const found: Ipv4[] = []
  for (const { from, to } of ranges) {
    found.push(from)
    for (let n = countUpTo(cuts, from); n < cuts.length && (cuts[n] as number) <= to; n++)
      found.push(ipv4(cuts[n] as number))
  }
  return found
}

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
export const numbering = memoOn((prefixes: readonly Prefix4[]): Numbering => {
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
  const byBase = prefixes
    .map((prefix, i) => ({ prefix, i, end: prefix.base + 2 ** (32 - prefix.length) }))
    .sort((a, b) => a.prefix.base - b.prefix.base || a.prefix.length - b.prefix.length)
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
const numberOf = memoOn(
  ({ around }: Numbering) =>
    (address: Ipv4): number =>
      around(address).number,
)
/** Numbers by which addresses differ at all, and by which they differ in their way alone. */
export const tellApart = memoOn((index: PlanIndex) => numberOf(numbering(tellingPrefixes(index))))
export const tellWaysApart = memoOn((index: PlanIndex) => numberOf(numbering(wayPrefixes(index))))
