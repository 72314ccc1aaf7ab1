import { createHash, randomBytes } from 'node:crypto'
import type { LinkFor, OneTimeLink, PersonLine } from '#contracts/accounts'
import { isCounted } from '#contracts/api'
import { LEAST_GUESSES, LEAST_PASSWORD } from '#contracts/limits'
import type { Role } from '#contracts/roles'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { hashPassword, isRightPassword, nobodysHash } from '#server/platform/passwords'
import { refused, type Visitor } from '#server/platform/route'
import * as repo from '#server/repo/people'
import { countTry, tooManyTries } from './guessing'
import { endSessions, openSession, type From } from './sessions'

/** Time for somebody to open the link that they were given (practice). */
const LINK_MS = 3 * 24 * 3_600_000
const MOST_PEOPLE = 2000
/** Guesses at one's own password by whoever sits at an open session (practice). */
const MOST_TRIES = 10

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex')

/** Refuses a password that could be guessed; `known` are names that anybody may know. */
async function checkPassword(password: string, known: readonly string[]): Promise<void> {
  if (password.length < LEAST_PASSWORD)
    throw refused(400, 'password-short', 'password', { least: LEAST_PASSWORD })
  const { guessesOf } = await import('#contracts/guesses')
  if (guessesOf(password, ['Able Mast', ...known]) < LEAST_GUESSES)
    throw refused(400, 'password-weak', 'password')
}

const stateOf = ({ disabledAt, passwordHash }: repo.Person): PersonLine['state'] => {
  if (disabledAt) return 'disabled'
  return passwordHash === null ? 'invited' : 'active'
}

function lineOf(person: repo.Person, seenAt: Date | null): PersonLine {
  const { id, name, role, addedAt } = person
  return {
    id,
    name,
    role,
    state: stateOf(person),
    addedAt: addedAt.toISOString(),
    seenAt: seenAt?.toISOString() ?? null,
  }
}

export const listPeople = async (): Promise<PersonLine[]> =>
  (await repo.everybody(database())).map(({ person, seenAt }) => lineOf(person, seenAt))

/** A link by which somebody chooses their password; an older one of theirs stops working. */
async function makeLink(queries: Queries, personId: number | null): Promise<OneTimeLink> {
  const token = randomBytes(32).toString('base64url')
  const expiresAt = new Date(now().getTime() + LINK_MS)
  await repo.addLink(queries, { tokenHash: hashOf(token), personId, expiresAt })
  return { path: `/join#${token}`, expiresAt: expiresAt.toISOString() }
}

export interface Invited {
  readonly person: PersonLine
  readonly link: OneTimeLink
}

export async function invite(name: string, role: Role): Promise<Invited> {
  return database().transaction(async (tx) => {
    if ((await repo.countPeople(tx)) >= MOST_PEOPLE)
      throw refused(409, 'too-many-people', '', { most: MOST_PEOPLE })
    const person = await repo.addPerson(tx, { name, role, passwordHash: null })
    if (!person) throw refused(409, 'name-in-use', 'name', { text: name })
    return { person: lineOf(person, null), link: await makeLink(tx, person.id) }
  })
}

async function personOf(queries: Queries, id: number): Promise<repo.Person> {
  const person = isCounted(id) ? await repo.personWith(queries, id) : null
  if (!person) throw refused(404, 'no-such-person')
  return person
}

/** Refuses what would leave nobody who may add people. */
async function keepAnAdministrator(queries: Queries, person: repo.Person): Promise<void> {
  const active = await repo.activeAdministrators(queries)
  if (active.length === 1 && active[0] === person.id)
    throw refused(409, 'last-administrator', '', { text: person.name })
}

/** Changes what somebody may do. Their sessions see it at their next question; of who is disabled they end. */
export async function changePerson(
  id: number,
  change: { readonly role?: Role | undefined; readonly isDisabled?: boolean | undefined },
): Promise<PersonLine> {
  return database().transaction(async (tx) => {
    const person = await personOf(tx, id)
    const role = change.role ?? person.role
    const isDisabled = change.isDisabled ?? person.disabledAt !== null
    if (role !== 'administrator' || isDisabled) await keepAnAdministrator(tx, person)
    const disabledAt = isDisabled ? (person.disabledAt ?? now()) : null
    await repo.changePerson(tx, id, { role, disabledAt })
    // What is open was opened with other rights.
    if (isDisabled || role !== person.role) await endSessions(tx, id)
    return lineOf({ ...person, role, disabledAt }, null)
  })
}

/** What they did stays in the records, under their name. */
export async function removePerson(id: number): Promise<{ readonly name: string }> {
  return database().transaction(async (tx) => {
    const person = await personOf(tx, id)
    await keepAnAdministrator(tx, person)
    await endSessions(tx, id)
    await repo.removePerson(tx, id)
    return { name: person.name }
  })
}

/** A new link for somebody who lost theirs, or their password; the password holds until the link is used. */
export async function linkFor(id: number): Promise<OneTimeLink & { readonly name: string }> {
  return database().transaction(async (tx) => {
    const person = await personOf(tx, id)
    if (person.disabledAt) throw refused(409, 'person-disabled', '', { text: person.name })
    return { name: person.name, ...(await makeLink(tx, id)) }
  })
}

async function linkOf(queries: Queries, token: string) {
  const link = await repo.linkWith(queries, hashOf(token), now())
  if (!link || link.person?.disabledAt) throw refused(404, 'no-such-link')
  return link
}

export async function whomFor(token: string): Promise<LinkFor> {
  const { person } = await linkOf(database(), token)
  if (!person) return { kind: 'first', name: '' }
  return { kind: person.passwordHash === null ? 'invite' : 'reset', name: person.name }
}

export interface Joined {
  readonly name: string
  readonly role: Role
  readonly sessionId: string
}

/** Chooses a password by a link, which works no more then; whoever was signed in as them is not any longer. */
export async function join(token: string, password: string, from: From): Promise<Joined> {
  const { person } = await linkOf(database(), token)
  if (!person) throw refused(404, 'no-such-link')
  await checkPassword(password, [person.name])
  const passwordHash = await hashPassword(password)
  return database().transaction(async (tx) => {
    if (!(await repo.useLink(tx, hashOf(token)))) throw refused(404, 'no-such-link')
    await repo.changePerson(tx, person.id, { passwordHash })
    await endSessions(tx, person.id)
    const { id, name, role } = person
    return { name, role, sessionId: await openSession(tx, id, from) }
  })
}

/** The first person of an installation, who may add the others. */
export async function joinFirst(token: string, name: string, password: string, from: From): Promise<Joined> {
  const { person } = await linkOf(database(), token)
  await checkPassword(password, [name])
  const passwordHash = await hashPassword(password)
  return database().transaction(async (tx) => {
    if (person || !(await repo.useLink(tx, hashOf(token)))) throw refused(404, 'no-such-link')
    const made = await repo.addPerson(tx, { name, role: 'administrator', passwordHash })
    if (!made) throw refused(409, 'name-in-use', 'name', { text: name })
    return { name, role: made.role, sessionId: await openSession(tx, made.id, from) }
  })
}

/** Changes one's own password; one's other sessions end. */
export async function changePassword(visitor: Visitor, current: string, wanted: string): Promise<void> {
  const tries = `own ${visitor.personId}`
  if ((await countTry(database(), tries)) > MOST_TRIES) throw tooManyTries()
  await checkPassword(wanted, [visitor.name])
  const passwordHash = await hashPassword(wanted)
  await database().transaction(async (tx) => {
    const person = await personOf(tx, visitor.personId)
    if (!(await isRightPassword(person.passwordHash ?? (await nobodysHash()), current)))
      throw refused(403, 'password-wrong', 'current')
    await repo.forgetFailures(tx, tries)
    await repo.changePerson(tx, person.id, { passwordHash })
    await endSessions(tx, person.id, { but: visitor.sessionId })
  })
}

/**
 * The link for the first administrator, where nobody can administer yet; null where somebody can.
 * An older one stops working.
 */
export async function firstLink(queries: Queries): Promise<OneTimeLink | null> {
  return (await repo.activeAdministrators(queries)).length > 0 ? null : makeLink(queries, null)
}

/** Makes the first administrator by what the environment says, where nobody can administer yet. */
export async function makeFirst(queries: Queries, name: string, password: string): Promise<void> {
  if ((await repo.activeAdministrators(queries)).length > 0) return
  await checkPassword(password, [name])
  const made = await repo.addPerson(queries, {
    name,
    role: 'administrator',
    passwordHash: await hashPassword(password),
  })
  if (!made) throw refused(409, 'name-in-use', 'name', { text: name })
}
