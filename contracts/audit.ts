import { z } from './zod'
import { line } from '#core/schema'

// Who did what that matters later.

export const AUDIT_ACTIONS = [
  'signed-in',
  'sign-in-refused',
  'code-refused',
  'signed-out',
  'sessions-ended',
  'joined',
  'password-changed',
  'identity-connected',
  'identity-removed',
  'factor-added',
  'factor-removed',
  'recovery-codes-made',
  'token-made',
  'token-ended',
  'factors-cleared',
  'person-added',
  'person-changed',
  'person-removed',
  'link-made',
  'link-mailed',
  'organisation-added',
  'organisation-removed',
  'organisation-renamed',
  'organisation-changed',
  'organisation-strict',
  'webhook-added',
  'webhook-paused',
  'webhook-resumed',
  'webhook-removed',
  'site-offered',
  'site-taken',
  'site-made',
  'site-archived',
  'site-unarchived',
  'site-deleted',
  'site-restored',
  'site-purged',
  'plan-restored',
  'key-made',
  'key-taken',
  'key-shown',
  'passphrase-set',
  'passphrase-shown',
  'device-claimed',
  'list-claimed',
  'device-released',
  'device-replaced',
  'device-secret-made',
  'device-revoked',
  'lab-switched',
  'exported',
  'audit-exported',
] as const
export type AuditAction = (typeof AUDIT_ACTIONS)[number]

export interface AuditLine {
  readonly id: number
  readonly at: string
  readonly who: string
  readonly what: AuditAction
  /** Slug; empty for what is of no site. */
  readonly site: string
  readonly subject: string
  readonly address: string
}

export const auditQuerySchema = z.strictObject({
  /** Lines older than the one with this id. */
  before: z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER).optional(),
  who: line(80, 1).optional(),
  what: z.enum(AUDIT_ACTIONS).optional(),
  site: line(80, 1).optional(),
})
export type AuditQuery = z.infer<typeof auditQuerySchema>

/** Whether all lines are as they were written. */
export interface AuditCheck {
  readonly count: number
  /** Id of the first line that is not as it was written, or before which one is missing; null where none. */
  readonly brokenAt: number | null
  /** By which the newest line is known; noted elsewhere it shows that none was cut off. */
  readonly newest: string
}
