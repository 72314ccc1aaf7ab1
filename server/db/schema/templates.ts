import { integer, jsonb, pgTable, serial, text, timestamp, unique } from 'drizzle-orm/pg-core'
import type { Plan } from '#core/schema'
import { organisations } from './people'

/** Plans that were kept for sites to come: nothing in them is of one site alone. */
export const templates = pgTable(
  'templates',
  {
    id: serial('id').primaryKey(),
    organisationId: integer('organisation_id')
      .notNull()
      .references(() => organisations.id),
    name: text('name').notNull(),
    document: jsonb('document').$type<Plan>().notNull(),
    keptAt: timestamp('kept_at', { withTimezone: true }).notNull(),
    keptBy: text('kept_by').notNull(),
  },
  (table) => [unique().on(table.organisationId, table.name)],
)
