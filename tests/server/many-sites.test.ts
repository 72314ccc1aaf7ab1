import { drizzle } from 'drizzle-orm/postgres-js'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { OneTimeLink } from '#contracts/accounts'
import type { SiteLine } from '#contracts/api'
import { SITES_PAGE } from '#contracts/limits'
import * as schema from '#server/db/schema'
import { inOrganisation } from '#server/platform/scope'
import { sitesAfter } from '#server/repo/plans'
import { client, codesOf, cookiesOf, signedIn, startApp, type App, type Client } from './harness'

// An organisation with two thousand sites: read page by page, by an index.

const MOST = 2000
let app: App
let planner: Client
let database: postgres.Sql
beforeAll(async () => {
  app = await startApp()
  database = postgres(app.databaseUrl, { max: 1 })
  await database`insert into sites (organisation_id, slug, name)
    select (select organisation_id from sites where slug = 'carrow'), 'many-' || lpad(i::text, 4, '0'), 'Many ' || i
    from generate_series(1, ${MOST}) as i`
  await database`insert into plans (site_id, revision, document, saved_at, author)
    select sites.id, 1, plans.document, now(), 'Nobody'
    from sites, plans where sites.slug like 'many-%' and plans.site_id = (select id from sites where slug = 'carrow')`
  // Somebody else's sites stand between them.
  await database`with other as (insert into organisations (name) values ('Elsewhere') returning id)
    insert into sites (organisation_id, slug, name)
    select other.id, 'many-' || lpad(i::text, 4, '0') || '-too', 'Theirs ' || i
    from other, generate_series(1, ${3 * MOST}) as i`
  await database`analyze`
  planner = await signedIn(app, 'planner')
})
afterAll(async () => {
  await database.end()
  await app.stop()
})

const pageAfter = async (who: Client, after: string) =>
  (await who<SiteLine[]>('GET', `/api/sites${after === '' ? '' : `?after=${after}`}`)).body.map(
    ({ slug }) => slug,
  )
async function everyPage(who: Client): Promise<string[][]> {
  const pages: string[][] = []
  for (;;) {
    const page = await pageAfter(who, pages.at(-1)?.at(-1) ?? '')
    pages.push(page)
    if (page.length < SITES_PAGE) return pages
  }
}

describe('two thousand sites', () => {
  it('are told page by page, each once and in order', async () => {
    const pages = await everyPage(planner)
    const slugs = pages.flat()
    expect(slugs.filter((slug) => slug.startsWith('many-'))).toHaveLength(MOST)
    expect(slugs).toEqual([...new Set(slugs)].toSorted())
    for (const page of pages.slice(0, -1)) expect(page).toHaveLength(SITES_PAGE)
  })

  it('are told to who is at single ones as those alone, in one page', async () => {
    const administrator = await signedIn(app, 'administrator')
    const made = await administrator<{ link: OneTimeLink }>('POST', '/api/people', {
      name: 'Seldom',
      role: null,
      sites: ['many-0007', 'many-1900'].map((site) => ({ site, role: 'keeper' })),
    })
    const token = made.body.link.path.split('#')[1]
    const joined = await client(app)('POST', '/api/join', { token, password: 'walrus-teapot-gravel-noon' })
    expect(await everyPage(client(app, cookiesOf(joined)))).toEqual([['many-0007', 'many-1900']])
  })

  it('refuse to go on after what is no slug', async () => {
    expect(codesOf(await planner('GET', `/api/sites?after=${'x'.repeat(81)}`))).not.toEqual([])
    expect((await planner('GET', '/api/sites?before=x')).status).toBe(400)
  })

  it('are found by the index, and no other is looked at', async () => {
    const [owner] = await database<
      { id: number }[]
    >`select organisation_id as id from sites where slug = 'carrow'`
    const query = inOrganisation(owner?.id ?? 0, () =>
      sitesAfter(drizzle(database, { schema }), {
        after: 'many-1000',
        most: SITES_PAGE,
        among: null,
      }).toSQL(),
    )
    const plan = await database.unsafe(`explain ${query.sql}`, query.params as string[])
    const lines = plan.map((row) => String(row['QUERY PLAN'])).join('\n')
    expect(lines).toMatch(/Limit.*rows=100 .*\n\s*->\s+Index Scan using sites_by_slug/)
    expect(lines).not.toMatch(/Seq Scan on (sites|test_results)/)
  })
})
