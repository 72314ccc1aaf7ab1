// Question: what has failed, and what time is it?
// Method: ids of what has failed, and texts with a prefix for what is no thing of the plan.
// Source: the plan's own semantics; no figures used.

/** What stands before an uplink's id for: its cable and modem are well, but nothing answers beyond. */
export const DARK = 'dark:'
/**
 * Ids of failed devices, links, uplinks, tunnels and peers, and of lines that are dark; and at most one
 * moment of the week, `at:1-08:00`.
 * Empty: all well, at the usual time.
 */
export type Weather = readonly string[]
