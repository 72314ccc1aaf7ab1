import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { hash } from '@node-rs/argon2'
import { drizzle } from 'drizzle-orm/postgres-js'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PersonLine } from '#contracts/accounts'
import type { Me, PlanAt } from '#contracts/api'
import { carrowPlan } from '#server/demo/fleet'
import { freshDatabase, signedInAs, slugsOf, startApp } from './harness'

// A database as each release before left it opens in this one, with its people and plans.

const FOLDER = 'server/db/migrations'
const PASSWORD = 'walrus-teapot-gravel-noon'
interface Journal {
  readonly entries: readonly { readonly tag: string }[]
}
const journal = JSON.parse(readFileSync(join(FOLDER, 'meta/_journal.json'), 'utf8')) as Journal
const scratch = mkdtempSync(join(tmpdir(), 'mast-upgrade-'))
let passwordHash: string
beforeAll(async () => {
  passwordHash = await hash(PASSWORD)
})
afterAll(() => rmSync(scratch, { recursive: true, force: true }))

/** The migrations up to one, as the release had them that ended with it. */
function upTo(count: number): string {
  const folder = join(scratch, String(count))
  cpSync(FOLDER, folder, { recursive: true })
  const cut = { ...journal, entries: journal.entries.slice(0, count) }
  writeFileSync(join(folder, 'meta/_journal.json'), JSON.stringify(cut))
  return folder
}

/** A database of then, with a person, a site and its plan in two revisions. */
async function databaseOf(count: number): Promise<string> {
  const databaseUrl = await freshDatabase()
  const sql = postgres(databaseUrl, { max: 1, onnotice: () => undefined })
  await migrate(drizzle(sql), { migrationsFolder: upTo(count) })
  const has = async (table: string) =>
    (await sql`select to_regclass(${table}) is not null as there`)[0]?.['there'] === true
  const organised = await has('organisations')
  const of = organised ? { organisation_id: 1 } : {}
  if (organised) await sql`insert into organisations (name) values ('Pier Works')`
  if (await has('installation')) await sql`insert into installation (kind, since) values ('demo', now())`
  await sql`insert into people ${sql({ name: 'Old hand', role: 'planner', password_hash: passwordHash, ...of })}`
  const [site] = await sql`insert into sites ${sql({ slug: 'jetty', name: 'Jetty', ...of })} returning id`
  const plan = JSON.stringify(carrowPlan())
  await sql`insert into plans (site_id, revision, document, saved_at, author)
    values (${site?.['id']}, 1, ${plan}::text::jsonb, now(), 'Old hand')`
  await sql`insert into plan_revisions (site_id, revision, at, author, words, patch, snapshot)
    values (${site?.['id']}, 1, now(), 'Old hand', 'first plan', '[]', ${plan}::text::jsonb)`
  await sql.end()
  return databaseUrl
}

/** The first and the last release before this one, and of the others one in so many, others each time. */
const ONE_IN = Number(process.env['MAST_UPGRADES_ONE_IN'] ?? 3)
const turn = Math.floor(Math.random() * ONE_IN)
const releases = journal.entries.slice(0, -1).map(({ tag }, i) => [tag, i + 1] as const)
const chosen = releases.filter((_, i) => i % ONE_IN === turn || i === 0 || i === releases.length - 1)

describe(`a database of a release before, one in ${ONE_IN} of them (MAST_UPGRADES_ONE_IN)`, () => {
  it.each(chosen)('%s opens, and is worked in', async (_, count) => {
    const app = await startApp({ databaseUrl: await databaseOf(count) })
    try {
      const planner = await signedInAs(app, 'Old hand', PASSWORD)
      expect((await planner<Me>('GET', '/api/me')).body).toMatchObject({
        role: 'planner',
        isOperator: false,
      })
      expect(await slugsOf(planner)).toEqual(['jetty'])
      const { plan } = (await planner<PlanAt>('GET', '/api/sites/jetty/plan')).body
      expect(plan).toEqual(carrowPlan())
      const change = {
        baseRevision: 1,
        patch: [{ op: 'replace', path: '/site/name', value: 'Long jetty' }],
        words: 'renamed',
      }
      expect((await planner('PATCH', '/api/sites/jetty/plan', change)).status).toBe(200)
    } finally {
      await app.stop()
    }
  })
  it('lets whoever administered it first operate it', async () => {
    const databaseUrl = await databaseOf(
      journal.entries.findIndex(({ tag }) => tag.endsWith('_organisations')),
    )
    const sql = postgres(databaseUrl, { max: 1 })
    for (const name of ['First head', 'Second head'])
      await sql`insert into people (name, role, password_hash) values (${name}, 'administrator', ${passwordHash})`
    await sql.end()
    const app = await startApp({ databaseUrl })
    try {
      const first = await signedInAs(app, 'First head', PASSWORD)
      const people = (await first<PersonLine[]>('GET', '/api/people')).body
      expect(people.map(({ name, isOperator }) => [name, isOperator])).toEqual([
        ['First head', true],
        ['Old hand', false],
        ['Second head', false],
      ])
    } finally {
      await app.stop()
    }
  })
})
