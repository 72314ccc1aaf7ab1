import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { isRightPassword } from '#server/platform/passwords'
import { refused, type Visitor } from '#server/platform/route'
import * as repo from '#server/repo/people'
import { openedAt } from '#server/repo/sessions'
import { countTry, tooManyTries } from './guessing'

/** Guesses at one's own password by whoever sits at an open session (practice). */
const MOST_TRIES = 10

/** How long ago somebody without a password may have signed in, by their provider, for it to count as one. */
const FRESH_MS = 10 * 60_000

/** @throws Refused where somebody has to sign in again */
async function checkFresh({ sessionId }: Visitor): Promise<void> {
  const at = await openedAt(database(), sessionId)
  if (!at || now().getTime() - at.getTime() > FRESH_MS) throw refused(403, 'sign-in-again')
}

/**
 * Whether it is the person themselves who asks, and not who found their browser open.
 * @throws Refused where it is not the password of who asks, or after too many tries at it
 */
export async function checkOwnPassword(visitor: Visitor, password: string, place: string): Promise<void> {
  const passwordHash = await repo.passwordHashOf(database(), visitor.personId)
  if (passwordHash === null) return checkFresh(visitor)
  const tries = `own ${visitor.personId}`
  if ((await countTry(database(), tries)) > MOST_TRIES) throw tooManyTries()
  if (!(await isRightPassword(passwordHash, password))) throw refused(403, 'password-wrong', place)
  await repo.forgetFailures(database(), tries)
}
