import { index, integer, jsonb, pgEnum, pgTable, serial, text, timestamp } from 'drizzle-orm/pg-core'
import type { RunRow } from '#contracts/api'
import { sites } from './plans'

export const runState = pgEnum('run_state', ['waiting', 'running', 'done', 'stopped', 'failed'])
export const runKind = pgEnum('run_kind', ['singles', 'pairs'])

/**
 * What-if runs of a site: every single failure, or every pair of some things, of one revision; the result is
 * kept.
 */
export const whatIfRuns = pgTable(
  'what_if_runs',
  {
    id: serial('id').primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    kind: runKind('kind').notNull(),
    /** Ids of what fails, one at a time or two together. */
    things: jsonb('things').$type<readonly string[]>().notNull(),
    askedAt: timestamp('asked_at', { withTimezone: true }).notNull(),
    askedBy: text('asked_by').notNull(),
    state: runState('state').notNull().default('waiting'),
    tried: integer('tried').notNull().default(0),
    total: integer('total').notNull(),
    finishedAt: timestamp('finished_at', { withTimezone: true }),
    /** Weathers that take something, and what; null until the run is done. */
    result: jsonb('result').$type<readonly RunRow[]>(),
  },
  (table) => [index().on(table.siteId, table.id)],
)
