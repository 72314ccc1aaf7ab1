import { z } from './zod'
import { line } from '#core/schema'
import { factorCode, ownPassword } from './factors'
import { MOST_PASSWORD } from './limits'
import { ROLES, type Role } from './roles'

// People of an installation, their sessions and the links by which they choose a password.

const personName = line(80, 1).refine((name) => name.trim() === name, 'trimmed')
const organisationName = personName
const password = z.string().min(1).max(MOST_PASSWORD)

/** RFC 5321, 4.5.3.1.3: a path has at most 256 octets, two of which are its brackets. */
const MOST_MAIL_ADDRESS = 254

export const signInSchema = z.strictObject({ name: line(80, 1), password, code: factorCode.optional() })
/** Most single sites at which one person has a role of their own (practice). */
export const MOST_SITE_ROLES = 200
const siteRoles = z
  .array(z.strictObject({ site: line(80, 1), role: z.enum(ROLES) }))
  .max(MOST_SITE_ROLES)
  .refine((all) => new Set(all.map(({ site }) => site)).size === all.length, 'duplicate')
/** Null: at single sites alone. */
const roleElsewhere = z.enum(ROLES).nullable()
export const newPersonSchema = z.strictObject({
  name: personName,
  role: roleElsewhere,
  sites: siteRoles.optional(),
})
export const personChangeSchema = z.strictObject({
  role: roleElsewhere.optional(),
  sites: siteRoles.optional(),
  isDisabled: z.boolean().optional(),
  isOperator: z.boolean().optional(),
})
export const organisationSchema = z.strictObject({
  name: organisationName.optional(),
  needsFactor: z.boolean().optional(),
})
/** An organisation, and who administers it first. */
export const newOrganisationSchema = z.strictObject({ name: organisationName, administrator: personName })
export const transferSchema = z.strictObject({ code: line(100, 1) })
export const linkSchema = z.strictObject({ token: line(100, 1) })
/** Where a link that was just made is sent to. */
export const linkMailSchema = z.strictObject({ token: line(100, 1), to: z.email().max(MOST_MAIL_ADDRESS) })
export const joinSchema = z.strictObject({ token: line(100, 1), password })
/** The first person of an installation has no name yet. */
export const firstPersonSchema = z.strictObject({
  token: line(100, 1),
  name: personName,
  organisation: organisationName,
  password,
})
export const passwordChangeSchema = z.strictObject({ current: ownPassword, wanted: password })

/** What somebody may do at one site, whatever they may elsewhere. */
export interface SiteRoleLine {
  readonly site: string
  readonly name: string
  readonly role: Role
}

export interface OrganisationLine {
  readonly id: number
  readonly name: string
  readonly addedAt: string
  readonly people: number
  readonly sites: number
}

/** A code by which another organisation takes a site over. */
export interface TransferCode {
  readonly code: string
  readonly expiresAt: string
}

export interface PersonLine {
  readonly id: number
  readonly name: string
  /** At every site of the organisation; null for who is at single sites alone. */
  readonly role: Role | null
  readonly sites: readonly SiteRoleLine[]
  readonly isOperator: boolean
  /** Whether more than the password is asked of them. */
  readonly hasFactor: boolean
  /** Whether they sign in by the provider of single sign-on. */
  readonly hasIdentity: boolean
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
  /** Whether there is a mail server by which it can be sent. */
  readonly canBeMailed: boolean
}

/** Whose link was sent, and where to. */
export interface MailedLink {
  readonly name: string
  readonly to: string
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
