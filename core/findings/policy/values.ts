import type { StopCode } from '#core/reachability'

/** What a finding is found under, where all is not well and as usual. */
export type Under =
  | { readonly kind: 'rain' }
  | { readonly kind: 'down'; readonly name: string }
  /** Minutes from Monday 00:00, and the names of the schedules that hold then. */
  | { readonly kind: 'instant'; readonly minute: number; readonly schedules: readonly string[] }

/** What the findings of rules and intents say, by code. */
export interface PolicyValues {
  /** What passes is not what is meant; `under`: null where all is well. */
  P01:
    | { kind: 'excess'; from: string; to: string; services: string; under: Under | null; key: string }
    | { kind: 'missing'; intent: string; services: string; under: Under | null; key: string }
  /** A rule can never match. */
  P02: { number: number; note: string; by: string }
  /** A service of a rule is decided before it, and otherwise. */
  P03: { number: number; service: string; by: string; key: string }
  /** A refusal in one direction, where the other is open. */
  P04: { number: number; from: string; to: string; services: string }
  /** Guests reach what manages the site. */
  P05: { from: string; to: string; services: string }
  /** An intent that nobody is there for. */
  P06: { intent: string; who: string }
  /** Something names what is not there. */
  P07:
    | { thing: 'rule' | 'pair'; number: number; what: string }
    | { thing: 'intent' | 'group'; name: string; what: string }
  /** More passes by IPv6 than is meant. */
  P08: { from: string; to: string; services: string }
  /** A rule changes nothing. */
  P09: { number: number; note: string; by: string; byDefault: boolean }
  /** A rule speaks of nobody. */
  P10: { number: number; note: string; end: 'from' | 'to'; who: string }
  /** A name server that clients are handed, or a DHCP server that a relay asks, is not reached. */
  P11:
    | { kind: 'names'; network: string; server: string; stop: StopCode | 'rule' | 'no-target'; key: string }
    | { kind: 'relay'; network: string; server: string; key: string }
  /** Stations of guests hear each other. */
  F04: { kind: 'air'; ssid: string } | { kind: 'networks'; ssid: string; to: string; services: string }
}

export interface PolicyMends {
  /** `services`: empty for all. */
  refuse: { from: string; to: string; services: string; ipv6: boolean }
  permit: { intent: string; number: number; rules: number }
  'drop-service': { number: number; service: string }
  'drop-member': { group: string; what: string }
  'remove-rule': { number: number }
  'remove-pair': { number: number }
  'remove-intent': { intent: string }
  'keep-apart': { ssid: string }
}
