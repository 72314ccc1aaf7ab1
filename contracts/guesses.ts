import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary as common } from '@zxcvbn-ts/language-common'
import { dictionary as english, translations } from '@zxcvbn-ts/language-en'

// How many tries a secret outlasts. Load it when somebody types one: its dictionaries are larger than a page.

const estimator = new ZxcvbnFactory({
  dictionary: { ...common, ...english },
  graphs: adjacencyGraphs,
  translations,
})

/**
 * How many tries a password or passphrase takes.
 * @param known names that anybody who stands outside can read
 */
export const guessesOf = (text: string, known: readonly string[]): number =>
  estimator.check(
    text,
    known.flatMap((name) => [name, ...name.split(/\s+/)]),
  ).guesses
