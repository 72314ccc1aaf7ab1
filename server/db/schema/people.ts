import { integer, pgEnum, pgTable, serial, text, timestamp } from 'drizzle-orm/pg-core'

export const role = pgEnum('role', ['planner', 'rigger', 'keeper'])

export const people = pgTable('people', {
  id: serial('id').primaryKey(),
  name: text('name').notNull().unique(),
  role: role('role').notNull(),
  passwordHash: text('password_hash').notNull(),
})

/** Failed sign-ins, counted by name tried and by address they came from. */
export const signInFailures = pgTable('sign_in_failures', {
  key: text('key').primaryKey(),
  count: integer('count').notNull(),
  lastAt: timestamp('last_at', { withTimezone: true }).notNull(),
})
