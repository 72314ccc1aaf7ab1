import { hash, verify } from '@node-rs/argon2'
import type { Me } from '#contracts/api'
import { countTry, forgetFailures, personNamed, uncountTry } from '#server/repo/people'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { refused } from '#server/platform/route'

// OWASP's least parameters for Argon2id: 19 MiB, 2 passes, 1 lane (quoted from memory).
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 }
const FORGET_MS = 15 * 60_000
/** Tries by one name, and from one address, before all further ones are refused for a while (practice). */
const MOST_BY_NAME = 10
const MOST_BY_ADDRESS = 60
const FIRST_DELAY_MS = 300
const MOST_DELAY_MS = 3000

let nobody: Promise<string> | undefined

export const hashPassword = (password: string): Promise<string> => hash(password, COST)

/**
 * Signs in.
 * A try is counted before it is judged, so that many at once do not slip through; a right one is taken back.
 * An unknown name costs as much time as a wrong password and gets the same answer.
 */
export async function signIn(name: string, password: string, address: string): Promise<Me> {
  const db = database()
  const since = new Date(now().getTime() - FORGET_MS)
  const byName = await countTry(db, `name ${name}`, now(), since)
  const byAddress = await countTry(db, `address ${address}`, now(), since)
  if (byName > MOST_BY_NAME || byAddress > MOST_BY_ADDRESS)
    throw refused(429, 'too-many-tries', '', { minutes: FORGET_MS / 60_000 })
  const person = await personNamed(db, name)
  nobody ??= hashPassword('nobody has this password')
  const right = await verify(person?.passwordHash ?? (await nobody), password)
  if (person && right) {
    await forgetFailures(db, `name ${name}`)
    await uncountTry(db, `address ${address}`)
    return { name: person.name, role: person.role }
  }
  await new Promise((done) => setTimeout(done, Math.min(MOST_DELAY_MS, FIRST_DELAY_MS * 2 ** (byName - 1))))
  throw refused(401, 'sign-in-wrong')
}
