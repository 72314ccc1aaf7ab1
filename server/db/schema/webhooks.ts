import { index, integer, pgTable, serial, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import type { DeliveryOutcome, WebhookEvent, WebhookLine } from '#contracts/webhooks'
import { organisations } from './people'

const moment = (name: string) => timestamp(name, { withTimezone: true })

/** Programs that are told what happens; the secret of each is sealed. */
export const webhooks = pgTable(
  'webhooks',
  {
    id: serial('id').primaryKey(),
    organisationId: integer('organisation_id')
      .notNull()
      .references(() => organisations.id, { onDelete: 'cascade' }),
    url: text('url').notNull(),
    events: text('events').array().$type<WebhookEvent[]>().notNull(),
    sealed: text('sealed').notNull(),
    addedAt: moment('added_at').notNull(),
    addedBy: text('added_by').notNull(),
    paused: text('paused').$type<NonNullable<WebhookLine['paused']>>(),
    lastAt: moment('last_at'),
    lastOutcome: text('last_outcome').$type<DeliveryOutcome>(),
    lastStatus: integer('last_status'),
  },
  (table) => [index('webhooks_organisation').on(table.organisationId)],
)

/** What is to be told yet: written together with what it tells of, and gone when it was taken. */
export const webhookDeliveries = pgTable(
  'webhook_deliveries',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    webhookId: integer('webhook_id')
      .notNull()
      .references(() => webhooks.id, { onDelete: 'cascade' }),
    body: text('body').notNull(),
    dueAt: moment('due_at').notNull(),
    tries: integer('tries').notNull().default(0),
  },
  (table) => [
    index('webhook_deliveries_due').on(table.dueAt),
    index('webhook_deliveries_webhook').on(table.webhookId),
  ],
)
