// Question: which name has each fixed address, and how do name servers write that down?
// Method: a label made of each thing's name, in the domain that its network tells its clients, else under
// `internal`.
// Source:
// RFC 1035 section 5 (zone files), RFC 3596 (IPv6 addresses in them), RFC 1123 section 2.1 (labels), RFC 2317
// is not needed: reverse zones are cut at octets; hosts(5), unbound.conf(5).
// `internal` is set aside for private use (ICANN, 2024; from memory).
import { parseIpv4, parseIpv6, routerIpv6 } from '#core/address'
import { groupBy, orNull } from '#core/util'
import { ipv6PrefixOf, typedIpv6 } from '#core/queries'
import type { StaticAssignment, Network, Plan, DeviceId } from '#core/schema'

export interface NamedAddress {
  readonly ip: string
  /** Its IPv6 address, where one is typed; null where none is, or it makes its own. */
  readonly ip6: string | null
  readonly host: string
  readonly domain: string
}

const PRIVATE = 'internal'
const MOST_LABEL = 63

/**
 * A name as one label of RFC 1123: letters, digits and hyphens, none at either end.
 * Worked:
 * `Tide-data server` -> `tide-data-server`.
 */
export function labelOf(name: string): string {
  const plain = name
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll(/[\u0300-\u036f]/g, '')
    .replaceAll(/[^a-z0-9]+/g, '-')
    .slice(0, MOST_LABEL)
  return plain.replaceAll(/^-+|-+$/g, '') || 'host'
}

/** The MAC that a reservation is kept for, as programs write it; null where nobody has read it. */
export function heldMacs(plan: Plan): (fixed: StaticAssignment) => string | null {
  const read = new Map(
    plan.brief.equipment.flatMap((equipment) =>
      equipment.deviceId !== null && equipment.mac !== null
        ? [[equipment.deviceId, equipment.mac] as const]
        : [],
    ),
  )
  return (fixed) =>
    (fixed.mac ?? (fixed.deviceId === null ? undefined : read.get(fixed.deviceId)))
      ?.replaceAll('-', ':')
      .toLowerCase() ?? null
}

/** A gateway's own IPv6 address in a network; null where that has none. */
function ownIpv6(network: Network): string | null {
  const prefix = ipv6PrefixOf(network)
  return prefix && routerIpv6(prefix)
}

/** Names of a gateway's networks, itself first; of two alike the second is numbered. */
export function namedAddresses(plan: Plan, deviceId: DeviceId): NamedAddress[] {
  const device = plan.devices.find((d) => d.id === deviceId)
  const taken = new Set<string>()
  const name = (network: Network, ip: string, ip6: string | null, text: string): NamedAddress[] => {
    if (!parseIpv4(ip).ok) return []
    const domain = network.options.domain === '' ? PRIVATE : network.options.domain
    const stem = labelOf(text)
    let host = stem
    for (let n = 2; taken.has(`${host}.${domain}`); n++) host = `${stem.slice(0, MOST_LABEL - 4)}-${n}`
    taken.add(`${host}.${domain}`)
    return [{ ip, ip6, host, domain }]
  }
  return plan.networks
    .filter((n) => n.routerId === deviceId)
    .flatMap((network) => [
      ...name(network, network.gateway, ownIpv6(network), `${device?.name ?? deviceId} ${network.name}`),
      ...network.fixed.flatMap((f) => name(network, f.ip, typedIpv6(network, f) ? f.ip6 : null, f.name)),
    ])
}

/** hosts(5). */
export const hostsFile = (plan: Plan, deviceId: DeviceId): string =>
  namedAddresses(plan, deviceId)
    .flatMap((suffix) =>
      [suffix.ip, ...(suffix.ip6 === null ? [] : [suffix.ip6])].map(
        (ip) => `${ip}\t${suffix.host}.${suffix.domain} ${suffix.host}\n`,
      ),
    )
    .join('')

/** unbound's local zones, for an `include:` in its configuration. */
export function unboundZones(plan: Plan, deviceId: DeviceId): string {
  const names = namedAddresses(plan, deviceId)
  return [
    'server:',
    ...[...new Set(names.map((n) => n.domain))].map((d) => `  local-zone: "${d}." static`),
    ...names.flatMap((suffix) => [
      `  local-data: "${suffix.host}.${suffix.domain}. IN A ${suffix.ip}"`,
      `  local-data-ptr: "${suffix.ip} ${suffix.host}.${suffix.domain}"`,
      ...(suffix.ip6 === null
        ? []
        : [
            `  local-data: "${suffix.host}.${suffix.domain}. IN AAAA ${suffix.ip6}"`,
            `  local-data-ptr: "${suffix.ip6} ${suffix.host}.${suffix.domain}"`,
          ]),
    ]),
    '',
  ].join('\n')
}

export interface ZoneFile {
  readonly zone: string
  readonly text: string
}

/**
 * Times of a zone, s: refresh, retry, expire, and for how long a missing name is remembered;
 * RIPE-203's advice for small zones, from memory.
 */
const TIMES = '3600 900 604800 300'

function zone(name: string, ns: NamedAddress, serial: number, records: readonly string[]): ZoneFile {
  const at = `${ns.host}.${ns.domain}.`
  return {
    zone: name,
    text: [
      `$ORIGIN ${name}.`,
      '$TTL 3600',
      `@ IN SOA ${at} hostmaster.${ns.domain}. ${serial} ${TIMES}`,
      `@ IN NS ${at}`,
      ...records,
      '',
    ].join('\n'),
  }
}

/**
 * An IPv6 address as its hexadecimal digits, the last first (RFC 3596 section 2.5); nothing where it cannot
 * be read.
 */
const nibblesOf = (ip6: string): string[] =>
  (orNull(parseIpv6(ip6)) ?? []).flatMap((g) => [...g.toString(16).padStart(4, '0')]).reverse()

/**
 * The zones of a gateway's names, forward by domain and reverse by /24 and /64.
 * @param serial of the zones: the plan's revision
 */
export function zoneFiles(plan: Plan, deviceId: DeviceId, serial: number): ZoneFile[] {
  const names = namedAddresses(plan, deviceId)
  const [ns] = names
  if (!ns) return []
  const forward = [...new Set(names.map((n) => n.domain))].map((domain) => {
    const own = names.filter((n) => n.domain === domain)
    // A zone whose server is named in another zone holds no address for it.
    return zone(
      domain,
      ns,
      serial,
      own.flatMap((suffix) => [
        `${suffix.host} IN A ${suffix.ip}`,
        ...(suffix.ip6 === null ? [] : [`${suffix.host} IN AAAA ${suffix.ip6}`]),
      ]),
    )
  })
  const octets = (ip: string) => ip.split('.')
  const reverse = [...new Set(names.map((n) => octets(n.ip).slice(0, 3).join('.')))].map((net) =>
    zone(
      `${octets(net).reverse().join('.')}.in-addr.arpa`,
      ns,
      serial,
      names
        .filter((n) => n.ip.startsWith(`${net}.`))
        .map((n) => `${octets(n.ip)[3]} IN PTR ${n.host}.${n.domain}.`),
    ),
  )
  const sixes = names.flatMap((suffix) =>
    suffix.ip6 === null ? [] : [{ nibbles: nibblesOf(suffix.ip6), to: `${suffix.host}.${suffix.domain}.` }],
  )
  const reverse6 = [...groupBy(sixes, (s) => s.nibbles.slice(16).join('.'))].map(([net, list]) =>
    zone(
      `${net}.ip6.arpa`,
      ns,
      serial,
      list.map((s) => `${s.nibbles.slice(0, 16).join('.')} IN PTR ${s.to}`),
    ),
  )
  return [...forward, ...reverse, ...reverse6]
}
