import { z } from './zod'
import { parseIpv4 } from '#core/address'
import { line } from '#core/schema'
import { PROGRESS_TYPES, type ProgressType } from '#core/adopt'

// The two RPCs of RFC 8572 as RFC 7951 JSON, as far as this server uses them. Names are the module's.

const MODULE = 'ietf-sztp-bootstrap-server'
export const YANG_JSON = 'application/yang-data+json'
export const RPC_PATH = `/restconf/operations/${MODULE}:`

/** Our own: what a DHCP server of a site tells of a lease. */
export const leaseNoticeSchema = z.strictObject({
  serial: line(40, 1),
  model: line(80),
  address: z
    .string()
    .max(15)
    .refine((text) => parseIpv4(text).ok, 'ipv4'),
})

/** `[null]` is how RFC 7951 section 6.9 writes a leaf of type empty. */
const empty = z.tuple([z.null()])

export const getBootstrappingDataSchema = z.object({
  [`${MODULE}:input`]: z.strictObject({
    'signed-data-preferred': empty.optional(),
    'hw-model': line(80).optional(),
    'os-name': line(80).optional(),
    'os-version': line(40).optional(),
    nonce: line(64).optional(),
  }),
})

export const reportProgressSchema = z.object({
  [`${MODULE}:input`]: z.strictObject({
    'progress-type': z.enum(PROGRESS_TYPES as [ProgressType, ...ProgressType[]]),
    message: line(500).optional(),
  }),
})

export interface BootstrappingData {
  readonly 'ietf-sztp-bootstrap-server:output': {
    readonly 'reporting-level': 'minimal' | 'verbose'
    /** Base64 of the CMS structure that holds the conveyed information. */
    readonly 'conveyed-information': string
    /** Base64 of CMS structures, where the information is signed: by whom, and who says that the device is theirs. */
    readonly 'owner-certificate'?: string
    readonly 'ownership-voucher'?: string
  }
}

/** What is printed for a device; told this once. */
export interface OneTimeSecret {
  readonly serial: string
  readonly secret: string
  readonly expiresAt: string
  /** SHA-256 of the owner's certificate, by which the device knows that it speaks with us. */
  readonly fingerprint: string
}

/** Onboarding information, RFC 8572 section 6.2. `configuration` is base64. */
export const onboardingSchema = z.object({
  'ietf-sztp-conveyed-info:onboarding-information': z.object({
    'boot-image': z.object({ 'os-name': z.string(), 'os-version': z.string() }).optional(),
    'configuration-handling': z.enum(['merge', 'replace']),
    configuration: z.string(),
  }),
})
export type Onboarding = z.infer<typeof onboardingSchema>

/** Body of an RFC 8040 section 7.1 error. */
export function restconfError(tag: string, message: string) {
  return {
    'ietf-restconf:errors': {
      error: [{ 'error-type': 'application', 'error-tag': tag, 'error-message': message }],
    },
  }
}
