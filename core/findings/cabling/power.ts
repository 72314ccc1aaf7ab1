// Question: does everything that takes power over its cable get enough, and of its own kind?
// Method: the power of the plan, source by source and feed by feed.
// Source: IEEE 802.3-2022 clauses 33 and 145.
import type { PlanIndex } from '#core/queries'
import { powerOf, type Feed, type Powered } from '#core/power'
import { draft, labelOf, portPlace, set, type Draft, type Mend } from '../finding'

const tenths = (watts: number): number => Math.round(watts * 10) / 10
const nameOf = (index: PlanIndex, id: string): string => index.devices.get(id)?.name ?? id

function sourceFindings(index: PlanIndex, source: Powered['sources'][number]): Draft[] {
  const { poeHeadroomPct } = index.plan.site
  const { budgetW, classW, drawW } = source
  const values = {
    device: nameOf(index, source.deviceId),
    budgetW,
    classW: tenths(classW),
    drawW: tenths(drawW),
    headroomPct: poeHeadroomPct,
    key: 'budget' as const,
  }
  const place = ['devices', source.deviceId]
  if (drawW > budgetW) return [draft('E08', 'blocker', place, { ...values, kind: 'over' })]
  if (drawW > budgetW * (1 - poeHeadroomPct / 100))
    return [draft('E08', 'warning', place, { ...values, kind: 'headroom' })]
  return classW > budgetW ? [draft('E08', 'warning', place, { ...values, kind: 'class-sum' })] : []
}

function feedFindings(index: PlanIndex, feed: Feed): Draft[] {
  if (feed.trouble === null) return []
  return [
    draft('E08', 'blocker', portPlace(feed.from), {
      kind: feed.trouble,
      ...labelOf(index, feed.from),
      load: nameOf(index, feed.to.deviceId),
      loadClass: feed.load.standard === 'ieee' ? feed.load.class : 0,
      sourceClass: feed.source.standard === 'ieee' ? feed.source.class : 0,
      volts: feed.drop ? tenths(feed.drop.deviceV) : 0,
      key: feed.linkId,
    }),
  ]
}

function unpowered(index: PlanIndex, id: string): Draft {
  const device = nameOf(index, id)
  const mend: Mend = {
    code: 'own-supply',
    values: { device },
    changes: [set(['devices', id, 'mains'], false, true)],
  }
  return draft('E08', 'blocker', ['devices', id], { kind: 'unpowered', device, key: 'unpowered' }, mend)
}

export function powerFindings(index: PlanIndex): Draft[] {
  const power = powerOf(index)
  return [
    ...power.sources.flatMap((source) => sourceFindings(index, source)),
    ...power.feeds.flatMap((feed) => feedFindings(index, feed)),
    ...power.unpowered.map((id) => unpowered(index, id)),
  ]
}
