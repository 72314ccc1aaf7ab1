import type { z } from 'zod'
import type { LinkFor, OneTimeLink, personChangeSchema, PersonLine, SiteRoleLine } from '#contracts/accounts'
import { isCounted } from '#contracts/api'
import { LEAST_GUESSES, LEAST_PASSWORD } from '#contracts/limits'
import type { Role } from '#contracts/roles'
import { groupBy } from '#core/util'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { asServer, organisationNow } from '#server/platform/scope'
import { addOrganisation } from '#server/repo/organisations'
import { hashPassword } from '#server/platform/passwords'
import { refused, type Visitor } from '#server/platform/route'
import { drawProof, hashOfProof } from '#server/platform/secrets'
import { settings } from '#server/platform/settings'
import { peopleWithFactor } from '#server/repo/factors'
import { identityOf, peopleWithIdentity, removeIdentity } from '#server/repo/identities'
import * as repo from '#server/repo/people'
import { clearFactors, hasFactor } from './factors'
import { checkOwnPassword } from './own-password'
import { endSessions, openSession, recheckSessions, type From } from './sessions'

/** Time for somebody to open the link that they were given (practice). */
const LINK_MS = 3 * 24 * 3_600_000
const MOST_PEOPLE = 2000

/** Refuses a password that could be guessed; `known` are names that anybody may know. */
async function checkPassword(password: string, known: readonly string[]): Promise<void> {
  if (password.length < LEAST_PASSWORD)
    throw refused(400, 'password-short', 'password', { least: LEAST_PASSWORD })
  const { guessesOf } = await import('#contracts/guesses')
  if (guessesOf(password, ['Able Mast', ...known]) < LEAST_GUESSES)
    throw refused(400, 'password-weak', 'password')
}

/** By which the provider's people are known; null where there is no single sign-on. */
const issuerNow = (): string | null => settings().provider?.issuer.href ?? null

/** People of an organisation who can sign in by the provider. */
const byProvider = async (queries: Queries, organisationId: number): Promise<ReadonlySet<number>> => {
  const issuer = issuerNow()
  return issuer === null ? new Set() : peopleWithIdentity(queries, organisationId, issuer)
}

function stateOf({ disabledAt, passwordHash }: repo.Person, hasIdentity: boolean): PersonLine['state'] {
  if (disabledAt) return 'disabled'
  return passwordHash === null && !hasIdentity ? 'invited' : 'active'
}

/** What is told of somebody besides what is kept with their name. */
interface More {
  readonly sites: readonly SiteRoleLine[]
  readonly hasFactor: boolean
  readonly hasIdentity: boolean
  readonly seenAt?: Date | null
}

function lineOf(person: repo.Person, { sites, hasFactor, hasIdentity, seenAt = null }: More): PersonLine {
  const { id, name, role, isOperator, addedAt } = person
  return {
    id,
    name,
    role,
    sites,
    isOperator,
    hasFactor,
    hasIdentity,
    state: stateOf(person, hasIdentity),
    addedAt: addedAt.toISOString(),
    seenAt: seenAt?.toISOString() ?? null,
  }
}

export async function listPeople(): Promise<PersonLine[]> {
  const organisationId = organisationNow()
  const everybody = await repo.everybody(database(), organisationId)
  const roles = groupBy(await repo.siteRolesOf(database(), organisationId), ({ personId }) =>
    String(personId),
  )
  const guarded = await peopleWithFactor(database(), organisationId)
  const connected = await byProvider(database(), organisationId)
  return everybody.map(({ person, seenAt }) =>
    lineOf(person, {
      sites: (roles.get(String(person.id)) ?? []).map(siteRoleLine),
      hasFactor: guarded.has(person.id),
      hasIdentity: connected.has(person.id),
      seenAt,
    }),
  )
}

/** A line of somebody as they are now. */
const lineNow = async (queries: Queries, person: repo.Person): Promise<PersonLine> =>
  lineOf(person, {
    sites: await siteRolesOf(queries, person),
    hasFactor: (await peopleWithFactor(queries, person.organisationId)).has(person.id),
    hasIdentity: (await byProvider(queries, person.organisationId)).has(person.id),
  })

const siteRoleLine = ({ site, name, role }: SiteRoleLine): SiteRoleLine => ({ site, name, role })

/** Roles of one person at single sites. */
const siteRolesOf = async (queries: Queries, { id, organisationId }: repo.Person): Promise<SiteRoleLine[]> =>
  (await repo.siteRolesOf(queries, organisationId))
    .filter(({ personId }) => personId === id)
    .map(siteRoleLine)

/** Sets roles at single sites; refuses sites that the organisation does not have, and somebody without any role. */
async function setSiteRoles(
  queries: Queries,
  person: repo.Person,
  wanted: readonly repo.SiteRole[],
): Promise<void> {
  const [unknown] = await repo.setSiteRoles(queries, person, wanted)
  if (unknown !== undefined) throw refused(404, 'no-such-site', unknown)
}

/** A link by which somebody chooses their password; an older one of theirs stops working. */
async function makeLink(queries: Queries, personId: number | null): Promise<OneTimeLink> {
  const token = drawProof()
  const expiresAt = new Date(now().getTime() + LINK_MS)
  await repo.addLink(queries, { tokenHash: hashOfProof(token), personId, expiresAt })
  const canBeMailed = settings().mail !== null
  return { path: `/join#${token}`, expiresAt: expiresAt.toISOString(), canBeMailed }
}

export interface Invited {
  readonly person: PersonLine
  readonly link: OneTimeLink
}

/** Who is to be added, and what they may do: at every site, or at single ones. */
export interface Wanted {
  readonly name: string
  readonly role: Role | null
  readonly sites: readonly repo.SiteRole[]
}

/** Adds somebody to an organisation. */
export async function inviteInto(
  queries: Queries,
  organisationId: number,
  { name, role, sites }: Wanted,
): Promise<Invited> {
  if ((await repo.countPeople(queries, organisationId)) >= MOST_PEOPLE)
    throw refused(409, 'too-many-people', '', { most: MOST_PEOPLE })
  const person = await repo.addPerson(queries, { organisationId, name, role, passwordHash: null })
  if (!person) throw refused(409, 'name-in-use', 'name', { text: name })
  await setSiteRoles(queries, person, sites)
  return {
    person: await lineNow(queries, person),
    link: await makeLink(queries, person.id),
  }
}

export const invite = (wanted: Wanted): Promise<Invited> =>
  database().transaction((tx) => inviteInto(tx, organisationNow(), wanted))

/**
 * Somebody of the organisation, whom who asks may change.
 * Who operates the installation is changed by others who do alone: whoever gets their account operates it, too.
 */
async function personOf(queries: Queries, id: number, by: Visitor): Promise<repo.Person> {
  const person = isCounted(id) ? await repo.personWith(queries, organisationNow(), id) : null
  if (!person) throw refused(404, 'no-such-person')
  if (person.isOperator && !by.isOperator) throw refused(403, 'operator-needed')
  return person
}

const isOnly = (ids: readonly number[], id: number): boolean => ids.length === 1 && ids[0] === id

/** Refuses what would leave nobody who may add people. */
async function keepAnAdministrator(queries: Queries, person: repo.Person): Promise<void> {
  if (isOnly(await repo.activeAdministrators(queries, person.organisationId, issuerNow()), person.id))
    throw refused(409, 'last-administrator', '', { text: person.name })
}

/** Refuses what would leave nobody who may add organisations. */
async function keepAnOperator(queries: Queries, person: repo.Person): Promise<void> {
  if (!person.isOperator) return
  await repo.holdOperators(queries)
  // They may be of any organisation, so the server asks; it waits for nobody who waits for us.
  if (isOnly(await asServer(() => repo.activeOperators(database(), issuerNow())), person.id))
    throw refused(409, 'last-operator', '', { text: person.name })
}

export type PersonChange = z.infer<typeof personChangeSchema>

/** What is kept of somebody after a change. */
function changed(person: repo.Person, { role, isDisabled, isOperator }: PersonChange) {
  const disabledAt = (isDisabled ?? person.disabledAt !== null) ? (person.disabledAt ?? now()) : null
  return {
    role: role === undefined ? person.role : role,
    isOperator: isOperator ?? person.isOperator,
    disabledAt,
  }
}

/** Changes what somebody may do. Their sessions see it at their next question; of who is disabled they end. */
export async function changePerson(id: number, change: PersonChange, by: Visitor): Promise<PersonLine> {
  const { sites } = change
  // Only who adds organisations makes others that do.
  if (change.isOperator !== undefined && !by.isOperator) throw refused(403, 'operator-needed')
  return database().transaction(async (tx) => {
    const person = await personOf(tx, id, by)
    const after = changed(person, change)
    if (after.role !== 'administrator' || after.disabledAt) await keepAnAdministrator(tx, person)
    if (!after.isOperator || after.disabledAt) await keepAnOperator(tx, person)
    await repo.changePerson(tx, id, after)
    if (sites) await setSiteRoles(tx, person, sites)
    // What is open was opened with other rights.
    const isOther = after.role !== person.role || after.isOperator !== person.isOperator
    if (after.disabledAt || isOther || sites) await endSessions(tx, id)
    return lineNow(tx, { ...person, ...after })
  })
}

/** What they did stays in the records, under their name. */
export async function removePerson(id: number, by: Visitor): Promise<{ readonly name: string }> {
  return database().transaction(async (tx) => {
    const person = await personOf(tx, id, by)
    await keepAnAdministrator(tx, person)
    await keepAnOperator(tx, person)
    await endSessions(tx, id)
    await repo.removePerson(tx, id)
    return { name: person.name }
  })
}

/** A new link for somebody who lost theirs, or their password; the password holds until the link is used. */
export async function linkFor(id: number, by: Visitor): Promise<OneTimeLink & { readonly name: string }> {
  return database().transaction(async (tx) => {
    const person = await personOf(tx, id, by)
    if (person.disabledAt) throw refused(409, 'person-disabled', '', { text: person.name })
    return { name: person.name, ...(await makeLink(tx, id)) }
  })
}

async function linkOf(queries: Queries, token: string) {
  const link = await repo.linkWith(queries, hashOfProof(token), now())
  if (!link || link.person?.disabledAt) throw refused(404, 'no-such-link')
  return link
}

export async function whomFor(token: string): Promise<LinkFor> {
  const { person } = await linkOf(database(), token)
  if (!person) return { kind: 'first', name: '' }
  return { kind: (await isNew(database(), person)) ? 'invite' : 'reset', name: person.name }
}

/** The link of somebody whom who asks may change, by what it proves. */
export async function openLinkOf(id: number, token: string, by: Visitor) {
  const { name } = await personOf(database(), id, by)
  const { person, expiresAt } = await linkOf(database(), token)
  if (person?.id !== id) throw refused(404, 'no-such-link')
  return { name, expiresAt, kind: (await whomFor(token)).kind }
}

/** Whether somebody has nothing yet by which they sign in. */
const isNew = async (queries: Queries, { id, passwordHash }: repo.Person): Promise<boolean> =>
  passwordHash === null && !(await hasFactor(queries, id)) && (await identityOf(queries, id)) === null

export interface Joined {
  readonly name: string
  /** Of the session that is open now; null for who has a second factor, which a link does not take the place of. */
  readonly sessionId: string | null
}

/** Chooses a password by a link, which works no more then; whoever was signed in as them is not any longer. */
export async function join(token: string, password: string, from: From): Promise<Joined> {
  const { person } = await linkOf(database(), token)
  if (!person) throw refused(404, 'no-such-link')
  await checkPassword(password, [person.name])
  const passwordHash = await hashPassword(password)
  return database().transaction(async (tx) => {
    if (!(await repo.useLink(tx, hashOfProof(token)))) throw refused(404, 'no-such-link')
    await repo.changePerson(tx, person.id, { passwordHash })
    await endSessions(tx, person.id)
    const isGuarded = await hasFactor(tx, person.id)
    return { name: person.name, sessionId: isGuarded ? null : await openSession(tx, person.id, from) }
  })
}

/**
 * Joins by a link that is for somebody new, without a password.
 * @param become what they sign in by from now on; false where it is somebody's already
 * @returns id of the session that is open now
 */
export async function joinAs(
  token: string,
  from: From,
  become: (tx: Queries, personId: number) => Promise<boolean>,
): Promise<string> {
  const { person } = await linkOf(database(), token)
  if (!person) throw refused(404, 'no-such-link')
  return database().transaction(async (tx) => {
    if (!(await repo.useLink(tx, hashOfProof(token)))) throw refused(404, 'no-such-link')
    if (!(await isNew(tx, person))) throw refused(409, 'link-needs-password')
    if (!(await become(tx, person.id))) throw refused(409, 'identity-taken')
    return openSession(tx, person.id, from)
  })
}

export interface First {
  readonly name: string
  readonly organisation: string
}

/** Makes an installation's first organisation and who administers it, and may add others. */
async function addFirst(queries: Queries, { name, organisation }: First, passwordHash: string) {
  const organisationId = await addOrganisation(queries, organisation)
  if (organisationId === null)
    throw refused(409, 'organisation-in-use', 'organisation', { text: organisation })
  const role = 'administrator'
  const made = await repo.addPerson(queries, { organisationId, name, role, passwordHash, isOperator: true })
  if (!made) throw refused(409, 'name-in-use', 'name', { text: name })
  return made
}

/**
 * The first person of an installation, who may add the others.
 * @returns id of the session that is open now
 */
export async function joinFirst(token: string, first: First, password: string, from: From): Promise<string> {
  const { person } = await linkOf(database(), token)
  await checkPassword(password, [first.name, first.organisation])
  const passwordHash = await hashPassword(password)
  return database().transaction(async (tx) => {
    if (person || !(await repo.useLink(tx, hashOfProof(token)))) throw refused(404, 'no-such-link')
    return openSession(tx, (await addFirst(tx, first, passwordHash)).id, from)
  })
}

/** Changes one's own password; one's other sessions end. */
export async function changePassword(visitor: Visitor, current: string, wanted: string): Promise<void> {
  await checkPassword(wanted, [visitor.name])
  await checkOwnPassword(visitor, current, 'current')
  const passwordHash = await hashPassword(wanted)
  await database().transaction(async (tx) => {
    await repo.changePerson(tx, visitor.personId, { passwordHash })
    await endSessions(tx, visitor.personId, { but: visitor.sessionId })
  })
}

/**
 * Takes the second factors and single sign-on from somebody who has lost them; what they have open ends.
 * Who has no password needs a new link then.
 */
export const clearFactorsOf = (id: number, by: Visitor): Promise<{ readonly name: string }> =>
  database().transaction(async (tx) => {
    const person = await personOf(tx, id, by)
    if (person.passwordHash === null) {
      await keepAnAdministrator(tx, person)
      await keepAnOperator(tx, person)
    }
    await clearFactors(tx, id)
    await removeIdentity(tx, id)
    await endSessions(tx, id)
    return { name: person.name }
  })

export interface FirstLink extends OneTimeLink {
  /** Whose it is; empty for the first person of an installation. */
  readonly name: string
}

/**
 * The link for whoever operates the installation, where nobody can yet, or can any longer; null where somebody can.
 * An older one stops working. Of who has lost all that they sign in with, the second factors go.
 */
export async function firstLink(queries: Queries): Promise<FirstLink | null> {
  if ((await repo.activeOperators(queries, issuerNow())).length > 0) return null
  const person = await repo.firstOperator(queries)
  if (!person) return { ...(await makeLink(queries, null)), name: '' }
  await clearFactors(queries, person.id)
  await repo.changePerson(queries, person.id, { disabledAt: null })
  return { ...(await makeLink(queries, person.id)), name: person.name }
}

/** Makes the first administrator by what the environment says, where there never was one. */
export async function makeFirst(queries: Queries, first: First, password: string): Promise<void> {
  await checkPassword(password, [first.name, first.organisation])
  await addFirst(queries, first, await hashPassword(password))
}

/** Ends every session of an organisation. */
export async function endAllSessions(queries: Queries, organisationId: number): Promise<void> {
  for (const { person } of await repo.everybody(queries, organisationId))
    await endSessions(queries, person.id)
}

export async function recheckAllSessions(queries: Queries, organisationId: number): Promise<void> {
  for (const { person } of await repo.everybody(queries, organisationId))
    await recheckSessions(queries, person.id)
}
