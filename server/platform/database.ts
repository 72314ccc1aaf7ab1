import { drizzle, type PostgresJsDatabase } from 'drizzle-orm/postgres-js'
import postgres from 'postgres'
import * as schema from '#server/db/schema'
import { scopeNow, type Scope } from './scope'
import { settings } from './settings'

export type Database = PostgresJsDatabase<typeof schema>
/** A database or a transaction in it. */
export type Queries = Pick<
  Database,
  '$count' | 'select' | 'selectDistinctOn' | 'insert' | 'update' | 'delete' | 'execute' | 'transaction'
>

interface Connections {
  readonly client: postgres.Sql
  readonly db: Database
}

/** Connections of the server's own work, and of each organisation; those end when nobody uses them. */
const MOST_OWN = 10
const MOST_EACH = 4
const IDLE_S = 30

/** A connection asks for one organisation for as long as it lives, so that none can be left over from another. */
function connect(url: string, scope: Scope, more: postgres.Options<Record<string, never>>): Connections {
  const client = postgres(url, {
    connect_timeout: 5,
    onnotice: () => undefined,
    connection: { 'mast.organisation': scope === 'all' ? '*' : String(scope) },
    ...more,
  })
  return { client, db: drizzle(client, { schema }) }
}

const open = new Map<Scope, Connections>()

function connectionsOf(scope: Scope): Connections {
  const known = open.get(scope)
  if (known) return known
  const most = scope === 'all' ? { max: MOST_OWN } : { max: MOST_EACH, idle_timeout: IDLE_S }
  const made = connect(settings().databaseUrl, scope, most)
  open.set(scope, made)
  return made
}

/** The database as whoever asks may see it. */
export function database(): Database {
  return connectionsOf(scopeNow()).db
}

/** The driver itself, for LISTEN. */
export function driver(): postgres.Sql {
  return connectionsOf('all').client
}

/** The database as its owner sees it, who changes its tables; ended when the work is done. */
export async function asOwner<T>(work: (db: Database) => Promise<T>): Promise<T> {
  const { client, db } = connect(settings().ownerUrl, 'all', { max: 2 })
  try {
    return await work(db)
  } finally {
    await client.end({ timeout: 2 })
  }
}

export async function closeDatabase(): Promise<void> {
  await Promise.all([...open.values()].map(({ client }) => client.end({ timeout: 2 })))
  open.clear()
}
