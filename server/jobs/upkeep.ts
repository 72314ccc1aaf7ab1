import { describeError, log } from '#server/platform/log'
import { forgetExpired } from '#server/services/sessions'
import { purgeOld } from '#server/services/sites'

const EVERY_MS = 3_600_000

/** Removes what has had its time, now and then, for as long as this server lives; several do no harm. */
export function startUpkeep(): void {
  const work = () =>
    void Promise.all([purgeOld(), forgetExpired()]).catch((error: unknown) =>
      log.warn({ error: describeError(error) }, 'what is old could not be removed'),
    )
  work()
  setInterval(work, EVERY_MS).unref()
}
