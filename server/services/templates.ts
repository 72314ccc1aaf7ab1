import type { SiteSummary, TemplateSummary } from '#contracts/api'
import { isCounted } from '#contracts/api'
import { planForAnotherSite } from '#core/edit'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { refused } from '#server/platform/route'
import * as repo from '#server/repo/templates'
import { addSite, asOfToday, currentPlan } from './plans'

const MOST_TEMPLATES = 200

export const listTemplates = (): Promise<TemplateSummary[]> => repo.allTemplates(database())

/** Keeps what of a site's plan holds for a site like it, under a name that no other template has. */
export async function keepTemplate(slug: string, name: string, keptBy: string): Promise<TemplateSummary> {
  return database().transaction(async (tx) => {
    const { plan } = await currentPlan(slug, tx)
    if ((await repo.countTemplates(tx)) >= MOST_TEMPLATES)
      throw refused(409, 'too-many-templates', '', { most: MOST_TEMPLATES })
    const kept = { name, document: planForAnotherSite(plan, name), keptAt: now(), keptBy }
    const id = await repo.addTemplate(tx, kept)
    if (id === null) throw refused(409, 'template-name-taken', '', { text: name })
    return { id, name, keptAt: kept.keptAt.toISOString(), keptBy }
  })
}

async function templateOf(queries: Queries, id: number) {
  const template = isCounted(id) ? await repo.templateWith(queries, id) : null
  if (!template) throw refused(404, 'no-such-template')
  return template
}

export async function siteFromTemplate(id: number, name: string, author: string): Promise<SiteSummary> {
  return database().transaction(async (tx) => {
    const template = await templateOf(tx, id)
    const plan = planForAnotherSite(asOfToday(template.document), name)
    const { slug } = await addSite(tx, plan, author, `begun with the template ${template.name}`)
    return { slug, name, revision: 1 }
  })
}

/** Sites that were made from it keep what they have. */
export async function removeTemplate(id: number): Promise<Record<string, never>> {
  if (!isCounted(id) || !(await repo.removeTemplate(database(), id))) throw refused(404, 'no-such-template')
  return {}
}
