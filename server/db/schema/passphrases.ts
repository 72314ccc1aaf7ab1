import type { PassphraseWeakness } from '#core/wifi'
import { integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core'
import { sites } from './plans'

/** Passphrases of SSIDs, sealed; who set each, and who was last shown it. */
export const passphrases = pgTable(
  'passphrases',
  {
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    ssidId: text('ssid_id').notNull(),
    sealed: text('sealed').notNull(),
    setAt: timestamp('set_at', { withTimezone: true }).notNull(),
    setBy: text('set_by').notNull(),
    shownAt: timestamp('shown_at', { withTimezone: true }),
    shownBy: text('shown_by'),
    /** As it was judged when it was set; null where it was set before anybody judged. */
    strength: text('strength').$type<'fine' | PassphraseWeakness>(),
  },
  (table) => [primaryKey({ columns: [table.siteId, table.ssidId] })],
)
