import { integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core'
import { sites } from './plans'

/**
 * Private keys of tunnels and peers that were made here, sealed; who made each, and who was last shown it.
 * A peer that changes its key has two, and one that is no longer in the plan stays until the next is made,
 * so that an undo finds it.
 */
export const tunnelKeys = pgTable(
  'tunnel_keys',
  {
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    owner: text('owner').notNull(),
    publicKey: text('public_key').notNull(),
    sealed: text('sealed').notNull(),
    madeAt: timestamp('made_at', { withTimezone: true }).notNull(),
    madeBy: text('made_by').notNull(),
    shownAt: timestamp('shown_at', { withTimezone: true }),
    shownBy: text('shown_by'),
  },
  (table) => [primaryKey({ columns: [table.siteId, table.publicKey] })],
)
