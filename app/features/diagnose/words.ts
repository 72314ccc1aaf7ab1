import { lookId, type Diagnosis, type Explanation, type Fact } from '#core/diagnose'
import type { AcceptanceTest } from '#core/prove'
import type { Plan } from '#core/schema'
import { count } from '~/wording/count'
import { factWords } from '~/wording/looks'
import { testWords } from '~/wording/proof'

/** So many tests or facts are named; of more, their number tells. */
const MOST_NAMED = 3

/** What there is to explain. */
export function observedWords(failed: number, passed: number, facts: number): string {
  const besides = facts > 0 ? `, ${count(facts, 'fact')} besides` : ''
  return (
    `${count(failed, 'test')} failed and ${passed} passed${besides}; all count. ` +
    'Mistakes are laid on the plan one by one, then in pairs, and what they would show is compared with ' +
    'what was seen.'
  )
}

/** Why there is no explanation. */
export const noExplanationWords = ({ tried }: Diagnosis): string =>
  tried === 1
    ? 'All of it is as planned: there is nothing to explain.'
    : 'No mistake of the catalogue explains what was seen, alone or in pairs. ' +
      'Check the observations, or let one be wrong.'

/** Names of the tests and facts that an explanation is held against. */
export function observationNames(
  plan: Plan,
  tests: readonly AcceptanceTest[],
  facts: readonly Fact[],
): (id: string) => string {
  const byId = new Map(tests.map((test) => [test.id, test]))
  return (id) => {
    const test = byId.get(id)
    if (test) return testWords(test, plan).title
    const fact = facts.find((known) => lookId(known) === id)
    return fact ? factWords(fact, plan) : id
  }
}

/** Failures that are no mistake of whoever built it: the plan itself leads to them. */
export function foreseenWords(ids: readonly string[], nameOf: (id: string) => string): string {
  const named = ids.slice(0, MOST_NAMED).map(nameOf).join('; ')
  return `${count(ids.length, 'failure')} the plan itself foresees: ${named}. The Lookout says why.`
}

/** That others explain it as well. */
export const moreAlikeWords = (alike: number): string =>
  `${alike} explain it as well as the first; the most common are shown.`

/** How much of what was seen an explanation explains. */
export function explainsWords(
  against: readonly string[],
  total: number,
  nameOf: (id: string) => string,
): string {
  if (against.length === 0) return `explains all ${total}`
  return `explains all but ${against.length} of ${total}: not ${against.slice(0, MOST_NAMED).map(nameOf).join('; ')}`
}

/**
 * Explanations by one mistake of the same kind that leave the same unexplained stand together, each group where
 * its first stood.
 */
export function groupAlike(explanations: readonly Explanation[]): readonly (readonly Explanation[])[] {
  const groups = new Map<string, Explanation[]>()
  explanations.forEach((explanation, index) => {
    const [first, ...others] = explanation.mistakes
    const isAlone = first !== undefined && others.length === 0
    const key = isAlone ? `${first.code} ${explanation.against.join(' ')}` : String(index)
    groups.set(key, [...(groups.get(key) ?? []), explanation])
  })
  return [...groups.values()]
}
