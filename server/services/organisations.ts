import type { z } from 'zod'
import type { OrganisationLine, organisationSchema, TransferCode } from '#contracts/accounts'
import { isCounted } from '#contracts/api'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { refused, type Visitor } from '#server/platform/route'
import { drawProof, hashOfProof } from '#server/platform/secrets'
import { asServer } from '#server/platform/scope'
import * as repo from '#server/repo/organisations'
import { endAllSessions, inviteInto, recheckAllSessions, type Invited } from './accounts'
import { siteOf } from './plans'
import { meBy } from './sessions'

const MOST_ORGANISATIONS = 500
/** Time for the other side to take a site over (practice). */
const OFFER_MS = 3 * 24 * 3_600_000

/** Every organisation, by how much it has; of what is in them nothing is told. */
export const listOrganisations = (): Promise<OrganisationLine[]> =>
  asServer(() => repo.allOrganisations(database()))

/** Adds an organisation and who administers it first; the answer holds their link, told this once. */
export const addOrganisation = (name: string, administrator: string): Promise<Invited> =>
  asServer(() =>
    database().transaction(async (tx) => {
      if ((await repo.allOrganisations(tx)).length >= MOST_ORGANISATIONS)
        throw refused(409, 'too-many-organisations', '', { most: MOST_ORGANISATIONS })
      const id = await repo.addOrganisation(tx, name)
      if (id === null) throw refused(409, 'organisation-in-use', 'name', { text: name })
      return inviteInto(tx, id, { name: administrator, role: 'administrator', sites: [] })
    }),
  )

/** Removes an organisation that has no site left, and everybody in it. */
export const removeOrganisation = (id: number, by: Visitor): Promise<{ readonly name: string }> =>
  asServer(() =>
    database().transaction(async (tx) => {
      const line = isCounted(id) ? (await repo.allOrganisations(tx)).find((one) => one.id === id) : undefined
      if (!line) throw refused(404, 'no-such-organisation')
      if (id === by.organisation.id) throw refused(409, 'own-organisation', '', { text: line.name })
      if (line.sites > 0)
        throw refused(409, 'organisation-has-sites', '', { text: line.name, count: line.sites })
      await endAllSessions(tx, id)
      await repo.removeOrganisation(tx, id)
      return { name: line.name }
    }),
  )

/** Changes one's own organisation. Who asks others for a second factor has one. */
export async function changeOrganisation(
  { organisation, sessionId }: Visitor,
  { name = organisation.name, needsFactor = organisation.needsFactor }: z.infer<typeof organisationSchema>,
) {
  if (needsFactor && !(await meBy(sessionId)).hasFactor) throw refused(409, 'own-factor-first', 'needsFactor')
  return asServer(() =>
    database().transaction(async (tx) => {
      if (await repo.hasName(tx, name, organisation.id))
        throw refused(409, 'organisation-in-use', 'name', { text: name })
      await repo.changeOrganisation(tx, organisation.id, { name, needsFactor })
      if (needsFactor && !organisation.needsFactor) await recheckAllSessions(tx, organisation.id)
      return { name, needsFactor }
    }),
  )
}

/** Makes a code by which an administrator of another organisation takes a site over; told this once. */
export async function offerSite(slug: string): Promise<TransferCode> {
  const site = await siteOf(database(), slug)
  const code = drawProof()
  const expiresAt = new Date(now().getTime() + OFFER_MS)
  await repo.offerSite(database(), { siteId: site.id, codeHash: hashOfProof(code), expiresAt })
  return { code, expiresAt: expiresAt.toISOString() }
}

/** Takes a site over: it is the visitor's organisation's from now on, with all that belongs to it. */
export const takeSite = (code: string, { organisation }: Visitor) =>
  asServer(() =>
    database().transaction(async (tx) => {
      const siteId = await repo.useOffer(tx, hashOfProof(code), now())
      const site = siteId === null ? null : await repo.moveSite(tx, siteId, organisation.id)
      if (!site) throw refused(404, 'no-such-offer', 'code')
      await tell(tx, { site: site.slug, topic: 'plan' })
      return site
    }),
  )
