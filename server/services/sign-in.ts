import { database } from '#server/platform/database'
import { isRightPassword, nobodysHash } from '#server/platform/passwords'
import { refused } from '#server/platform/route'
import { knownDeviceProof, sameText } from '#server/platform/secrets'
import { forgetFailures, personNamed, uncountTry, type Person } from '#server/repo/people'
import { countTry, tooManyTries } from './guessing'
import { openSession, type From } from './sessions'

/**
 * Tries before all further ones are refused for a while (practice): of one name from one address, from one address,
 * and of one name from anywhere. A device on which somebody signed in before is not held up by what others try: its
 * own tries alone count.
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
  const called = name.toLowerCase()
  const [pair, address] = [`pair ${called} ${from.address}`, `address ${from.address}`]
  const person = await personNamed(db, name)
  const device = person && isKnown(person, proof) ? `device ${person.id}` : null
  const byAddress = await countTry(db, address)
  // Nothing more is written down for whoever tries one name after another.
  if (!device && byAddress > MOST_BY_ADDRESS) throw tooManyTries()
  const byPair = await countTry(db, pair)
  const byName = await countTry(db, `name ${called}`)
  const isTooMany = device
    ? (await countTry(db, device)) > MOST_BY_DEVICE
    : byPair > MOST_BY_PAIR || byName > MOST_BY_NAME
  if (isTooMany) throw tooManyTries()
  const isRight = await isRightPassword(person?.passwordHash ?? (await nobodysHash()), password)
  if (person?.passwordHash && isRight && !person.disabledAt) {
    if (device) await forgetFailures(db, device)
    await forgetFailures(db, pair)
    await forgetFailures(db, `name ${called}`)
    await uncountTry(db, address)
    return {
      sessionId: await openSession(db, person.id, from),
      deviceProof: knownDeviceProof(person.id, person.passwordHash),
    }
  }
  const delayMs = Math.min(MOST_DELAY_MS, FIRST_DELAY_MS * 2 ** (byPair - 1))
  await new Promise((done) => setTimeout(done, delayMs))
  throw refused(401, 'sign-in-wrong')
}
