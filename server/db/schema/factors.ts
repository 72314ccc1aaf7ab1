import { bigint, index, integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core'
import { people } from './people'

const moment = (name: string) => timestamp(name, { withTimezone: true })
const personId = () =>
  integer('person_id')
    .notNull()
    .references(() => people.id, { onDelete: 'cascade' })

/** Secrets of authenticator apps (RFC 6238), sealed; one a person. */
export const authenticators = pgTable('authenticators', {
  personId: personId().primaryKey(),
  sealed: text('sealed').notNull(),
  /** Null until a code of it was given. */
  confirmedAt: moment('confirmed_at'),
  /** Time step of the newest code that was taken: none is taken twice. */
  lastStep: bigint('last_step', { mode: 'number' }).notNull().default(0),
})

/** Codes for whoever has lost the rest, by their SHA-256; each works once. */
export const recoveryCodes = pgTable(
  'recovery_codes',
  { personId: personId(), codeHash: text('code_hash').notNull() },
  (table) => [primaryKey({ columns: [table.personId, table.codeHash] })],
)

/** Passkeys (W3C Web Authentication): what is here opens nothing by itself. */
export const passkeys = pgTable(
  'passkeys',
  {
    id: text('id').primaryKey(),
    personId: personId(),
    name: text('name').notNull(),
    publicKey: text('public_key').notNull(),
    counter: bigint('counter', { mode: 'number' }).notNull(),
    transports: text('transports').notNull(),
    addedAt: moment('added_at').notNull(),
    usedAt: moment('used_at'),
  },
  (table) => [index('passkeys_person').on(table.personId)],
)

/** Challenges that were given out for passkeys; each is answered once. */
export const challenges = pgTable('challenges', {
  challenge: text('challenge').primaryKey(),
  /** Who adds a passkey; null for who signs in by one. */
  personId: integer('person_id').references(() => people.id, { onDelete: 'cascade' }),
  expiresAt: moment('expires_at').notNull(),
})
