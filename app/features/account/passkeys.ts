import type { startAuthentication, startRegistration } from '@simplewebauthn/browser'
import { problem, type Problem } from '#core/util'

// Passkeys as this browser has them; the library is loaded with the first.

/** What the server asks for, as PublicKeyCredentialCreationOptionsJSON and …RequestOptionsJSON. */
export type CreationOptions = Parameters<typeof startRegistration>[0]['optionsJSON']
export type RequestOptions = Parameters<typeof startAuthentication>[0]['optionsJSON']

/** Whether this browser could use one here: not at a bare address, nor without a secure context. */
export const canUsePasskeys = (): boolean =>
  typeof PublicKeyCredential !== 'undefined' && !/^[\d.]+$|^\[/.test(location.hostname)

/** What came of asking the browser. */
export type Asked<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problems: readonly Problem[] }

/** Somebody may say no, or have none: that is an answer, too. */
async function asked<T>(work: () => Promise<T>): Promise<Asked<T>> {
  try {
    return { ok: true, value: await work() }
  } catch {
    return { ok: false, problems: [problem('passkey-not-given', '')] }
  }
}

/** Lets the browser make a passkey. */
export const makePasskey = (optionsJSON: CreationOptions) =>
  asked(async () => (await import('@simplewebauthn/browser')).startRegistration({ optionsJSON }))

/** Lets the browser answer by a passkey. */
export const askPasskey = (optionsJSON: RequestOptions) =>
  asked(async () => (await import('@simplewebauthn/browser')).startAuthentication({ optionsJSON }))
