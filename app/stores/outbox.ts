import { useLocalStorage } from '@vueuse/core'
import { update } from 'idb-keyval'
import { nanoid } from 'nanoid'
import type { Problem } from '#core/util'
import { api } from './api'
import { createRetry, isUnanswered } from './retry'
import { useSession } from './session'
import { oneTabAtATime } from './tab'

/** Something written down that the server has to hear of. */
export interface QueuedWrite {
  /** The server takes a write of one key once, however often it comes. */
  readonly key: string
  readonly slug: string
  readonly topic: 'ticks' | 'proof' | 'roster' | 'steps' | 'photos'
  readonly path: string
  readonly body: Readonly<Record<string, unknown>>
  /** When it was written. */
  readonly at: string
}

export interface RefusedWrite {
  readonly write: QueuedWrite
  readonly problems: readonly Problem[]
}

export interface DeliveredWrite {
  readonly write: QueuedWrite
  readonly answer: unknown
}

/** What became of a write: it was delivered, was refused, or waits until the server answers. */
export type Outcome =
  | { readonly kind: 'delivered' | 'waiting' }
  | { readonly kind: 'refused'; readonly problems: readonly Problem[] }

const SIGNED_OUT = 401
/** Nobody has judged it yet: the same write goes again later. */
const isRetryable = (status: number): boolean => isUnanswered(status) || status === SIGNED_OUT

/**
 * Ticks, results and claims on their way to the server, in the order in which they were written.
 * While it does not answer they are kept in this browser, over reloads too, and go by themselves when it is back.
 */
export const useOutbox = defineStore('outbox', () => {
  const session = useSession()
  const waiting = shallowRef<readonly QueuedWrite[]>([])
  /** Refused after they had waited: whoever wrote them has gone on since. */
  const refused = shallowRef<readonly RefusedWrite[]>([])
  /** The newest write that was delivered, with what the server said. */
  const delivered = shallowRef<DeliveredWrite | null>(null)
  /** When a record was sent last from this device, ms; 0 before any was. */
  const sentMs = useLocalStorage('outbox-sent', 0)
  let running: Promise<unknown> = Promise.resolve()
  const retry = createRetry(() => void drain())
  const storageKey = () => `outbox/${encodeURIComponent(session.me?.name ?? '')}`

  /** Whose queue is in memory: nothing of it is sent under the name of whoever signs in next. */
  let owner = ''

  /** Changes what waits, here and in the browser's own store; where that keeps nothing, this tab remembers. */
  async function change(make: (queue: readonly QueuedWrite[]) => readonly QueuedWrite[]): Promise<void> {
    const key = storageKey()
    if (key !== owner) waiting.value = []
    owner = key
    let after = make(waiting.value)
    await update<readonly QueuedWrite[]>(key, (kept) => (after = make(kept ?? waiting.value))).catch(() => {})
    waiting.value = after
  }

  async function send(write: QueuedWrite): Promise<Outcome> {
    const answer = await api('POST', write.path, { ...write.body, key: write.key })
    if (answer.ok) {
      delivered.value = { write, answer: answer.value }
      sentMs.value = Date.now()
      return { kind: 'delivered' }
    }
    return isRetryable(answer.status)
      ? { kind: 'waiting' }
      : { kind: 'refused', problems: answer.refusal.problems }
  }

  /** Sends what waits, one after the other, until there is nothing or no answer; what became of the added one. */
  async function sendAll(added?: QueuedWrite): Promise<Outcome> {
    await change((queue) => (added ? [...queue, added] : queue))
    let outcome: Outcome = { kind: 'delivered' }
    for (let [write] = waiting.value; write; [write] = waiting.value) {
      const { key } = write
      const became = await send(write)
      if (became.kind === 'waiting') {
        retry.later()
        return became
      }
      retry.stop()
      await change((queue) => queue.filter((other) => other.key !== key))
      if (key === added?.key) outcome = became
      else if (became.kind === 'refused')
        refused.value = [...refused.value, { write, problems: became.problems }]
    }
    return outcome
  }

  function drain(added?: QueuedWrite): Promise<Outcome> {
    const sent = running.then(() => oneTabAtATime(storageKey(), () => sendAll(added)))
    running = sent
    return sent
  }

  /** Puts a write at the end of the queue, and sends what waits. */
  const enqueue = (write: Omit<QueuedWrite, 'key' | 'at'>): Promise<Outcome> =>
    drain({ ...write, key: nanoid(), at: new Date().toISOString() })

  const dismiss = (key: string) => void (refused.value = refused.value.filter((r) => r.write.key !== key))

  return { waiting, refused, delivered, sentMs, enqueue, drain, dismiss }
})
