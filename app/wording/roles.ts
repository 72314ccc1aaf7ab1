import type { Me } from '#contracts/api'
import type { Role } from '#contracts/roles'
import { count } from './count'

/** What each role is called, and what somebody with it may do. */
export const ROLE_WORDS: Readonly<Record<Role, { readonly name: string; readonly may: string }>> = {
  administrator: {
    name: 'Administrator',
    may: 'Adds people, deletes sites, and does whatever a planner does.',
  },
  planner: { name: 'Planner', may: 'Makes sites, edits plans, sets keys and passphrases.' },
  rigger: { name: 'Rigger', may: 'Works on site: claims devices, tells of steps, records results.' },
  keeper: { name: 'Keeper', may: 'Reads everything, exports, and takes the network over.' },
}

/** Of who has a role at single sites alone. */
export const SINGLE_SITES = {
  name: 'Single sites only',
  may: 'Sees the sites that are chosen for them, and no other.',
}

/** What somebody is, in a few words. */
export function meWords({ role, siteRoles }: Pick<Me, 'role' | 'siteRoles'>): string {
  const sites = Object.keys(siteRoles).length
  return role === null ? `at ${count(sites, 'site')}` : ROLE_WORDS[role].name.toLowerCase()
}
