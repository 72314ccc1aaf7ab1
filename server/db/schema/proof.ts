import {
  bigserial,
  boolean,
  index,
  integer,
  pgEnum,
  pgTable,
  text,
  timestamp,
  unique,
} from 'drizzle-orm/pg-core'
import { sites } from './plans'

export const resultSource = pgEnum('result_source', ['lab', 'hand'])

/** Results of acceptance tests. They are added to, never changed: the newest of a test counts. */
export const testResults = pgTable(
  'test_results',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    testId: text('test_id').notNull(),
    revision: integer('revision').notNull(),
    passed: boolean('passed').notNull(),
    value: text('value').notNull(),
    who: text('who').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull(),
    vantage: text('vantage').notNull(),
    note: text('note').notNull(),
    source: resultSource('source').notNull(),
    /** What its sender called it: sent twice, it is kept once. */
    key: text('key'),
  },
  (table) => [
    index().on(table.siteId, table.testId, table.id),
    index('test_results_newest').on(table.siteId, table.id),
    unique().on(table.siteId, table.key),
  ],
)
