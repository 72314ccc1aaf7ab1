// Question: which intents speak of each pair of rows and columns of the grid, and what becomes of them where
// one pair is set?
// Method: a selector stands for the rows whose hosts it speaks of; an intent whose ends are a row and a
// column themselves is the pair's own, any other is wider, or narrower, and is left as it is.
import { byText } from '#core/util'
import { byVlan, homesOf, indexPlan, membersOf, peerNamed, selectorKey, type PlanIndex } from '#core/queries'
import { freshId } from '#core/edit'
import type { Intent, Plan, Selector } from '#core/schema'
import { GATEWAY, INTERNET, peerKey } from './zones'

/**
 * The rows and columns of the grid in drawing order, without tunnels to providers: those stand for the
 * internet.
 */
export function matrixZones(plan: Plan): string[] {
  return [
    ...byVlan(plan).map((n) => n.id),
    ...plan.tunnels.flatMap((t) => t.peers.filter((p) => p.kind !== 'provider').map((p) => peerKey(p.id))),
    GATEWAY,
    INTERNET,
  ]
}

/** Rows or columns of the grid that a selector speaks of, at least in part; none for a prefix. */
export function zonesOfSelector(index: PlanIndex, selector: Selector): string[] {
  switch (selector.kind) {
    case 'network':
      return index.networks.has(selector.id) ? [selector.id] : []
    case 'device': {
      const device = index.devices.get(selector.id)
      return device ? homesOf(index, device) : []
    }
    case 'internet':
      return [INTERNET]
    case 'gateway':
      return [GATEWAY]
    case 'inside':
    case 'any':
      return byVlan(index.plan).map((n) => n.id)
    case 'peer':
    case 'tunnel':
      return index.plan.tunnels.flatMap((tunnel) =>
        tunnel.peers
          .filter((p) => p.id === selector.id || tunnel.id === selector.id)
          .map((p) => peerKey(p.id)),
      )
    case 'group':
      return [...new Set(membersOf(index, selector).flatMap((m) => zonesOfSelector(index, m)))]
    case 'prefix':
      return []
  }
}

/** What a rule or an intent calls a row or column of the grid; null where there is none. */
export function selectorOf(plan: Plan, key: string): Selector | null {
  if (key === GATEWAY) return { kind: 'gateway' }
  if (key === INTERNET) return { kind: 'internet' }
  if (plan.networks.some((n) => n.id === key)) return { kind: 'network', id: key }
  const peer = peerNamed(plan, key.slice(peerKey('').length))
  return peer ? { kind: 'peer', id: peer.id } : null
}

export interface IntentCell {
  /** Those whose ends are this row and this column. */
  readonly own: readonly Intent[]
  /** Those that speak of both among others, or of some hosts of them. */
  readonly others: readonly Intent[]
}
const NOBODY: IntentCell = { own: [], others: [] }

/** What is meant for each pair of the grid, by `from>to`; pairs that no intent speaks of have none. */
export function intentCells(plan: Plan): (from: string, to: string) => IntentCell {
  const index = indexPlan(plan)
  const cells = new Map<string, { own: Intent[]; others: Intent[] }>()
  const signs = new Map(
    matrixZones(plan)
      .map((key) => [key, selectorOf(plan, key)] as const)
      .flatMap(([key, s]) => (s ? [[key, selectorKey(s)] as const] : [])),
  )
  for (const intent of plan.intents) {
    for (const from of zonesOfSelector(index, intent.from))
      for (const to of zonesOfSelector(index, intent.to)) {
        if (from === to) continue
        const key = `${from}>${to}`
        const cell = cells.get(key) ?? { own: [], others: [] }
        cells.set(key, cell)
        if (signs.get(from) === selectorKey(intent.from) && signs.get(to) === selectorKey(intent.to))
          cell.own.push(intent)
        else cell.others.push(intent)
      }
  }
  return (from, to) => cells.get(`${from}>${to}`) ?? NOBODY
}

/**
 * The intents of a plan where one pair of the grid is meant to have these services; null for nothing, an
 * empty list for everything.
 * The pair's own intent keeps all else it says; where it has several, the first takes the services and the
 * others go only with `null`.
 * @param note what a new intent is called
 */
export function setIntentForPair(
  plan: Plan,
  from: string,
  to: string,
  services: readonly string[] | null,
  note: string,
): readonly Intent[] {
  const own = intentCells(plan)(from, to).own
  if (services === null) return plan.intents.filter((i) => !own.includes(i))
  const wanted = [...new Set(services)].sort(byText)
  const [first] = own
  if (first) return plan.intents.map((i) => (i === first ? { ...i, services: wanted } : i))
  const [fromSelector, toSelector] = [selectorOf(plan, from), selectorOf(plan, to)]
  if (!fromSelector || !toSelector || from === to) return plan.intents
  return [
    ...plan.intents,
    {
      id: freshId(plan.intents, 'intent'),
      from: fromSelector,
      to: toSelector,
      services: wanted,
      survives: [],
      log: false,
      when: null,
      note,
    },
  ]
}
