import { randomBytes } from 'node:crypto'
import { customAlphabet } from 'nanoid'
import { Secret, TOTP } from 'otpauth'
import type { Factors, NewAuthenticator, RecoveryCodes } from '#contracts/factors'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { refused, type Visitor } from '#server/platform/route'
import { hashOfProof, seal } from '#server/platform/secrets'
import * as repo from '#server/repo/factors'
import { forgetFailures } from '#server/repo/people'
import { checkOwnPassword } from './own-password'
import { opened } from './opened'
import { countTry, tooManyTries } from './guessing'

// What shows, beside the password, that somebody is who they say: RFC 6238 codes, and codes for when those are lost.

/** RFC 6238, 4 and 5.2: steps of 30 s, six digits, and one step before and after for clocks that differ. */
const STEP_S = 30
const CODE = { algorithm: 'SHA1', digits: 6, period: STEP_S } as const
const SECRET_BYTES = 20
const RECOVERY_CODES = 10
/** 50 bits, that nobody guesses in as few tries as there are; no letters that are taken for one another. */
const drawRecoveryCode = customAlphabet('abcdefghjkmnpqrstuvwxyz23456789', 10)
/** Codes that are tried, of one person, before all further ones are refused for a while (practice). */
const MOST_TRIES = 20

const appOf = (secret: string, name: string): TOTP =>
  new TOTP({ ...CODE, issuer: 'Able Mast', label: name, secret: Secret.fromBase32(secret) })

/** Time step of a code; null where it is none of an app's. */
function stepOf(app: TOTP, code: string): number | null {
  const timestamp = now().getTime()
  const delta = app.validate({ token: code, timestamp, window: 1 })
  return delta === null ? null : Math.floor(timestamp / 1000 / STEP_S) + delta
}

const plain = (code: string): string => code.toLowerCase().replaceAll(/[\s-]/g, '')
const hashOf = (code: string): string => hashOfProof(plain(code))
const inHalves = (code: string): string => `${code.slice(0, 5)}-${code.slice(5)}`

/** New codes in place of all that there were. */
async function makeRecoveryCodes(queries: Queries, personId: number): Promise<RecoveryCodes> {
  const codes = Array.from({ length: RECOVERY_CODES }, () => inHalves(drawRecoveryCode()))
  await repo.setRecoveryCodes(queries, personId, codes.map(hashOf))
  return { codes }
}

/** Codes for somebody who has none: whoever has a second factor has them, too. */
export const recoveryCodesFor = async (queries: Queries, personId: number): Promise<RecoveryCodes> =>
  (await repo.countRecoveryCodes(queries, personId)) > 0
    ? { codes: [] }
    : makeRecoveryCodes(queries, personId)

/** What somebody has of each, as it matters when they sign in. */
async function factorsOf(queries: Queries, personId: number) {
  const [authenticator, passkeys] = [
    await repo.authenticatorOf(queries, personId),
    await repo.passkeysOf(queries, personId),
  ]
  return { authenticator: authenticator?.confirmedAt ? authenticator : null, passkeys }
}

/** Whether more than the password is asked of somebody. */
export async function hasFactor(queries: Queries, personId: number): Promise<boolean> {
  const { authenticator, passkeys } = await factorsOf(queries, personId)
  return authenticator !== null || passkeys.length > 0
}

export async function listFactors({ personId }: Visitor, canPasskey: boolean): Promise<Factors> {
  const { authenticator, passkeys } = await factorsOf(database(), personId)
  return {
    authenticator: authenticator !== null,
    passkeys: passkeys.map(({ id, name, addedAt, usedAt }) => ({
      id,
      name,
      addedAt: addedAt.toISOString(),
      usedAt: usedAt?.toISOString() ?? null,
    })),
    recoveryCodes: await repo.countRecoveryCodes(database(), personId),
    canPasskey,
  }
}

/** Makes a secret for an authenticator app; it counts once a code of it was given. */
export async function beginAuthenticator(visitor: Visitor, password: string): Promise<NewAuthenticator> {
  await checkOwnPassword(visitor, password, 'password')
  const secret = new Secret({ buffer: new Uint8Array(randomBytes(SECRET_BYTES)).buffer }).base32
  if (!(await repo.beginAuthenticator(database(), visitor.personId, seal(secret))))
    throw refused(409, 'authenticator-there')
  return { secret, uri: appOf(secret, visitor.name).toString() }
}

export async function confirmAuthenticator(visitor: Visitor, code: string): Promise<RecoveryCodes> {
  const { personId, name } = visitor
  await countFactorTry(personId)
  return database().transaction(async (tx) => {
    const begun = await repo.authenticatorOf(tx, personId)
    if (!begun) throw refused(409, 'authenticator-not-begun')
    if (begun.confirmedAt) throw refused(409, 'authenticator-there')
    const step = stepOf(appOf(opened(begun.sealed), name), plain(code))
    if (step === null || !(await repo.takeStep(tx, personId, step))) throw refused(403, 'code-wrong', 'code')
    await repo.confirmAuthenticator(tx, personId, now())
    await forgetFactorTries(tx, personId)
    return recoveryCodesFor(tx, personId)
  })
}

/** Recovery codes are for whoever has a factor: with the last one they go. */
export async function dropUnneededCodes(queries: Queries, personId: number): Promise<void> {
  if (!(await hasFactor(queries, personId))) await repo.setRecoveryCodes(queries, personId, [])
}

export async function removeAuthenticator(
  visitor: Visitor,
  password: string,
): Promise<Record<string, never>> {
  await checkOwnPassword(visitor, password, 'password')
  await database().transaction(async (tx) => {
    if (!(await repo.removeAuthenticator(tx, visitor.personId))) throw refused(404, 'no-authenticator')
    await dropUnneededCodes(tx, visitor.personId)
  })
  return {}
}

/** New recovery codes; those of before work no more. */
export async function newRecoveryCodes(visitor: Visitor, password: string): Promise<RecoveryCodes> {
  await checkOwnPassword(visitor, password, 'password')
  return database().transaction(async (tx) => {
    if (!(await hasFactor(tx, visitor.personId))) throw refused(409, 'no-second-factor')
    return makeRecoveryCodes(tx, visitor.personId)
  })
}

/** Takes all second factors from somebody who has lost them. */
export async function clearFactors(queries: Queries, personId: number): Promise<void> {
  await repo.removeAuthenticator(queries, personId)
  await repo.removePasskeys(queries, personId)
  await repo.setRecoveryCodes(queries, personId, [])
}

const triesKey = (personId: number): string => `factor ${personId}`

/** @throws Refused after too many: who knows the password must not guess the code */
export async function countFactorTry(personId: number): Promise<void> {
  if ((await countTry(database(), triesKey(personId))) > MOST_TRIES) throw tooManyTries()
}
export const forgetFactorTries = (queries: Queries, personId: number): Promise<void> =>
  forgetFailures(queries, triesKey(personId))

/** Whether a code is one of somebody's app, or a recovery code; it works no more then. */
export async function takeCode(personId: number, name: string, code: string): Promise<boolean> {
  const { authenticator } = await factorsOf(database(), personId)
  const step = authenticator && stepOf(appOf(opened(authenticator.sealed), name), plain(code))
  if (step !== null) return repo.takeStep(database(), personId, step)
  return repo.useRecoveryCode(database(), personId, hashOf(code))
}
