import './globals'
import { describe, expect, it } from 'vitest'
import { CASES } from '../findings'
import { analyse, withRepairs } from '#core/findings'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { mendWords, wordsOf } from '~/wording/findings'
import { site, type LoosePlan } from '../plans'

/** What a sentence must never show, and why. */
const FAULTS: readonly (readonly [RegExp, string])[] = [
  [/\.\.|\. ?\.|[:;,] ?\.|\?\./, 'stops doubled or after nothing'],
  [/^[.,;: ]/, 'begins with a stop'],
  [/“”|""|\( ?\)/, 'an empty name'],
  [/\s{2}/, 'a doubled blank'],
  [/\b(undefined|null|NaN|Infinity)\b|\[object/, 'a value that is none'],
  // `1 in 7` and `port 1 is` are right; a 1 that counts something stands before its noun.
  [
    /(?<![\w./:-])(?<!Rule )(?<!Default )(?<!port )1 (?!is\b|has\b|was\b|this\b)[a-z]{2,}[^s]s\b/,
    'one of several',
  ],
  [
    /(?<![\d.A-Za-z])[2-9]\d* (network|device|port|host|address|cable|rule|intent|uplink|tunnel|peer|test)\b(?! [a-z])/,
    'several as one',
  ],
]

/** The same plan with nothing written beside its rules and intents, and the shortest names. */
function terse(plan: LoosePlan): void {
  for (const { rules } of plan.policies) for (const rule of rules) rule.note = ''
  for (const intent of plan.intents) intent.note = ''
}

function spoken(plan: Plan): string[] {
  const index = indexPlan(plan)
  return withRepairs(index, analyse(index, []).findings).flatMap((finding) => {
    const { title, what, why } = wordsOf(finding)
    return [title, what, why, ...(finding.mend ? [mendWords(finding.mend)] : [])].map(
      (text) => `${finding.code}: ${text}`,
    )
  })
}
const faultsIn = (said: readonly string[]): string[] =>
  said.flatMap((text) => {
    const words = text.slice(5)
    return FAULTS.filter(([fault]) => fault.test(words)).map(([, why]) => `${why}: ${text}`)
  })

describe('what findings and their mends say', () => {
  it.each(CASES.map(([code, what, , raises]) => [`${code} ${what}`, raises] as const))('%s', (_, raises) => {
    expect(faultsIn(spoken(site(raises)))).toEqual([])
    expect(faultsIn(spoken(site((plan) => (raises(plan), terse(plan)))))).toEqual([])
  })
})
