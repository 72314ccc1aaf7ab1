import { randomUUID } from 'node:crypto'
import type { SessionLine } from '#contracts/accounts'
import type { Me } from '#contracts/api'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { hearEnded, tellEnded, whenMissed } from '#server/platform/news'
import { refused, type Visitor } from '#server/platform/route'
import { asServer } from '#server/platform/scope'
import * as repo from '#server/repo/sessions'

/** A day's work on site, and the way home. */
export const SESSION_MS = 12 * 3_600_000
/** When a session was used last is written down so often at most. */
const SEEN_EVERY_MS = 60_000

/** Where somebody signs in from, as far as their browser tells. */
export interface From {
  readonly device: string
  readonly address: string
}

/** Opens a session; the answer is its id, for the sealed cookie alone. */
export async function openSession(queries: Queries, personId: number, from: From): Promise<string> {
  const [id, at] = [randomUUID(), now()]
  await repo.addSession(queries, {
    id,
    personId,
    ...from,
    createdAt: at,
    seenAt: at,
    expiresAt: new Date(at.getTime() + SESSION_MS),
  })
  return id
}

// Who it is was asked a moment ago, more often than not. What is kept is forgotten when the session ends, of which
// every process hears; should one not hear, it is forgotten soon all the same.
const KEPT_MS = 5000
const MOST_KEPT = 5000
const kept = new Map<string, { readonly visitor: Visitor; readonly atMs: number }>()
let hearing: Promise<unknown> | undefined
let isHearing = false

function hearOfEnds(): void {
  hearing ??= hearEnded((ended) => ended.forEach((id) => kept.delete(id)))
    .then(() => {
      whenMissed(() => kept.clear())
      isHearing = true
    })
    .catch(() => (hearing = undefined))
}

/** Removes sessions that have ended by themselves. */
export const forgetExpired = (): Promise<void> => repo.forgetExpired(database(), now())

/** Whose session it is, and what they may do by now; null where it has ended. */
export async function visitorBy(sessionId: string): Promise<Visitor | null> {
  hearOfEnds()
  const known = kept.get(sessionId)
  if (known && now().getTime() - known.atMs < KEPT_MS) return known.visitor
  const visitor = await visitorNow(sessionId)
  if (kept.size >= MOST_KEPT) kept.clear()
  // Who has to set a second factor up goes on at once when they have.
  if (visitor && isHearing && !lacksFactor(visitor)) kept.set(sessionId, { visitor, atMs: now().getTime() })
  return visitor
}

async function visitorNow(sessionId: string): Promise<Visitor | null> {
  const at = now()
  const found = await repo.sessionWith(database(), sessionId, at)
  if (!found) return null
  const { who, seenAt } = found
  if (at.getTime() - seenAt.getTime() > SEEN_EVERY_MS) await repo.seeSession(database(), sessionId, at)
  return { ...who, sessionId, token: null }
}

/** Whether somebody has to set a second factor up before anything else. */
export const lacksFactor = ({ organisation, hasFactor }: Visitor): boolean =>
  organisation.needsFactor && !hasFactor

/** What a browser is told of who it is. */
const meOf = ({ organisation, ...visitor }: Visitor): Me => ({
  name: visitor.name,
  organisation: organisation.name,
  role: visitor.role,
  siteRoles: visitor.siteRoles,
  isOperator: visitor.isOperator,
  hasPassword: visitor.hasPassword,
  needsFactor: organisation.needsFactor,
  hasFactor: visitor.hasFactor,
})

/** Who somebody is by a session that was opened just now. */
export async function meBy(sessionId: string): Promise<Me> {
  const visitor = await asServer(() => visitorNow(sessionId))
  if (!visitor) throw refused(401, 'sign-in-needed')
  return meOf(visitor)
}

/** Ends sessions of a person, and what they have open. */
export async function endSessions(
  queries: Queries,
  personId: number,
  which: { readonly only?: string; readonly but?: string } = {},
): Promise<number> {
  const ended = await repo.endSessions(queries, personId, which)
  // This process forgets at once, the others when they hear of it; here it is heard once more, after the commit.
  for (const id of ended) kept.delete(id)
  if (ended.length > 0) await tellEnded(queries, ended)
  return ended.length
}

/** Has somebody be asked anew who they are: what they have open ends, and opens again where it still may. */
export async function recheckSessions(queries: Queries, personId: number): Promise<void> {
  const ids = (await repo.sessionsOf(queries, personId, now())).map(({ id }) => id)
  if (ids.length > 0) await tellEnded(queries, ids)
}

export async function sessionsOf({ personId, sessionId }: Visitor): Promise<SessionLine[]> {
  const lines = await repo.sessionsOf(database(), personId, now())
  return lines.map(({ id, device, address, createdAt, seenAt }) => ({
    id,
    device,
    address,
    createdAt: createdAt.toISOString(),
    seenAt: seenAt.toISOString(),
    isThis: id === sessionId,
  }))
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/

/** Ends one of one's own sessions. */
export async function endOwnSession({ personId }: Visitor, id: string): Promise<Record<string, never>> {
  const count = UUID.test(id) ? await endSessions(database(), personId, { only: id }) : 0
  if (count === 0) throw refused(404, 'no-such-session')
  return {}
}

/** Ends all of one's own sessions but the one that asks. */
export async function endOtherSessions(visitor: Visitor): Promise<{ readonly count: number }> {
  return { count: await endSessions(database(), visitor.personId, { but: visitor.sessionId }) }
}
