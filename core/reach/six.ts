// Question: what does a plan say of IPv6, put so that the same passage, rules and grid can be asked?
// Method: only which prefix lies in which tells addresses apart, so the plan's IPv6 prefixes, which form a tree, are drawn anew inside
// 10.0.0.0/8, each with room for its hosts; everything that speaks of IPv4 alone speaks of nothing. There is no translation:
// a network's own lines are those whose providers delegate its prefix, and the internet can call every host of it.
// Source: RFC 4862 (hosts make addresses of the prefix they hear), RFC 4193 (unique local: no way outside), RFC 6177, RFC 8504.
import {
  contains,
  contains6,
  formatIpv4,
  formatIpv6,
  formatPrefix4,
  formatPrefix6,
  ipv4,
  lastOf,
  parsePrefix6,
  readFace6,
  spaceOf6,
  type Ipv4,
  type Prefix4,
  type Prefix6,
} from '#core/address'
import { by, memoOn, memoOnParts, orNull } from '#core/base'
import {
  linesInOrder,
  prefixSix,
  ruledWhole,
  typedSix,
  type Device,
  type Fixed,
  type Group,
  type Network,
  type Plan,
  type Selector,
} from '#core/model'

/** A plan's IPv6 side as another plan, and how to read its addresses. */
export interface Six {
  readonly plan: Plan
  /** The lines by which a host of this address has the internet, first choice first; none where its prefix is nobody's outside. */
  linesOf(address: Ipv4): readonly string[]
  /** True of a line over which some provider delegates a prefix. */
  delegates(uplinkId: string): boolean
  /** Addresses outside the site, one for each kind of them that rules and intents tell apart. */
  readonly outside: readonly Ipv4[]
  text(address: Ipv4): string
  /** Where an address of an interface or a tunnel, or the first of a peer's prefix, is drawn; null for others. */
  addressOf(text: string): Ipv4 | null
  prefixText(prefix: Prefix4): string
}

/** True where hosts of a network make themselves IPv6 addresses. */
export const speaksSix = (network: Network): boolean => prefixSix(network) !== null

/** Somebody outside: 2001:db8:ffff:ffff::7 (RFC 3849). */
const SOMEBODY: Prefix6 = { groups: [0x2001, 0xdb8, 0xffff, 0xffff, 0, 0, 0, 7], length: 128 }
const ALL: Prefix6 = { groups: [0, 0, 0, 0, 0, 0, 0, 0], length: 0 }
const ROOT: Prefix4 = { base: ipv4(0x0a000000), length: 8 }
/** Hosts of a network: a gateway and some two hundred others; nothing tells more of them apart. */
const NETWORK_ROOM = 256

interface Branch {
  readonly prefix: Prefix6
  readonly children: Branch[]
  /** Addresses it needs: those of its children, and some of its own. */
  need: number
}

const power = (n: number): number => 2 ** Math.ceil(Math.log2(n))

/** The prefixes as a tree by what lies in what. Largest first, so that each finds its parent before itself. */
function treeOf(prefixes: readonly Prefix6[], rooms: ReadonlyMap<string, number>): Branch {
  const distinct = [...new Map(prefixes.map((p) => [formatPrefix6(p), p])).values()]
    .filter((p) => p.length > 0)
    .sort(by((p) => p.length, formatPrefix6))
  const root: Branch = { prefix: ALL, children: [], need: 0 }
  for (const prefix of distinct) {
    let at = root
    for (let next = at; next;) {
      at = next
      next = at.children.find((c) => contains6(c.prefix, prefix)) as Branch
    }
    at.children.push({ prefix, children: [], need: 0 })
  }
  const measure = (branch: Branch): number =>
    (branch.need = power(
      branch.children.reduce((sum, c) => sum + measure(c), 0) +
        (rooms.get(formatPrefix6(branch.prefix)) ?? 1),
    ))
  measure(root)
  return root
}

const hasRouted = (device: Device): boolean => device.ports.some((p) => p.mode.mode === 'routed')
const faceAt = (port: Device['ports'][number]) =>
  port.mode.mode === 'routed' && port.mode.address6 ? readFace6(port.mode.address6) : null
const alone = (text: string): Prefix6 | null => readFace6(`${text}/128`)?.prefix ?? null
const readAll = (texts: readonly string[]): Prefix6[] =>
  texts.flatMap((text) => orNull(parsePrefix6(text)) ?? [])

interface Typed {
  readonly networkId: string
  readonly fixed: Fixed
  readonly address: Prefix6
  /** The subnet it takes itself to be in. */
  readonly prefix: Prefix6
}
/** Addresses typed into devices of a network. */
const typedIn = memoOn((network: Network): readonly Typed[] =>
  network.fixed.flatMap((fixed) => {
    const face = fixed.deviceId === null ? null : typedSix(network, fixed)
    return face ? [{ networkId: network.id, fixed, ...face }] : []
  }),
)

/** Prefixes of interfaces, tunnels and routes, and the single addresses by which they are named. */
function insidePrefixes(plan: Plan): {
  readonly prefixes: readonly Prefix6[]
  readonly addresses: readonly Prefix6[]
} {
  const faces = [
    ...plan.devices.flatMap((d) => d.ports.flatMap((p) => faceAt(p) ?? [])),
    ...plan.tunnels.flatMap((t) => (t.address6 ? (readFace6(t.address6) ?? []) : [])),
  ]
  const far = plan.tunnels
    .filter((t) => t.address6)
    .flatMap((t) => readAll(t.peers.flatMap((p) => p.allowed)))
  const routes = plan.routes.filter((r) => parsePrefix6(r.prefix).ok)
  return {
    prefixes: [...faces.map((f) => f.prefix), ...far, ...readAll(routes.map((r) => r.prefix))].filter(
      (p) => p.length > 0,
    ),
    addresses: [...faces.map((f) => f.address), ...routes.flatMap((r) => alone(r.via) ?? [])],
  }
}

/** Where each prefix is drawn: children from the start of their parent, the largest first, so that each lies on its own boundary. */
function drawn(root: Branch): Map<string, Prefix4> {
  const places = new Map<string, Prefix4>()
  const lay = (branch: Branch, base: number, size: number) => {
    places.set(formatPrefix6(branch.prefix), { base: ipv4(base), length: 32 - Math.log2(size) })
    let at = base
    for (const child of [...branch.children].sort(by((c) => -c.need))) {
      lay(child, at, child.need)
      at += child.need
    }
  }
  lay(root, ROOT.base, 2 ** (32 - ROOT.length))
  return places
}

const selectorsOf = (plan: Plan): Selector[] => [
  ...[...plan.policies.flatMap((p) => ruledWhole(p).rules), ...plan.intents].flatMap((r) => [r.from, r.to]),
  ...plan.groups.flatMap((g) => g.members),
]
const prefixIn = memoOn((selector: Selector): Prefix6 | null =>
  selector.kind === 'prefix' ? orNull(parsePrefix6(selector.prefix)) : null,
)

/** A plan's IPv6 side; null where it has none, or more prefixes than can be drawn. */
export const sixOf = memoOn((plan: Plan): Six | null => {
  if (!plan.networks.some(speaksSix)) return null
  const spoken = selectorsOf(plan).flatMap((s) => prefixIn(s) ?? [])
  const drawing = drawings(
    plan.networks,
    [plan.uplinks, plan.devices, plan.tunnels, plan.routes, spoken.map(formatPrefix6).join()],
    () => ({ is: draw(plan, spoken) }),
  ).is
  if (!drawing) return null
  const { networks, devices, tunnels, routes, ends, grouped, ...six } = drawing
  return {
    ...six,
    plan: {
      ...plan,
      networks,
      devices,
      tunnels,
      routes,
      groups: grouped(plan.groups),
      policies: plan.policies.map((p) => ({ ...p, rules: p.rules.map(ends), pairs: p.pairs.map(ends) })),
      intents: plan.intents.map(ends),
      policyRoutes: NONE,
      forwards: NONE,
    },
  }
})
const NONE: readonly never[] = []

/** All but the rules and intents themselves. */
interface Drawing extends Omit<Six, 'plan'>, Pick<Plan, 'networks' | 'devices' | 'tunnels' | 'routes'> {
  /** A rule or an intent, with its IPv6 prefixes as they are drawn. */
  ends<T extends { readonly from: Selector; readonly to: Selector }>(item: T): T
  /** The groups, likewise; the same list for the same list. */
  grouped(groups: readonly Group[]): readonly Group[]
}
const drawings = memoOnParts<{ readonly is: Drawing | null }>(4)

function draw(plan: Plan, spoken: readonly Prefix6[]): Drawing | null {
  const networks = plan.networks.filter(speaksSix)
  const delegated = linesInOrder(plan).flatMap((u) => {
    const prefix = u.facts.delegated6 === null ? null : orNull(parsePrefix6(u.facts.delegated6))
    return prefix ? [{ id: u.id, prefix }] : []
  })
  const rooms = new Map(networks.map((n) => [formatPrefix6(prefixSix(n) as Prefix6), NETWORK_ROOM]))
  const inner = insidePrefixes(plan)
  const theirs = plan.tunnels
    .filter((t) => t.address6)
    .flatMap((t) => readAll(t.peers.flatMap((p) => p.theirAllowed)))
  const typed = networks.flatMap(typedIn)
  const tree = treeOf(
    [
      ...networks.map((n) => prefixSix(n) as Prefix6),
      ...typed.flatMap((t) => [t.address, t.prefix]),
      ...inner.prefixes,
      ...inner.addresses,
      ...theirs,
      ...spoken,
      SOMEBODY,
    ],
    rooms,
  )
  if (tree.need > 2 ** (32 - ROOT.length)) return null
  const places = drawn(tree)
  const placeOf = (prefix: Prefix6): Prefix4 => places.get(formatPrefix6(prefix)) ?? ROOT
  // What a network's own hosts have stands at the end of its room: what rules tell apart of it comes before.
  const homes = networks.map((n) => {
    const four = placeOf(prefixSix(n) as Prefix6)
    return { id: n.id, six: prefixSix(n) as Prefix6, four, own: lastOf(four) - NETWORK_ROOM + 1 }
  })

  const redrawn = (network: Network): Network => {
    const home = homes.find((h) => h.id === network.id)
    // What has no prefix has no address: nothing there can be read.
    if (!home)
      return {
        ...network,
        subnet: '',
        gateway: '',
        dhcp: 'none',
        relayTo: null,
        pool: null,
        exclusions: [],
        fixed: [],
      }
    // Of a device with a typed address all entries stay: the n-th is its n-th port's. What is not typed makes its own.
    const own = typed.filter((t) => t.networkId === network.id)
    const fixed = network.fixed
      .filter((f) => own.some((t) => t.fixed.deviceId === f.deviceId))
      .map((f): Fixed => {
        const mine = own.find((t) => t.fixed === f)
        if (!mine) return { ...f, ip: '', how: 'reserved' }
        return {
          ...f,
          ip: formatIpv4(placeOf(mine.address).base),
          gateway: null,
          mask: contains6(home.six, mine.address) ? null : placeOf(mine.prefix).length,
        }
      })
    const taken = fixed.filter((f) => f.ip !== '').map((f) => ({ from: f.ip, to: f.ip }))
    const [router, rest] = [formatIpv4(ipv4(home.own + 1)), formatIpv4(ipv4(home.own))]
    return {
      ...network,
      subnet: formatPrefix4(home.four),
      gateway: router,
      dhcp: 'serve',
      relayTo: null,
      pool: { from: formatIpv4(home.four.base), to: formatIpv4(ipv4(home.own + NETWORK_ROOM - 2)) },
      exclusions: [{ from: rest, to: router }, ...taken],
      fixed,
    }
  }
  const selector = <S extends Selector>(s: S): S | { readonly kind: 'prefix'; readonly prefix: string } => {
    if (s.kind !== 'prefix') return s
    const prefix = prefixIn(s)
    // A rule for an IPv4 prefix meets no IPv6 packet.
    return { kind: 'prefix', prefix: prefix ? drawnAs(prefix) : '' }
  }
  const ends = memoOn((item: { readonly from: Selector; readonly to: Selector }) => ({
    ...item,
    from: selector(item.from),
    to: selector(item.to),
  })) as Drawing['ends']
  /** Everything inside and beyond tunnels, the narrowest first, with the lines whose providers brought it. */
  const zones = [...homes.map((h) => h.six), ...inner.prefixes]
    .map((six) => ({
      four: placeOf(six),
      length: six.length,
      lines: delegated.filter((d) => contains6(d.prefix, six)).map((d) => d.id),
    }))
    .sort(by((z) => -z.length))
  const zoneOf = (address: Ipv4) => zones.find((z) => contains(z.four, address))
  const told = [
    SOMEBODY,
    ...typed.map((t) => t.address),
    ...inner.addresses,
    ...inner.prefixes,
    ...theirs,
    ...spoken,
  ].sort(by((p) => -p.length))
  const drawnAs = (prefix: Prefix6): string =>
    prefix.length === 0 ? '0.0.0.0/0' : formatPrefix4(placeOf(prefix))
  const face = (read: ReturnType<typeof readFace6>): string =>
    read ? `${formatIpv4(placeOf(read.address).base)}/${placeOf(read.prefix).length}` : ''
  const homeOf = (address: Ipv4) => homes.find((h) => contains(h.four, address))
  // The last address of a prefix's room is in none of its children.
  const outside = [
    SOMEBODY,
    ...spoken.filter((p) => spaceOf6(p) === 'global' || spaceOf6(p) === 'documentation'),
  ]
    .map((p) => lastOf(placeOf(p)))
    .filter((a) => !zoneOf(a))
  return {
    networks: plan.networks.map(redrawn),
    devices: plan.devices.some(hasRouted)
      ? plan.devices.map((d) =>
          hasRouted(d)
            ? {
                ...d,
                ports: d.ports.map((p) =>
                  p.mode.mode === 'routed'
                    ? { ...p, mode: { mode: 'routed', address: face(faceAt(p)), address6: null } }
                    : p,
                ),
              }
            : d,
        )
      : plan.devices,
    tunnels: plan.tunnels.flatMap((t) => {
      const read = t.address6 ? readFace6(t.address6) : null
      return read
        ? [
            {
              ...t,
              mapped: [],
              address: face(read),
              peers: t.peers.map((p) => ({
                ...p,
                allowed: readAll(p.allowed).map(drawnAs),
                theirAllowed: readAll(p.theirAllowed).map(drawnAs),
              })),
            },
          ]
        : []
    }),
    routes: plan.routes.flatMap((route) => {
      const [prefix, via] = [orNull(parsePrefix6(route.prefix)), alone(route.via)]
      return prefix && via ? [{ ...route, prefix: drawnAs(prefix), via: formatIpv4(placeOf(via).base) }] : []
    }),
    ends,
    grouped: memoOn((groups: readonly Group[]) =>
      groups.map((g): Group => ({ ...g, members: g.members.map(selector) })),
    ),
    linesOf: (address) => zoneOf(address)?.lines ?? [],
    delegates: (uplinkId) => delegated.some((d) => d.id === uplinkId),
    outside: [...new Set(outside)],
    text: (address) => {
      const home = homeOf(address)
      if (home && address >= home.own) return formatIpv6([...home.six.groups.slice(0, 7), address - home.own])
      // Of what rules and routes tell apart, the prefix that tells it.
      const around = told.find((p) => contains(placeOf(p), address)) ?? SOMEBODY
      return around.length === 128 ? formatIpv6(around.groups) : `in ${formatPrefix6(around)}`
    },
    addressOf: (text) => {
      const one = alone(text)
      const home = one && told.find((p) => contains6(p, one))
      return home && home !== SOMEBODY ? placeOf(home).base : null
    },
    prefixText: (prefix) => {
      if (prefix.length === 0) return '::/0'
      const six = [...places].find(([, p]) => p.base === prefix.base && p.length === prefix.length)?.[0]
      return six ?? formatPrefix4(prefix)
    },
  }
}
