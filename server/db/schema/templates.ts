import { jsonb, pgTable, serial, text, timestamp } from 'drizzle-orm/pg-core'
import type { Plan } from '#core/schema'

/** Plans that were kept for sites to come: nothing in them is of one site alone. */
export const templates = pgTable('templates', {
  id: serial('id').primaryKey(),
  name: text('name').notNull().unique(),
  document: jsonb('document').$type<Plan>().notNull(),
  keptAt: timestamp('kept_at', { withTimezone: true }).notNull(),
  keptBy: text('kept_by').notNull(),
})
