import type { PlanAt } from '#contracts/api'
import { api, type Answer } from './api'

let asked: { readonly slug: string; readonly answer: Promise<Answer<PlanAt>> } | null = null

/** Asks for a plan before anybody needs it. */
export function askEarly(slug: string): void {
  asked = { slug, answer: api<PlanAt>('GET', `sites/${slug}/plan`) }
}

/** The answer to the early question, once; null where another site was asked for, or none. */
export function takeEarly(slug: string): Promise<Answer<PlanAt>> | null {
  const mine = asked
  asked = null
  return mine?.slug === slug ? mine.answer : null
}
