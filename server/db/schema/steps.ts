import { bigserial, index, integer, pgTable, text, timestamp, unique } from 'drizzle-orm/pg-core'
import { sites } from './plans'

/** What became of the steps of a run sheet. Added to, never changed: the newest of a step counts. */
export const stepRecords = pgTable(
  'step_records',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    activityId: text('activity_id').notNull(),
    state: text('state').notNull(),
    /** By the clock of whoever told it. */
    at: timestamp('at', { withTimezone: true }).notNull(),
    receivedAt: timestamp('received_at', { withTimezone: true }).notNull(),
    who: text('who').notNull(),
    reading: text('reading').notNull(),
    note: text('note').notNull(),
    person: text('person').notNull(),
    /** What its sender called it: sent twice, it is kept once. */
    key: text('key'),
  },
  (table) => [index().on(table.siteId, table.id), unique().on(table.siteId, table.key)],
)
