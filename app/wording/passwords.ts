import { count } from './count'

/** What is said of a password while it is typed. */
export const passwordWords = {
  short: (missing: number): string => `${count(missing, 'character')} more.`,
  weak: 'Easy to guess: add another word, or use one that nobody would try.',
  fine: 'Hard to guess.',
}
