import { sql } from 'drizzle-orm'
import { installation } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type InstallationKind = (typeof installation.$inferSelect)['kind']

/** False in a database that no program, or an older one alone, has prepared. */
async function hasTable(queries: Queries, name: string): Promise<boolean> {
  const [row] = await queries.execute<{ name: string | null }>(sql`select to_regclass(${name})::text as name`)
  return row?.name != null
}

export async function kindOf(queries: Queries): Promise<InstallationKind | null> {
  if (!(await hasTable(queries, 'public.installation'))) return null
  const [row] = await queries.select().from(installation)
  return row?.kind ?? null
}

export async function setKind(queries: Queries, kind: InstallationKind, since: Date): Promise<void> {
  await queries.insert(installation).values({ kind, since })
}

/** When the newest migration that the database has was written, ms; 0 for an empty database. */
export async function newestMigration(queries: Queries): Promise<number> {
  if (!(await hasTable(queries, 'drizzle.__drizzle_migrations'))) return 0
  const [row] = await queries.execute<{ newest: string | null }>(
    sql`select max(created_at)::text as newest from drizzle.__drizzle_migrations`,
  )
  return Number(row?.newest ?? 0)
}

/** Lets a user read and write what is there, and make and own a place for jobs. */
export async function admit(queries: Queries, user: string): Promise<void> {
  const name = sql.identifier(user)
  await queries.execute(sql`grant usage on schema public to ${name}`)
  await queries.execute(sql`grant select, insert, update, delete on all tables in schema public to ${name}`)
  await queries.execute(sql`grant usage, select on all sequences in schema public to ${name}`)
  const [row] = await queries.execute<{ name: string }>(sql`select current_database() as name`)
  await queries.execute(sql`grant create on database ${sql.identifier(row?.name ?? '')} to ${name}`)
  // The queue makes its place itself and owns it. One that another made goes: jobs that wait are put in anew.
  const [place] = await queries.execute<{ owner: string }>(
    sql`select nspowner::regrole::text as owner from pg_namespace where nspname = 'pgboss'`,
  )
  if (place && place.owner !== user) await queries.execute(sql`drop schema pgboss cascade`)
}

export async function isSuperuser(queries: Queries): Promise<boolean> {
  const [row] = await queries.execute<{ is: boolean }>(
    sql`select rolsuper as is from pg_roles where rolname = current_user`,
  )
  return row?.is === true
}
