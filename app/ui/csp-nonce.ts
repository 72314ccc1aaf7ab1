/** By which the server lets this page, and no text that got into it, bring a style sheet along. */
export const cspNonce = (): string => document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce ?? ''
