import { hash, verify } from '@node-rs/argon2'

// OWASP's least parameters for Argon2id: 19 MiB, 2 passes, 1 lane (quoted from memory).
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 }

let nobody: Promise<string> | undefined

export const hashPassword = (password: string): Promise<string> => hash(password, COST)
export const isRightPassword = (passwordHash: string, password: string): Promise<boolean> =>
  verify(passwordHash, password)

/** A hash that no password has: judging one against it takes as long as against somebody's own. */
export const nobodysHash = (): Promise<string> => (nobody ??= hashPassword('nobody has this password'))
