import { and, arrayContains, asc, count, eq, getTableColumns, inArray, isNull, lte, sql } from 'drizzle-orm'
import type { DeliveryOutcome, WebhookEvent, WebhookLine } from '#contracts/webhooks'
import { sites, webhookDeliveries, webhooks } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type Webhook = typeof webhooks.$inferSelect
export type Delivery = typeof webhookDeliveries.$inferSelect

// Of one table alone Drizzle leaves its name out, and both have an `id`.
const waiting = sql<number>`(select count(*)::int from ${webhookDeliveries} as d
  where d.webhook_id = ${webhooks}.id)`

/** Those of an organisation, with how much waits for each. */
export const webhooksOf = (queries: Queries, organisationId: number) =>
  queries
    .select({ webhook: webhooks, waiting })
    .from(webhooks)
    .where(eq(webhooks.organisationId, organisationId))
    .orderBy(asc(webhooks.id))

export async function webhookWith(queries: Queries, organisationId: number, id: number) {
  const [row] = await queries
    .select({ webhook: webhooks, waiting })
    .from(webhooks)
    .where(and(eq(webhooks.id, id), eq(webhooks.organisationId, organisationId)))
  return row ?? null
}

export async function addWebhook(queries: Queries, webhook: typeof webhooks.$inferInsert): Promise<Webhook> {
  const [made] = await queries.insert(webhooks).values(webhook).returning()
  if (!made) throw new Error('a webhook was not kept')
  return made
}

export async function pauseWebhook(
  queries: Queries,
  id: number,
  paused: WebhookLine['paused'],
): Promise<void> {
  await queries.update(webhooks).set({ paused }).where(eq(webhooks.id, id))
}

export async function removeWebhook(queries: Queries, id: number): Promise<void> {
  await queries.delete(webhooks).where(eq(webhooks.id, id))
}

/** Webhooks that are told of an event at a site. */
export const listenersAt = (queries: Queries, siteId: number, event: WebhookEvent): Promise<Webhook[]> =>
  queries
    .select(getTableColumns(webhooks))
    .from(webhooks)
    .innerJoin(sites, eq(sites.organisationId, webhooks.organisationId))
    .where(and(eq(sites.id, siteId), isNull(webhooks.paused), arrayContains(webhooks.events, [event])))

export async function countWaiting(queries: Queries, webhookId: number): Promise<number> {
  const [row] = await queries
    .select({ count: count() })
    .from(webhookDeliveries)
    .where(eq(webhookDeliveries.webhookId, webhookId))
  return row?.count ?? 0
}

export async function addDelivery(
  queries: Queries,
  delivery: typeof webhookDeliveries.$inferInsert,
): Promise<void> {
  await queries.insert(webhookDeliveries).values(delivery)
}

/** Deliveries that are due, of webhooks that are not paused; nobody else takes them before `until`. */
export const takeDue = (queries: Queries, at: Date, until: Date, most: number): Promise<Delivery[]> =>
  queries
    .update(webhookDeliveries)
    .set({ tries: sql`${webhookDeliveries.tries} + 1`, dueAt: until })
    .where(
      inArray(
        webhookDeliveries.id,
        queries
          .select({ id: webhookDeliveries.id })
          .from(webhookDeliveries)
          .innerJoin(webhooks, eq(webhooks.id, webhookDeliveries.webhookId))
          .where(and(lte(webhookDeliveries.dueAt, at), isNull(webhooks.paused)))
          .orderBy(asc(webhookDeliveries.dueAt))
          .limit(most)
          .for('update', { of: webhookDeliveries, skipLocked: true }),
      ),
    )
    .returning()

export const webhookById = async (queries: Queries, id: number): Promise<Webhook | null> => {
  const [row] = await queries.select().from(webhooks).where(eq(webhooks.id, id))
  return row ?? null
}

export interface Outcome {
  readonly at: Date
  readonly outcome: DeliveryOutcome
  readonly status: number | null
}

export async function noteOutcome(
  queries: Queries,
  webhookId: number,
  { at, outcome, status }: Outcome,
): Promise<void> {
  await queries
    .update(webhooks)
    .set({ lastAt: at, lastOutcome: outcome, lastStatus: status })
    .where(eq(webhooks.id, webhookId))
}

export async function endDelivery(queries: Queries, id: string): Promise<void> {
  await queries.delete(webhookDeliveries).where(eq(webhookDeliveries.id, id))
}

export async function postpone(queries: Queries, id: string, dueAt: Date): Promise<void> {
  await queries.update(webhookDeliveries).set({ dueAt }).where(eq(webhookDeliveries.id, id))
}
