import {
  bigserial,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  serial,
  text,
  timestamp,
  unique,
} from 'drizzle-orm/pg-core'
import type { AdoptionEvent } from '#core/adopt'
import { sites } from './plans'

export const serialKind = pgEnum('serial_kind', ['product', 'board', 'certificate'])

/** Serial numbers that are to become devices of a plan. One serial serves one device. */
export const claims = pgTable(
  'claims',
  {
    id: serial('id').primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    deviceId: text('device_id').notNull(),
    serial: text('serial').notNull().unique(),
    kind: serialKind('kind').notNull(),
    claimedAt: timestamp('claimed_at', { withTimezone: true }).notNull(),
    claimedBy: text('claimed_by').notNull(),
  },
  (table) => [unique().on(table.siteId, table.deviceId)],
)

/** Claims that were given up: which box served as a device before, from when to when. */
export const pastClaims = pgTable(
  'past_claims',
  {
    id: serial('id').primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    deviceId: text('device_id').notNull(),
    serial: text('serial').notNull(),
    claimedAt: timestamp('claimed_at', { withTimezone: true }).notNull(),
    releasedAt: timestamp('released_at', { withTimezone: true }).notNull(),
    releasedBy: text('released_by').notNull(),
  },
  (table) => [index().on(table.siteId, table.deviceId), index().on(table.serial)],
)

/** What was heard of each serial, claimed or not. */
export const adoptionEvents = pgTable(
  'adoption_events',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    serial: text('serial').notNull(),
    model: text('model').notNull(),
    event: jsonb('event').$type<AdoptionEvent>().notNull(),
    at: timestamp('at', { withTimezone: true }).notNull(),
  },
  (table) => [index().on(table.serial, table.id)],
)
