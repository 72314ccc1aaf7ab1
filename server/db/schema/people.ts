import { sql } from 'drizzle-orm'
import {
  boolean,
  index,
  integer,
  pgEnum,
  pgTable,
  serial,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'

const moment = (name: string) => timestamp(name, { withTimezone: true })

export const role = pgEnum('role', ['administrator', 'planner', 'rigger', 'keeper'])

/** Who owns sites; what one owns the others cannot see. */
export const organisations = pgTable(
  'organisations',
  {
    id: serial('id').primaryKey(),
    name: text('name').notNull(),
    /** Who has no second factor sets one up before anything else. */
    needsFactor: boolean('needs_factor').notNull().default(false),
    addedAt: moment('added_at').notNull().defaultNow(),
  },
  (table) => [uniqueIndex('organisations_name_any_case').on(sql`lower(${table.name})`)],
)

export const people = pgTable(
  'people',
  {
    id: serial('id').primaryKey(),
    organisationId: integer('organisation_id')
      .notNull()
      .references(() => organisations.id),
    name: text('name').notNull().unique(),
    /** At every site of the organisation; null for who is at single sites alone. */
    role: role('role'),
    /** Adds organisations; sees nothing of theirs. */
    isOperator: boolean('is_operator').notNull().default(false),
    /** Null while nobody has chosen a password. */
    passwordHash: text('password_hash'),
    addedAt: moment('added_at').notNull().defaultNow(),
    disabledAt: moment('disabled_at'),
  },
  // Two names that differ in capitals alone could be taken for one another.
  (table) => [uniqueIndex('people_name_any_case').on(sql`lower(${table.name})`)],
)

/** Who is signed in where; a session that is not here is none. */
export const sessions = pgTable(
  'sessions',
  {
    id: uuid('id').primaryKey(),
    personId: integer('person_id')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    device: text('device').notNull(),
    address: text('address').notNull(),
    createdAt: moment('created_at').notNull(),
    seenAt: moment('seen_at').notNull(),
    expiresAt: moment('expires_at').notNull(),
  },
  (table) => [index('sessions_person').on(table.personId)],
)

/** Links by which a password is chosen, by the SHA-256 of what they prove themselves with. */
export const oneTimeLinks = pgTable('one_time_links', {
  tokenHash: text('token_hash').primaryKey(),
  /** Null for the first person of an installation, who has no name yet. */
  personId: integer('person_id').references(() => people.id, { onDelete: 'cascade' }),
  expiresAt: moment('expires_at').notNull(),
})

/** What sort of installation this database belongs to: one row, written at the first start. */
export const installation = pgTable('installation', {
  id: integer('id').primaryKey().default(1),
  kind: text('kind', { enum: ['demo', 'serve'] }).notNull(),
  since: moment('since').notNull(),
})

/** Failed sign-ins, counted by what is guarded: a name, an address, or both together. */
export const signInFailures = pgTable('sign_in_failures', {
  key: text('key').primaryKey(),
  count: integer('count').notNull(),
  lastAt: moment('last_at').notNull(),
})
