import { integer, pgTable, text, timestamp, uniqueIndex } from 'drizzle-orm/pg-core'
import { people } from './people'

/** Who somebody is at the provider of single sign-on (OpenID Connect Core 1.0, 5.7); one a person. */
export const identities = pgTable(
  'identities',
  {
    personId: integer('person_id')
      .primaryKey()
      .references(() => people.id, { onDelete: 'cascade' }),
    issuer: text('issuer').notNull(),
    subject: text('subject').notNull(),
    addedAt: timestamp('added_at', { withTimezone: true }).notNull(),
  },
  (table) => [uniqueIndex('identities_subject').on(table.issuer, table.subject)],
)
