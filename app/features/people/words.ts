import type { PersonLine } from '#contracts/accounts'
import { ROLE_WORDS } from '~/wording/roles'

const STATES: Readonly<Record<PersonLine['state'], string>> = {
  invited: 'link not opened yet',
  active: 'can sign in',
  disabled: 'disabled',
}

export const stateWords = ({ state, hasFactor }: PersonLine): string =>
  state === 'active' && hasFactor ? `${STATES[state]}, two factors` : STATES[state]

/** Roles at single sites, and whether somebody operates the installation. */
export function sitesWords({ sites, isOperator }: PersonLine): string {
  const told = sites.map(({ name, role }) => `${name} (${ROLE_WORDS[role].name.toLowerCase()})`)
  return [...told, ...(isOperator ? ['adds organisations'] : [])].join(', ')
}
