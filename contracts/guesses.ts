import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary as common } from '@zxcvbn-ts/language-common'
import { dictionary as english, translations } from '@zxcvbn-ts/language-en'

// How many tries a secret outlasts. Load it when somebody types one: its dictionaries are larger than a page.

const estimator = new ZxcvbnFactory({
  dictionary: { ...common, ...english },
  graphs: adjacencyGraphs,
  translations,
})

/** What comes after so many characters makes nothing easier to guess, and would be judged for seconds. */
const MOST_JUDGED = 64

/**
 * How many tries a password or passphrase takes.
 * @param known names that anybody who stands outside can read
 */
export const guessesOf = (text: string, known: readonly string[]): number =>
  estimator.check(
    text.slice(0, MOST_JUDGED),
    known.flatMap((name) => [name, ...name.split(/\s+/)]),
  ).guesses
