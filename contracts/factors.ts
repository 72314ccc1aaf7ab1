import { z } from './zod'
import { line } from '#core/schema'
import { MOST_PASSWORD } from './limits'

// Second factors: an authenticator app, passkeys, and recovery codes for whoever has lost the rest.

/** Asked again, so that a browser that was left open is not enough; empty from who has none. */
export const ownPassword = z.string().max(MOST_PASSWORD)
export const passwordSchema = z.strictObject({ password: ownPassword })
/** Six digits of an authenticator app, or a recovery code. */
export const factorCode = line(40, 1)
export const codeSchema = z.strictObject({ code: factorCode })

const base64url = (most: number) =>
  z
    .string()
    .max(most)
    .regex(/^[\w-]*$/)
/** What browsers say of transports and extensions is taken as it is, and short. */
const transports = z.array(line(40)).max(10).optional()
const credential = {
  id: base64url(1400).min(1),
  rawId: base64url(1400),
  type: z.literal('public-key'),
  authenticatorAttachment: z.enum(['platform', 'cross-platform']).nullish(),
  clientExtensionResults: z.record(line(40), z.unknown()).refine((all) => JSON.stringify(all).length < 2000),
}
/** W3C Web Authentication Level 3, RegistrationResponseJSON. */
export const newPasskeySchema = z.strictObject({
  name: line(80, 1),
  response: z.strictObject({
    ...credential,
    response: z.strictObject({
      clientDataJSON: base64url(4000),
      attestationObject: base64url(20_000),
      authenticatorData: base64url(8000).optional(),
      publicKey: base64url(4000).optional(),
      publicKeyAlgorithm: z.number().int().optional(),
      transports,
    }),
  }),
})
/** W3C Web Authentication Level 3, AuthenticationResponseJSON. */
export const passkeySignInSchema = z.strictObject({
  response: z.strictObject({
    ...credential,
    response: z.strictObject({
      clientDataJSON: base64url(4000),
      authenticatorData: base64url(8000),
      signature: base64url(2000),
      userHandle: base64url(200).nullish(),
    }),
  }),
})

export interface PasskeyLine {
  readonly id: string
  readonly name: string
  readonly addedAt: string
  readonly usedAt: string | null
}

/** How somebody shows, beside the password, that it is them. */
export interface Factors {
  readonly authenticator: boolean
  readonly passkeys: readonly PasskeyLine[]
  readonly recoveryCodes: number
  /** Whether browsers can use passkeys at the address that we are asked by. */
  readonly canPasskey: boolean
}

/** A secret for an authenticator app; told this once. */
export interface NewAuthenticator {
  readonly secret: string
  /** Key URI, as a code to scan. */
  readonly uri: string
}

/** Codes that are told once; none where there were some already. */
export interface RecoveryCodes {
  readonly codes: readonly string[]
}
