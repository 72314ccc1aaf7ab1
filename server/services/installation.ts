import { now } from '#server/platform/clock'
import type { Queries } from '#server/platform/database'
import { settings } from '#server/platform/settings'
import { newestMark, openSealed, seal } from '#server/platform/secrets'
import * as repo from '#server/repo/installation'
import { sealAnew } from '#server/repo/sealed'
import { countPeople, firstOperator } from '#server/repo/people'
import { firstLink, makeFirst } from './accounts'

/** Why a start is refused; the message is for whoever started it. */
export class StartRefused extends Error {}

const wantedKind = (): repo.InstallationKind => (settings().demo ? 'demo' : 'serve')

/** @throws StartRefused where a database is known to belong to the other sort: nothing of it is touched */
export const refuseOtherKind = async (queries: Queries): Promise<void> =>
  mustBeWanted((await repo.kindOf(queries)) ?? wantedKind())

function mustBeWanted(kind: repo.InstallationKind): void {
  const wanted = wantedKind()
  if (kind === 'demo' && wanted === 'serve')
    throw new StartRefused(
      'this database belongs to a demo, whose passwords everybody knows: ' +
        'give ./mast serve another (DATABASE_URL or MAST_DATA)',
    )
  if (kind === 'serve' && wanted === 'demo')
    throw new StartRefused(
      'this database belongs to real people: a demo needs one of its own (DATABASE_URL or MAST_DATA)',
    )
}

/**
 * Settles whose database it is: a demo's, whose passwords are known to everybody, or somebody's own.
 * @returns whether it is new
 * @throws StartRefused where it belongs to the other sort
 */
export async function settleKind(queries: Queries): Promise<boolean> {
  if ((await repo.kindOf(queries)) !== null) return false
  // Before there was a choice there were demos alone.
  const isNew = (await countPeople(queries)) === 0
  const kind = isNew ? wantedKind() : 'demo'
  mustBeWanted(kind)
  await repo.setKind(queries, kind, now())
  return isNew
}

/** Lets the server's own user, where it is another than the owner, do what it does; it owns nothing but its jobs. */
export async function admitServer(queries: Queries): Promise<void> {
  const user = decodeURIComponent(new URL(settings().databaseUrl).username)
  if (user !== decodeURIComponent(new URL(settings().ownerUrl).username)) return repo.admit(queries, user)
  if (await repo.isSuperuser(queries))
    console.error(
      'The database is asked by a superuser, whom no row is kept from: ' +
        'give another by DATABASE_URL, and this one by MAST_OWNER_URL.',
    )
}

/** Seals everything under the newest key that was sealed under another. */
export async function useNewestKey(queries: Queries): Promise<void> {
  const left = await sealAnew(queries, newestMark(), (sealed) => {
    const text = openSealed(sealed)
    return text === null ? null : seal(text)
  })
  // Nothing is lost by starting: it stays as it is until somebody brings the key.
  if (left > 0)
    console.error(`${left} secrets are sealed under a key that is not here: was server.key replaced?`)
}

/** @throws StartRefused where a newer Able Mast has changed the database */
export async function checkAge(queries: Queries, newestKnown: number): Promise<void> {
  if ((await repo.newestMigration(queries)) > newestKnown)
    throw new StartRefused(
      'this database was changed by a newer Able Mast: start that one, or restore a backup from before the upgrade',
    )
}

/** Makes the first administrator, or says how somebody becomes it. */
export async function welcomeFirst(queries: Queries): Promise<void> {
  const { first, publicUrl, selfUrl } = settings()
  if (first && !(await firstOperator(queries))) return makeFirst(queries, first, first.password)
  const link = await firstLink(queries)
  if (!link) return
  const base = publicUrl?.origin ?? selfUrl
  const whose =
    link.name === ''
      ? 'Nobody administers this Able Mast yet. Whoever opens this link first does:'
      : `Nobody who operates this Able Mast can sign in. Whoever opens this link first does as ${link.name}:`
  console.error(`\n${whose}\n\n  ${base}${link.path}`)
  console.error(`\nIt holds until ${link.expiresAt.slice(0, 16)}Z; each start makes a new one.`)
}
