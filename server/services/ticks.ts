import type { Tick } from '#contracts/api'
import { beforeUnplug } from '#core/brief'
import { addTick, removeTick, ticksOf } from '#server/repo/ticks'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { refused } from '#server/platform/route'
import { siteAndPlan } from './plans'

export async function listTicks(slug: string): Promise<Tick[]> {
  const { siteId } = await siteAndPlan(slug)
  return ticksOf(database(), siteId)
}

/**
 * Ticks an item of the plan's checklists, or takes the tick away.
 * An item that the plan does not have is refused.
 */
export async function setTick(slug: string, item: string, done: boolean, who: string): Promise<Tick[]> {
  await database().transaction(async (tx) => {
    const { siteId, current } = await siteAndPlan(slug, tx)
    if (!beforeUnplug(current.plan).some((i) => i.id === item))
      throw refused(409, 'no-such-item', 'item', { text: item })
    if (done) await addTick(tx, { siteId, item, who, at: now() })
    else await removeTick(tx, siteId, item)
    await tell(tx, { site: slug, topic: 'ticks' })
  })
  return listTicks(slug)
}
