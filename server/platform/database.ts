import { drizzle, type PostgresJsDatabase } from 'drizzle-orm/postgres-js'
import postgres from 'postgres'
import * as schema from '#server/db/schema'
import { settings } from './settings'

export type Database = PostgresJsDatabase<typeof schema>
/** A database or a transaction in it. */
export type Queries = Pick<
  Database,
  '$count' | 'select' | 'selectDistinctOn' | 'insert' | 'update' | 'delete' | 'execute' | 'transaction'
>

let open: { readonly client: postgres.Sql; readonly db: Database } | undefined

function connection() {
  if (!open) {
    const client = postgres(settings().databaseUrl, {
      max: 10,
      connect_timeout: 5,
      onnotice: () => undefined,
    })
    open = { client, db: drizzle(client, { schema }) }
  }
  return open
}

export function database(): Database {
  return connection().db
}

/** The driver itself, for LISTEN. */
export function driver(): postgres.Sql {
  return connection().client
}

export async function closeDatabase(): Promise<void> {
  await open?.client.end({ timeout: 2 })
  open = undefined
}
