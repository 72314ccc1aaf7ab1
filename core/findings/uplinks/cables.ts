// Question: does each line have a cable, and do frames get from it to the internet?
// Method: the cable at its port, then frames as they are followed through modems and switches.
// Source: IEEE 802.1Q-2022 clause 8.6.
import { layer2Of, uplinkEntries } from '#core/layer2'
import { portKey, type PlanIndex } from '#core/queries'
import { draft, type Draft } from '../finding'

/** Lines over which nothing can pass, while all is well. */
export function cableFindings(index: PlanIndex): Draft[] {
  const layer2 = layer2Of(index, [])
  return index.plan.uplinks.flatMap((uplink): Draft[] => {
    const place = ['uplinks', uplink.id, 'portId']
    const isCabled = (index.linksAt.get(portKey(uplink)) ?? []).length > 0
    if (!isCabled)
      return [draft('W21', 'blocker', place, { uplink: uplink.name, kind: 'no-cable', tag: null })]
    if (uplinkEntries(index, layer2, uplink).length > 0) return []
    return [draft('W21', 'blocker', place, { uplink: uplink.name, kind: 'no-way', tag: uplink.tag })]
  })
}
