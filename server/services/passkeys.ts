import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
} from '@simplewebauthn/server'
import type { z } from 'zod'
import type { newPasskeySchema, passkeySignInSchema, RecoveryCodes } from '#contracts/factors'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { refused, type Visitor } from '#server/platform/route'
import { asServer } from '#server/platform/scope'
import type { RelyingParty } from '#server/platform/visits'
import * as repo from '#server/repo/factors'
import { checkOwnPassword } from './own-password'
import { dropUnneededCodes, recoveryCodesFor } from './factors'
import { countTry, tooManyTries } from './guessing'
import { openSession, type From } from './sessions'

// Passkeys (W3C Web Authentication Level 3): with the device unlocked they are both factors at once.

const CHALLENGE_MS = 5 * 60_000
const MOST_PASSKEYS = 20
/** Challenges for one address, in the time after which tries are forgotten (practice). */
const MOST_CHALLENGES = 300

function needed(party: RelyingParty | null): RelyingParty {
  if (!party) throw refused(409, 'no-passkeys-here')
  return party
}

const keep = (challenge: string, personId: number | null): Promise<void> =>
  asServer(() =>
    repo.addChallenge(
      database(),
      { challenge, personId, expiresAt: new Date(now().getTime() + CHALLENGE_MS) },
      now(),
    ),
  )

/** Whether a challenge is one that we gave to this person, or to nobody; it is answered by that. */
const isOurs =
  (personId: number | null) =>
  async (challenge: string): Promise<boolean> =>
    (await asServer(() => repo.useChallenge(database(), challenge, now()))) === personId

const transportsOf = ({ transports }: repo.Passkey) =>
  transports === '' ? [] : (transports.split(' ') as ('usb' | 'nfc' | 'ble' | 'internal' | 'hybrid')[])

/** What a browser needs to make a passkey. */
export async function passkeyOptions(visitor: Visitor, password: string, at: RelyingParty | null) {
  const party = needed(at)
  await checkOwnPassword(visitor, password, 'password')
  const known = await repo.passkeysOf(database(), visitor.personId)
  if (known.length >= MOST_PASSKEYS) throw refused(409, 'too-many-passkeys', '', { most: MOST_PASSKEYS })
  const options = await generateRegistrationOptions({
    rpName: 'Able Mast',
    rpID: party.id,
    userName: visitor.name,
    userID: new TextEncoder().encode(`person ${visitor.personId}`),
    excludeCredentials: known.map((passkey) => ({ id: passkey.id, transports: transportsOf(passkey) })),
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  })
  await keep(options.challenge, visitor.personId)
  return options
}

/** What verification throws is that something does not fit: whoever sent it is told so, and no more. */
const verified = <T extends { readonly verified: boolean }>(asked: Promise<T>): Promise<T | null> =>
  asked.then(
    (answer) => (answer.verified ? answer : null),
    () => null,
  )

type NewPasskey = z.infer<typeof newPasskeySchema>

export async function addPasskey(
  visitor: Visitor,
  { name, response }: NewPasskey,
  at: RelyingParty | null,
): Promise<RecoveryCodes> {
  const party = needed(at)
  const { personId } = visitor
  const answer = await verified(
    verifyRegistrationResponse({
      response: response as Parameters<typeof verifyRegistrationResponse>[0]['response'],
      expectedChallenge: isOurs(personId),
      expectedOrigin: party.origin,
      expectedRPID: party.id,
      requireUserVerification: true,
    }),
  )
  const credential = answer?.registrationInfo?.credential
  if (!credential) throw refused(403, 'passkey-wrong')
  return database().transaction(async (tx) => {
    const added = await repo.addPasskey(tx, {
      id: credential.id,
      personId,
      name,
      publicKey: Buffer.from(credential.publicKey).toString('base64url'),
      counter: credential.counter,
      transports: (credential.transports ?? []).join(' '),
      addedAt: now(),
    })
    if (!added) throw refused(409, 'passkey-known')
    return recoveryCodesFor(tx, personId)
  })
}

export async function removePasskey(
  visitor: Visitor,
  id: string,
  password: string,
): Promise<Record<string, never>> {
  await checkOwnPassword(visitor, password, 'password')
  await database().transaction(async (tx) => {
    if (!(await repo.removePasskey(tx, visitor.personId, id))) throw refused(404, 'no-such-passkey')
    await dropUnneededCodes(tx, visitor.personId)
  })
  return {}
}

/**
 * What a browser needs to sign in by a passkey: whose is found out by the answer.
 * @param address of who asks: challenges are kept, and nobody fills the database with them
 */
export async function passkeySignInOptions(at: RelyingParty | null, address: string) {
  const party = needed(at)
  if ((await countTry(database(), `passkey ${address}`)) > MOST_CHALLENGES) throw tooManyTries()
  const options = await generateAuthenticationOptions({ rpID: party.id, userVerification: 'required' })
  await keep(options.challenge, null)
  return options
}

type SignIn = z.infer<typeof passkeySignInSchema>['response']

/**
 * Signs in by a passkey.
 * @returns id of the session that is open now
 */
export async function signInByPasskey(
  response: SignIn,
  at: RelyingParty | null,
  from: From,
): Promise<string> {
  const party = needed(at)
  const found = await repo.passkeyWith(database(), response.id)
  if (!found || found.person.disabledAt) throw refused(401, 'passkey-wrong')
  const { passkey, person } = found
  const answer = await verified(
    verifyAuthenticationResponse({
      response: response as Parameters<typeof verifyAuthenticationResponse>[0]['response'],
      expectedChallenge: isOurs(null),
      expectedOrigin: party.origin,
      expectedRPID: party.id,
      requireUserVerification: true,
      credential: {
        id: passkey.id,
        publicKey: new Uint8Array(Buffer.from(passkey.publicKey, 'base64url')),
        counter: passkey.counter,
        transports: transportsOf(passkey),
      },
    }),
  )
  if (!answer) throw refused(401, 'passkey-wrong')
  return database().transaction(async (tx) => {
    await repo.usePasskey(tx, passkey.id, answer.authenticationInfo.newCounter, now())
    return openSession(tx, person.id, from)
  })
}
