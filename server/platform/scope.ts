import { AsyncLocalStorage } from 'node:async_hooks'

// For whom the database is asked: one organisation, or the server itself. Nothing is asked for nobody.

/** Id of an organisation, or `all` for the server's own work. */
export type Scope = number | 'all'

const scopes = new AsyncLocalStorage<Scope>()

export const inOrganisation = <T>(organisationId: number, work: () => T): T =>
  scopes.run(organisationId, work)

/** For what belongs to no organisation, or to whichever it turns out to be: sign-in, devices, jobs, upkeep. */
export const asServer = <T>(work: () => T): T => scopes.run('all', work)

/** @throws where nobody said for whom: a defect, and no answer */
export function scopeNow(): Scope {
  const scope = scopes.getStore()
  if (scope === undefined) throw new Error('the database was asked for nobody')
  return scope
}

/** @throws outside of an organisation */
export function organisationNow(): number {
  const scope = scopeNow()
  if (scope === 'all') throw new Error('the database was asked for no organisation')
  return scope
}

/** Calls it later for whom it is bound now. */
export const bound = <A extends readonly unknown[]>(work: (...told: A) => void): ((...told: A) => void) =>
  AsyncLocalStorage.bind(work)
