import type { PersonLine } from '#contracts/accounts'
import { ROLE_WORDS } from '~/wording/roles'

const STATES: Readonly<Record<PersonLine['state'], string>> = {
  invited: 'link not opened yet',
  active: 'can sign in',
  disabled: 'disabled',
}

export function stateWords({ state, hasFactor, hasIdentity }: PersonLine): string {
  if (state !== 'active') return STATES[state]
  return [
    STATES[state],
    ...(hasFactor ? ['two factors'] : []),
    ...(hasIdentity ? ['single sign-on'] : []),
  ].join(', ')
}

/** What an administrator takes from somebody who has lost it. */
export function clearWords({ hasFactor, hasIdentity }: PersonLine): string {
  const what = [...(hasFactor ? ['second factors'] : []), ...(hasIdentity ? ['single sign-on'] : [])]
  return `Clear ${what.join(' and ')}`
}

/** Roles at single sites, and whether somebody operates the installation. */
export function sitesWords({ sites, isOperator }: PersonLine): string {
  const told = sites.map(({ name, role }) => `${name} (${ROLE_WORDS[role].name.toLowerCase()})`)
  return [...told, ...(isOperator ? ['adds organisations'] : [])].join(', ')
}
