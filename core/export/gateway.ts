// Question: what files make a Linux router do what the plan says of a gateway?
// Method: one interface for each VLAN and each line; the ordered rules as an nftables ruleset, addresses and
// routes as an iproute2 batch, pools as a dnsmasq configuration.
// Each is checked by the real program that reads it.
// Source: nft(8), ip-batch as of ip(8), dnsmasq(8);
// RFC 3022 (masquerade), RFC 2131 (pools).
import {
  formatIpv4,
  formatPrefix4,
  lastOf,
  maskOf,
  networkOf,
  parseIpv4,
  parsePrefix4,
  parsePrefix6,
  parseRange4,
  rangesWithout,
  routerSix,
} from '#core/address'
import { orNull } from '#core/util'
import { speaksSix } from '#core/reachability'
import {
  clockOf,
  DAY,
  DAY_NAMES,
  uplinkGroup,
  findPort,
  indexPlan,
  uplinksInOrder,
  mapsOf,
  membersOf,
  prefixSix,
  expandPairDefaults,
  scheduleIntervals,
  typedSix,
  type Network,
  type Plan,
  type PlanIndex,
  type PolicyRoute,
  type PortForward,
  type Rule,
  type Selector,
  type Service,
  type Tunnel,
  type Uplink,
} from '#core/model'
import { discoveryOption } from '#core/dhcp'
import { fixedAddresses, normalise, routedPorts } from '#core/filter'
import { heldMacs } from './names'

/** Name of the interface that carries a VLAN. */
export const lanName = (vlan: number): string => `lan.${vlan}`
/** Name of a line's interface, by its place in the order of priority, from 1. */
export const wanName = (place: number): string => `wan${place}`
/** Name of a tunnel's interface, by its place among the gateway's tunnels, from 1. */
export const wgName = (place: number): string => `wg${place}`

/** Name of a routed port's interface, by its place among the gateway's routed ports, from 1. */
export const routedName = (place: number): string => `rt${place}`

/** Firewall mark, and number of the routing table, of a line by its place from 1; and of a policy route. */
export const lineMark = (place: number): number => 0x100 + place
export const choiceMark = (place: number): number => 0x1000 + place

/** IPv6 addresses typed into a device. */
const sixesOf = (index: PlanIndex, deviceId: string): string[] =>
  index.plan.networks.flatMap((n) =>
    n.fixed.flatMap((f) => (f.deviceId === deviceId && f.ip6 !== null && typedSix(n, f) ? [f.ip6] : [])),
  )

const quoted = (names: readonly string[]): string => `{ ${names.map((n) => `"${n}"`).join(', ')} }`

interface Names {
  readonly index: PlanIndex
  readonly lans: readonly string[]
  readonly wans: readonly string[]
  readonly lines: readonly Uplink[]
  readonly tunnels: readonly { readonly name: string; readonly tunnel: Tunnel }[]
  readonly choices: readonly PolicyRoute[]
  /** Some network behind it speaks IPv6. */
  readonly six: boolean
  /** The gateway's own addresses inside. */
  readonly own: readonly string[]
}

const ownInside = (plan: Plan, index: PlanIndex, deviceId: string): string[] => [
  ...new Set(
    [
      ...plan.networks.filter((n) => n.routerId === deviceId).map((n) => n.gateway),
      ...plan.tunnels.filter((t) => t.deviceId === deviceId).map((t) => t.address.split('/')[0] ?? ''),
      ...routedPorts(index)
        .filter((port) => port.deviceId === deviceId)
        .map((port) => formatIpv4(port.address)),
    ].filter((text) => parseIpv4(text).ok),
  ),
]

function namesOf(plan: Plan, deviceId: string): Names {
  const index = indexPlan(plan)
  const lans = plan.networks.filter((n) => n.routerId === deviceId).map((n) => lanName(n.vlan))
  const lines = uplinksInOrder(plan).filter((u) => u.deviceId === deviceId)
  const tunnels = plan.tunnels
    .filter((t) => t.deviceId === deviceId)
    .map((tunnel, i) => ({ name: wgName(i + 1), tunnel }))
  return {
    index,
    lans: [...new Set(lans)],
    wans: lines.map((_, i) => wanName(i + 1)),
    lines,
    tunnels,
    choices: plan.policyRoutes.filter((r) => r.deviceId === deviceId),
    six:
      plan.networks.some((n) => n.routerId === deviceId && speaksSix(n)) ||
      tunnels.some((t) => t.tunnel.address6) ||
      routedPorts(index).some((port) => {
        const mode = findPort(index, port)?.mode
        return port.deviceId === deviceId && mode?.mode === 'routed' && mode.address6 !== null
      }),
    own: ownInside(plan, index, deviceId),
  }
}

/**
 * One side of a rule as matches, any of which is enough; an empty text matches everything, no match at all
 * nothing.
 */
function side(names: Names, selector: Selector, end: 'i' | 'o'): readonly string[] {
  const { index, lans, wans, tunnels } = names
  const address = end === 'i' ? 'saddr' : 'daddr'
  const byName = (faces: readonly string[]) =>
    faces.length === 0 ? [] : [`${end}ifname ${faces.length === 1 ? `"${faces[0]}"` : quoted(faces)}`]
  const byPrefix = (family: 'ip' | 'ip6', texts: readonly string[]) =>
    texts.length === 0
      ? []
      : [`${family} ${address} ${texts.length === 1 ? texts[0] : `{ ${texts.join(', ')} }`}`]
  switch (selector.kind) {
    case 'any':
      return ['']
    case 'inside':
      return byName(lans)
    case 'network': {
      const network = index.networks.get(selector.id)
      return byName(network && lans.includes(lanName(network.vlan)) ? [lanName(network.vlan)] : [])
    }
    case 'internet':
      return byName(wans)
    case 'gateway':
      return []
    case 'device':
      return [
        ...byPrefix(
          'ip',
          fixedAddresses(index, selector.id).map((ip) => formatIpv4(ip)),
        ),
        ...byPrefix('ip6', sixesOf(index, selector.id)),
      ]
    case 'prefix':
      return [
        ...byPrefix('ip', parsePrefix4(selector.prefix).ok ? [selector.prefix] : []),
        ...byPrefix('ip6', parsePrefix6(selector.prefix).ok ? [selector.prefix] : []),
      ]
    case 'tunnel':
      return byName(tunnels.filter((t) => t.tunnel.id === selector.id).map((t) => t.name))
    case 'group':
      return membersOf(index, selector).flatMap((m) => side(names, m, end))
    case 'peer': {
      const found = tunnels.find((t) => t.tunnel.peers.some((p) => p.id === selector.id))
      const own = found?.tunnel.peers.find((p) => p.id === selector.id)?.allowed ?? []
      const six = found?.tunnel.address6 ? own.filter((a) => parsePrefix6(a).ok) : []
      return found
        ? [
            ...byPrefix(
              'ip',
              own.filter((a) => parsePrefix4(a).ok),
            ),
            ...byPrefix('ip6', six),
          ].map((match) => `${end}ifname "${found.name}" ${match}`)
        : []
    }
  }
}

/** Which family a side's match is of; null where it looks at interfaces alone. */
const familyOf = (match: string): 4 | 6 | null => {
  if (match.includes('ip6 ')) return 6
  if (match.includes('ip saddr') || match.includes('ip daddr')) return 4
  return null
}

/**
 * Services as matches, one for each protocol; null where they name nothing.
 * `family`: of the addresses beside them.
 */
function protocols(
  ids: readonly string[],
  services: ReadonlyMap<string, Service>,
  family: 4 | 6 | null = 4,
): readonly string[] | null {
  if (ids.length === 0) return ['']
  const entries = ids.flatMap((id) => services.get(id)?.entries ?? [])
  const ports = (proto: 'tcp' | 'udp') => {
    const merged = normalise(entries.filter((e) => e.proto === proto).map((e) => [e.from, e.to] as const))
    return merged.length === 0
      ? []
      : [`${proto} dport { ${merged.map(([a, b]) => (a === b ? String(a) : `${a}-${b}`)).join(', ')} }`]
  }
  const out = [
    ...ports('tcp'),
    ...ports('udp'),
    ...(entries.some((e) => e.proto === 'icmp')
      ? [
          ...(family === 6 ? [] : ['icmp type echo-request']),
          ...(family === 4 ? [] : ['icmpv6 type echo-request']),
        ]
      : []),
  ]
  return out.length === 0 ? null : out
}

const safe = (id: string): string => id.replaceAll(/[^\w.-]/g, '_')

/**
 * When a rule is there as matches, any of which is enough: one for each stretch of a day, with the days that
 * have it.
 */
function times({ index }: Names, when: string | null): readonly string[] {
  if (when === null) return ['']
  const schedule = index.plan.schedules.find((s) => s.id === when)
  const byHours = new Map<string, number[]>()
  for (const { from, to } of schedule ? scheduleIntervals(schedule) : []) {
    // A stretch that goes past midnight is one of each day; the last second of a day is its end.
    for (let begin = from; begin < to; begin = (Math.floor(begin / DAY) + 1) * DAY) {
      const end = Math.min(to, (Math.floor(begin / DAY) + 1) * DAY)
      const hours = `${begin % DAY} ${(end - 1) % DAY}`
      byHours.set(hours, [...(byHours.get(hours) ?? []), Math.floor(begin / DAY)])
    }
  }
  return [...byHours].map(([hours, days]) => {
    const [begin = 0, last = 0] = hours.split(' ').map(Number)
    const named = [...new Set(days)].sort((a, b) => a - b).map((d) => DAY_NAMES[d] ?? '')
    return [
      ...(named.length === 7 ? [] : [`meta day ${named.length === 1 ? `"${named[0]}"` : quoted(named)}`]),
      ...(begin === 0 && last === DAY - 1 ? [] : [`meta hour "${clockOf(begin)}"-"${clockOf(last)}:59"`]),
    ].join(' ')
  })
}

function ruleLines(names: Names, rule: Rule): string[] {
  const tos = rule.chain === 'input' ? [''] : side(names, rule.to, 'o')
  const matches = side(names, rule.from, 'i').flatMap((from) =>
    tos.flatMap((to) => {
      const [a, b] = [familyOf(from), familyOf(to)]
      // An IPv4 address and an IPv6 one never meet in one packet.
      const services =
        a !== null && b !== null && a !== b
          ? null
          : protocols(rule.services, names.index.services, a ?? b ?? (names.six ? null : 4))
      return (services ?? []).flatMap((match) =>
        times(names, rule.when).map((time) => [time, from, to, match]),
      )
    }),
  )
  const note = rule.note.replaceAll(/[^\w .,:-]/g, ' ').slice(0, 100)
  if (matches.length === 0) return [`    # ${rule.id}: names nothing that is there`]
  const log = rule.log ? `log prefix "${safe(rule.id).slice(0, 60)} "` : ''
  const comment = `comment "${safe(rule.id)}${note ? `: ${note}` : ''}"`
  return matches.map(
    (match) => `    ${[...match, log, rule.action, comment].filter((word) => word !== '').join(' ')}`,
  )
}

/**
 * Lines that share, group by group in the order of their turns: three groups at most, of the first 31 lines;
 * others follow one after another.
 */
const sharingGroups = (lines: readonly Uplink[]): readonly (readonly Uplink[])[] =>
  lines
    .map((u) => uplinkGroup(lines, u).filter((mate) => lines.indexOf(mate) < 31))
    .filter((group, i) => group.length > 1 && group[0] === lines[i])
    .slice(0, 3)

/**
 * Which line of a group is a sender's, in the five bits of the mark that are the group's; and where those
 * bits are.
 */
export const shareMark = (group: number, place: number): number => place << (16 + 5 * group)
const shareMask = (group: number): number => shareMark(group, 31)

/**
 * Intervals of a hash of the sender, each with its mark: one line of each group, so that whoever begins
 * from one address stays with one line of the group whose turn it is.
 * Of one group the intervals are the weights themselves; of several, their parts of 2^20.
 */
function sharesOf(lines: readonly Uplink[]): {
  readonly modulus: number
  readonly parts: readonly { readonly from: number; readonly to: number; readonly mark: number }[]
} {
  const groups = sharingGroups(lines)
  const totals = groups.map((group) => group.reduce((sum, u) => sum + u.weight, 0))
  const modulus = groups.length === 1 ? (totals[0] ?? 1) : 2 ** 20
  const cuts = groups.map((group, g) =>
    group.map((_, i) =>
      Math.round((group.slice(0, i + 1).reduce((sum, u) => sum + u.weight, 0) / (totals[g] ?? 1)) * modulus),
    ),
  )
  const ends = [...new Set(cuts.flat())].sort((a, b) => a - b)
  return {
    modulus,
    parts: ends.map((end, i) => {
      const from = ends[i - 1] ?? 0
      const chosen = groups.map((group, g) => group[(cuts[g] ?? []).findIndex((cut) => from < cut)])
      return {
        from,
        to: end - 1,
        mark: chosen.reduce((mark, u, g) => mark | (u ? shareMark(g, lines.indexOf(u) + 1) : 0), 0),
      }
    }),
  }
}

/**
 * Rules that find a sender's line in each group that shares, and past a group once all its lines are down.
 * Where a line is down its table is empty.
 */
function turnRules(lines: readonly Uplink[]): string[] {
  const groups = sharingGroups(lines)
  const last = Math.max(...(groups.at(-1) ?? []).map((u) => lines.indexOf(u)))
  const table = (u: Uplink) => lineMark(lines.indexOf(u) + 1)
  const rules = lines.slice(0, last + 1).flatMap((u) => {
    const g = groups.findIndex((group) => group[0] === u)
    const chosen = (groups[g] ?? []).map(
      (mate) => `fwmark ${shareMark(g, lines.indexOf(mate) + 1)}/${shareMask(g)} lookup ${table(mate)}`,
    )
    return [...chosen, ...(groups.at(-1)?.includes(u) ? [] : [`lookup ${table(u)}`])]
  })
  return rules.map((rule, i) => `rule add pref ${2000 + i} ${rule}`)
}

/**
 * The line marks of a gateway with several lines, and the marks of its policy routes; empty where there is
 * nothing to choose.
 */
function wayTable(names: Names): string[] {
  const { lines, wans, choices } = names
  if (lines.length < 2 && choices.length === 0) return []
  const chosen = choices.flatMap((choice, i) => {
    // Policy routes are of IPv4 alone.
    const froms = side(names, choice.from, 'i').filter((from) => familyOf(from) !== 6)
    const matches = protocols(choice.services, names.index.services)
    if (froms.length === 0 || matches === null) return [`    # ${choice.id}: names nothing that is there`]
    return froms.flatMap((from) =>
      matches.map(
        (match) =>
          `    ${[from, match, `meta mark set ${choiceMark(i + 1)} accept`].filter((t) => t !== '').join(' ')} ` +
          `comment "${safe(choice.id)}"`,
      ),
    )
  })
  const { modulus, parts } = sharesOf(lines)
  const map = parts.map(({ from, to, mark }) => `${from === to ? from : `${from}-${to}`} : ${mark}`)
  const share =
    parts.length > 0 && names.lans.length > 0
      ? [
          `    iifname ${quoted(names.lans)} ct state new ct mark set jhash ip saddr mod ` +
            `${modulus} map { ${map.join(', ')} }`,
          '    ct mark != 0 meta mark set ct mark',
        ]
      : []
  return [
    'table ip ways {',
    '  chain prerouting {',
    '    type filter hook prerouting priority mangle;',
    ...lines.map((_, i) => `    iifname "${wanName(i + 1)}" ct state new ct mark set ${lineMark(i + 1)}`),
    ...(wans.length > 0 ? [`    iifname ${quoted(wans)} accept`] : []),
    '    ct mark != 0 meta mark set ct mark accept comment "answers leave by the line they came in on"',
    ...chosen,
    ...share,
    '  }',
    '  chain output {',
    '    type route hook output priority mangle;',
    '    ct mark != 0 meta mark set ct mark',
    '  }',
    '}',
  ]
}

/** What arrives on a line and is handed inside; each port that changes has a line of its own in the map. */
function forwardLines({ lines, lans, own }: Names, forward: PortForward): string[] {
  const place = lines.findIndex((u) => u.id === forward.uplinkId) + 1
  if (place === 0 || forward.to < forward.from || !parseIpv4(forward.toAddress).ok)
    return [`    # ${forward.id}: names nothing that is there`]
  const ports = Array.from(
    { length: forward.to - forward.from + 1 },
    (_, i) => [forward.from + i, forward.toPort + i] as const,
  ).filter(([, to]) => to <= 65535)
  const port = `${forward.proto} dport ${forward.from === forward.to ? forward.from : `${forward.from}-${forward.to}`}`
  const target =
    forward.toPort === forward.from
      ? forward.toAddress
      : `${forward.proto} dport map { ` +
        `${ports.map(([from, to]) => `${from} : ${forward.toAddress} . ${to}`).join(', ')} }`
  // Called from inside: at any address of this gateway but those that it has inside.
  const inside =
    forward.hairpin && lans.length > 0 && own.length > 0
      ? [
          `    iifname ${quoted(lans)} ip daddr != { ${own.join(', ')} } fib daddr type local ` +
            `${port} dnat ip to ${target} comment "${safe(forward.id)}, from inside"`,
        ]
      : []
  return [
    `    iifname "${wanName(place)}" ${port} dnat ip to ${target} comment "${safe(forward.id)}"`,
    ...inside,
  ]
}

/**
 * The complete ruleset of a gateway; loading it replaces what was there.
 * Null where the plan has no such gateway.
 */
export function nftRuleset(plan: Plan, deviceId: string): string | null {
  if (plan.devices.find((d) => d.id === deviceId)?.kind !== 'gateway') return null
  const names = namesOf(plan, deviceId)
  const planned = plan.policies.find((p) => p.deviceId === deviceId)
  const policy = planned && expandPairDefaults(planned)
  const dialled = names.tunnels
    .filter(({ tunnel }) => tunnel.peers.some((p) => p.endpoint === null))
    .map(({ tunnel }) => tunnel.listenPort)
  const called =
    dialled.length > 0 && names.wans.length > 0
      ? [`    iifname ${quoted(names.wans)} udp dport { ${dialled.join(', ')} } accept comment "WireGuard"`]
      : []
  const forwards = plan.forwards.filter((f) => f.deviceId === deviceId)
  // Beyond a provider's tunnel only the gateway's own address is known.
  const hidden = [
    ...names.wans,
    ...names.tunnels
      .filter(({ tunnel }) => tunnel.peers.some((p) => p.kind === 'provider'))
      .map((t) => t.name),
  ]
  // A network that peers know by another prefix: they call it by that one, and see it so.
  const mapped = names.tunnels.flatMap(({ name, tunnel }) =>
    mapsOf(tunnel).map((m) => ({ name, inside: formatPrefix4(m.inside), outside: formatPrefix4(m.outside) })),
  )
  const before = [
    ...mapped.map((m) => `    iifname "${m.name}" ip daddr ${m.outside} dnat ip prefix to ${m.inside}`),
    ...forwards.flatMap((f) => forwardLines(names, f)),
  ]
  const chain = (name: 'forward' | 'input') => [
    `  chain ${name} {`,
    `    type filter hook ${name} priority filter; policy ${policy?.[name] ?? 'accept'};`,
    '    ct state established,related accept',
    ...(name === 'input'
      ? [
          '    iifname "lo" accept',
          ...(names.six
            ? [
                '    icmpv6 type { nd-neighbor-solicit, nd-neighbor-advert, nd-router-solicit, ' +
                  'nd-router-advert } ip6 hoplimit 255 accept comment "neighbours"',
              ]
            : []),
          ...(names.lans.length > 0
            ? [`    iifname ${quoted(names.lans)} udp dport 67 accept comment "DHCP"`]
            : []),
          ...called,
        ]
      : []),
    ...(policy?.rules ?? []).filter((r) => r.chain === name).flatMap((r) => ruleLines(names, r)),
    '  }',
  ]
  return [
    'flush ruleset',
    'table inet site {',
    ...chain('forward'),
    ...chain('input'),
    '}',
    ...wayTable(names),
    ...(hidden.length > 0 || mapped.length > 0
      ? [
          'table ip outward {',
          ...(before.length > 0
            ? ['  chain prerouting {', '    type nat hook prerouting priority dstnat;', ...before, '  }']
            : []),
          '  chain postrouting {',
          '    type nat hook postrouting priority srcnat;',
          ...mapped.map((m) => `    oifname "${m.name}" ip saddr ${m.inside} snat ip prefix to ${m.outside}`),
          ...(hidden.length > 0 ? [`    oifname ${quoted(hidden)} masquerade`] : []),
          ...(forwards.some((f) => f.hairpin) && names.lans.length > 0
            ? [`    iifname ${quoted(names.lans)} oifname ${quoted(names.lans)} ct status dnat masquerade`]
            : []),
          '  }',
          '}',
        ]
      : []),
    '',
  ].join('\n')
}

/**
 * Addresses of the VLAN, routed and tunnel interfaces, the planned routes and the choice between lines, as
 * lines for `ip -batch`.
 * The lines' own addresses come from their providers, and with each its default route: in the main table
 * with the line's place as metric, and in the table of `lineMark`, and of each policy route that names the
 * line.
 */
export function ipBatch(plan: Plan, deviceId: string): string {
  const names = namesOf(plan, deviceId)
  const faces = plan.networks
    .filter((n) => n.routerId === deviceId)
    .flatMap((n) => {
      const subnet = orNull(parsePrefix4(n.subnet))
      const six = prefixSix(n)
      return [
        ...(subnet && parseIpv4(n.gateway).ok
          ? [`addr add ${n.gateway}/${subnet.length} dev ${lanName(n.vlan)}`]
          : []),
        ...(six ? [`addr add ${routerSix(six)}/${six.length} dev ${lanName(n.vlan)}`] : []),
      ]
    })
  const routed = routedPorts(names.index)
    .filter((port) => port.deviceId === deviceId)
    .flatMap((port, i) => {
      const mode = findPort(names.index, port)?.mode
      const faces = mode?.mode === 'routed' ? [mode.address, ...(mode.address6 ? [mode.address6] : [])] : []
      return faces.map((face) => `addr add ${face} dev ${routedName(i + 1)}`)
    })
  const tunnels = names.tunnels.flatMap(({ name, tunnel }) => [
    `addr add ${tunnel.address} dev ${name}`,
    ...(tunnel.address6 ? [`addr add ${tunnel.address6} dev ${name}`] : []),
    `link set ${name} mtu ${tunnel.mtu} up`,
    ...new Set(
      tunnel.peers
        .flatMap((p) => p.allowed)
        .flatMap((text) => {
          const prefix = orNull(parsePrefix4(text)) ?? (tunnel.address6 ? orNull(parsePrefix6(text)) : null)
          return prefix && prefix.length > 0 ? [`route replace ${text} dev ${name}`] : []
        }),
    ),
  ])
  const routes = plan.routes
    .filter((r) => r.deviceId === deviceId && (parsePrefix4(r.prefix).ok || parsePrefix6(r.prefix).ok))
    .map((r) => `route add ${r.prefix} via ${r.via}${r.metric > 0 ? ` metric ${r.metric}` : ''}`)
  const choosing = names.lines.length > 1 || names.choices.length > 0
  const ways = !choosing
    ? []
    : [
        'rule add pref 100 lookup main suppress_prefixlength 0',
        ...names.lines.map(
          (_, i) => `rule add pref ${200 + i} fwmark ${lineMark(i + 1)} lookup ${lineMark(i + 1)}`,
        ),
        ...names.choices.flatMap((choice, i) => {
          const table = choiceMark(i + 1)
          const tunnel =
            choice.out.kind === 'tunnel'
              ? names.tunnels.find((t) => t.tunnel.id === choice.out.id)
              : undefined
          return [
            `rule add pref ${1000 + i} fwmark ${table} lookup ${table}`,
            ...(tunnel ? [`route add default dev ${tunnel.name} table ${table}`] : []),
            ...(choice.orElse === 'refuse'
              ? [`route add unreachable default table ${table} metric 4278198272`]
              : []),
          ]
        }),
        ...turnRules(names.lines),
      ]
  // Who has a provider's prefix goes out by that provider's line.
  const six = names.lines.flatMap((u, i) =>
    u.facts.delegated6 === null
      ? []
      : [`rule add pref ${300 + i} from ${u.facts.delegated6} lookup ${lineMark(i + 1)}`],
  )
  const inner = six.length > 0 ? ['rule add pref 299 to ::/0 lookup main suppress_prefixlength 0'] : []
  return [...faces, ...routed, ...tunnels, ...routes, ...ways, ...inner, ...six, ''].join('\n')
}

/** The parts of a pool that are handed out. */
export function poolParts(network: Network): { readonly from: string; readonly to: string }[] {
  const pool = network.pool ? orNull(parseRange4(`${network.pool.from}-${network.pool.to}`)) : null
  if (!pool) return []
  const cuts = network.exclusions.flatMap((e) => orNull(parseRange4(`${e.from}-${e.to}`)) ?? [])
  return rangesWithout(pool, cuts).map(({ from, to }) => ({ from: formatIpv4(from), to: formatIpv4(to) }))
}

function networkLines(plan: Plan, network: Network): string[] {
  const subnet = orNull(parsePrefix4(network.subnet))
  const gateway = orNull(parseIpv4(network.gateway))
  if (!subnet || gateway === null) return []
  if (network.dhcp === 'relay' && network.relayTo !== null)
    return [`dhcp-relay=${network.gateway},${network.relayTo}`]
  // A pool that does not lie where the interface is would never be used; dnsmasq refuses no such line, so it
  // is left out.
  const face = { base: networkOf(gateway, subnet.length), length: subnet.length }
  const inside = (ip: string) => {
    const parsed = orNull(parseIpv4(ip))
    return parsed !== null && parsed >= face.base && parsed <= lastOf(face)
  }
  if (network.dhcp !== 'serve') return []
  const tag = `vlan${network.vlan}`
  const ranges = poolParts(network)
    .filter((p) => inside(p.from) && inside(p.to))
    .map(
      (p) => `dhcp-range=set:${tag},${p.from},${p.to},${formatIpv4(maskOf(subnet.length))},${network.leaseS}`,
    )
  if (ranges.length === 0) return []
  const { options } = network
  const macs = heldMacs(plan)
  const holds = network.fixed
    .filter((f) => f.how === 'reserved')
    .flatMap((f) => {
      const mac = macs(f)
      return mac === null ? [] : [`dhcp-host=${mac},${f.ip}`]
    })
  const hex =
    options.controller && orNull(discoveryOption(options.controller.option, options.controller.address))
  return [
    `interface=${lanName(network.vlan)}`,
    ...ranges,
    `dhcp-option=tag:${tag},option:router,${network.gateway}`,
    `dhcp-option=tag:${tag},option:dns-server,${options.dns.length > 0 ? options.dns.join(',') : network.gateway}`,
    ...(options.ntp.length > 0 ? [`dhcp-option=tag:${tag},option:ntp-server,${options.ntp.join(',')}`] : []),
    ...(options.controller && hex
      ? [`dhcp-option=tag:${tag},${options.controller.option},${hex.match(/../g)?.join(':') ?? ''}`]
      : []),
    ...(options.domain === '' ? [] : [`domain=${options.domain},${network.subnet}`]),
    ...holds,
  ]
}

/** Router advertisements of a network, and DHCPv6 where it is served. */
function sixLines(network: Network): string[] {
  if (!speaksSix(network)) return []
  const face = lanName(network.vlan)
  const range =
    network.mode6 === 'stateful'
      ? `::1000,::1fff,constructor:${face},64,${network.leaseS}`
      : `::,constructor:${face},${network.mode6 === 'stateless' ? 'ra-stateless' : 'ra-only'},64`
  return [`interface=${face}`, `dhcp-range=set:six${network.vlan},${range}`]
}

/**
 * The DHCP server of a gateway, and what it advertises of IPv6, as a dnsmasq configuration.
 * The same plan gives the same bytes.
 */
export function dnsmasqConf(plan: Plan, deviceId: string): string {
  const own = plan.networks.filter((n) => n.routerId === deviceId)
  const six = own.flatMap(sixLines)
  const served = [
    ...own.flatMap((n) => networkLines(plan, n)),
    ...(six.length > 0 ? ['enable-ra', ...six] : []),
  ]
  return [
    '# DHCP of the gateway, made from the plan',
    'port=0',
    'bind-dynamic',
    'dhcp-authoritative',
    'no-ping',
    ...served,
    '',
  ].join('\n')
}
