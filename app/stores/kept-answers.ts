import { createStore, del, get, keys, set } from 'idb-keyval'
import type { Me } from '#contracts/api'
import { api, type Answer } from './api'
import { takeEarly } from './early-answers'
import { isUnanswered } from './retry'
import { PHOTOS_KEPT } from '~/service-worker/kept-photos'

// What the server said last, kept in this browser: what was read once can be read again without a network.

export const database = createStore('kept-answers', 'answers')
const ME = 'me'
export const prefixOf = (person: string): string => `answer/${encodeURIComponent(person)}/`

/** An answer, and whether it is one of before, which this browser kept. */
export type ReadAnswer<T> = Answer<T> & { readonly isKept?: boolean }

/** Keeps what is known of a path. */
export const keepAnswer = (person: string, path: string, value: unknown): Promise<void> =>
  set(prefixOf(person) + path, value, database).catch(() => {})

/** What is kept of a path; undefined where nothing is. */
export const recall = <T>(person: string, path: string): Promise<T | undefined> =>
  get<T>(prefixOf(person) + path, database).catch(() => undefined)

/** Reads; where nobody answers, what was read last is taken. A browser that keeps nothing remembers nothing. */
export async function readOrRemember<T>(person: string, path: string): Promise<ReadAnswer<T>> {
  const answer = await api<T>('GET', path)
  if (answer.ok) {
    await keepAnswer(person, path, answer.value)
    return answer
  }
  if (!isUnanswered(answer.status)) return answer
  const kept = await recall<T>(person, path)
  return kept === undefined ? answer : { ok: true, value: kept, isKept: true }
}

const NO_MORE = {
  organisation: '',
  siteRoles: {},
  isOperator: false,
  hasPassword: true,
  needsFactor: false,
  hasFactor: false,
}

/** Who is signed in; the one of before where nobody answers. */
export async function readMe(): Promise<Me | null> {
  const answer = await (takeEarly<Me>('me') ?? api<Me>('GET', 'me'))
  if (answer.ok) {
    await keepMe(answer.value)
    return answer.value
  }
  if (!isUnanswered(answer.status)) {
    await keepMe(null)
    return null
  }
  const kept = await get<Me>(ME, database).catch(() => undefined)
  // What an older build kept says less.
  return kept ? { ...NO_MORE, ...kept } : null
}

export const keepMe = (me: Me | null): Promise<void> =>
  (me ? set(ME, me, database) : del(ME, database)).catch(() => {})

/** Forgets who was signed in, and all that was read as them. */
export async function forgetAnswers(person: string): Promise<void> {
  await keepMe(null)
  try {
    // Over plain HTTP there is no such store.
    if ('caches' in globalThis) await caches.delete(PHOTOS_KEPT)
    const mine = (await keys<string>(database)).filter((key) => key.startsWith(prefixOf(person)))
    await Promise.all(mine.map((key) => del(key, database)))
  } catch {
    // A browser that keeps nothing has nothing to forget.
  }
}
