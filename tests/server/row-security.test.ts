import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { OrganisationLine } from '#contracts/accounts'
import { serverUrlOf } from '../../tools/postgres.mjs'
import { signedIn, startApp, type App, type Client } from './harness'

// The second wall between organisations: what the database itself lets the server's user see.

let app: App
let operator: Client
beforeAll(async () => {
  app = await startApp()
  operator = await signedIn(app, 'administrator')
  for (const name of ['Harbour', 'Lighthouse'])
    await operator('POST', '/api/organisations', { name, administrator: `Head of ${name}` })
})
afterAll(async () => {
  await app.stop()
})

describe('the database', () => {
  const asked = async <T>(
    organisationId: string | null,
    ask: (sql: postgres.Sql) => Promise<T>,
  ): Promise<T> => {
    const sql = postgres(serverUrlOf(app.databaseUrl), {
      max: 1,
      ...(organisationId === null ? {} : { connection: { 'mast.organisation': organisationId } }),
    })
    try {
      return await ask(sql)
    } finally {
      await sql.end()
    }
  }
  /** Tables that are of no organisation. */
  const OPEN = ['installation', 'sign_in_failures']
  const tables = () =>
    asked('*', async (sql) =>
      (
        await sql<{ name: string; guarded: boolean }[]>`
          select relname as name, relrowsecurity and relforcerowsecurity as guarded
          from pg_class where relnamespace = 'public'::regnamespace and relkind = 'r' order by relname`
      ).map((row) => ({ ...row })),
    )
  const counts = (organisationId: string | null) =>
    asked(organisationId, async (sql) => {
      const found: Record<string, number> = {}
      for (const { name } of await tables())
        found[name] =
          (await sql<{ rows: number }[]>`select count(*)::int as rows from ${sql(name)}`)[0]?.rows ?? -1
      return found
    })

  it('guards every table but those of no organisation', async () => {
    const open = (await tables()).filter(({ guarded }) => !guarded).map(({ name }) => name)
    expect(open).toEqual(OPEN)
  })
  it('shows nothing to a connection that does not say for whom it asks', async () => {
    const [all, none] = [await counts('*'), await counts(null)]
    expect(all['sites']).toBeGreaterThan(3)
    for (const [table, rows] of Object.entries(none))
      expect([table, rows]).toEqual([table, OPEN.includes(table) ? all[table] : 0])
  })
  it('shows each organisation its own, and all of it together once', async () => {
    const ids = (await operator<OrganisationLine[]>('GET', '/api/organisations')).body.map(({ id }) =>
      String(id),
    )
    const each = await Promise.all(ids.map(counts))
    const all = await counts('*')
    for (const table of [
      'sites',
      'people',
      'plans',
      'plan_revisions',
      'templates',
      'test_results',
      'organisations',
    ])
      expect([table, each.reduce((sum, one) => sum + (one[table] ?? 0), 0)]).toEqual([table, all[table]])
    for (const one of each) expect(one['organisations']).toBe(1)
  })
  it('lets nobody write for another organisation', async () => {
    const [first, second] = (await operator<OrganisationLine[]>('GET', '/api/organisations')).body
    const write = asked(String(first?.id), async (sql) => {
      await sql`insert into sites (organisation_id, slug, name) values (${second?.id ?? 0}, 'smuggled', 'x')`
    })
    await expect(write).rejects.toThrow(/row-level security/)
    const changed = await asked(
      String(first?.id),
      (sql) => sql`update sites set name = 'x' where organisation_id = ${second?.id ?? 0}`,
    )
    expect(changed.count).toBe(0)
  })
  it('is asked by a user who is no superuser, owns none of its tables and cannot change them', async () => {
    await asked('*', async (sql) => {
      const [me] =
        await sql`select rolsuper, rolbypassrls, rolcreaterole from pg_roles where rolname = current_user`
      expect({ ...me }).toEqual({ rolsuper: false, rolbypassrls: false, rolcreaterole: false })
      const owned = await sql`select 1 from pg_class where relnamespace = 'public'::regnamespace
        and relowner = current_user::regrole`
      expect(owned).toHaveLength(0)
      await expect(sql`alter table sites disable row level security`).rejects.toThrow(/must be owner/)
      await expect(sql`update audit_lines set who = 'x'`).rejects.toThrow(/never changed/)
    })
  })
})
