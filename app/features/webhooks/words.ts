import type { DeliveryOutcome, WebhookEvent, WebhookLine } from '#contracts/webhooks'
import { count } from '~/wording/count'

/** What a program is told of. */
export const EVENT_WORDS: Readonly<Record<WebhookEvent, string>> = {
  'plan.changed': 'A plan was changed',
  'adoption.changed': 'A device was claimed, released, or reported progress',
  'proof.recorded': 'An acceptance test was recorded',
}

const OUTCOMES: Readonly<Record<DeliveryOutcome, string>> = {
  taken: 'taken',
  refused: 'refused',
  unreachable: 'could not be reached',
  'too-slow': 'did not answer within 10 s',
  'not-public': 'not sent: its name leads into a private network',
}

/** How the newest message fared. */
export function lastWords({ last }: WebhookLine): string {
  if (!last) return 'nothing sent yet'
  const status = last.status === null || last.outcome === 'taken' ? '' : ` with status ${last.status}`
  return OUTCOMES[last.outcome] + status
}

/** Whether messages go out, and how many wait. */
export function sendingWords({ paused, waiting }: WebhookLine): string {
  const wait = waiting > 0 ? `, ${count(waiting, 'message')} waiting` : ''
  if (paused === 'behind') return `paused by itself${wait}`
  return (paused === null ? 'sending' : 'paused') + wait
}
