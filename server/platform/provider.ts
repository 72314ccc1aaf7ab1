import * as oidc from 'openid-client'
import type { ProviderAddress, SignOnPurpose } from '#contracts/single-sign-on'
import { describeError, log } from './log'
import { refused } from './route'
import { settings, type ProviderSettings } from './settings'

// The provider of single sign-on, by OpenID Connect Core 1.0: the authorization code flow with PKCE (RFC 7636).

const TIMEOUT_S = 10

/** What is kept of a browser that was sent to the provider, until it comes back. */
export interface SignOn {
  readonly purpose: SignOnPurpose
  /** By which somebody joins; empty where nobody does. */
  readonly token: string
  /** Who connects; null where nobody does. */
  readonly personId: number | null
  readonly state: string
  readonly nonce: string
  readonly verifier: string
}

export function provider(): ProviderSettings {
  const found = settings().provider
  if (!found) throw refused(404, 'no-provider')
  return found
}

let known: Promise<oidc.Configuration> | undefined

function discovered({ issuer, clientId, clientSecret }: ProviderSettings): Promise<oidc.Configuration> {
  const plain = issuer.protocol === 'http:' ? [oidc.allowInsecureRequests] : []
  return oidc.discovery(
    issuer,
    clientId,
    undefined,
    clientSecret === null ? oidc.None() : oidc.ClientSecretBasic(clientSecret),
    { timeout: TIMEOUT_S, execute: [oidc.enableNonRepudiationChecks, ...plain] },
  )
}

/** What the provider says of itself; asked again where it did not answer. */
async function configuration(): Promise<oidc.Configuration> {
  const wanted = provider()
  known ??= discovered(wanted)
  try {
    return await known
  } catch (error) {
    known = undefined
    log.warn({ error: describeError(error) }, 'provider silent')
    throw refused(503, 'provider-silent', '', { text: wanted.name })
  }
}

/** Where a browser is to go, and what is to be kept until it comes back. */
export interface SentToProvider {
  readonly to: ProviderAddress
  readonly signOn: SignOn
}

export async function sendToProvider(
  whose: Pick<SignOn, 'purpose' | 'token' | 'personId'>,
): Promise<SentToProvider> {
  const config = await configuration()
  const signOn = {
    ...whose,
    state: `${whose.purpose}.${oidc.randomState()}`,
    nonce: oidc.randomNonce(),
    verifier: oidc.randomPKCECodeVerifier(),
  }
  const url = oidc.buildAuthorizationUrl(config, {
    redirect_uri: provider().returnTo.href,
    scope: 'openid',
    state: signOn.state,
    nonce: signOn.nonce,
    code_challenge: await oidc.calculatePKCECodeChallenge(signOn.verifier),
    code_challenge_method: 'S256',
  })
  return { to: { url: url.href }, signOn }
}

/**
 * Who the provider says has come back: its name for them, which never changes.
 * The token is checked by the provider's keys, for us, by the nonce and by its times (OpenID Connect Core, 3.1.3.7).
 * @throws Refused where the provider said no, or where what it said does not hold
 */
export async function subjectOf(query: string, { state, nonce, verifier }: SignOn): Promise<string> {
  const config = await configuration()
  const { name, returnTo } = provider()
  const url = new URL(returnTo)
  url.search = query
  try {
    const tokens = await oidc.authorizationCodeGrant(config, url, {
      expectedState: state,
      expectedNonce: nonce,
      pkceCodeVerifier: verifier,
      idTokenExpected: true,
    })
    const subject = tokens.claims()?.sub
    if (!subject) throw new Error('no subject')
    return subject
  } catch (error) {
    if (error instanceof oidc.AuthorizationResponseError)
      throw refused(401, 'provider-refused', '', { text: name })
    const said = error instanceof oidc.ResponseBodyError ? error.error : ''
    log.warn({ error: describeError(error), said }, 'provider answer')
    throw refused(401, 'provider-answer-wrong', '', { text: name })
  }
}
