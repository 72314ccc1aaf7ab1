import { and, asc, eq } from 'drizzle-orm'
import type { StepPhoto } from '#contracts/api'
import { stepPhotos } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

const { id, activityId, at, who, jpeg } = stepPhotos

/** Every photograph of a site without its picture, in the order in which they came. */
export async function photosOf(queries: Queries, siteId: number): Promise<StepPhoto[]> {
  const rows = await queries
    .select({ id, activityId, at, who })
    .from(stepPhotos)
    .where(eq(stepPhotos.siteId, siteId))
    .orderBy(asc(id))
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }))
}

export const countPhotos = (queries: Queries, siteId: number): Promise<number> =>
  queries.$count(stepPhotos, eq(stepPhotos.siteId, siteId))

/** Keeps a photograph; one whose key is there already is the same, sent again. */
export async function addPhoto(
  queries: Queries,
  photo: Omit<typeof stepPhotos.$inferInsert, 'id'>,
): Promise<void> {
  await queries.insert(stepPhotos).values(photo).onConflictDoNothing()
}

const isPhoto = (siteId: number, photo: number) => and(eq(stepPhotos.siteId, siteId), eq(id, photo))

/** A photograph's picture and who took it; undefined where the site has none of this number. */
export async function photoOf(queries: Queries, siteId: number, photo: number) {
  const [found] = await queries.select({ jpeg, who }).from(stepPhotos).where(isPhoto(siteId, photo))
  return found
}

export async function removePhoto(queries: Queries, siteId: number, photo: number): Promise<void> {
  await queries.delete(stepPhotos).where(isPhoto(siteId, photo))
}
