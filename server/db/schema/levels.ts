import { boolean, doublePrecision, integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core'
import { sites } from './plans'

const siteId = () =>
  integer('site_id')
    .notNull()
    .references(() => sites.id, { onDelete: 'cascade' })

/** The newest level that each end of a radio link reported, while it is aimed. */
export const radioLevels = pgTable(
  'radio_levels',
  {
    siteId: siteId(),
    linkId: text('link_id').notNull(),
    end: text('end').notNull(),
    dBm: doublePrecision('dbm').notNull(),
    who: text('who').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull(),
    simulated: boolean('simulated').notNull(),
  },
  (table) => [primaryKey({ columns: [table.siteId, table.linkId, table.end] })],
)

/** Where the simulated antennas of the lab look, degrees. */
export const labAims = pgTable(
  'lab_aims',
  {
    siteId: siteId(),
    linkId: text('link_id').notNull(),
    end: text('end').notNull(),
    azimuthDeg: doublePrecision('azimuth_deg').notNull(),
    tiltDeg: doublePrecision('tilt_deg').notNull(),
  },
  (table) => [primaryKey({ columns: [table.siteId, table.linkId, table.end] })],
)
