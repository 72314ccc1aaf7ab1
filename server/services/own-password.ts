import { database } from '#server/platform/database'
import { isRightPassword, nobodysHash } from '#server/platform/passwords'
import { refused, type Visitor } from '#server/platform/route'
import * as repo from '#server/repo/people'
import { countTry, tooManyTries } from './guessing'

/** Guesses at one's own password by whoever sits at an open session (practice). */
const MOST_TRIES = 10

/** @throws Refused where it is not the password of who asks, or after too many tries at it */
export async function checkOwnPassword(visitor: Visitor, password: string, place: string): Promise<void> {
  const tries = `own ${visitor.personId}`
  if ((await countTry(database(), tries)) > MOST_TRIES) throw tooManyTries()
  const passwordHash = await repo.passwordHashOf(database(), visitor.personId)
  if (!(await isRightPassword(passwordHash ?? (await nobodysHash()), password)))
    throw refused(403, 'password-wrong', place)
  await repo.forgetFailures(database(), tries)
}
