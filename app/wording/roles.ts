import type { Role } from '#contracts/roles'

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
