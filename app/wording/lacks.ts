import type { Lack } from '#core/brief'

// What a plan lacks before it can be judged.

const WORDS: Readonly<Record<Lack, string>> = {
  gateway: 'no gateway',
  networks: 'no networks',
  hosts: 'nobody in a network',
  intents: 'no intents',
}
const listed = new Intl.ListFormat('en', { type: 'conjunction' })

/** `no gateway, no networks, and no intents`. */
export const lackWords = (lacks: readonly Lack[]): string => listed.format(lacks.map((lack) => WORDS[lack]))

/** What is said where nothing is found. */
export const quietWords = (lacks: readonly Lack[]): string =>
  lacks.length === 0
    ? 'Nothing to say: the plan does what is meant.'
    : `Nothing can be said yet. The plan has ${lackWords(lacks)}.`
