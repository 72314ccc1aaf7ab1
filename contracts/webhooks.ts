import { z } from './zod'
import { line } from '#core/schema'

// Programs of an organisation that are told when something happens at its sites.

export const WEBHOOK_EVENTS = ['plan.changed', 'adoption.changed', 'proof.recorded'] as const
export type WebhookEvent = (typeof WEBHOOK_EVENTS)[number]

const MOST_URL = 500
const events = z
  .array(z.enum(WEBHOOK_EVENTS))
  .min(1)
  .max(WEBHOOK_EVENTS.length)
  .refine((all) => new Set(all).size === all.length, 'duplicate')
export const newWebhookSchema = z.strictObject({ url: line(MOST_URL, 1), events })
export const webhookChangeSchema = z.strictObject({ isPaused: z.boolean() })

/** How a message fared: taken, refused by a status, or why it did not get there. */
export const DELIVERY_OUTCOMES = ['taken', 'refused', 'unreachable', 'too-slow', 'not-public'] as const
export type DeliveryOutcome = (typeof DELIVERY_OUTCOMES)[number]

export interface WebhookLine {
  readonly id: number
  readonly url: string
  readonly events: readonly WebhookEvent[]
  readonly addedAt: string
  readonly addedBy: string
  /** `behind`: by itself, since too much waited. */
  readonly paused: 'by-hand' | 'behind' | null
  /** The newest try; null where there was none. */
  readonly last: {
    readonly at: string
    readonly outcome: DeliveryOutcome
    /** HTTP status; null where nothing was answered. */
    readonly status: number | null
  } | null
  /** Messages that wait to be sent, or to be sent again. */
  readonly waiting: number
}

/** A webhook, and the secret by which its messages are signed; told this once. */
export interface NewWebhook {
  readonly webhook: WebhookLine
  readonly secret: string
}
