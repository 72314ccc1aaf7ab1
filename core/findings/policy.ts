// Question: does the plan do what is meant, no more and no less, and does every rule have work to do?
// Method: the reach grid against the intents; each rule against every pair of sides the plan can produce.
// Source: first-match rule anomalies (shadowing) as any packet filter has them; no published figures used.
import { ipv4, parsePrefix4, parsePrefix6 } from '#core/address'
import { eachShared, hasBit } from '#core/base'
import { findKnots } from '#core/ethernet'
import { DARK, peerNamed, type Json, type PlanIndex, type Selector } from '#core/model'
import { formatServices, intersect, isNothing, minus, NOTHING, policiesOf, servicesOf, sidesOf, type CompiledPolicy, type ServiceSet } from '#core/policy'
import { GATEWAY, INTERNET, openSite, peerKey, verdictsOf, type FlowRef, type Grid, type IntentVerdict, type Site } from '#core/reach'
import { draft, type Draft, type Finding } from './finding'

export function nameOfKey(index: PlanIndex, key: string): string {
  if (key === GATEWAY) return 'Gateway'
  if (key === INTERNET) return 'Internet'
  return index.networks.get(key)?.name ?? peerNamed(index.plan, key.slice(peerKey('').length))?.name ?? key
}

/** Devices whose trouble is already told as a knot or by an address finding; their lost intents are not told twice. */
function explained(site: Site, blamed: ReadonlySet<string>): Set<string> {
  const out = new Set(findKnots(site.fabric).flatMap((knot) => knot.starved))
  for (const endpoint of site.endpoints) {
    if (endpoint.wants !== null && blamed.has(endpoint.wants)) out.add(endpoint.deviceId)
  }
  return out
}

function isExplained(site: Site, told: ReadonlySet<string>, flow: FlowRef | null): boolean {
  const deviceOf = (id: string) => site.endpoints.find((e) => e.id === id)?.deviceId ?? ''
  return flow !== null && (told.has(deviceOf(flow.from)) || told.has(deviceOf(flow.to)))
}

function excessFindings(index: PlanIndex, grid: Grid): Draft[] {
  return grid.cells.filter((c) => c.judged && !isNothing(c.excess)).map((c) => ({
    code: 'P01', severity: 'blocker', place: ['cells', c.from, c.to],
    values: { kind: 'excess', from: nameOfKey(index, c.from), to: nameOfKey(index, c.to), services: formatServices(c.excess), key: 'excess' },
    mend: null,
  }))
}

function missingFindings(site: Site, verdicts: readonly IntentVerdict[], told: ReadonlySet<string>, under: string): Draft[] {
  return verdicts.filter((v) => !isNothing(v.missing) && !isExplained(site, told, v.example)).flatMap((v) => {
    const intent = site.index.plan.intents.find((i) => i.id === v.intentId)
    if (!intent) return []
    return [{
      code: 'P01' as const, severity: 'blocker' as const, place: ['intents', intent.id],
      values: { kind: 'missing', intent: intent.note, services: formatServices(v.missing), under: under === '' ? '' : nameOfThing(site.index, under), key: `missing ${under}` },
      mend: null,
    }]
  })
}

/** Name of a thing that can fail: a device, an uplink, or a link by its ends. */
export function nameOfThing(index: PlanIndex, id: string): string {
  const { uplinks, tunnels } = index.plan
  if (id.startsWith(DARK)) return `${nameOfThing(index, id.slice(DARK.length))}, beyond the line`
  const named = uplinks.find((u) => u.id === id) ?? tunnels.find((t) => t.id === id) ?? peerNamed(index.plan, id)
  if (named) return named.name
  const device = index.devices.get(id)
  if (device) return device.name
  const link = index.plan.links.find((l) => l.id === id)
  if (!link) return id
  return [link.a, link.b].map((ref) => `${index.devices.get(ref.deviceId)?.name ?? ref.deviceId} ${ref.portId.replace(/^p/, '')}`).join(' to ')
}

/** Words of bits that are compared for one list of rules, and for one of its rules, at most; a rule that is still idle after them is not judged. */
const MOST_STEPS = { list: 15_000_000, rule: 2_000_000 }

/**
 * The earlier rules that take all of some services of a rule; null where it has work to do with them, or no packet it speaks of.
 * Sides of which the same rules speak are one.
 */
function eatersOf(compiled: CompiledPolicy, i: number, services: ServiceSet, from: readonly Uint32Array[], to: readonly Uint32Array[], spent: { steps: number }): Set<number> | null {
  const { rule } = compiled.rules[i] as CompiledPolicy['rules'][number]
  const eaten = new Set<number>()
  const most = Math.min(spent.steps + MOST_STEPS.rule, MOST_STEPS.list)
  let tried = 0
  for (const a of from) {
    if (!hasBit(a, i)) continue
    for (const b of to) {
      if (!hasBit(b, i)) continue
      tried++
      spent.steps += (i >> 5) + 1
      if (spent.steps > most) return null
      let open = services
      eachShared(a, b, (n) => {
        const earlier = compiled.rules[n] as CompiledPolicy['rules'][number]
        if (n >= i) return false
        if (earlier.rule.chain !== rule.chain || isNothing(intersect(open, earlier.services))) return true
        eaten.add(n)
        open = minus(open, earlier.services)
        return !isNothing(open)
      })
      if (!isNothing(open)) return null
    }
  }
  return tried === 0 ? null : eaten
}

const distinctBits = (list: readonly Uint32Array[]): Uint32Array[] => [...new Map(list.map((bits) => [bits.join(), bits])).values()]

function shadowFindings(index: PlanIndex): Draft[] {
  const sides = sidesOf(index)
  return [...policiesOf(index).values()].flatMap((compiled) => {
    const { policy } = compiled
    const marks = sides.filter((s) => s.via !== 'self').map((side) => compiled.marks(side))
    const from = distinctBits(marks.map((m) => m.from))
    const to = distinctBits(marks.map((m) => m.to))
    const self = [compiled.marks({ via: 'self', address: ipv4(0) }).to]
    const spent = { steps: 0 }
    return policy.rules.flatMap((rule, i): Draft[] => {
      const services = compiled.rules[i]?.services ?? NOTHING
      const ends = [from, rule.chain === 'input' ? self : to] as const
      const eaten = isNothing(services) ? null : eatersOf(compiled, i, services, ...ends, spent)
      const numbers = (eaters: ReadonlySet<number>) => [...eaters].map((n) => n + 1).sort((a, b) => a - b)
      if (eaten === null) {
        // Some of its services may all the same be decided before it, and otherwise than it says.
        return (rule.services.length < 2 ? [] : rule.services).flatMap((id): Draft[] => {
          const part = eatersOf(compiled, i, servicesOf([id], index.services), ...ends, spent)
          const otherwise = part && [...part].every((n) => policy.rules[n]?.action !== rule.action)
          return !part || !otherwise || part.size === 0 ? [] : [draft('P03', 'warning', ['policies', policy.deviceId, 'rules', rule.id, 'services'], { number: i + 1, service: index.services.get(id)?.name ?? id, by: numbers(part).join(', '), key: id })]
        })
      }
      const by = numbers(eaten)
      return [{
        code: 'P02', severity: 'warning', place: ['policies', policy.deviceId, 'rules', rule.id], values: { number: i + 1, note: rule.note, by: by.join(', ') },
        mend: { code: 'remove-rule', values: { number: i + 1 }, changes: [{ kind: 'removed', path: ['policies', policy.deviceId, 'rules', rule.id], before: rule as unknown as Json, after: null }] },
      }]
    })
  })
}

function danglingFindings(index: PlanIndex): Draft[] {
  const gone = (selector: Selector): string | null => {
    if (selector.kind === 'network') return index.networks.has(selector.id) ? null : selector.id
    if (selector.kind === 'device') return index.devices.has(selector.id) ? null : selector.id
    if (selector.kind === 'tunnel') return index.plan.tunnels.some((t) => t.id === selector.id) ? null : selector.id
    if (selector.kind === 'peer') return index.plan.tunnels.some((t) => t.peers.some((p) => p.id === selector.id)) ? null : selector.id
    if (selector.kind === 'prefix') return parsePrefix4(selector.prefix).ok || parsePrefix6(selector.prefix).ok ? null : selector.prefix
    return null
  }
  const missing = (from: Selector, to: Selector, services: readonly string[]) =>
    [gone(from), gone(to), ...services.filter((id) => !index.services.has(id))].find((x) => x !== null && x !== undefined) ?? null
  const rules = index.plan.policies.flatMap((p) => p.rules.map((r, i) => ({ name: `rule ${i + 1}`, place: ['policies', p.deviceId, 'rules', r.id], what: missing(r.from, r.to, r.services) })))
  const intents = index.plan.intents.map((i) => ({ name: `intent "${i.note}"`, place: ['intents', i.id], what: missing(i.from, i.to, i.services) }))
  return [...rules, ...intents].flatMap(({ name, place, what }) =>
    what === null ? [] : [{ code: 'P07' as const, severity: 'warning' as const, place, values: { name, what }, mend: null }],
  )
}

/** Every finding of group P, and the grid they were read from. `blamed`: networks whose addressing is already found wrong. */
export function checkPolicy(site: Site, grid: Grid, blamed: ReadonlySet<string>): Finding[] {
  const { index } = site
  const told = explained(site, blamed)
  const underFailure = [...new Set(index.plan.intents.flatMap((i) => i.survives))].sort().flatMap((id) => {
    const worse = openSite(index, [id])
    const asked = index.plan.intents.filter((i) => i.survives.includes(id))
    return missingFindings(worse, verdictsOf(worse, asked), told, id).filter((f) => !missedAnyway(grid, f.place[1] ?? ''))
  })
  return [...excessFindings(index, grid), ...missingFindings(site, grid.verdicts, told, ''), ...underFailure, ...shadowFindings(index), ...danglingFindings(index)]
    .map((d) => ({ ...d, sheet: d.place[0] === 'policies' ? ('rules' as const) : ('reach' as const) }))
}

function missedAnyway(grid: Grid, intentId: string): boolean {
  const verdict = grid.verdicts.find((v) => v.intentId === intentId)
  return verdict !== undefined && !isNothing(verdict.missing)
}

