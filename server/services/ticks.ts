import type { Tick } from '#contracts/api'
import { beforeUnplug } from '#core/brief'
import { isAcceptance } from '#core/findings'
import type { Plan } from '#core/schema'
import { addTick, countTicks, removeTick, ticksOf } from '#server/repo/ticks'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { refused } from '#server/platform/route'
import { siteAndPlan } from './plans'

export async function listTicks(slug: string): Promise<Tick[]> {
  const { siteId } = await siteAndPlan(slug)
  return ticksOf(database(), siteId)
}

/** Most ticks that are kept of a site: more than a plan has lines and findings. */
const MOST_TICKS = 5000

/**
 * Whether an item can be ticked: a line of the plan's checklist, or a finding that somebody accepts.
 * What the plan is found to have is not computed anew here, since that may take long.
 */
const canTick = (plan: Plan, item: string): boolean =>
  isAcceptance(item) || beforeUnplug(plan).some(({ id }) => id === item)

/**
 * Ticks an item of the plan's checklists or accepts a finding, or takes that back.
 * What the plan does not have is refused; what was ticked before it went can be taken back all the same.
 */
export async function setTick(slug: string, item: string, done: boolean, who: string): Promise<Tick[]> {
  await database().transaction(async (tx) => {
    const { siteId, current } = await siteAndPlan(slug, tx)
    if (done && !canTick(current.plan, item)) throw refused(409, 'no-such-item', 'item', { text: item })
    if (done && (await countTicks(tx, siteId)) >= MOST_TICKS)
      throw refused(409, 'too-many-ticks', 'item', { most: MOST_TICKS })
    if (done) await addTick(tx, { siteId, item, who, at: now() })
    else await removeTick(tx, siteId, item)
    await tell(tx, { site: slug, topic: 'ticks' })
  })
  return listTicks(slug)
}
