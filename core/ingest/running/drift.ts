// What differs between a plan and what a gateway runs.
export type RunningKind = 'nft' | 'address' | 'route' | 'rule' | 'wireguard' | 'leases'
export type DriftCode =
  | 'rule-missing'
  | 'rule-extra'
  | 'rule-moved'
  | 'default-differs'
  | 'chain-missing'
  | 'address-missing'
  | 'address-extra'
  | 'route-missing'
  | 'route-extra'
  | 'choice-missing'
  | 'choice-extra'
  | 'lease-outside'
  | 'lease-taken'
  | 'lease-elsewhere'
  | 'peer-missing'
  | 'peer-unknown'
  | 'allowed-differs'
  | 'port-differs'
  | 'key-differs'
  | 'never-heard'
  | 'not-there'

/** One difference: where, what the plan says, and what runs. */
export interface Drift {
  readonly code: DriftCode
  readonly where: string
  readonly planned: string
  readonly running: string
}
export interface Running {
  readonly kind: RunningKind
  /** Entries read. */
  readonly entries: number
  readonly drifts: readonly Drift[]
}

export type Fields = Readonly<Record<string, unknown>>
export const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
export const drift = (code: DriftCode, where: string, planned = '', running = ''): Drift => ({
  code,
  where,
  planned,
  running,
})

/** A list written one way: sorted, a single address without its full length. */
export const flat = (items: readonly string[]): string =>
  [...items]
    .map((i) => i.replace(/\/(32|128)$/, ''))
    .sort()
    .join(',')
