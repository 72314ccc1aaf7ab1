// What keeps the stations of an SSID apart: on the air, and by the rules.
import { isNothing } from '#core/filter'
import { modelOf, type PlanIndex } from '#core/queries'
import { cellsOf, type ReachabilityMatrix } from '#core/reachability'
import type { Ssid } from '#core/schema'

/** How far stations are kept from each other on the air, by the models that send it. */
export function onAirWords({ isolation, apIds }: Ssid, index: PlanIndex): string {
  if (apIds.length === 0) return 'nothing sends it'
  if (!isolation) return 'open: stations reach each other'
  const scopes = apIds.map((id) => modelOf(index, index.devices.get(id)?.model ?? '')?.isolation)
  if (scopes.every((scope) => scope === 'network')) return 'kept apart, also across access points'
  return apIds.length === 1 ? 'kept apart' : 'kept apart at one access point; open across them'
}

/** Which other networks its stations get into by the rules; of networks without hosts nothing is said. */
export function byRulesWords({ networkId }: Ssid, { plan }: PlanIndex, grid: ReachabilityMatrix): string {
  const at = cellsOf(grid)
  const others = plan.networks.filter(({ id }) => id !== networkId)
  const cells = others.map(({ id, name }) => ({ name, cell: at(networkId, id) }))
  const open = cells.flatMap(({ name, cell }) => {
    if (!cell || (isNothing(cell.allPairs) && isNothing(cell.somePairs))) return []
    return isNothing(cell.allPairs) ? [`a part of ${name}`] : [name]
  })
  const unknown = cells.flatMap(({ name, cell }) => (!cell || cell.isEmpty ? [name] : []))
  if (unknown.length === others.length) return 'nobody there yet'
  const known = open.length > 0 ? `open: ${open.join(', ')}` : 'kept out of every other network'
  return unknown.length > 0 ? `${known}; nobody yet in ${unknown.join(', ')}` : known
}
