// What people may do. No schema library: the field's part of the application reads this too.

export const ROLES = ['administrator', 'planner', 'rigger', 'keeper'] as const
export type Role = (typeof ROLES)[number]

/** Who edits plans; an administrator may do whatever a planner may. */
export const EDITORS: readonly Role[] = ['administrator', 'planner']
/** Who works on site: tells of steps, claims devices, records results. */
export const HANDS: readonly Role[] = [...EDITORS, 'rigger']
