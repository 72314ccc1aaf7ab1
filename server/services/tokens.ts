import type { z } from 'zod'
import { isCounted } from '#contracts/api'
import type { newTokenSchema, NewToken, TokenLine } from '#contracts/tokens'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { tellEnded } from '#server/platform/news'
import { refused, type Visitor } from '#server/platform/route'
import { drawProof, hashOfProof } from '#server/platform/secrets'
import * as repo from '#server/repo/tokens'
import { whoIs } from '#server/repo/sessions'
import { checkOwnPassword } from './own-password'

// Tokens by which programs ask as somebody: never more than that person may, and never what is only theirs.

const DAY_MS = 24 * 3_600_000
const MOST_TOKENS = 50
/** When a token was used last is written down so often at most. */
const USED_EVERY_MS = 60_000
/** So that whoever finds one, as in a log, knows what it is. */
const MARK = 'mast_'
const SHAPE = /^Bearer (mast_[\w-]{43})$/

/** By which news streams know it. */
const sessionOf = (id: number): string => `token ${id}`

const lineOf = ({ id, name, mayWrite, createdAt, expiresAt, usedAt }: repo.Token): TokenLine => ({
  id,
  name,
  mayWrite,
  createdAt: createdAt.toISOString(),
  expiresAt: expiresAt.toISOString(),
  usedAt: usedAt?.toISOString() ?? null,
})

export const listTokens = async ({ personId }: Visitor): Promise<TokenLine[]> =>
  (await repo.tokensOf(database(), personId)).map(lineOf)

type Wanted = z.infer<typeof newTokenSchema>

export async function makeToken(
  visitor: Visitor,
  { name, mayWrite, days, password }: Wanted,
): Promise<NewToken> {
  await checkOwnPassword(visitor, password, 'password')
  const { personId } = visitor
  if ((await repo.countTokens(database(), personId)) >= MOST_TOKENS)
    throw refused(409, 'too-many-tokens', '', { most: MOST_TOKENS })
  const token = MARK + drawProof()
  const createdAt = now()
  const expiresAt = new Date(createdAt.getTime() + days * DAY_MS)
  const made = await repo.addToken(database(), {
    personId,
    name,
    mayWrite,
    createdAt,
    expiresAt,
    tokenHash: hashOfProof(token),
  })
  return { token, line: lineOf(made) }
}

export async function endToken({ personId }: Visitor, id: number): Promise<{ readonly name: string }> {
  const name = isCounted(id) ? await repo.removeToken(database(), personId, id) : null
  if (name === null) throw refused(404, 'no-such-token')
  await tellEnded(database(), [sessionOf(id)])
  return { name }
}

/** Who asks by a token, as they are by now; null where it is none of ours, too old, or its person is disabled. */
export async function visitorByToken(authorization: string): Promise<Visitor | null> {
  const [, shown] = SHAPE.exec(authorization) ?? []
  const at = now()
  const token = shown === undefined ? null : await repo.tokenWith(database(), hashOfProof(shown), at)
  if (!token) return null
  if (at.getTime() - (token.usedAt?.getTime() ?? 0) > USED_EVERY_MS)
    await repo.seeToken(database(), token.id, at)
  const who = await whoIs(database(), token.personId)
  return (
    who && { ...who, sessionId: sessionOf(token.id), token: { name: token.name, mayWrite: token.mayWrite } }
  )
}
