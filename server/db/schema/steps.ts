import {
  bigint,
  bigserial,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  timestamp,
  unique,
} from 'drizzle-orm/pg-core'
import type { StepRecord } from '#contracts/api'
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
    /** Newest record of the step that whoever told this one had seen. */
    knows: bigint('knows', { mode: 'number' }).notNull().default(0),
    /** What the plan said then. */
    values: jsonb('values').$type<StepRecord['values']>().notNull().default([]),
    /** What its sender called it: sent twice, it is kept once. */
    key: text('key'),
  },
  (table) => [index().on(table.siteId, table.id), unique().on(table.siteId, table.key)],
)

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' })

/** Photographs of steps, as JPEG without what cameras add to it. */
export const stepPhotos = pgTable(
  'step_photos',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    activityId: text('activity_id').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull(),
    who: text('who').notNull(),
    jpeg: bytes('jpeg').notNull(),
    key: text('key'),
  },
  (table) => [index().on(table.siteId, table.id), unique().on(table.siteId, table.key)],
)
