// A plan with one thing changed.
import type { Plan } from '#core/schema'

export type RemedyCode =
  | 'add-rule'
  | 'widen-rule'
  | 'move-rule'
  | 'remove-rule'
  | 'carry-vlan'
  | 'carry-along'
  | 'access-port'
  | 'same-native'
  | 'swap-ports'
  | 'swap-cables'
  | 'move-cable'
  | 'own-gateway'
  | 'own-mask'
  | 'serve-dhcp'
  | 'ssid-network'
  | 'end-isolation'
  | 'take-next-uplink'
  | 'allow-prefix'
  | 'forward-port'

/** A plan with one thing changed that may let a flow pass. */
export interface Candidate {
  readonly code: RemedyCode
  /** Ids and numbers that its words need. */
  readonly values: Readonly<Record<string, string | number>>
  readonly after: Plan
}

export const swap = <T extends { readonly id: string }>(
  items: readonly T[],
  id: string,
  change: (item: T) => T,
): T[] => items.map((item) => (item.id === id ? change(item) : item))
