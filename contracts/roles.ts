// What people may do. No schema library: the field's part of the application reads this too.

export const ROLES = ['administrator', 'planner', 'rigger', 'keeper'] as const
export type Role = (typeof ROLES)[number]

/** What somebody may do at single sites, by slug; other than elsewhere. */
export type SiteRoles = Readonly<Record<string, Role>>

/** What somebody may do at a site; null where nothing: to them it is not there. */
export const roleAtSite = (
  { role, siteRoles }: { readonly role: Role | null; readonly siteRoles: SiteRoles },
  slug: string,
): Role | null => (Object.hasOwn(siteRoles, slug) ? (siteRoles[slug] ?? null) : role)

/** Who edits plans; an administrator may do whatever a planner may. */
export const EDITORS: readonly Role[] = ['administrator', 'planner']
/** Who works on site: tells of steps, claims devices, records results. */
export const HANDS: readonly Role[] = [...EDITORS, 'rigger']
