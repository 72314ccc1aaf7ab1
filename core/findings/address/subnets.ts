// Question: is every network's subnet and VLAN number its own, and does it fit what lies outside?
// Method: prefixes against prefixes, network by network and pair by pair.
// Source: RFC 4632, RFC 1918, RFC 3021 (usable addresses), RFC 6890 (special blocks); numbering habits are
// common practice.
import {
  contains,
  CROWDED,
  formatIpv4,
  formatPrefix4,
  lastOf,
  overlaps,
  parsePrefix4,
  readPrefixes4,
  spaceOf,
  usable,
  type Prefix4,
} from '#core/address'
import { lineAddress, type PlanIndex } from '#core/queries'
import type { Plan } from '#core/schema'
import { orNull } from '#core/util'
import { draft, set, type Draft, type Mend } from '../finding'
import type { NetworkText } from './network-text'

export function gatewayFindings({ network, at, subnet, gateway }: NetworkText): Draft[] {
  if (!subnet || gateway === null) return []
  const first = formatIpv4(usable(subnet).from)
  const place = [...at, 'gateway']
  const mend: Mend = {
    code: 'use-gateway',
    values: { ip: first },
    changes: [set(place, network.gateway, first)],
  }
  const values = { network: network.name, gateway: network.gateway, subnet: network.subnet }
  if (!contains(subnet, gateway)) return [draft('A01', 'blocker', place, values, mend)]
  if (subnet.length <= 30 && (gateway === subnet.base || gateway === lastOf(subnet)))
    return [draft('A02', 'blocker', place, values, mend)]
  return []
}

/** What providers route to the site: public addresses of its own. */
const routedHere = (plan: Plan): readonly Prefix4[] =>
  readPrefixes4(plan.uplinks.flatMap((uplink) => uplink.facts.routed4))

function spaceFindings({ network, at, subnet }: NetworkText, plan: Plan): Draft[] {
  if (!subnet) return []
  const out: Draft[] = []
  const place = [...at, 'subnet']
  const values = { network: network.name, subnet: network.subnet }
  const supernet = orNull(parsePrefix4(plan.site.supernet))
  const isWithin = (outer: Prefix4) => outer.length <= subnet.length && contains(outer, subnet.base)
  const isOwn = routedHere(plan).some(isWithin)
  if (spaceOf(subnet.base) === 'public' && !isOwn) out.push(draft('A09', 'blocker', place, values))
  if (CROWDED.some((c) => c.base === subnet.base && c.length === subnet.length))
    out.push(draft('A14', 'warning', place, values))
  if (supernet && !isOwn && !isWithin(supernet)) {
    out.push(draft('A17', 'warning', place, { ...values, supernet: formatPrefix4(supernet) }))
  }
  return out
}

function habitFindings(reads: readonly NetworkText[]): Draft[] {
  return reads.flatMap(({ network, at, subnet }, i) => {
    if (!subnet) return []
    const octet = (subnet.base >>> 8) & 255
    const twin = reads
      .slice(0, i)
      .find(
        (earlier) =>
          earlier.subnet &&
          earlier.subnet.base >>> 8 === subnet.base >>> 8 &&
          !overlaps(earlier.subnet, subnet),
      )
    if (!twin) return []
    return [
      draft('A15', 'note', [...at, 'subnet'], { network: network.name, other: twin.network.name, octet }),
    ]
  })
}

function vlanFindings(reads: readonly NetworkText[]): Draft[] {
  return reads.flatMap(({ network, at }, i) => {
    const first = reads.findIndex((other) => other.network.vlan === network.vlan)
    const legal = Number.isInteger(network.vlan) && network.vlan >= 1 && network.vlan <= 4094
    if (legal && first === i) return []
    return [
      draft('A13', 'blocker', [...at, 'vlan'], {
        network: network.name,
        vlan: network.vlan,
        other: first === i ? '' : (reads[first]?.network.name ?? ''),
      }),
    ]
  })
}

function overlapFindings(reads: readonly NetworkText[]): Draft[] {
  return reads.flatMap((read, j) =>
    reads.slice(0, j).flatMap((other) =>
      other.subnet && read.subnet && overlaps(other.subnet, read.subnet)
        ? [
            draft('A05', 'blocker', [...read.at, 'subnet'], {
              network: read.network.name,
              subnet: read.network.subnet,
              other: other.network.name,
              otherSubnet: other.network.subnet,
              key: other.network.id,
            }),
          ]
        : [],
    ),
  )
}

/** What the gateway has outside: the address of each uplink, as far as it is known. */
const uplinkPrefixes = (index: PlanIndex) =>
  index.plan.uplinks.flatMap((uplink) => {
    const own = lineAddress(index, uplink)
    return own ? [{ name: uplink.name, ...own }] : []
  })

/** What lies beyond: the subnets of far sites, and the insides of tunnels to them. */
const farPrefixes = (plan: Plan) =>
  plan.brief.far.flatMap(({ name, subnets, tunnel }) => [
    ...subnets.map((text) => ({ name, text, kind: 'site' as const })),
    ...(tunnel === null ? [] : [{ name, text: tunnel, kind: 'tunnel' as const }]),
  ])

function outsideFindings(index: PlanIndex, reads: readonly NetworkText[]): Draft[] {
  const [uplinks, fars] = [uplinkPrefixes(index), farPrefixes(index.plan)]
  return reads.flatMap(({ network, at, subnet }): Draft[] => {
    if (!subnet) return []
    const place = [...at, 'subnet']
    const values = { network: network.name, subnet: network.subnet }
    const meets = (text: string) => readPrefixes4([text]).some((prefix) => overlaps(prefix, subnet))
    return [
      ...uplinks
        .filter((uplink) => overlaps(uplink.prefix, subnet))
        .map((uplink) =>
          draft('A06', 'blocker', place, {
            ...values,
            uplink: uplink.name,
            address: uplink.text,
            key: uplink.name,
          }),
        ),
      ...fars
        .filter((far) => meets(far.text))
        .map(({ name, text, kind }) =>
          draft('A07', 'blocker', place, { ...values, far: name, other: text, kind, key: `${name} ${text}` }),
        ),
    ]
  })
}

export function subnetFindings(index: PlanIndex, reads: readonly NetworkText[]): Draft[] {
  return [
    ...reads.flatMap((read) => spaceFindings(read, index.plan)),
    ...vlanFindings(reads),
    ...overlapFindings(reads),
    ...outsideFindings(index, reads),
    ...habitFindings(reads),
  ]
}
