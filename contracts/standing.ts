// How a site stands, as the list of all sites tells it.

/** What stands in a plan, and how much of it is proven: by numbers alone. */
export interface SiteDigest {
  /** Lacks what any site has. */
  readonly isEmpty: boolean
  readonly hasUplink: boolean
  /** Facts of the brief that are missing. */
  readonly facts: number
  readonly blockers: number
  readonly warnings: number
  /** Pairs with an intent, and those that are not as intended. */
  readonly cells: number
  readonly wrong: number
  /** Somebody is named, and a first day agreed. */
  readonly isScheduled: boolean
  /** Devices that are to be adopted. */
  readonly devices: number
  readonly tests: number
  readonly proven: number
}

/** How a site stands. */
export interface Standing extends SiteDigest {
  /** Devices that have taken their configuration. */
  readonly adopted: number
}
