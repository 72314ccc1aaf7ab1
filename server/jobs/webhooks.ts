import { describeError, log } from '#server/platform/log'
import { deliverDue } from '#server/services/webhooks'

const EVERY_MS = 1000
const MOST_AT_ONCE = 20

/** Sends messages to programs for as long as this server lives; several share the work. */
export function startWebhooks(): void {
  let underWay = 0
  const failed = (error: unknown): void =>
    log.warn({ error: describeError(error) }, 'a message to a program could not be sent')
  const work = async (): Promise<void> => {
    for (const sent of await deliverDue(MOST_AT_ONCE - underWay)) {
      underWay++
      sent.catch(failed).finally(() => underWay--)
    }
  }
  setInterval(() => {
    if (underWay < MOST_AT_ONCE) work().catch(failed)
  }, EVERY_MS).unref()
}
