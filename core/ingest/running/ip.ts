// Addresses, routes and routing rules that a gateway has, compared with the batch written for it.
// Source: ip(8) with -j.
import { ip6Rules, ipBatch } from '#core/export'
import type { Plan, DeviceId } from '#core/schema'
import { drift, flat, isFields, type Fields, type Running } from './drift'

const commands = (plan: Plan, deviceId: DeviceId, object: string): string[] =>
  ipBatch(plan, deviceId)
    .split('\n')
    .filter((l) => l.startsWith(`${object} `))

export function compareAddresses(plan: Plan, deviceId: DeviceId, interfaces: readonly Fields[]): Running {
  const planned = commands(plan, deviceId, 'addr').flatMap((command) => {
    const [, at = '', dev = ''] = /^addr add (\S+) dev (\S+)/.exec(command) ?? []
    return at === '' ? [] : [{ at, dev }]
  })
  const running = interfaces.flatMap((one) =>
    (Array.isArray(one['addr_info']) ? (one['addr_info'] as unknown[]) : [])
      .filter(isFields)
      .filter((a) => a['scope'] !== 'link')
      .map((a) => ({ at: `${String(a['local'])}/${String(a['prefixlen'])}`, dev: String(one['ifname']) })),
  )
  const devices = new Set(planned.map((p) => p.dev))
  const names = new Set(interfaces.map((f) => String(f['ifname'])))
  const has = (list: typeof planned, one: (typeof planned)[number]) =>
    list.some((x) => x.at === one.at && x.dev === one.dev)
  return {
    kind: 'address',
    entries: running.length,
    drifts: [
      ...[...devices].filter((d) => !names.has(d)).map((d) => drift('not-there', d)),
      ...planned
        .filter((p) => names.has(p.dev) && !has(running, p))
        .map((p) => drift('address-missing', p.dev, p.at)),
      ...running
        .filter((r) => devices.has(r.dev) && !has(planned, r))
        .map((r) => drift('address-extra', r.dev, '', r.at)),
    ],
  }
}

export function compareRoutes(plan: Plan, deviceId: DeviceId, printed: readonly Fields[]): Running {
  const planned = commands(plan, deviceId, 'route')
    .filter((l) => !l.includes(' table ') && !l.includes('unreachable'))
    .map((command) => {
      const [, , dst = ''] = command.split(' ')
      return { dst, by: / via (\S+)/.exec(command)?.[1] ?? / dev (\S+)/.exec(command)?.[1] ?? '' }
    })
  const running = printed
    .filter((r) => r['protocol'] !== 'kernel' && r['protocol'] !== 'ra')
    .map((r) => ({ dst: String(r['dst']), via: String(r['gateway'] ?? ''), dev: String(r['dev'] ?? '') }))
  const meets = (plannedPeer: (typeof planned)[number], runningPeer: (typeof running)[number]) =>
    flat([plannedPeer.dst]) === flat([runningPeer.dst]) &&
    (plannedPeer.by === runningPeer.via || plannedPeer.by === runningPeer.dev)
  return {
    kind: 'route',
    entries: printed.length,
    drifts: [
      ...planned
        .filter((p) => !running.some((r) => meets(p, r)))
        .map((p) => drift('route-missing', p.dst, p.by)),
      // Default routes come from the lines.
      ...running
        .filter((r) => r.dst !== 'default' && !planned.some((p) => meets(p, r)))
        .map((r) => drift('route-extra', r.dst, '', r.via || r.dev)),
    ],
  }
}

/** Rules by which both families look up the table `main`, and IPv4 alone its table `default`. */
const [MAIN_TABLE, DEFAULT_TABLE] = [32_766, 32_767]

/** `ip rule` numbers that every system has. */
const ALWAYS: ReadonlySet<number> = new Set([0, MAIN_TABLE, DEFAULT_TABLE])

export function compareChoices(plan: Plan, deviceId: DeviceId, printed: readonly Fields[]): Running {
  const has = (priority: number) => printed.some((r) => Number(r['priority']) === priority)
  const isIpv6 = has(MAIN_TABLE) && !has(DEFAULT_TABLE)
  const lines = isIpv6 ? (ip6Rules(plan, deviceId) ?? '').split('\n') : commands(plan, deviceId, 'rule')
  const planned = lines
    .filter((line) => line !== '')
    .map((l) => ({ pref: Number(/pref (\d+)/.exec(l)?.[1]), text: l.replace(/^rule add /, '') }))
  const running = printed.map((r) => Number(r['priority'])).filter((n) => !ALWAYS.has(n))
  return {
    kind: 'rule',
    entries: printed.length,
    drifts: [
      ...planned
        .filter((p) => !running.includes(p.pref))
        .map((p) => drift('choice-missing', String(p.pref), p.text)),
      ...running
        .filter((n) => !planned.some((p) => p.pref === n))
        .map((n) => drift('choice-extra', String(n))),
    ],
  }
}
