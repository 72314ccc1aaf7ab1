import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeletedSite, PlanAt, Proof, Roster, SiteLine, SiteSummary } from '#contracts/api'
import { ACCESS } from '#server/access'
import { codesOf, eventually, signedIn, startApp, type App, type Client } from './harness'

let app: App
let administrator: Client
let planner: Client
beforeAll(async () => {
  app = await startApp()
  administrator = await signedIn(app, 'administrator')
  planner = await signedIn(app, 'planner')
})
afterAll(async () => {
  await app.stop()
})

let count = 0
async function made(): Promise<SiteSummary> {
  const name = `Outpost ${(count += 1)}`
  return (await planner<SiteSummary>('POST', '/api/sites/carrow/copy', { name })).body
}
const listed = async (slug: string) =>
  (await planner<SiteLine[]>('GET', '/api/sites')).body.find((site) => site.slug === slug)
const deleted = async () => (await administrator<DeletedSite[]>('GET', '/api/deleted-sites')).body
const remove = (slug: string, name: string) => administrator('POST', `/api/sites/${slug}/delete`, { name })
const rename = (slug: string) =>
  planner('PATCH', `/api/sites/${slug}/plan`, {
    baseRevision: 1,
    patch: [{ op: 'replace', path: '/site/name', value: 'Renamed' }],
    words: 'renamed',
  })

describe('a site', () => {
  it('is listed with who changed it last, and when', async () => {
    const { slug, name } = await made()
    expect(await listed(slug)).toMatchObject({ name, author: 'Planner', revision: 1, isArchived: false })
    expect(Date.now() - Date.parse((await listed(slug))?.savedAt ?? '')).toBeLessThan(60_000)
  })
  it('that is archived is read and not edited, until it is brought back', async () => {
    const { slug } = await made()
    await planner('POST', `/api/sites/${slug}/archive`, { isArchived: true })
    expect((await listed(slug))?.isArchived).toBe(true)
    expect((await planner('GET', `/api/sites/${slug}/plan`)).status).toBe(200)
    expect(codesOf(await rename(slug))).toEqual(['site-archived'])
    await planner('POST', `/api/sites/${slug}/archive`, { isArchived: false })
    expect((await rename(slug)).status).toBe(200)
  })
  it('is deleted by its name alone', async () => {
    const { slug, name } = await made()
    for (const other of [name.toLowerCase(), `${name} `, 'Carrow'])
      expect(codesOf(await remove(slug, other))).toEqual(['other-name'])
    expect(await listed(slug)).toBeDefined()
    expect((await remove(slug, name)).status).toBe(200)
    expect(await listed(slug)).toBeUndefined()
    expect(codesOf(await remove(slug, name))).toEqual(['no-such-site'])
  })
})

describe('a deleted site', () => {
  it('answers nothing on any route, and comes back as it was', async () => {
    const { slug, name } = await made()
    await planner('POST', `/api/sites/${slug}/runs`, { kind: 'singles', things: [], revision: 1 })
    const before = (await planner<PlanAt>('GET', `/api/sites/${slug}/plan`)).body
    await remove(slug, name)
    for (const key of Object.keys(ACCESS).filter((one) => one.includes('/sites/:site/'))) {
      const [method = '', path = ''] = key.split(' ')
      const filled = path
        .replace(':site', slug)
        .replace(/:(revision|run|photo)/, '1')
        .replace(':serial', 'GH-7A05-K5RZ')
        .replace(':file', 'site.json')
      const reply = await administrator(
        method,
        filled,
        method === 'GET' || method === 'DELETE' ? undefined : {},
      )
      expect([key, reply.status < 500 && reply.status >= 400]).toEqual([key, true])
      expect(reply.text, key).not.toContain(name)
    }
    expect(await deleted()).toContainEqual(
      expect.objectContaining({ slug, name, deletedBy: 'Administrator' }),
    )
    expect((await administrator('POST', `/api/deleted-sites/${slug}/restore`, {})).body).toEqual({
      slug,
      name,
    })
    expect((await planner<PlanAt>('GET', `/api/sites/${slug}/plan`)).body).toEqual(before)
    expect((await deleted()).map((site) => site.slug)).not.toContain(slug)
  })
  it('is told of by how it stands: what is left, its findings, and how much is proven', async () => {
    const listedOf = async (slug: string) =>
      (await planner<SiteLine[]>('GET', '/api/sites')).body.find((one) => one.slug === slug)?.standing ?? null
    const known = async (slug: string) =>
      eventually(
        () => listedOf(slug),
        (standing) => standing !== null,
      )
    const standing = await known('gullhaven')
    // By another way: what Prove and the roster say.
    const proof = (await planner<Proof>('GET', '/api/sites/gullhaven/proof')).body
    const ids = new Set(proof.tests.map(({ id }) => id))
    const proven = proof.results.filter(({ testId, passed }) => passed && ids.has(testId)).length
    const { rows } = (await planner<Roster>('GET', '/api/sites/gullhaven/roster')).body
    const adopted = rows.filter(({ events }) =>
      events.some((event) => event.kind === 'progress' && event.type === 'bootstrap-complete'),
    )
    expect(standing).toMatchObject({
      tests: proof.tests.length,
      proven,
      devices: rows.length,
      adopted: adopted.length,
      isEmpty: false,
    })
    expect([proven > 0, adopted.length > 0]).toEqual([true, true])

    // After a change it is found out anew, and until then nothing is said.
    const { slug } = await made()
    const before = await known(slug)
    const { revision, plan } = (await planner<PlanAt>('GET', `/api/sites/${slug}/plan`)).body
    await planner('PATCH', `/api/sites/${slug}/plan`, {
      baseRevision: revision,
      patch: [{ op: 'replace', path: '/intents', value: [] }],
      words: 'no intents',
    })
    expect(await listedOf(slug)).toBeNull()
    expect(plan.intents.length).toBeGreaterThan(0)
    expect((await known(slug))?.tests).toBeLessThan(before?.tests ?? 0)
  })
  it('keeps its address to itself: a new one of that name gets another', async () => {
    const { slug, name } = await made()
    await remove(slug, name)
    const again = (await planner<SiteSummary>('POST', '/api/sites/carrow/copy', { name })).body
    expect(again.slug).not.toBe(slug)
  })
  it('goes for good when it is told to, or after 30 days; one that was not deleted does not', async () => {
    const [one, other, third] = [await made(), await made(), await made()]
    await remove(one.slug, one.name)
    await remove(other.slug, other.name)
    expect((await administrator('DELETE', `/api/deleted-sites/${one.slug}`)).status).toBe(200)
    expect(codesOf(await administrator('DELETE', `/api/deleted-sites/${third.slug}`))).toEqual([
      'no-such-site',
    ])
    expect(codesOf(await administrator('POST', `/api/deleted-sites/${one.slug}/restore`, {}))).toEqual([
      'no-such-site',
    ])
    const database = postgres(app.databaseUrl, { max: 1 })
    await database`update sites set deleted_at = now() - interval '29 days' where slug = ${other.slug}`
    expect((await deleted()).map(({ slug }) => slug)).toContain(other.slug)
    await database`update sites set deleted_at = now() - interval '31 days' where slug = ${other.slug}`
    expect((await deleted()).map(({ slug }) => slug)).not.toContain(other.slug)
    const [left] = await database`select count(*)::int as count from sites where slug = ${other.slug}`
    await database.end()
    expect(left?.['count']).toBe(0)
    expect(await listed(third.slug)).toBeDefined()
  })
})
