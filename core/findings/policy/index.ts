// Question: does the plan do what is meant, no more and no less?
// Method: the reach matrix against the intents, and the rules against each other.
import type { ReachabilityMatrix, Site } from '#core/reachability'
import type { Draft, Finding, SheetId } from '../finding'
import { danglingFindings } from './dangling'
import {
  emptyFindings,
  guestFindings,
  managementFindings,
  oneWayFindings,
  openGuestFindings,
  ipv6Findings,
} from './halves'
import { intentFindings } from './intents'
import { servedFindings } from './served'
import { shadowFindings } from './shadows'

function sheetOf({ place: [list] }: Draft): SheetId {
  if (list === 'ssids') return 'loom'
  if (list === 'networks') return 'addresses'
  return list === 'policies' || list === 'groups' ? 'rules' : 'reach'
}

export interface Matrices {
  readonly ipv4: ReachabilityMatrix
  /** Of IPv6; null where nobody speaks it. */
  readonly ipv6: ReachabilityMatrix | null
}

/**
 * Every finding of rules and intents.
 * `blamed`: networks whose addressing is already found wrong.
 */
export function checkPolicy(site: Site, { ipv4, ipv6 }: Matrices, blamed: ReadonlySet<string>): Finding[] {
  const { index } = site
  const dangling = danglingFindings(index)
  const gone = new Set(dangling.map((d) => d.place.join('/')))
  const drafts = [
    ...intentFindings(site, ipv4, blamed),
    // Of what names something that is not there it is no news that it speaks of nobody.
    ...shadowFindings(index).filter((d) => d.code !== 'P10' || !gone.has(d.place.join('/'))),
    ...dangling,
    ...oneWayFindings(index, ipv4),
    ...managementFindings(index, ipv4),
    ...guestFindings(index),
    ...openGuestFindings(index, ipv4),
    ...emptyFindings(site),
    ...servedFindings(site, ipv4, blamed),
    ...(ipv6 ? ipv6Findings(index, ipv4, ipv6) : []),
  ]
  return drafts.map((d): Finding => ({ ...d, sheet: sheetOf(d) }))
}
