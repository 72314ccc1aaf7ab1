// Question: does what a gateway runs say the same as the plan?
// Method: what its own programs print is read into the terms of the files that were written for it, and both
// are compared, entry by entry.
// Secrets in it are passed over unread.
// Source: libnftables-json(5), ip(8) with -j, wg(8) `show … dump`, dnsmasq(8) (leases file); nft(8) for the
// meaning of each match.
import type { Plan, DeviceId } from '#core/schema'
import { ok, problem, refuse, type Result } from '#core/util'
import { isFields, type Fields, type Running } from './drift'
import { compareAddresses, compareChoices, compareRoutes } from './ip'
import { compareLeases, LEASE } from './leases'
import { compareNft } from './nft'
import { compareWireguard } from './wireguard'

export type { Drift, DriftCode, Running, RunningKind } from './drift'

const MOST_CHARACTERS = 5_000_000

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}

/** What `nft` or `ip` printed as JSON; null where it is neither. */
function compareJson(plan: Plan, deviceId: DeviceId, read: unknown): Running | null {
  if (isFields(read))
    return Array.isArray(read['nftables']) ? compareNft(plan, deviceId, read['nftables']) : null
  if (!Array.isArray(read) || read.length === 0 || !read.every(isFields)) return null
  const list: readonly Fields[] = read
  if (list.every((f) => 'addr_info' in f)) return compareAddresses(plan, deviceId, list)
  if (list.every((f) => 'dst' in f && !('priority' in f))) return compareRoutes(plan, deviceId, list)
  return list.every((f) => 'priority' in f) ? compareChoices(plan, deviceId, list) : null
}

/** Numbers of columns that `wg show … dump` prints, without and with the interface's name. */
const WIREGUARD_COLUMNS: readonly number[] = [4, 5, 8, 9]
/** Lines of a leases file: of IPv4, of IPv6, and the server's own identity. */
const LEASE_LINE = /^(duid |\d+ \d+ [0-9a-f:]+ )/

/** What `wg` or dnsmasq wrote, line by line; null where it is neither. */
function compareLines(plan: Plan, deviceId: DeviceId, text: string): Running | null {
  const lines = text
    .split('\n')
    .map((l) => l.trimEnd())
    .filter((l) => l !== '')
  if (lines.length === 0) return null
  const columns = lines.map((l) => l.split('\t'))
  if (columns.every((c) => WIREGUARD_COLUMNS.includes(c.length)))
    return compareWireguard(plan, deviceId, columns)
  return lines.every((l) => LEASE.test(l) || LEASE_LINE.test(l)) ? compareLeases(plan, deviceId, lines) : null
}

/**
 * What a gateway's program printed, compared with the plan:
 * `nft -j list ruleset`, `ip -j address`, `ip -j route`, `ip -j rule`,
 * `wg show … dump`, or dnsmasq's leases file; which of them it is, it says itself.
 * Of nftables the filter chains are compared.
 * Errors: not-evidence, too-large.
 */
export function readRunning(plan: Plan, deviceId: DeviceId, text: string): Result<Running> {
  if (text.length > MOST_CHARACTERS)
    return refuse(problem('too-large', '', { bytes: text.length, most: MOST_CHARACTERS }))
  const plain = text.trim()
  const found = /^[[{]/.test(plain)
    ? compareJson(plan, deviceId, parsed(plain))
    : compareLines(plan, deviceId, plain)
  return found ? ok(found) : refuse(problem('not-evidence', '', { text: plain.slice(0, 40) }))
}
