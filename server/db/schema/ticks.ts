import { integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core'
import { sites } from './plans'

/** Items of checklists that are done: who ticked them and when. An item that is not done has no row. */
export const ticks = pgTable(
  'ticks',
  {
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    item: text('item').notNull(),
    who: text('who').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.siteId, table.item] })],
)
