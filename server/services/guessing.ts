import { now } from '#server/platform/clock'
import type { Queries } from '#server/platform/database'
import { refused, type Refused } from '#server/platform/route'
import * as repo from '#server/repo/people'

/** Tries are forgotten after so long without another (practice). */
const FORGET_MS = 15 * 60_000

/** Counts a try of what is guarded, and answers how many there have been. */
export const countTry = (queries: Queries, key: string): Promise<number> =>
  repo.countTry(queries, key, now(), new Date(now().getTime() - FORGET_MS))

export const tooManyTries = (): Refused => refused(429, 'too-many-tries', '', { minutes: FORGET_MS / 60_000 })
