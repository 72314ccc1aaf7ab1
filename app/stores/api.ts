import type { Refusal } from '#contracts/api'
import { problem } from '#core/util'
import { isUnanswered } from './retry'

export type Answer<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly status: number; readonly refusal: Refusal }

type Method = 'GET' | 'POST' | 'PATCH' | 'DELETE'

/**
 * Calls our own server.
 * A refusal is a value; a server that does not answer is the refusal `no-answer` with status 0.
 */
export async function api<T>(method: Method, path: string, body?: unknown): Promise<Answer<T>> {
  try {
    const response = await fetch(`/api/${path}`, {
      method,
      ...(body === undefined
        ? {}
        : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    })
    const read: unknown = await response.json().catch(() => null)
    if (response.ok) return { ok: true, value: read as T }
    const refusal =
      read !== null && typeof read === 'object' && 'problems' in read
        ? (read as Refusal)
        : { problems: [problem('no-answer', '')] }
    return { ok: false, status: response.status, refusal }
  } catch {
    return { ok: false, status: 0, refusal: { problems: [problem('no-answer', '')] } }
  }
}

/** Whether anybody answers at all, to whoever asks. */
export async function serverAnswers(): Promise<boolean> {
  const answer = await api('GET', 'health')
  return answer.ok || !isUnanswered(answer.status)
}
