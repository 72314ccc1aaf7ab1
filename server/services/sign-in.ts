import type { Me } from '#contracts/api'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { isRightPassword, nobodysHash } from '#server/platform/passwords'
import { refused } from '#server/platform/route'
import { knownDeviceProof, sameText } from '#server/platform/secrets'
import { countTry, forgetFailures, personNamed, uncountTry, type Person } from '#server/repo/people'
import { openSession, type From } from './sessions'

const FORGET_MS = 15 * 60_000
/**
 * Tries before all further ones are refused for a while (practice): of one name from one address, from one address,
 * and of one name from anywhere. A device on which somebody signed in before is never refused.
 */
const MOST_BY_PAIR = 10
const MOST_BY_ADDRESS = 60
const MOST_BY_NAME = 200
const FIRST_DELAY_MS = 300
const MOST_DELAY_MS = 3000

const isKnown = (person: Person | null, proof: string | undefined): boolean =>
  person?.passwordHash != null &&
  proof !== undefined &&
  sameText(proof, knownDeviceProof(person.id, person.passwordHash))

export interface SignedIn {
  readonly me: Me
  readonly sessionId: string
  /** By which the device is known from now on. */
  readonly deviceProof: string
}

/**
 * Signs in.
 * A try is counted before it is judged, so that many at once do not slip through; a right one is taken back.
 * An unknown name costs as much time as a wrong password and gets the same answer.
 */
export async function signIn(
  name: string,
  password: string,
  from: From,
  proof: string | undefined,
): Promise<SignedIn> {
  const db = database()
  const since = new Date(now().getTime() - FORGET_MS)
  const called = name.toLowerCase()
  const [pair, address] = [`pair ${called} ${from.address}`, `address ${from.address}`]
  const byPair = await countTry(db, pair, now(), since)
  const byAddress = await countTry(db, address, now(), since)
  const byName = await countTry(db, `name ${called}`, now(), since)
  const person = await personNamed(db, name)
  const isGuessing = byPair > MOST_BY_PAIR || byAddress > MOST_BY_ADDRESS || byName > MOST_BY_NAME
  if (isGuessing && !isKnown(person, proof))
    throw refused(429, 'too-many-tries', '', { minutes: FORGET_MS / 60_000 })
  const isRight = await isRightPassword(person?.passwordHash ?? (await nobodysHash()), password)
  if (person?.passwordHash && isRight && !person.disabledAt) {
    await forgetFailures(db, pair)
    await forgetFailures(db, `name ${called}`)
    await uncountTry(db, address)
    return {
      me: { name: person.name, role: person.role },
      sessionId: await openSession(db, person.id, from),
      deviceProof: knownDeviceProof(person.id, person.passwordHash),
    }
  }
  const delayMs = Math.min(MOST_DELAY_MS, FIRST_DELAY_MS * 2 ** (byPair - 1))
  await new Promise((done) => setTimeout(done, delayMs))
  throw refused(401, 'sign-in-wrong')
}
