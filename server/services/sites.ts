import type { DeletedSite } from '#contracts/api'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { refused } from '#server/platform/route'
import * as repo from '#server/repo/plans'
import { siteOf } from './plans'

/** A site that was deleted by mistake can be brought back for so long. */
const KEPT_MS = 30 * 24 * 3_600_000

type Nothing = Record<string, never>

/** Puts a site out of the way, or back. */
export async function archiveSite(slug: string, isArchived: boolean): Promise<Nothing> {
  const site = await siteOf(database(), slug)
  await repo.archiveSite(database(), site.id, isArchived ? now() : null)
  return {}
}

/** Deletes a site; that its name was typed shows that it is meant. */
export async function deleteSite(slug: string, name: string, by: string): Promise<Nothing> {
  return database().transaction(async (tx) => {
    const site = await siteOf(tx, slug)
    if (site.name !== name) throw refused(409, 'other-name', 'name', { text: name, name: site.name })
    await repo.deleteSite(tx, site.id, now(), by)
    await tell(tx, { site: slug, topic: 'plan' })
    return {}
  })
}

/** Removes for good what was deleted long enough ago. */
export const purgeOld = (): Promise<void> => repo.purgeSites(database(), new Date(now().getTime() - KEPT_MS))

/** What can be brought back; what is older is gone by now. */
export async function listDeleted(): Promise<DeletedSite[]> {
  await purgeOld()
  return repo.deletedSites(database())
}

export async function restoreSite(slug: string): Promise<{ readonly slug: string; readonly name: string }> {
  const name = await repo.restoreSite(database(), slug)
  if (name === null) throw refused(404, 'no-such-site', slug)
  return { slug, name }
}

export async function purgeSite(slug: string): Promise<Nothing> {
  if (!(await repo.purgeSite(database(), slug))) throw refused(404, 'no-such-site', slug)
  return {}
}
