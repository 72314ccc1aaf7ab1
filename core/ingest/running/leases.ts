// Leases that a gateway has given, compared with its pools and reservations.
// Source: dnsmasq(8), the leases file.
import { contains, parseIpv4, readPrefixes4, type Ipv4 } from '#core/address'
import { dnsmasqConf } from '#core/export'
import { readRange4 } from '#core/queries'
import type { Network, Plan, DeviceId } from '#core/schema'
import { orNull } from '#core/util'
import { drift, type Drift, type Running } from './drift'

export const LEASE = /^\d+ ([0-9a-f]{2}(?::[0-9a-f]{2}){5}) (\d+\.\d+\.\d+\.\d+) (\S+)/i

function isInPool({ pool, subnet }: Network, address: Ipv4): boolean {
  const range = pool && readRange4(pool)
  if (!range || address < range.from || address > range.to) return false
  return readPrefixes4([subnet]).some((prefix) => contains(prefix, address))
}

interface Holds {
  /** Addresses by MAC, and MACs by address. */
  readonly byMac: ReadonlyMap<string, string>
  readonly byAddress: ReadonlyMap<string, string>
}

function holdsOf(plan: Plan, deviceId: DeviceId): Holds {
  const lines = [...dnsmasqConf(plan, deviceId).matchAll(/^dhcp-host=([0-9a-f:]+),(\S+)$/gm)]
  const byMac = new Map(lines.map(([, mac = '', ip = '']) => [mac, ip]))
  return { byMac, byAddress: new Map([...byMac].map(([mac, ip]) => [ip, mac])) }
}

function leaseDrifts(networks: readonly Network[], holds: Holds, line: string): Drift[] {
  const [, typed = '', ip = '', name = ''] = LEASE.exec(line) ?? []
  const address = orNull(parseIpv4(ip))
  if (address === null) return []
  const mac = typed.toLowerCase()
  const [own, owner] = [holds.byMac.get(mac), holds.byAddress.get(ip)]
  const who = name === '*' ? typed : `${name} (${typed})`
  if (own !== undefined && own !== ip) return [drift('lease-elsewhere', who, own, ip)]
  if (owner !== undefined && owner !== mac) return [drift('lease-taken', ip, owner, who)]
  if (own === ip || networks.some((network) => isInPool(network, address))) return []
  return [drift('lease-outside', ip, '', who)]
}

export function compareLeases(plan: Plan, deviceId: DeviceId, lines: readonly string[]): Running {
  const holds = holdsOf(plan, deviceId)
  const networks = plan.networks.filter((n) => n.routerId === deviceId)
  const drifts = lines.flatMap((line) => leaseDrifts(networks, holds, line))
  return { kind: 'leases', entries: lines.length, drifts }
}
