// Question: what do rules, intents and groups name that is not there?
// Method: each selector, service and schedule against the plan.
import { parsePrefix4, parsePrefix6 } from '#core/address'
import { defineStage, peerNamed, type PlanIndex } from '#core/queries'
import type { Intent, PairDefault, Rule, Selector, Group, DeviceId } from '#core/schema'
import { draft, removed, set, type Draft, type Mend } from '../finding'
import { nameOfFlow } from '#core/reachability'

const isPrefix = (text: string): boolean => parsePrefix4(text).ok || parsePrefix6(text).ok

/** Ids of all devices: ports and cables change more often than they do. */
const deviceIds = defineStage('device ids', ({ plan }) => new Set<string>(plan.devices.map((d) => d.id)), {
  equal: (first, second) => [...first].join() === [...second].join(),
})

/** What a selector names that is not there; null where it is. */
function goneIn(index: PlanIndex, selector: Selector): string | null {
  const { tunnels } = index.plan
  const unless = (isThere: boolean, name: string) => (isThere ? null : name)
  switch (selector.kind) {
    case 'network':
      return unless(index.networkHeads.has(selector.id), selector.id)
    case 'device':
      return unless(index.get(deviceIds).has(selector.id), selector.id)
    case 'group':
      return unless(index.groups.has(selector.id), selector.id)
    case 'tunnel':
      return unless(
        tunnels.some((t) => t.id === selector.id),
        selector.id,
      )
    case 'peer':
      return unless(peerNamed(index.plan, selector.id) !== undefined, selector.id)
    case 'prefix':
      return unless(isPrefix(selector.prefix), selector.prefix)
    case 'any':
    case 'inside':
    case 'gateway':
    case 'internet':
      return null
  }
}

/** What a rule or an intent names that is not there; null where all of it is. */
function goneFrom(index: PlanIndex, { from, to, services, when }: Rule | Intent): string | null {
  if (when !== null && !index.plan.schedules.some((s) => s.id === when)) return when
  return goneIn(index, from) ?? goneIn(index, to) ?? services.find((id) => !index.services.has(id)) ?? null
}

/**
 * Removes a rule or an intent; null where a service is what is gone: with a service less it still decides the
 * others, so it is not idle, and stays.
 */
const removal = (item: Rule | Intent, what: string, mend: Mend): Mend | null =>
  item.services.includes(what) ? null : mend

function ruleFinding(index: PlanIndex, deviceId: DeviceId, rule: Rule, number: number): Draft[] {
  const what = goneFrom(index, rule)
  if (what === null) return []
  const place = ['policies', deviceId, 'rules', rule.id]
  const mend: Mend = { code: 'remove-rule', values: { number }, changes: [removed(place, rule)] }
  return [draft('P07', 'warning', place, { thing: 'rule', number, what }, removal(rule, what, mend))]
}

function pairFinding(index: PlanIndex, deviceId: DeviceId, pair: PairDefault, number: number): Draft[] {
  const what = goneIn(index, pair.from) ?? goneIn(index, pair.to)
  if (what === null) return []
  const place = ['policies', deviceId, 'pairs', pair.id]
  const mend: Mend = { code: 'remove-pair', values: { number }, changes: [removed(place, pair)] }
  return [draft('P07', 'warning', place, { thing: 'pair', number, what }, mend)]
}

function intentFinding(index: PlanIndex, intent: Intent): Draft[] {
  const what = goneFrom(index, intent)
  if (what === null) return []
  const place = ['intents', intent.id]
  const mend: Mend = {
    code: 'remove-intent',
    values: { intent: nameOfFlow(index, intent) },
    changes: [removed(place, intent)],
  }
  return [
    draft(
      'P07',
      'warning',
      place,
      { thing: 'intent', name: nameOfFlow(index, intent), what },
      removal(intent, what, mend),
    ),
  ]
}

function groupFinding(index: PlanIndex, { id, name, members }: Group): Draft[] {
  const gone = members.filter((member) => goneIn(index, member) !== null)
  const [first] = gone
  const what = first && goneIn(index, first)
  if (!what) return []
  const place = ['groups', id, 'members']
  const left = members.filter((member) => !gone.includes(member))
  const mend: Mend = {
    code: 'drop-member',
    values: { group: name, what },
    changes: [set(place, members, left)],
  }
  return [draft('P07', 'warning', place, { thing: 'group', name, what }, mend)]
}

const findings = defineStage('dangling references', (index): Draft[] => {
  const { groups, policies, intents } = index.plan
  return [
    ...groups.flatMap((group) => groupFinding(index, group)),
    ...policies.flatMap(({ deviceId, rules }) =>
      rules.flatMap((rule, i) => ruleFinding(index, deviceId, rule, i + 1)),
    ),
    ...policies.flatMap(({ deviceId, pairs }) =>
      pairs.flatMap((pair, i) => pairFinding(index, deviceId, pair, i + 1)),
    ),
    ...intents.flatMap((intent) => intentFinding(index, intent)),
  ]
})
export const danglingFindings = (index: PlanIndex): readonly Draft[] => index.get(findings)
