import { bigserial, index, integer, pgTable, text, timestamp } from 'drizzle-orm/pg-core'

/**
 * Who did what that matters later: added to, never changed; a trigger refuses the rest.
 * Each line's hash is made from the line and from the hash before it.
 */
export const auditLines = pgTable(
  'audit_lines',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: timestamp('at', { withTimezone: true, precision: 3 }).notNull(),
    who: text('who').notNull(),
    what: text('what').notNull(),
    /** Slug of the site; empty for what is of none. */
    site: text('site').notNull(),
    /** What it was done to or with: a person, a serial, an owner of a key. */
    subject: text('subject').notNull(),
    address: text('address').notNull(),
    /** Whose line it is; null for what is of none, and for lines from before there were several. */
    organisationId: integer('organisation_id'),
    hash: text('hash').notNull(),
  },
  (table) => [index().on(table.site, table.id), index().on(table.who, table.id)],
)
