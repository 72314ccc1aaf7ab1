import type { TestProject } from 'vitest/node'
import { startThrowAway } from '../../tools/postgres.mjs'

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string
  }
}

/** One throw-away PostgreSQL for all server tests; each file makes a database of its own in it. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const database = await startThrowAway()
  project.provide('databaseUrl', database.url)
  return database.stop
}
