// Question: how are the ports of a service written, and which does a name of the registry stand for?
// Method:
// `tcp 80 443, udp 16384-16482, icmp`: one part a protocol, its ports behind it.
// Names are looked up in the registry's own table.
// Source:
// RFC 6335 (service names and port numbers); the table is IANA's, as its user hands it over.
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import type { Protocol, ServiceEntry } from '#core/schema'

const MOST_PORT = 65_535

/** Worked: tcp 80, tcp 443, udp 16384 to 16482 -> `tcp 80 443, udp 16384-16482`. */
export function writeEntries(entries: readonly ServiceEntry[]): string {
  return (['tcp', 'udp', 'icmp'] as const)
    .flatMap((proto) => {
      const mine = entries.filter((e) => e.proto === proto)
      if (mine.length === 0) return []
      return proto === 'icmp'
        ? ['icmp']
        : [`${proto} ${mine.map((e) => (e.from === e.to ? String(e.from) : `${e.from}-${e.to}`)).join(' ')}`]
    })
    .join(', ')
}

/**
 * Reads what `writeEntries` writes.
 * Problems: not-ports, with the part that is none; none at all is one too.
 */
export function readEntries(text: string): Result<readonly ServiceEntry[]> {
  const problems: Problem[] = []
  const entries: ServiceEntry[] = []
  for (const part of text.split(',').map((t) => t.trim().toLowerCase())) {
    const [proto = '', ...ports] = part.split(/\s+/)
    const spans = ports
      .map((p) => /^(\d{1,5})(?:[-–](\d{1,5}))?$/.exec(p))
      .map((m) => m && ([Number(m[1]), Number(m[2] ?? m[1])] as const))
    if (proto === 'icmp' && ports.length === 0) entries.push({ proto, from: 0, to: 0 })
    else if (
      (proto === 'tcp' || proto === 'udp') &&
      spans.length > 0 &&
      spans.every((s) => s !== null && s[0] <= s[1] && s[1] <= MOST_PORT)
    )
      entries.push(...spans.flatMap((s) => (s ? [{ proto: proto as Protocol, from: s[0], to: s[1] }] : [])))
    else problems.push(problem('not-ports', '', { text: part }))
  }
  return problems.length > 0 ? refuse(...problems) : ok(entries)
}

/** Names that share a port with another, of which a table by port keeps one alone. */
const SHARED: Readonly<Record<string, string>> = { http: 'www-http', www: 'www-http', ipp: 'ipps' }

/** IANA's registry by port and protocol, `443/tcp`: name and what it is. */
export type PortRegistry = Readonly<Record<string, readonly string[]>>

/**
 * What a name of the registry stands for: every port that it is assigned, tcp and udp; one of them alone
 * where it says so, `ntp/udp`.
 * Null where the registry has no such name.
 * Many names are assigned both though one is used (RFC 6335 section 7.2): that is for the planner to
 * narrow.
 */
export function registered(registry: PortRegistry, name: string): readonly ServiceEntry[] | null {
  const [asked = '', only] = name.trim().toLowerCase().split('/')
  const wanted = SHARED[asked] ?? asked
  if (wanted === '' || (only !== undefined && only !== 'tcp' && only !== 'udp')) return null
  const entries = Object.entries(registry).flatMap(([key, [known = '']]): ServiceEntry[] => {
    const [port = '', proto = ''] = key.split('/')
    return known.toLowerCase() === wanted &&
      (proto === 'tcp' || proto === 'udp') &&
      (only === undefined || only === proto) &&
      /^\d+$/.test(port)
      ? [{ proto, from: Number(port), to: Number(port) }]
      : []
  })
  return entries.length === 0
    ? null
    : entries.sort((first, second) => {
        if (first.proto < second.proto) return -1
        if (first.proto > second.proto) return 1
        return first.from - second.from
      })
}
