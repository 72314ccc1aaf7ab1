/** First and longest wait between two attempts. */
const FIRST_MS = 1000
const LONGEST_MS = 5000

export interface Retry {
  /** Plans the next attempt: soon after the first failure, a little later after each further one. */
  readonly later: () => void
  /** It went well, or is not wanted any more. */
  readonly stop: () => void
}

/**
 * Tries again by itself while a server does not answer: after a wait that grows, and at once when the
 * browser is told that it is connected again.
 */
export function createRetry(attempt: () => void): Retry {
  let timer: ReturnType<typeof setTimeout> | undefined
  let waitMs = FIRST_MS
  const now = () => {
    clearTimeout(timer)
    attempt()
  }
  const listener = typeof addEventListener === 'undefined' ? null : now
  const stop = () => {
    clearTimeout(timer)
    waitMs = FIRST_MS
    if (listener) removeEventListener('online', listener)
  }
  const later = () => {
    clearTimeout(timer)
    timer = setTimeout(now, waitMs)
    waitMs = Math.min(waitMs * 2, LONGEST_MS)
    if (listener) addEventListener('online', listener)
  }
  return { later, stop }
}

/** Whether an answer's status means that nobody has judged the request: it may be sent again as it is. */
export const isUnanswered = (status: number): boolean => status === 0 || status >= 500
