import { z } from './zod'
import { line } from '#core/schema'

// Single sign-on: a provider says who somebody is (OpenID Connect Core 1.0).

/** What the provider sent the browser back with: all that stands behind the question mark. */
export const providerAnswerSchema = z.strictObject({ query: line(4000, 1) })

/** Why somebody is sent to the provider; what is answered carries it, before the first stop of its `state`. */
export type SignOnPurpose = 'sign-in' | 'join' | 'connect'

/** Where a browser is to go. */
export interface ProviderAddress {
  readonly url: string
}

/** How somebody can sign in besides by a password. */
export interface SignInWays {
  /** What the provider of single sign-on is called; null where there is none. */
  readonly provider: string | null
}

export interface OwnIdentity extends SignInWays {
  /** When one was connected; null where none is. */
  readonly since: string | null
}
