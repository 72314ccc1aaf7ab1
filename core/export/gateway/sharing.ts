// Question: how do uplinks of one priority share their senders by weight?
// Method: a hash of the sender's address gives the mark of one uplink of each group; a routing rule for each
// mark, group after group, so that a group whose uplinks are all down is passed over.
// Source: nft(8), section "Hash expressions" (jhash); ip-rule(8).
import { sharingGroups } from '#core/queries'
import type { Uplink } from '#core/schema'
import { uplinkMark } from './interfaces'

/** Five bits of the mark are a group's, and 0 means none. */
const GROUP_BITS = 5
const PLACES = 2 ** GROUP_BITS - 1
/** Parts of a whole that the weights of several groups are cut into. */
const FINENESS = 2 ** 20

/** Which uplink of a group is a sender's, in the bits of the mark that are the group's. */
const shareMark = (group: number, place: number): number => place << (16 + GROUP_BITS * group)
const shareMask = (group: number): number => shareMark(group, PLACES)

const weightOf = (uplinks: readonly Uplink[]): number => uplinks.reduce((sum, u) => sum + u.weight, 0)

/** Intervals of a hash, each with its mark. */
export interface Shares {
  /** The hash is one of 0 … modulus - 1. */
  readonly modulus: number
  readonly parts: readonly { readonly from: number; readonly to: number; readonly mark: number }[]
}

/**
 * One uplink of each group for each sender, so that whoever begins from one address stays with one uplink of
 * the group whose turn it is.
 * Of one group the intervals are the weights themselves; of several, their parts of 2^20.
 */
export function sharesOf(uplinks: readonly Uplink[]): Shares {
  const groups = sharingGroups(uplinks).map((members) => ({ members, total: weightOf(members) }))
  const modulus = groups.length === 1 ? (groups[0]?.total ?? 1) : FINENESS
  const cuts = groups.map(({ members, total }) =>
    members.map((_, i) => Math.round((weightOf(members.slice(0, i + 1)) / total) * modulus)),
  )
  const ends = [...new Set(cuts.flat())].sort((a, b) => a - b)
  const markFrom = (from: number) =>
    groups.reduce((mark, { members }, group) => {
      const chosen = members[(cuts[group] ?? []).findIndex((cut) => from < cut)]
      return mark | (chosen ? shareMark(group, uplinks.indexOf(chosen) + 1) : 0)
    }, 0)
  return {
    modulus,
    parts: ends.map((end, i) => {
      const from = ends[i - 1] ?? 0
      return { from, to: end - 1, mark: markFrom(from) }
    }),
  }
}

/**
 * Routing rules that find a sender's uplink in each group that shares, then any other of the group, and past a group
 * once all its uplinks are down.
 * Where an uplink is down its table is empty. Behind the last group stands the main table, where a static default
 * route comes first: whoever was given an uplink looks at the others of that group before.
 */
export function sharingRules(uplinks: readonly Uplink[]): string[] {
  const groups = sharingGroups(uplinks)
  const last = Math.max(...(groups.at(-1) ?? []).map((u) => uplinks.indexOf(u)))
  const table = (uplink: Uplink) => uplinkMark(uplinks.indexOf(uplink) + 1)
  const rules = uplinks.slice(0, last + 1).flatMap((uplink) => {
    const group = groups.findIndex((members) => members[0] === uplink)
    const chosen = (groups[group] ?? []).map((mate) => {
      const mark = shareMark(group, uplinks.indexOf(mate) + 1)
      return `fwmark ${mark}/${shareMask(group)} lookup ${table(mate)}`
    })
    return [...chosen, ...(groups.at(-1)?.includes(uplink) ? [] : [`lookup ${table(uplink)}`])]
  })
  const others = (groups.at(-1) ?? []).map(
    (uplink) => `not fwmark 0/${shareMask(groups.length - 1)} lookup ${table(uplink)}`,
  )
  return [...rules, ...others].map((rule, i) => `rule add pref ${2000 + i} ${rule}`)
}
