import type { PersonLine } from '#contracts/accounts'

const STATES: Readonly<Record<PersonLine['state'], string>> = {
  invited: 'has not opened the link yet',
  active: 'can sign in',
  disabled: 'disabled',
}

export const stateWords = ({ state }: PersonLine): string => STATES[state]
