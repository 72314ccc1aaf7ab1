import { sql } from 'drizzle-orm'
import type { News } from '#contracts/api'
import { driver, type Queries } from './database'
import { describeError, log } from './log'
import { bound } from './scope'

// Between server processes PostgreSQL carries what is new, so no process holds state of its own.

type Listener<T> = (told: T) => void

/** A channel on which every process hears what one of them tells. */
function channel<T>(name: string, missed: () => void) {
  const listeners = new Set<Listener<T>>()
  let listening: Promise<unknown> | undefined
  let hasListened = false

  function listen(): Promise<unknown> {
    listening ??= driver()
      .listen(
        name,
        (payload) => {
          const told = JSON.parse(payload) as T
          for (const one of listeners) one(told)
        },
        // The driver listens anew after it lost the database: nobody knows what was told in between.
        () => {
          if (hasListened) missed()
          hasListened = true
        },
      )
      .catch((error: unknown) => {
        // Whoever comes next tries again.
        listening = undefined
        log.warn({ error: describeError(error) }, `cannot listen on ${name}`)
        throw error
      })
    return listening
  }

  return {
    listen,
    /** Inside a transaction it is told at its commit. */
    tell: async (queries: Queries, told: T): Promise<void> => {
      await queries.execute(sql`select pg_notify(${name}, ${JSON.stringify(told)})`)
    },
    /** Hears until the returned function is called. */
    hear: async (listener: Listener<T>): Promise<() => void> => {
      const heard = bound(listener)
      listeners.add(heard)
      try {
        await listen()
      } catch (error) {
        listeners.delete(heard)
        throw error
      }
      return () => listeners.delete(heard)
    },
  }
}

const onMissed = new Set<() => void>()
/** Calls when something may have been told that this process did not hear. */
export function whenMissed(listener: () => void): () => void {
  const heard = bound(listener)
  onMissed.add(heard)
  return () => onMissed.delete(heard)
}
const missed = () => {
  for (const listener of onMissed) listener()
}

/** A part of a site has news. */
const news = channel<News>('mast_news', missed)
export const { tell, hear } = news
/** Sessions have ended. */
const ended = channel<readonly string[]>('mast_sessions', missed)
export const { tell: tellEnded, hear: hearEnded } = ended

/** Resolves once both are heard. */
export const hearBoth = (): Promise<unknown> => Promise.all([news.listen(), ended.listen()])
