import { describeError, log } from '#server/platform/log'
import { openQueue } from '#server/platform/queue'
import { doRun, takeUpRuns } from '#server/services/runs'

/** Works on what-if runs until the queue is closed. */
export async function startJobs(): Promise<void> {
  try {
    await openQueue(doRun)
    await takeUpRuns()
  } catch (error) {
    log.error({ error: describeError(error) }, 'the queue could not be opened')
  }
}
