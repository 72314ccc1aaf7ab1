import { update } from 'idb-keyval'
import { nanoid } from 'nanoid'
import type { Problem } from '#core/util'
import { api } from './api'
import { createRetry, isUnanswered } from './retry'
import { useSession } from './session'
import { oneTabAtATime } from './tab'

/** Something written down that the server has to hear of. */
export interface Letter {
  /** The server takes a letter of one key once, however often it comes. */
  readonly key: string
  readonly slug: string
  readonly topic: 'ticks' | 'proof' | 'roster'
  readonly path: string
  readonly body: Readonly<Record<string, string | number | boolean>>
  /** When it was written. */
  readonly at: string
}

export interface Refused {
  readonly letter: Letter
  readonly problems: readonly Problem[]
}

export interface Arrived {
  readonly letter: Letter
  readonly answer: unknown
}

/** What became of a letter: it arrived, was refused, or waits until the server answers. */
export type Outcome =
  | { readonly kind: 'arrived' | 'waiting' }
  | { readonly kind: 'refused'; readonly problems: readonly Problem[] }

const SIGNED_OUT = 401
/** Nobody has judged it yet: the same letter goes again later. */
const comesAgain = (status: number): boolean => isUnanswered(status) || status === SIGNED_OUT

/**
 * Ticks, results and claims on their way to the server, in the order in which they were written.
 * While it does not answer they are kept in this browser, over reloads too, and go by themselves when it is back.
 */
export const useOutbox = defineStore('outbox', () => {
  const session = useSession()
  const waiting = shallowRef<readonly Letter[]>([])
  /** Refused after they had waited: whoever wrote them has gone on since. */
  const refused = shallowRef<readonly Refused[]>([])
  /** The newest letter that arrived, with what the server said. */
  const arrived = shallowRef<Arrived | null>(null)
  let running: Promise<unknown> = Promise.resolve()
  const retry = createRetry(() => void pump())
  const box = () => `outbox/${encodeURIComponent(session.me?.name ?? '')}`

  /** Changes what waits, here and in the browser's own store; where that keeps nothing, this tab remembers. */
  async function change(make: (letters: readonly Letter[]) => readonly Letter[]): Promise<void> {
    let after = make(waiting.value)
    await update<readonly Letter[]>(box(), (kept) => (after = make(kept ?? waiting.value))).catch(() => {})
    waiting.value = after
  }

  async function send(letter: Letter): Promise<Outcome> {
    const answer = await api('POST', letter.path, { ...letter.body, key: letter.key })
    if (answer.ok) {
      arrived.value = { letter, answer: answer.value }
      return { kind: 'arrived' }
    }
    return comesAgain(answer.status)
      ? { kind: 'waiting' }
      : { kind: 'refused', problems: answer.refusal.problems }
  }

  /** Sends what waits, one after the other, until there is nothing or no answer; what became of the added one. */
  async function sendAll(added?: Letter): Promise<Outcome> {
    await change((letters) => (added ? [...letters, added] : letters))
    let outcome: Outcome = { kind: 'arrived' }
    for (let [letter] = waiting.value; letter; [letter] = waiting.value) {
      const { key } = letter
      const became = await send(letter)
      if (became.kind === 'waiting') {
        retry.later()
        return became
      }
      await change((letters) => letters.filter((other) => other.key !== key))
      if (key === added?.key) outcome = became
      else if (became.kind === 'refused')
        refused.value = [...refused.value, { letter, problems: became.problems }]
    }
    retry.stop()
    return outcome
  }

  function pump(added?: Letter): Promise<Outcome> {
    const sent = running.then(() => oneTabAtATime(box(), () => sendAll(added)))
    running = sent
    return sent
  }

  /** Writes a letter and sends it, after those that wait. */
  const post = (letter: Omit<Letter, 'key' | 'at'>): Promise<Outcome> =>
    pump({ ...letter, key: nanoid(), at: new Date().toISOString() })

  const forget = (key: string) => void (refused.value = refused.value.filter((r) => r.letter.key !== key))

  return { waiting, refused, arrived, post, pump, forget }
})
