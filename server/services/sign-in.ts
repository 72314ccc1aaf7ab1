import { database } from '#server/platform/database'
import { isRightPassword, nobodysHash } from '#server/platform/passwords'
import { refused } from '#server/platform/route'
import { knownDeviceProof, sameText } from '#server/platform/secrets'
import { forgetFailures, personNamed, uncountTry, type Person } from '#server/repo/people'
import { countFactorTry, forgetFactorTries, hasFactor, takeCode } from './factors'
import { countTry, tooManyTries } from './guessing'
import { openSession, type From } from './sessions'

/**
 * Tries before all further ones are refused for a while (practice): of one name from one address, from one address,
 * and of one name from anywhere. A device on which somebody signed in before, and who gives the code of a second factor
 * with the right password, are not held up by what others try: their own tries alone count.
 */
const MOST_BY_PAIR = 10
const MOST_BY_ADDRESS = 60
const MOST_BY_NAME = 200
const MOST_BY_DEVICE = 20
const FIRST_DELAY_MS = 300
const MOST_DELAY_MS = 3000

/** Whether a device is one on which this person signed in before. */
const isKnown = (person: Person, proof: string | undefined): boolean =>
  person.passwordHash !== null &&
  proof !== undefined &&
  sameText(proof, knownDeviceProof(person.id, person.passwordHash))

export interface SignedIn {
  readonly sessionId: string
  /** By which the device is known from now on. */
  readonly deviceProof: string
}

/** What somebody gives to come in. */
export interface Credentials {
  readonly name: string
  readonly password: string
  /** Of an authenticator app, or for recovery; empty where none was given. */
  readonly code: string
}

/** What was tried so far, from where. */
interface Tries {
  /** What is guarded and forgotten after a right try. */
  readonly keys: readonly string[]
  readonly address: string
  readonly byPair: number
  readonly isTooMany: boolean
}

/** Counts a try before it is judged, so that many at once do not slip through. */
async function countTries(
  person: Person | null,
  called: string,
  from: From,
  proof: string | undefined,
): Promise<Tries> {
  const db = database()
  const [pair, address] = [`pair ${called} ${from.address}`, `address ${from.address}`]
  const device = person && isKnown(person, proof) ? `device ${person.id}` : null
  const byAddress = await countTry(db, address)
  // Nothing more is written down for whoever tries one name after another.
  if (!device && byAddress > MOST_BY_ADDRESS) throw tooManyTries()
  const byPair = await countTry(db, pair)
  const byName = await countTry(db, `name ${called}`)
  const isTooMany = device
    ? (await countTry(db, device)) > MOST_BY_DEVICE
    : byPair > MOST_BY_PAIR || byName > MOST_BY_NAME
  return { keys: [...(device ? [device] : []), pair, `name ${called}`], address, byPair, isTooMany }
}

/**
 * Judges the second factor of who gave the right password.
 * @throws Refused where none was given, or not the right one
 */
async function checkFactor({ id, name }: Person, code: string): Promise<void> {
  if (code === '') throw refused(401, 'second-factor-needed', 'code')
  await countFactorTry(id)
  if (!(await takeCode(id, name, code))) throw refused(401, 'code-wrong', 'code')
  await forgetFactorTries(database(), id)
}

/**
 * Signs in.
 * An unknown name costs as much time as a wrong password and gets the same answer; a right try is taken back.
 */
export async function signIn(
  { name, password, code }: Credentials,
  from: From,
  proof: string | undefined,
): Promise<SignedIn> {
  const db = database()
  const person = await personNamed(db, name)
  const { keys, address, byPair, isTooMany } = await countTries(person, name.toLowerCase(), from, proof)
  // Who gives a code is judged all the same: what others try must not keep them out.
  if (isTooMany && code === '') throw tooManyTries()
  const isRight = await isRightPassword(person?.passwordHash ?? (await nobodysHash()), password)
  if (person?.passwordHash && isRight && !person.disabledAt) {
    const isGuarded = await hasFactor(db, person.id)
    if (isTooMany && !isGuarded) throw tooManyTries()
    if (isGuarded) await checkFactor(person, code)
    for (const key of keys) await forgetFailures(db, key)
    await uncountTry(db, address)
    return {
      sessionId: await openSession(db, person.id, from),
      deviceProof: knownDeviceProof(person.id, person.passwordHash),
    }
  }
  if (isTooMany) throw tooManyTries()
  const delayMs = Math.min(MOST_DELAY_MS, FIRST_DELAY_MS * 2 ** (byPair - 1))
  await new Promise((done) => setTimeout(done, delayMs))
  throw refused(401, 'sign-in-wrong')
}
