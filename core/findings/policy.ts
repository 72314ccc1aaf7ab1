// Question: does the plan do what is meant, no more and no less?
// Method: the reach grid against the intents, all well and under what they are to survive.
// Source: no published figures used.
import { parsePrefix4, parsePrefix6 } from '#core/address'
import { vlanGaps } from '#core/layer2'
import {
  AT,
  defineStage,
  scheduleInstants,
  type Intent,
  type Json,
  type PlanIndex,
  type Rule,
  type Selector,
} from '#core/model'
import { formatServices, isNothing } from '#core/filter'
import {
  matrixOf,
  openSite,
  verdictsOf,
  type FlowRef,
  type ReachabilityMatrix,
  type IntentVerdict,
  type Site,
} from '#core/reachability'
import { set, type Draft, type Finding } from './finding'
import { nameOfKey } from './repairs'
import { nameOfThing } from './names'
import { shadowFindings } from './shadows'

/**
 * Devices whose trouble is already told as a knot or by an address finding; their lost intents are not told
 * twice.
 */
function explained(site: Site, blamed: ReadonlySet<string>): Set<string> {
  const out = new Set(vlanGaps(site.index, site.scenario).flatMap((knot) => knot.affected))
  for (const endpoint of site.endpoints) {
    if (endpoint.wants !== null && blamed.has(endpoint.wants)) out.add(endpoint.deviceId)
  }
  return out
}

function isExplained(site: Site, told: ReadonlySet<string>, flow: FlowRef | null): boolean {
  const deviceOf = (id: string) => site.endpoints.find((e) => e.id === id)?.deviceId ?? ''
  return flow !== null && (told.has(deviceOf(flow.from)) || told.has(deviceOf(flow.to)))
}

function excessFindings(index: PlanIndex, grid: ReachabilityMatrix, under: string): Draft[] {
  return grid.cells
    .filter((c) => c.judged && !isNothing(c.unexpected))
    .map((cell) => ({
      code: 'P01',
      severity: 'blocker',
      place: ['cells', cell.from, cell.to],
      values: {
        kind: 'excess',
        from: nameOfKey(index, cell.from),
        to: nameOfKey(index, cell.to),
        services: formatServices(cell.unexpected),
        under: under === '' ? '' : nameOfThing(index, under),
        key: under === '' ? 'excess' : `excess ${under}`,
      },
      mend: null,
    }))
}

function missingFindings(
  site: Site,
  verdicts: readonly IntentVerdict[],
  told: ReadonlySet<string>,
  under: string,
): Draft[] {
  return verdicts
    .filter((v) => !isNothing(v.missing) && !isExplained(site, told, v.example))
    .flatMap((verdict) => {
      const intent = site.index.plan.intents.find((i) => i.id === verdict.intentId)
      if (!intent) return []
      return [
        {
          code: 'P01' as const,
          severity: 'blocker' as const,
          place: ['intents', intent.id],
          values: {
            kind: 'missing',
            intent: intent.note,
            services: formatServices(verdict.missing),
            under: under === '' ? '' : nameOfThing(site.index, under),
            at: under.startsWith(AT) ? 'yes' : '',
            key: `missing ${under}`,
          },
          mend: null,
        },
      ]
    })
}

const NONE: readonly never[] = []
const isPrefix = (text: string): boolean => parsePrefix4(text).ok || parsePrefix6(text).ok

const danglingReferences = defineStage('dangling references', danglingFindings)

function danglingFindings(index: PlanIndex): Draft[] {
  const gone = (selector: Selector): string | null => {
    if (selector.kind === 'network') return index.networkHeads.has(selector.id) ? null : selector.id
    if (selector.kind === 'device') return index.devices.has(selector.id) ? null : selector.id
    if (selector.kind === 'group') return index.groups.has(selector.id) ? null : selector.id
    if (selector.kind === 'tunnel')
      return index.plan.tunnels.some((t) => t.id === selector.id) ? null : selector.id
    if (selector.kind === 'peer')
      return index.plan.tunnels.some((t) => t.peers.some((p) => p.id === selector.id)) ? null : selector.id
    if (selector.kind === 'prefix') return isPrefix(selector.prefix) ? null : selector.prefix
    return null
  }
  const missing = ({ from, to, services, when }: Rule | Intent): string | null =>
    when !== null && !index.plan.schedules.some((s) => s.id === when)
      ? when
      : (gone(from) ?? gone(to) ?? services.find((id) => !index.services.has(id)) ?? null)
  // With a service less it still decides the others: then it is not idle, and stays.
  const told = (
    {
      name,
      place,
      what,
    }: { readonly name: string; readonly place: readonly string[]; readonly what: string },
    item: { readonly id: string; readonly services?: readonly string[] },
    mend: { readonly code: string; readonly values: Finding['values'] },
  ): Draft => ({
    code: 'P07',
    severity: 'warning',
    place,
    values: { name, what },
    mend: item.services?.includes(what)
      ? null
      : {
          ...mend,
          changes: [{ kind: 'removed', path: place, before: item as unknown as Json, after: null }],
        },
  })
  /** Those of a list that name something that is not there. */
  const broken = <T>(
    list: readonly T[],
    missing: (it: T) => string | null,
    tell: (it: T, what: string, number: number) => Draft,
  ): Draft[] =>
    list.flatMap((it, i) => {
      const what = missing(it)
      return what === null ? NONE : tell(it, what, i + 1)
    })
  const rules = index.plan.policies.flatMap((policy) =>
    broken(policy.rules, missing, (rule, what, number) =>
      told({ name: `rule ${number}`, place: ['policies', policy.deviceId, 'rules', rule.id], what }, rule, {
        code: 'remove-rule',
        values: { number },
      }),
    ),
  )
  const pairs = index.plan.policies.flatMap((policy) =>
    broken(
      policy.pairs,
      (d) => gone(d.from) ?? gone(d.to),
      (pairDefault, what, number) =>
        told(
          { name: `default ${number}`, place: ['policies', policy.deviceId, 'pairs', pairDefault.id], what },
          pairDefault,
          {
            code: 'remove-pair',
            values: { number },
          },
        ),
    ),
  )
  const intents = broken(index.plan.intents, missing, (i, what) =>
    told({ name: `intent "${i.note}"`, place: ['intents', i.id], what }, i, {
      code: 'remove-intent',
      values: { intent: i.note },
    }),
  )
  const groups = index.plan.groups.flatMap((group): Draft[] => {
    const left = group.members.filter((m) => gone(m) === null)
    const place = ['groups', group.id, 'members']
    const [what] = group.members.flatMap((m) => gone(m) ?? [])
    return what === undefined
      ? []
      : [
          {
            code: 'P07',
            severity: 'warning',
            place,
            values: { name: `group "${group.name}"`, what },
            mend: {
              code: 'drop-member',
              values: { group: group.name, what },
              changes: [set(place, group.members, left)],
            },
          },
        ]
  })
  return [...groups, ...rules, ...pairs, ...intents]
}

/**
 * Every finding of group P, and the grid they were read from.
 * `blamed`: networks whose addressing is already found wrong.
 */
export function checkPolicy(site: Site, grid: ReachabilityMatrix, blamed: ReadonlySet<string>): Finding[] {
  const { index } = site
  const told = explained(site, blamed)
  const underFailure = [...new Set(index.plan.intents.flatMap((i) => i.survives))].sort().flatMap((id) => {
    const worse = openSite(index, [id])
    const asked = index.plan.intents.filter((i) => i.survives.includes(id))
    return missingFindings(worse, verdictsOf(worse, asked), told, id).filter(
      (f) => !missedAnyway(grid, f.place[1] ?? ''),
    )
  })
  const now = [...excessFindings(index, grid, ''), ...missingFindings(site, grid.verdicts, told, '')]
  // At other times other rules are there, and other things are meant: what is wrong then and not at the usual
  // time.
  const usual = new Set(
    index.plan.schedules.length === 0
      ? []
      : now.map((d) => `${d.place.join('/')} ${String(d.values['services'])}`),
  )
  const atTimes =
    index.plan.schedules.length === 0
      ? []
      : scheduleInstants(index.plan.schedules)
          .slice(1)
          .flatMap(({ id }) => {
            const then = openSite(index, [id])
            const thenGrid = matrixOf(then)
            return [
              ...excessFindings(index, thenGrid, id),
              ...missingFindings(then, thenGrid.verdicts, told, id),
            ].filter((d) => !usual.has(`${d.place.join('/')} ${String(d.values['services'])}`))
          })
  const dangling = index.get(danglingReferences)
  const gone = new Set(dangling.map((d) => d.place.join('/')))
  // Of what names something that is not there it is no news that it speaks of nobody.
  const idle = shadowFindings(index).filter((d) => d.code !== 'P10' || !gone.has(d.place.join('/')))
  return [...now, ...underFailure, ...atTimes, ...idle, ...dangling].map((draft) => ({
    ...draft,
    sheet:
      draft.place[0] === 'policies' || draft.place[0] === 'groups' ? ('rules' as const) : ('reach' as const),
  }))
}

function missedAnyway(grid: ReachabilityMatrix, intentId: string): boolean {
  const verdict = grid.verdicts.find((v) => v.intentId === intentId)
  return verdict !== undefined && !isNothing(verdict.missing)
}
