import { formatServices, type ServiceSet } from '#core/filter'

// What the lab writes down of a test, in the words of a person's record.

export type Seen =
  | { readonly kind: 'off'; readonly device: string }
  | { readonly kind: 'leased' }
  | { readonly kind: 'no-lease'; readonly devices: readonly string[] }
  | { readonly kind: 'no-failover' }
  | { readonly kind: 'failover'; readonly uplink: string; readonly worstS: number }
  | { readonly kind: 'nothing-else' }
  | {
      readonly kind: 'leaks'
      readonly to: readonly { readonly name: string; readonly services: ServiceSet }[]
    }
  | { readonly kind: 'as-intended' }
  /** Null where nothing is heard. */
  | { readonly kind: 'level'; readonly levelDbm: number | null }
  /** `services`: null where nothing is known of the flow. */
  | { readonly kind: 'lost'; readonly services: ServiceSet | null }

/** An observation as it is kept: one line of text. */
export function seenText(seen: Seen): string {
  switch (seen.kind) {
    case 'off':
      return `no answer: ${seen.device} is off`
    case 'leased':
      return 'address from the pool'
    case 'no-lease':
      return `no address: ${seen.devices.join(', ')}`
    case 'no-failover':
      return 'nobody takes over'
    case 'failover':
      return `on ${seen.uplink} after at most ${seen.worstS} s`
    case 'nothing-else':
      return 'nothing else passes'
    case 'leaks':
      return seen.to.map(({ name, services }) => `${name}: ${formatServices(services)}`).join('; ')
    case 'as-intended':
      return 'as intended'
    case 'level':
      return seen.levelDbm === null ? 'nothing heard' : `${seen.levelDbm.toFixed(1)} dBm`
    case 'lost':
      return `does not pass: ${seen.services ? formatServices(seen.services) : 'nothing known'}`
  }
}
