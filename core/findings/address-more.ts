// Question: does the addressing fit what lies outside the networks themselves: lines, far sites, clients,
// IPv6?
// Method: prefixes against prefixes; a pool against its clients by Erlang's loss formula; typed fields
// against their meaning.
// Source:
// RFC 1918 and 4632;
// RFC 4291 and 4862 (SLAAC needs 64 bits);
// RFC 2131;
// Erlang B as in core/dhcp.
import {
  contains6,
  formatIpv6,
  networkOf,
  overlaps,
  overlaps6,
  parseIpv4,
  parseIpv6,
  parseMask,
  parsePrefix4,
  parsePrefix6,
  parseRange4,
  rangesWithout,
  routerSix,
  type Prefix4,
} from '#core/address'
import { orNull } from '#core/util'
import { erlangB, leaseFor, offeredLoad, poolFor } from '#core/dhcp'
import { prefixSix, type Network, type Plan } from '#core/model'
import { draft, set, type Draft } from './finding'

const prefixOf = (text: string | null): Prefix4 | null => (text === null ? null : orNull(parsePrefix4(text)))

/** The subnet an interface address with its length lies in. */
function facePrefix(text: string | null): Prefix4 | null {
  const [ip = '', length = ''] = (text ?? '').split('/')
  const parsed = orNull(parseIpv4(ip))
  return parsed === null || length === ''
    ? null
    : { base: networkOf(parsed, Number(length)), length: Number(length) }
}

function outsideFindings(plan: Plan): Draft[] {
  const lines = plan.uplinks.flatMap((uplink) => {
    const side = facePrefix(uplink.facts.address)
    return side ? [{ name: uplink.name, side, text: uplink.facts.address ?? '' }] : []
  })
  const far = plan.brief.far.flatMap((far) => [
    ...far.subnets.map((text) => ({ name: far.name, text, what: 'site' })),
    ...(far.tunnel === null ? [] : [{ name: far.name, text: far.tunnel, what: 'tunnel' }]),
  ])
  return plan.networks.flatMap((network) => {
    const subnet = prefixOf(network.subnet)
    if (!subnet) return []
    const place = ['networks', network.id, 'subnet']
    const values = { network: network.name, subnet: network.subnet }
    return [
      ...lines
        .filter((l) => overlaps(l.side, subnet))
        .map((line) =>
          draft('A06', 'blocker', place, { ...values, line: line.name, address: line.text, key: line.name }),
        ),
      ...far
        .filter((finding) => {
          const other = prefixOf(finding.text)
          return other && overlaps(other, subnet)
        })
        .map((finding) =>
          draft('A07', 'blocker', place, {
            ...values,
            far: finding.name,
            other: finding.text,
            kind: finding.what,
            key: `${finding.name} ${finding.text}`,
          }),
        ),
    ]
  })
}

/** A mask where an address belongs, or an address or length that is not its network's. */
function fieldFindings(network: Network): Draft[] {
  const out: Draft[] = []
  const subnet = prefixOf(network.subnet)
  const at = ['networks', network.id]
  const isMask = (text: string) => text.startsWith('255.') && parseMask(text).ok
  if (isMask(network.gateway))
    out.push(
      draft('A11', 'blocker', [...at, 'gateway'], {
        kind: 'mask-as-gateway',
        name: network.name,
        text: network.gateway,
      }),
    )
  for (const assignment of network.fixed) {
    const place = [...at, 'fixed', assignment.id]
    if (isMask(assignment.ip))
      out.push(
        draft('A11', 'blocker', [...place, 'ip'], {
          kind: 'mask-as-address',
          name: assignment.name,
          text: assignment.ip,
        }),
      )
    if (assignment.how !== 'static') continue
    if (assignment.gateway !== null && isMask(assignment.gateway))
      out.push(
        draft('A11', 'blocker', [...place, 'gateway'], {
          kind: 'mask-as-gateway',
          name: assignment.name,
          text: assignment.gateway,
        }),
      )
    else if (assignment.gateway !== null && assignment.gateway === assignment.ip)
      out.push(
        draft('A11', 'blocker', [...place, 'gateway'], {
          kind: 'own-as-gateway',
          name: assignment.name,
          text: assignment.gateway,
        }),
      )
    if (assignment.mask !== null && subnet && assignment.mask !== subnet.length) {
      const mend = {
        code: 'use-mask',
        values: { length: subnet.length },
        changes: [set([...place, 'mask'], assignment.mask, null)],
      }
      out.push(
        draft(
          'A11',
          'warning',
          [...place, 'mask'],
          { kind: 'other-mask', name: assignment.name, text: `/${assignment.mask}`, subnet: network.subnet },
          mend,
        ),
      )
    }
  }
  return out
}

/** Share of clients that may find a pool empty before it is told (practice: one in a hundred). */
export const MOST_BLOCKED = 0.01

/** Addresses a pool can hand out to clients without a reservation. */
export function poolSize(network: Network): number {
  const range = network.pool ? orNull(parseRange4(`${network.pool.from}-${network.pool.to}`)) : null
  if (!range) return 0
  const cuts = network.exclusions.flatMap((e) => orNull(parseRange4(`${e.from}-${e.to}`)) ?? [])
  const handed = rangesWithout(range, cuts).reduce((sum, r) => sum + r.to - r.from + 1, 0)
  const held = network.fixed.filter((assignment) => {
    const ip = orNull(parseIpv4(assignment.ip))
    return assignment.how === 'reserved' && ip !== null && ip >= range.from && ip <= range.to
  }).length
  return Math.max(0, handed - held)
}

function turnoverFindings(network: Network): Draft[] {
  const { arrivalsPerH, stayH } = network
  if (network.dhcp === 'none' || !network.pool || arrivalsPerH === null || stayH === null) return []
  const size = poolSize(network)
  const blocked = erlangB(offeredLoad(arrivalsPerH, stayH, network.leaseS / 3600), size)
  if (blocked <= MOST_BLOCKED) return []
  const leaseS = leaseFor(arrivalsPerH, stayH, size, MOST_BLOCKED)
  const place = ['networks', network.id, 'leaseS']
  const mend =
    leaseS !== null && leaseS < network.leaseS
      ? { code: 'use-lease', values: { leaseS }, changes: [set(place, network.leaseS, leaseS)] }
      : null
  const needed = poolFor(offeredLoad(arrivalsPerH, stayH, network.leaseS / 3600), MOST_BLOCKED)
  return [
    draft(
      'A12',
      'warning',
      place,
      {
        network: network.name,
        oneIn: Math.round(1 / blocked),
        size,
        leaseS: network.leaseS,
        arrivalsPerH,
        stayH,
        needed,
      },
      mend,
    ),
  ]
}

function relayFindings(plan: Plan, network: Network): Draft[] {
  if (network.dhcp !== 'relay' || plan.networks.some((n) => n.fixed.some((f) => f.ip === network.relayTo)))
    return []
  return [
    draft('A19', 'blocker', ['networks', network.id, 'relayTo'], {
      network: network.name,
      server: network.relayTo ?? '',
    }),
  ]
}

function dhcpFindings(network: Network): Draft[] {
  const out: Draft[] = []
  const at = ['networks', network.id]
  const pool = network.pool ? orNull(parseRange4(`${network.pool.from}-${network.pool.to}`)) : null
  network.exclusions.forEach((range, i) => {
    const part = orNull(parseRange4(`${range.from}-${range.to}`))
    if (pool && part && part.from <= pool.to && part.to >= pool.from) return
    out.push(
      draft('A23', 'note', [...at, 'exclusions'], {
        network: network.name,
        from: range.from,
        to: range.to,
        key: i,
      }),
    )
  })
  const seen = new Map<string, string>()
  for (const assignment of network.fixed) {
    if (assignment.mac === null) continue
    const other = seen.get(assignment.mac)
    if (other !== undefined)
      out.push(
        draft('A18', 'blocker', [...at, 'fixed', assignment.id, 'mac'], {
          network: network.name,
          mac: assignment.mac,
          name: assignment.name,
          other,
        }),
      )
    seen.set(assignment.mac, assignment.name)
  }
  return out
}

function sixFindings(plan: Plan): Draft[] {
  const site = plan.site.prefix6 === null ? null : orNull(parsePrefix6(plan.site.prefix6))
  const read = plan.networks.map((network) => ({
    network,
    prefix: network.prefix6 === null ? null : orNull(parsePrefix6(network.prefix6)),
    place: ['networks', network.id, 'prefix6'],
  }))
  return read.flatMap(({ network, prefix, place }, i) => {
    const values = { network: network.name, prefix: network.prefix6 ?? '' }
    if (!prefix)
      return network.mode6 === 'off'
        ? []
        : [draft('A20', 'blocker', place, { ...values, kind: 'none', site: plan.site.prefix6 ?? '' })]
    const out: Draft[] = []
    if (site && !contains6(site, prefix))
      out.push(draft('A20', 'warning', place, { ...values, kind: 'outside', site: plan.site.prefix6 ?? '' }))
    const twin = read.slice(0, i).find((other) => other.prefix && overlaps6(other.prefix, prefix))
    if (twin) out.push(draft('A21', 'blocker', place, { ...values, other: twin.network.name }))
    if (prefix.length !== 64 && (network.mode6 === 'slaac' || network.mode6 === 'stateless'))
      out.push(draft('A22', 'blocker', place, { ...values, length: prefix.length }))
    return out
  })
}

/**
 * Typed IPv6 addresses: what follows the network's own part, moved into its prefix, is the mend of one that
 * lies elsewhere.
 */
function typedSixFindings(network: Network): Draft[] {
  const prefix = prefixSix(network)
  const seen = new Map<string, string>()
  return network.fixed.flatMap((assignment) => {
    const groups = assignment.ip6 === null ? null : orNull(parseIpv6(assignment.ip6))
    if (assignment.ip6 === null || !groups) return []
    const place = ['networks', network.id, 'fixed', assignment.id, 'ip6']
    const values = {
      network: network.name,
      name: assignment.name,
      text: assignment.ip6,
      prefix: network.prefix6 ?? '',
    }
    if (assignment.how !== 'static' || !prefix)
      return [
        draft('A24', 'warning', place, { ...values, kind: assignment.how === 'static' ? 'off' : 'reserved' }),
      ]
    if (!contains6(prefix, { groups, length: 128 })) {
      const moved =
        prefix.length === 64 ? formatIpv6([...prefix.groups.slice(0, 4), ...groups.slice(4)]) : null
      return [
        draft(
          'A24',
          'blocker',
          place,
          { ...values, kind: 'outside' },
          moved === null
            ? null
            : { code: 'move-six', values: { ip: moved }, changes: [set(place, assignment.ip6, moved)] },
        ),
      ]
    }
    const sign = formatIpv6(groups)
    const other = sign === routerSix(prefix) ? `${network.name} gateway` : seen.get(sign)
    seen.set(sign, assignment.name)
    return other === undefined ? [] : [draft('A24', 'blocker', place, { ...values, kind: 'twice', other })]
  })
}

/** What can be said of one network alone. */
export function checkNetworkMore(network: Network): Draft[] {
  return [
    ...fieldFindings(network),
    ...turnoverFindings(network),
    ...dhcpFindings(network),
    ...typedSixFindings(network),
  ]
}

/** The rest of group A. */
export function checkAddressesMore(plan: Plan): Draft[] {
  return [
    ...outsideFindings(plan),
    ...plan.networks.flatMap((n) => relayFindings(plan, n)),
    ...sixFindings(plan),
  ]
}
