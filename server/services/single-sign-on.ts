import type { OwnIdentity, SignInWays, SignOnPurpose } from '#contracts/single-sign-on'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import {
  provider,
  sendToProvider,
  subjectOf,
  type SentToProvider,
  type SignOn,
} from '#server/platform/provider'
import { refused, type Visitor } from '#server/platform/route'
import { settings } from '#server/platform/settings'
import * as repo from '#server/repo/identities'
import { passwordHashOf } from '#server/repo/people'
import { joinAs, whomFor } from './accounts'
import { countTry, tooManyTries } from './guessing'
import { checkOwnPassword } from './own-password'
import { openSession, type From } from './sessions'

// Somebody signs in as who the provider says they are, once they, and nobody for them, have connected the two.

/** Answers of the provider that are looked at for one address, in the time after which tries are forgotten. */
const MOST_ANSWERS = 300

export const signInWays = (): SignInWays => ({ provider: settings().provider?.name ?? null })

const issuer = (): string => provider().issuer.href

export const sendToSignIn = (): Promise<SentToProvider> =>
  sendToProvider({ purpose: 'sign-in', token: '', personId: null })

/** Sends whoever has a link for somebody new, in place of choosing a password. */
export async function sendToJoin(token: string): Promise<SentToProvider> {
  if ((await whomFor(token)).kind !== 'invite') throw refused(409, 'link-needs-password')
  return sendToProvider({ purpose: 'join', token, personId: null })
}

export async function sendToConnect(visitor: Visitor, password: string): Promise<SentToProvider> {
  await checkOwnPassword(visitor, password, 'password')
  if (await repo.identityOf(database(), visitor.personId)) throw refused(409, 'identity-there')
  return sendToProvider({ purpose: 'connect', token: '', personId: visitor.personId })
}

/** Who has come back from where they were sent for this purpose. */
async function arrived(
  purpose: SignOnPurpose,
  query: string,
  signOn: SignOn | null,
  address: string,
): Promise<SignOn & { readonly subject: string }> {
  if (signOn?.purpose !== purpose) throw refused(401, 'provider-not-asked')
  if ((await countTry(database(), `provider ${address}`)) > MOST_ANSWERS) throw tooManyTries()
  return { ...signOn, subject: await subjectOf(query, signOn) }
}

/** @returns id of the session that is open now */
export async function signInByProvider(query: string, signOn: SignOn | null, from: From): Promise<string> {
  const { subject } = await arrived('sign-in', query, signOn, from.address)
  const person = await repo.personBy(database(), { issuer: issuer(), subject })
  if (!person || person.disabledAt) throw refused(401, 'identity-unknown', '', { text: provider().name })
  return openSession(database(), person.id, from)
}

const identity = (personId: number, subject: string): repo.Identity => ({
  personId,
  issuer: issuer(),
  subject,
  addedAt: now(),
})

/** @returns id of the session that is open now */
export async function joinByProvider(query: string, signOn: SignOn | null, from: From): Promise<string> {
  const { subject, token } = await arrived('join', query, signOn, from.address)
  return joinAs(token, from, (tx, personId) => repo.addIdentity(tx, identity(personId, subject)))
}

export async function connect(
  { personId }: Visitor,
  query: string,
  signOn: SignOn | null,
  address: string,
): Promise<Record<string, never>> {
  const arrival = await arrived('connect', query, signOn, address)
  if (arrival.personId !== personId) throw refused(401, 'provider-not-asked')
  if (!(await repo.addIdentity(database(), identity(personId, arrival.subject))))
    throw refused(409, 'identity-taken', '', { text: provider().name })
  return {}
}

export async function ownIdentity({ personId }: Visitor): Promise<OwnIdentity> {
  const found = await repo.identityOf(database(), personId)
  return { ...signInWays(), since: found?.addedAt.toISOString() ?? null }
}

export async function disconnect(visitor: Visitor, password: string): Promise<Record<string, never>> {
  if ((await passwordHashOf(database(), visitor.personId)) === null) throw refused(409, 'password-needed')
  await checkOwnPassword(visitor, password, 'password')
  if (!(await repo.removeIdentity(database(), visitor.personId))) throw refused(404, 'no-identity')
  return {}
}
