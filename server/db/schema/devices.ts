import { pgTable, text, timestamp } from 'drizzle-orm/pg-core'
import { claims } from './adoption'

const moment = (name: string) => timestamp(name, { withTimezone: true })

/** By what a claimed device without a maker's certificate shows that it is the one; it ends with the claim. */
export const deviceKeys = pgTable('device_keys', {
  serial: text('serial')
    .primaryKey()
    .references(() => claims.serial, { onDelete: 'cascade' }),
  /** SHA-256 of the secret that is printed for it; null once it was used, or where none was made. */
  secretHash: text('secret_hash'),
  expiresAt: moment('expires_at'),
  /** SHA-256 of the public key that it came with first; no other is taken after. */
  keyHash: text('key_hash'),
  boundAt: moment('bound_at'),
  /** Nothing that it shows is taken any longer, a certificate neither. */
  revokedAt: moment('revoked_at'),
})

/** Who signs what devices are told: the owner, and the maker of the lab's simulated ones. */
export const authorities = pgTable('authorities', {
  purpose: text('purpose', { enum: ['owner', 'lab-maker'] }).primaryKey(),
  certificate: text('certificate').notNull(),
  sealed: text('sealed').notNull(),
})
