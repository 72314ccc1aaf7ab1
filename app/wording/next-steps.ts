import type { AdoptionState } from '#core/adopt'
import type { MissingFact } from '#core/brief'
import type { AcceptanceTest } from '#core/prove'
import type { Plan } from '#core/schema'
import { wordsOfState } from './adoption'
import { FACTS } from './brief'
import { testWords } from './proof'

// The one thing to do now, as a button says it.

export const ADD_UPLINK = 'Add an uplink to the internet'
export const NAME_PEOPLE = 'Say who works'
export const AGREE_START = 'Agree the first day'
export const HAND_OVER = 'Hand over the papers'
export const LACK_STEPS = {
  gateway: 'Add a gateway',
  networks: 'Add a network',
  hosts: 'Add the devices that people use',
  intents: 'Say what must pass',
} as const

export const factStep = ({ about, key }: MissingFact): string => `Find out: ${about}, ${FACTS[key].name}`
export const againstIntentStep = (cells: number): string => `Walk what is against the intent: ${cells}`
export function adoptionStep(name: string, adoption: AdoptionState): string {
  const { state, next } = wordsOfState(adoption)
  return `${name}: ${state}. ${next}`
}
export const failedTestStep = (test: AcceptanceTest, plan: Plan): string =>
  `Find out why: ${testWords(test, plan).title}`
export const openTestStep = (test: AcceptanceTest, plan: Plan): string =>
  `Try: ${testWords(test, plan).title}`
