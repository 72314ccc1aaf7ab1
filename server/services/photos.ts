import type { z } from 'zod'
import { isCounted, type photoSchema, type StepPhoto } from '#contracts/api'
import { MOST_PHOTO_BYTES } from '#contracts/limits'
import { EDITORS, roleAtSite } from '#contracts/roles'
import { database } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { refused, type Visitor } from '#server/platform/route'
import { addPhoto, countPhotos, photoOf, photosOf, removePhoto } from '#server/repo/photos'
import { holdSite } from '#server/repo/plans'
import { siteAndPlan } from './plans'
import { checkTold } from './steps'

/** Most photographs of a site: some 150 MB. */
const MOST_PHOTOS = 500

export async function listPhotos(slug: string): Promise<StepPhoto[]> {
  const { siteId } = await siteAndPlan(slug)
  return photosOf(database(), siteId)
}

/** Every JPEG begins with these three bytes: start of image, and the first marker (ITU-T T.81, B.1.1.3). */
const isJpeg = (bytes: Buffer): boolean => bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff

/** Keeps a photograph of a step of the plan. */
export async function keepPhoto(slug: string, told: z.infer<typeof photoSchema>, who: string) {
  const jpeg = Buffer.from(told.jpeg, 'base64')
  if (!isJpeg(jpeg)) throw refused(400, 'not-a-jpeg', 'jpeg')
  if (jpeg.length > MOST_PHOTO_BYTES)
    throw refused(413, 'too-large', 'jpeg', { bytes: jpeg.length, most: MOST_PHOTO_BYTES })
  const { siteId, current } = await siteAndPlan(slug)
  const at = await checkTold(current.plan, told)
  await database().transaction(async (tx) => {
    await holdSite(tx, siteId)
    if ((await countPhotos(tx, siteId)) >= MOST_PHOTOS)
      throw refused(409, 'too-many-photos', 'jpeg', { most: MOST_PHOTOS })
    await addPhoto(tx, { siteId, activityId: told.activityId, at, who, jpeg, key: told.key })
    await tell(tx, { site: slug, topic: 'photos' })
  })
  return listPhotos(slug)
}

async function found(slug: string, number: string) {
  const { siteId } = await siteAndPlan(slug)
  const id = Number(number)
  const photo = isCounted(id) ? await photoOf(database(), siteId, id) : undefined
  if (!photo) throw refused(404, 'no-such-photo')
  return { siteId, id, ...photo }
}

export const readPhoto = async (slug: string, number: string): Promise<Buffer> =>
  (await found(slug, number)).jpeg

/** Takes away a photograph: whoever took it may, and planners. */
export async function dropPhoto(slug: string, number: string, visitor: Visitor): Promise<StepPhoto[]> {
  const { siteId, id, who } = await found(slug, number)
  const role = roleAtSite(visitor, slug)
  if (who !== visitor.name && !(role !== null && EDITORS.includes(role))) throw refused(403, 'not-your-photo')
  await database().transaction(async (tx) => {
    await removePhoto(tx, siteId, id)
    await tell(tx, { site: slug, topic: 'photos' })
  })
  return listPhotos(slug)
}
