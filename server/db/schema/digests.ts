import { integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core'
import type { SiteDigest } from '#contracts/answers'
import { sites } from './plans'

/** How each site stood when it was looked at last; made anew when what it was made from has changed. */
export const siteDigests = pgTable('site_digests', {
  siteId: integer('site_id')
    .primaryKey()
    .references(() => sites.id, { onDelete: 'cascade' }),
  /** What it was made from. */
  mark: text('mark').notNull(),
  digest: jsonb('digest').$type<SiteDigest>().notNull(),
})
