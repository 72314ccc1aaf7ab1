import { randomBytes } from 'node:crypto'
import { Webhook as Signer } from 'standardwebhooks'
import type { z } from 'zod'
import { isCounted } from '#contracts/api'
import type { newWebhookSchema, NewWebhook, WebhookEvent, WebhookLine } from '#contracts/webhooks'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { post, problemOfUrl } from '#server/platform/outbound'
import { refused, type Visitor } from '#server/platform/route'
import { organisationNow } from '#server/platform/scope'
import { openSealed, seal } from '#server/platform/secrets'
import * as repo from '#server/repo/webhooks'

// Messages as Standard Webhooks 1.0.0 has them: an id, a time, and an HMAC-SHA256 over both and the body.

const MOST_WEBHOOKS = 20
const SECRET_BYTES = 32
/** Messages that wait for one program before it is left alone (practice). */
const MOST_WAITING = 1000
/** Waits before a message is sent again, as Standard Webhooks proposes, from memory; after the last it is given up. */
const WAITS_S = [5, 300, 1800, 7200, 18_000, 36_000, 50_400, 72_000, 86_400]
/** Nobody else sends a message that was taken to be sent, for so long. */
const TAKEN_MS = 60_000

type Row = Awaited<ReturnType<typeof repo.webhooksOf>>[number]

const lineOf = ({ webhook, waiting }: Row): WebhookLine => ({
  id: webhook.id,
  url: webhook.url,
  events: webhook.events,
  addedAt: webhook.addedAt.toISOString(),
  addedBy: webhook.addedBy,
  paused: webhook.paused,
  last:
    webhook.lastAt && webhook.lastOutcome
      ? { at: webhook.lastAt.toISOString(), outcome: webhook.lastOutcome, status: webhook.lastStatus }
      : null,
  waiting,
})

export const listWebhooks = async (): Promise<WebhookLine[]> =>
  (await repo.webhooksOf(database(), organisationNow())).map(lineOf)

async function webhookOf(id: number): Promise<Row> {
  const row = isCounted(id) ? await repo.webhookWith(database(), organisationNow(), id) : null
  if (!row) throw refused(404, 'no-such-webhook')
  return row
}

export async function addWebhook(
  { url, events }: z.infer<typeof newWebhookSchema>,
  { name }: Visitor,
): Promise<NewWebhook> {
  const why = problemOfUrl(url)
  if (why) throw refused(400, `webhook-${why}`, 'url', { text: url })
  const organisationId = organisationNow()
  if ((await repo.webhooksOf(database(), organisationId)).length >= MOST_WEBHOOKS)
    throw refused(409, 'too-many-webhooks', '', { most: MOST_WEBHOOKS })
  const secret = `whsec_${randomBytes(SECRET_BYTES).toString('base64')}`
  const sealed = seal(secret)
  const made = { organisationId, url, events, sealed, addedAt: now(), addedBy: name }
  const webhook = await repo.addWebhook(database(), made)
  return { webhook: lineOf({ webhook, waiting: 0 }), secret }
}

/** Holds messages back, or sends them again: what waits goes out then. */
export async function pauseWebhook(id: number, isPaused: boolean): Promise<WebhookLine> {
  const row = await webhookOf(id)
  const paused = isPaused ? 'by-hand' : null
  await repo.pauseWebhook(database(), id, paused)
  return lineOf({ ...row, webhook: { ...row.webhook, paused } })
}

export async function removeWebhook(id: number): Promise<{ readonly url: string }> {
  const { webhook } = await webhookOf(id)
  await repo.removeWebhook(database(), id)
  return { url: webhook.url }
}

const bodyOf = (type: string, data: object): string =>
  JSON.stringify({ type, timestamp: now().toISOString(), data })

/** Sends a message that tells of nothing, at once; the line says how it fared. */
export async function tryWebhook(id: number): Promise<WebhookLine> {
  const { webhook } = await webhookOf(id)
  await send(webhook, `try-${randomBytes(12).toString('hex')}`, bodyOf('webhook.tried', {}))
  return lineOf(await webhookOf(id))
}

/**
 * Tells an organisation's programs what happened at one of its sites.
 * In the transaction in which it happens: both are kept, or neither is.
 */
export async function enqueueWebhooks(
  tx: Queries,
  siteId: number,
  event: WebhookEvent,
  data: object,
): Promise<void> {
  for (const { id } of await repo.listenersAt(tx, siteId, event)) {
    if ((await repo.countWaiting(tx, id)) >= MOST_WAITING) await repo.pauseWebhook(tx, id, 'behind')
    else await repo.addDelivery(tx, { webhookId: id, body: bodyOf(event, data), dueAt: now() })
  }
}

async function send(webhook: repo.Webhook, id: string, body: string): Promise<boolean> {
  const secret = openSealed(webhook.sealed)
  if (secret === null) return false
  const at = now()
  const answered = await post(
    webhook.url,
    {
      'content-type': 'application/json',
      'content-length': String(Buffer.byteLength(body)),
      'user-agent': 'able-mast',
      'webhook-id': id,
      'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
      'webhook-signature': new Signer(secret).sign(id, at, body),
    },
    body,
  )
  await repo.noteOutcome(database(), webhook.id, { at, ...answered })
  return answered.outcome === 'taken'
}

/** Sends one message; what is not taken is sent again later, and given up in the end. */
async function deliver({ id, webhookId, body, tries }: repo.Delivery): Promise<void> {
  const webhook = await repo.webhookById(database(), webhookId)
  if (!webhook) return
  const isTaken = await send(webhook, id, body)
  const waitS = WAITS_S[tries - 1]
  if (isTaken || waitS === undefined) await repo.endDelivery(database(), id)
  else await repo.postpone(database(), id, new Date(now().getTime() + waitS * 1000))
}

/**
 * Sends what is due.
 * @param most messages at once
 * @returns one promise a message, resolved when it was sent or put off
 */
export async function deliverDue(most: number): Promise<readonly Promise<void>[]> {
  const at = now()
  const due = await repo.takeDue(database(), at, new Date(at.getTime() + TAKEN_MS), most)
  return due.map(deliver)
}
