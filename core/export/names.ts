// Question: which name has each fixed address, and how do name servers write that down?
// Method: a label made of each thing's name, in the domain that its network tells its clients, else under `internal`.
// Source: RFC 1035 section 5 (zone files), RFC 1123 section 2.1 (labels), RFC 2317 is not needed: reverse zones are cut at octets;
// hosts(5), unbound.conf(5). `internal` is set aside for private use (ICANN, 2024; from memory).
import { parseIpv4 } from '#core/address'
import type { Fixed, Network, Plan } from '#core/model'

export interface NamedAddress {
  readonly ip: string
  readonly host: string
  readonly domain: string
}

const PRIVATE = 'internal'
const MOST_LABEL = 63

/** A name as one label of RFC 1123: letters, digits and hyphens, none at either end. Worked: `Tide-data server` -> `tide-data-server`. */
export function labelOf(name: string): string {
  const plain = name.normalize('NFKD').toLowerCase().replaceAll(/[\u0300-\u036f]/g, '').replaceAll(/[^a-z0-9]+/g, '-').slice(0, MOST_LABEL)
  return plain.replaceAll(/^-+|-+$/g, '') || 'host'
}

/** The MAC that a reservation is kept for, as programs write it; null where nobody has read it. */
export function heldMacs(plan: Plan): (fixed: Fixed) => string | null {
  const read = new Map(plan.brief.equipment.flatMap((e) => (e.deviceId !== null && e.mac !== null ? [[e.deviceId, e.mac] as const] : [])))
  return (fixed) => (fixed.mac ?? (fixed.deviceId === null ? undefined : read.get(fixed.deviceId)))?.replaceAll('-', ':').toLowerCase() ?? null
}

/** Names of a gateway's networks, itself first; of two alike the second is numbered. */
export function namedAddresses(plan: Plan, deviceId: string): NamedAddress[] {
  const device = plan.devices.find((d) => d.id === deviceId)
  const taken = new Set<string>()
  const name = (network: Network, ip: string, text: string): NamedAddress[] => {
    if (!parseIpv4(ip).ok) return []
    const domain = network.options.domain === '' ? PRIVATE : network.options.domain
    const stem = labelOf(text)
    let host = stem
    for (let n = 2; taken.has(`${host}.${domain}`); n++) host = `${stem.slice(0, MOST_LABEL - 4)}-${n}`
    taken.add(`${host}.${domain}`)
    return [{ ip, host, domain }]
  }
  return plan.networks.filter((n) => n.routerId === deviceId).flatMap((network) => [
    ...name(network, network.gateway, `${device?.name ?? deviceId} ${network.name}`), ...network.fixed.flatMap((f) => name(network, f.ip, f.name)),
  ])
}

/** hosts(5). */
export const hostsFile = (plan: Plan, deviceId: string): string => namedAddresses(plan, deviceId).map((n) => `${n.ip}\t${n.host}.${n.domain} ${n.host}\n`).join('')

/** unbound's local zones, for an `include:` in its configuration. */
export function unboundZones(plan: Plan, deviceId: string): string {
  const names = namedAddresses(plan, deviceId)
  return ['server:', ...[...new Set(names.map((n) => n.domain))].map((d) => `  local-zone: "${d}." static`), ...names.flatMap((n) => [`  local-data: "${n.host}.${n.domain}. IN A ${n.ip}"`, `  local-data-ptr: "${n.ip} ${n.host}.${n.domain}"`]), ''].join('\n')
}

export interface ZoneFile {
  readonly zone: string
  readonly text: string
}

/** Times of a zone, s: refresh, retry, expire, and for how long a missing name is remembered; RIPE-203's advice for small zones, from memory. */
const TIMES = '3600 900 604800 300'

function zone(name: string, ns: NamedAddress, serial: number, records: readonly string[]): ZoneFile {
  const at = `${ns.host}.${ns.domain}.`
  return { zone: name, text: [`$ORIGIN ${name}.`, '$TTL 3600', `@ IN SOA ${at} hostmaster.${ns.domain}. ${serial} ${TIMES}`, `@ IN NS ${at}`, ...records, ''].join('\n') }
}

/** The zones of a gateway's names, forward by domain and reverse by /24. @param serial of the zones: the plan's revision */
export function zoneFiles(plan: Plan, deviceId: string, serial: number): ZoneFile[] {
  const names = namedAddresses(plan, deviceId)
  const [ns] = names
  if (!ns) return []
  const forward = [...new Set(names.map((n) => n.domain))].map((domain) => {
    const own = names.filter((n) => n.domain === domain)
    // A zone whose server is named in another zone holds no address for it.
    return zone(domain, ns, serial, own.map((n) => `${n.host} IN A ${n.ip}`))
  })
  const octets = (ip: string) => ip.split('.')
  const reverse = [...new Set(names.map((n) => octets(n.ip).slice(0, 3).join('.')))].map((net) =>
    zone(`${octets(net).reverse().join('.')}.in-addr.arpa`, ns, serial, names.filter((n) => n.ip.startsWith(`${net}.`)).map((n) => `${octets(n.ip)[3]} IN PTR ${n.host}.${n.domain}.`)))
  return [...forward, ...reverse]
}

