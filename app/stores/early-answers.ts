import { api, type Answer } from './api'

const asked = new Map<string, Promise<Answer<unknown>>>()

/** Asks for what a page needs first of all, before anybody does: while the page's own parts are on their way. */
export function askEarly(path: string): void {
  asked.set(path, api('GET', path))
}

/** The answer to an early question, once; null where nobody asked it. */
export function takeEarly<T>(path: string): Promise<Answer<T>> | null {
  const answer = asked.get(path) ?? null
  asked.delete(path)
  return answer as Promise<Answer<T>> | null
}
