import { boolean, index, integer, pgTable, serial, text, timestamp } from 'drizzle-orm/pg-core'
import { people } from './people'

const moment = (name: string) => timestamp(name, { withTimezone: true })

/** Tokens by which programs ask as somebody, by the SHA-256 of what they prove themselves with. */
export const apiTokens = pgTable(
  'api_tokens',
  {
    id: serial('id').primaryKey(),
    personId: integer('person_id')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    tokenHash: text('token_hash').notNull().unique(),
    mayWrite: boolean('may_write').notNull(),
    createdAt: moment('created_at').notNull(),
    expiresAt: moment('expires_at').notNull(),
    usedAt: moment('used_at'),
  },
  (table) => [index('api_tokens_person').on(table.personId)],
)
