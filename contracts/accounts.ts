import { z } from 'zod'
import { line } from '#core/schema'
import { MOST_PASSWORD } from './limits'
import { ROLES, type Role } from './roles'

// People of an installation, their sessions and the links by which they choose a password.

const personName = line(80, 1).refine((name) => name.trim() === name, 'trimmed')
const password = z.string().min(1).max(MOST_PASSWORD)

export const signInSchema = z.strictObject({ name: line(80, 1), password })
export const newPersonSchema = z.strictObject({ name: personName, role: z.enum(ROLES) })
export const personChangeSchema = z.strictObject({
  role: z.enum(ROLES).optional(),
  isDisabled: z.boolean().optional(),
})
export const linkSchema = z.strictObject({ token: line(100, 1) })
export const joinSchema = z.strictObject({ token: line(100, 1), password })
/** The first person of an installation has no name yet. */
export const firstPersonSchema = z.strictObject({ token: line(100, 1), name: personName, password })
export const passwordChangeSchema = z.strictObject({ current: password, wanted: password })

export interface PersonLine {
  readonly id: number
  readonly name: string
  readonly role: Role
  /** `invited`: has not chosen a password yet. */
  readonly state: 'invited' | 'active' | 'disabled'
  readonly addedAt: string
  /** When one of their sessions was last used; null where there is none. */
  readonly seenAt: string | null
}

/** A link that works once. */
export interface OneTimeLink {
  /** Path of the page, with what proves the right in the part that browsers send to nobody. */
  readonly path: string
  readonly expiresAt: string
}

/** Whom a link is for. */
export interface LinkFor {
  readonly kind: 'first' | 'invite' | 'reset'
  /** Empty for the first person of an installation. */
  readonly name: string
}

export interface SessionLine {
  readonly id: string
  /** What the browser says it is. */
  readonly device: string
  readonly address: string
  readonly createdAt: string
  readonly seenAt: string
  readonly isThis: boolean
}
