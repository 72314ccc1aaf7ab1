import { z } from './zod'
import { line } from '#core/schema'
import { ownPassword } from './factors'

// Tokens by which programs ask.

export const MOST_TOKEN_DAYS = 366
export const newTokenSchema = z.strictObject({
  name: line(80, 1),
  mayWrite: z.boolean(),
  days: z.number().int().min(1).max(MOST_TOKEN_DAYS),
  password: ownPassword,
})

export interface TokenLine {
  readonly id: number
  readonly name: string
  readonly mayWrite: boolean
  readonly createdAt: string
  readonly expiresAt: string
  readonly usedAt: string | null
}

/** A token that was made; what a program shows is told this once. */
export interface NewToken {
  readonly token: string
  readonly line: TokenLine
}
