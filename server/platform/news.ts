import { sql } from 'drizzle-orm'
import type { News } from '#contracts/api'
import { driver, type Queries } from './database'

// Live updates between server processes: PostgreSQL carries them, so no process holds state of its own.

const CHANNEL = 'mast_news'
type Listener = (news: News) => void
const listeners = new Set<Listener>()
let listening: Promise<unknown> | undefined

/** Tells every process that a part of a site has news. Inside a transaction it is told at its commit. */
export async function tell(queries: Queries, news: News): Promise<void> {
  await queries.execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify(news)})`)
}

/** Hears news until the returned function is called. */
export async function hear(listener: Listener): Promise<() => void> {
  listeners.add(listener)
  listening ??= driver().listen(CHANNEL, (payload) => {
    const news = JSON.parse(payload) as News
    for (const one of listeners) one(news)
  })
  await listening
  return () => listeners.delete(listener)
}
