import { setTimeout as wait } from 'node:timers/promises'
import { describeError, log } from '#server/platform/log'
import { openQueue } from '#server/platform/queue'
import { doRun, takeUpAbandoned, takeUpRuns } from '#server/services/runs'

const FIRST_DELAY_MS = 500
const MOST_DELAY_MS = 30_000
const LOOK_EVERY_MS = 10_000

/** Looks for runs whose server died, for as long as this one lives. */
function watchOverRuns(): void {
  setInterval(() => {
    takeUpAbandoned().catch((error: unknown) =>
      log.warn({ error: describeError(error) }, 'abandoned runs could not be looked for'),
    )
  }, LOOK_EVERY_MS).unref()
}

/** Works on what-if runs until the queue is closed; tries again and again where it cannot be opened. */
export async function startJobs(): Promise<void> {
  for (let delayMs = FIRST_DELAY_MS; ; delayMs = Math.min(2 * delayMs, MOST_DELAY_MS)) {
    try {
      await openQueue(doRun)
      await takeUpRuns()
      return watchOverRuns()
    } catch (error) {
      log.error({ error: describeError(error) }, 'the queue could not be opened')
      await wait(delayMs, undefined, { ref: false })
    }
  }
}
