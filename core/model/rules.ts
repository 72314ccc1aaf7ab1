// Question: what must pass, and which ordered rules see to it?
// Method: plain data; selectors name ends, services name ports, a rule list is met from the top.
// Source: terms of nft(8) (chains, accept, drop, reject) and ip-rule(8) (policy routes).

export type Protocol = 'tcp' | 'udp' | 'icmp'

export interface ServiceEntry {
  readonly proto: Protocol
  /** First and last destination port, 0 to 65535; 0 and 0 for icmp. */
  readonly from: number
  readonly to: number
}

export interface Service {
  readonly id: string
  readonly name: string
  readonly entries: readonly ServiceEntry[]
}

/**
 * `any` is truly anything;
 * `inside` is every network of the site, without the internet and the gateway itself.
 */
export type Selector =
  | { readonly kind: 'any' }
  | { readonly kind: 'inside' }
  | { readonly kind: 'network'; readonly id: string }
  | { readonly kind: 'device'; readonly id: string }
  | { readonly kind: 'prefix'; readonly prefix: string }
  | { readonly kind: 'internet' }
  | { readonly kind: 'gateway' }
  | { readonly kind: 'tunnel'; readonly id: string }
  | { readonly kind: 'peer'; readonly id: string }
  | { readonly kind: 'group'; readonly id: string }

/**
 * Networks, devices, prefixes and so on under one name: a zone, where all of them are networks.
 * It speaks of whatever one of its members speaks of.
 */
export interface Group {
  readonly id: string
  readonly name: string
  /** No groups among them. */
  readonly members: readonly Exclude<Selector, { readonly kind: 'group' }>[]
}

export interface Rule {
  readonly id: string
  /** `forward`: through the gateway. `input`: to the gateway itself. */
  readonly chain: 'forward' | 'input'
  readonly action: 'accept' | 'drop' | 'reject'
  readonly from: Selector
  readonly to: Selector
  /** Service ids; an empty list means every service. */
  readonly services: readonly string[]
  readonly note: string
  /** What it decides is written to the gateway's log. */
  readonly log: boolean
  /** Schedule at whose times alone it is there; null for always. */
  readonly when: string | null
}

/** Times of the week, by the gateway's clock. */
export interface Schedule {
  readonly id: string
  readonly name: string
  /** 1 is Monday, 7 Sunday. */
  readonly days: readonly number[]
  /**
   * `08:00`, included, to `18:00`, not included;
   * `24:00` is the end of the day.
   * Where the end is before the beginning it is on the next day.
   */
  readonly from: string
  readonly to: string
}

export interface PairDefault {
  readonly id: string
  readonly from: Selector
  readonly to: Selector
  readonly action: 'accept' | 'drop'
}

/** The ordered rules of one gateway and what happens when none matches. Replies follow accepted flows. */
export interface Policy {
  readonly deviceId: string
  readonly forward: 'accept' | 'drop'
  readonly input: 'accept' | 'drop'
  readonly rules: readonly Rule[]
  /**
   * What happens through the gateway between two ends that no rule names; the first that fits, before
   * `forward`.
   */
  readonly pairs: readonly PairDefault[]
}

/**
 * Which line, or tunnel, some senders take to the internet.
 * The first that matches decides; the rest takes the lines in order.
 */
export interface PolicyRoute {
  readonly id: string
  readonly deviceId: string
  readonly from: Selector
  /** Service ids; an empty list means every service. */
  readonly services: readonly string[]
  readonly out: { readonly kind: 'uplink' | 'tunnel'; readonly id: string }
  /** While `out` is down: take what comes next, or nothing at all. */
  readonly orElse: 'next' | 'refuse'
  readonly note: string
}

/** What must get through. Whatever no intent names must not. */
export interface Intent {
  readonly id: string
  readonly from: Selector
  readonly to: Selector
  /** Service ids; an empty list means every service. */
  readonly services: readonly string[]
  /** Ids of devices, links or uplinks whose single failure this intent must survive. */
  readonly survives: readonly string[]
  /** New connections that it lets through are written down. */
  readonly log: boolean
  /** Schedule at whose times alone it is meant; null for always. */
  readonly when: string | null
  readonly note: string
}
