import { index, integer, jsonb, pgTable, primaryKey, serial, text, timestamp } from 'drizzle-orm/pg-core'
import type { PatchOp } from '#contracts/api'
import type { Plan } from '#core/schema'
import { organisations, people, role } from './people'

export const sites = pgTable(
  'sites',
  {
    id: serial('id').primaryKey(),
    organisationId: integer('organisation_id')
      .notNull()
      .references(() => organisations.id),
    slug: text('slug').notNull().unique(),
    name: text('name').notNull(),
    /** Out of the way, and read as before. */
    archivedAt: timestamp('archived_at', { withTimezone: true }),
    /** Gone for everybody, and kept for a while in case it was a mistake. */
    deletedAt: timestamp('deleted_at', { withTimezone: true }),
    deletedBy: text('deleted_by').notNull().default(''),
  },
  (table) => [index('sites_by_slug').on(table.organisationId, table.slug)],
)

/** What somebody may do at one site, whatever they may elsewhere. */
export const siteRoles = pgTable(
  'site_roles',
  {
    personId: integer('person_id')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    role: role('role').notNull(),
  },
  (table) => [primaryKey({ columns: [table.personId, table.siteId] })],
)

/** Codes by which another organisation takes a site over, by their SHA-256. One a site, and it works once. */
export const siteTransfers = pgTable('site_transfers', {
  siteId: integer('site_id')
    .primaryKey()
    .references(() => sites.id, { onDelete: 'cascade' }),
  codeHash: text('code_hash').notNull().unique(),
  expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
})

/** The plan of each site as it is now. */
export const plans = pgTable('plans', {
  siteId: integer('site_id')
    .primaryKey()
    .references(() => sites.id, { onDelete: 'cascade' }),
  revision: integer('revision').notNull(),
  document: jsonb('document').$type<Plan>().notNull(),
  savedAt: timestamp('saved_at', { withTimezone: true }).notNull(),
  author: text('author').notNull(),
})

/** Every change: an RFC 6902 patch from the revision before, and the whole document now and then. */
export const planRevisions = pgTable(
  'plan_revisions',
  {
    siteId: integer('site_id')
      .notNull()
      .references(() => sites.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull(),
    author: text('author').notNull(),
    words: text('words').notNull(),
    patch: jsonb('patch').$type<readonly PatchOp[]>().notNull(),
    snapshot: jsonb('snapshot').$type<Plan>(),
  },
  (table) => [primaryKey({ columns: [table.siteId, table.revision] })],
)
