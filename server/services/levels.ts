import type { RadioLevel } from '#contracts/api'
import { indexPlan } from '#core/queries'
import { radioLinks, type Aim, type RadioLink } from '#core/radio'
import type { Plan } from '#core/schema'
import { parseReading } from '#core/wifi'
import { simulatedLevels } from '#server/lab/aimed-pair'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { Refused, refused } from '#server/platform/route'
import {
  aimsOf,
  dropLevels,
  forgetLevels,
  keepAim,
  keepLevels,
  levelsOf,
  type LevelRow,
} from '#server/repo/levels'
import { siteAndPlan } from './plans'

type EndKey = RadioLevel['end']

export async function listLevels(slug: string): Promise<RadioLevel[]> {
  const { siteId } = await siteAndPlan(slug)
  return levelsOf(database(), siteId)
}

function linkOf(plan: Plan, id: string): RadioLink {
  const link = radioLinks(indexPlan(plan)).find((one) => one.id === id)
  if (!link) throw refused(409, 'no-such-radio-link', 'link', { text: id })
  return link
}

/** Keeps readings and tells everybody; those of links that are gone go. */
async function take(
  tx: Queries,
  at: { readonly slug: string; readonly siteId: number; readonly plan: Plan },
  rows: readonly LevelRow[],
): Promise<void> {
  const links = at.plan.links.filter(({ medium }) => medium.kind === 'radio').map(({ id }) => id)
  await forgetLevels(tx, at.siteId, links)
  await keepLevels(tx, rows)
  await tell(tx, { site: at.slug, topic: 'levels' })
}

/** A reading that a radio, or somebody in front of one, reports. */
export async function reportLevel(
  slug: string,
  { link, end, reading }: { readonly link: string; readonly end: EndKey; readonly reading: string },
  who: string,
): Promise<void> {
  const read = parseReading(reading)
  if (!read.ok) throw new Refused(400, read.problems)
  await database().transaction(async (tx) => {
    const { siteId, current } = await siteAndPlan(slug, tx)
    linkOf(current.plan, link)
    const row = { siteId, linkId: link, end, dBm: read.value, who, at: now(), simulated: false }
    await take(tx, { slug, siteId, plan: current.plan }, [row])
  })
}

/** From -1 to 1, most of them near 0. */
const swing = () => Math.random() + Math.random() - 1

/** Turns a simulated antenna; both ends report what they read then, as radios would. */
export async function turnSimulated(
  slug: string,
  { link: id, end, ...aim }: Aim & { readonly link: string; readonly end: EndKey },
): Promise<void> {
  await database().transaction(async (tx) => {
    const { siteId, current } = await siteAndPlan(slug, tx)
    const link = linkOf(current.plan, id)
    await keepAim(tx, { siteId, linkId: id, end, ...aim })
    const aims = Object.fromEntries((await aimsOf(tx, siteId, id)).map((row) => [row.end, row]))
    const levels = simulatedLevels(current.plan, link, aims, swing)
    if (!levels) throw refused(409, 'radio-link-unsaid', 'link', { text: link.names.join(' – ') })
    const rows = (['a', 'b'] as const).flatMap((key): LevelRow[] => {
      const dBm = levels[key]
      const row = { siteId, linkId: id, end: key, who: 'lab', at: now(), simulated: true }
      return dBm === null ? [] : [{ ...row, dBm }]
    })
    // An end that hears nothing shows nothing, and not what it read before.
    await dropLevels(tx, siteId, id)
    await take(tx, { slug, siteId, plan: current.plan }, rows)
  })
}
