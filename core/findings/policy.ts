// Question: does the plan do what is meant, no more and no less, and does every rule have work to do?
// Method: the reach grid against the intents; each rule against every pair of sides the plan can produce.
// Source: first-match rule anomalies (shadowing) as any packet filter has them; no published figures used.
import { ipv4, parsePrefix4, usable, type Ipv4 } from '#core/address'
import { findKnots } from '#core/ethernet'
import type { Json, PlanIndex, Rule, Selector } from '#core/model'
import { cutPoints, compilePolicy, decide, formatServices, intersect, isNothing, type Side } from '#core/policy'
import { GATEWAY, INTERNET, openSite, verdictsOf, type FlowRef, type Grid, type IntentVerdict, type Site } from '#core/reach'
import type { Draft, Finding } from './finding'

export function nameOfKey(index: PlanIndex, key: string): string {
  if (key === GATEWAY) return 'Gateway'
  return key === INTERNET ? 'Internet' : (index.networks.get(key)?.name ?? key)
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
  const uplink = index.plan.uplinks.find((u) => u.id === id)
  if (uplink) return uplink.name
  const device = index.devices.get(id)
  if (device) return device.name
  const link = index.plan.links.find((l) => l.id === id)
  if (!link) return id
  return [link.a, link.b].map((ref) => `${index.devices.get(ref.deviceId)?.name ?? ref.deviceId} ${ref.portId.replace(/^p/, '')}`).join(' to ')
}

/** Every side a packet can have at the gateway: each network with each stretch of its addresses, and the uplink. */
function sidesOf(index: PlanIndex): Side[] {
  const cuts = cutPoints(index)
  const sides: Side[] = index.plan.networks.flatMap((network) => {
    const subnet = parsePrefix4(network.subnet)
    if (!subnet.ok) return []
    const hosts = usable(subnet.value)
    const addresses: Ipv4[] = [hosts.from, ...cuts.filter((cut) => cut > hosts.from && cut <= hosts.to).map(ipv4)]
    return addresses.map((address) => ({ via: network.id, address }))
  })
  return [...sides, { via: 'uplink', address: ipv4(0xc6336407) }]
}

function shadowFindings(index: PlanIndex): Draft[] {
  const sides = sidesOf(index)
  return index.plan.policies.flatMap((policy) => {
    const compiled = compilePolicy(index, policy)
    const works = new Set<Rule>()
    const eaters = new Map<Rule, Set<Rule>>()
    const meets = (chain: Rule['chain'], from: Side, to: Side) => {
      const decisions = decide(compiled, chain, from, to)
      for (const d of decisions) if (d.rule) works.add(d.rule)
      for (const entry of compiled.rules) {
        if (entry.rule.chain !== chain || decisions.some((d) => d.rule === entry.rule) || !entry.from(from) || !entry.to(to)) continue
        const eaten = eaters.get(entry.rule) ?? new Set<Rule>()
        for (const d of decisions) if (d.rule && !isNothing(intersect(d.services, entry.services))) eaten.add(d.rule)
        eaters.set(entry.rule, eaten)
      }
    }
    for (const from of sides) {
      for (const to of sides) if (from.via !== to.via) meets('forward', from, to)
      meets('input', from, { via: 'self', address: ipv4(0) })
    }
    return policy.rules.flatMap((rule, i): Draft[] => {
      const eaten = eaters.get(rule)
      if (works.has(rule) || !eaten) return []
      const by = [...eaten].map((r) => policy.rules.indexOf(r) + 1).sort((a, b) => a - b)
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
    if (selector.kind === 'prefix') return parsePrefix4(selector.prefix).ok ? null : selector.prefix
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
    .map((d) => ({ ...d, sheet: 'reach' as const }))
}

function missedAnyway(grid: Grid, intentId: string): boolean {
  const verdict = grid.verdicts.find((v) => v.intentId === intentId)
  return verdict !== undefined && !isNothing(verdict.missing)
}

