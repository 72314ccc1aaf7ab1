// Question: would these two ends come to terms, and on what?
// Method: of each kind of transform the first that the opening end offers and the other accepts, as a
// responder chooses; subnets must be each other's, and somebody must be able to begin.
// Source:
// RFC 7296 section 2.7 (negotiation), 2.9 (traffic selectors), 2.8 (lifetimes are each end's own), 3.5
// (identities).
import { overlaps, parsePrefix4, type Prefix4 } from '#core/address'
import { orNull } from '#core/util'
import type { IpsecEnd, IpsecLink, IpsecSuite } from '#core/schema'
import { isCombined } from './algorithms'

export type Disagreement =
  | {
      readonly kind: 'no-common'
      readonly use: 'ike' | 'esp'
      readonly what: 'encryption' | 'integrity' | 'prf' | 'groups'
      readonly ours: string
      readonly theirs: string
    }
  | { readonly kind: 'subnets'; readonly ours: string; readonly theirs: string }
  | { readonly kind: 'auth'; readonly ours: string; readonly theirs: string }
  | { readonly kind: 'nobody-starts'; readonly ours: string; readonly theirs: string }
  | { readonly kind: 'nowhere-to-call'; readonly ours: string; readonly theirs: string }
  | { readonly kind: 'same-identity'; readonly ours: string; readonly theirs: string }

export interface Agreed {
  readonly ike: string
  readonly esp: string
}
export interface Terms {
  readonly disagreements: readonly Disagreement[]
  /** What they would use; null where they come to no terms. */
  readonly agreed: Agreed | null
}

const common = <T>(a: readonly T[], b: readonly T[]): T | undefined => a.find((x) => b.includes(x))

function suiteTerms(
  use: 'ike' | 'esp',
  first: IpsecSuite,
  second: IpsecSuite,
): { readonly missing: Disagreement[]; readonly text: string } {
  const missing: Disagreement[] = []
  const pick = <T extends string | number>(
    what: 'encryption' | 'integrity' | 'prf' | 'groups',
    from: readonly T[],
    to: readonly T[],
  ): T | undefined => {
    const found = common(from, to)
    if (found === undefined)
      missing.push({
        kind: 'no-common',
        use,
        what,
        ours: first[what].join(', '),
        theirs: second[what].join(', '),
      })
    return found
  }
  const encryption = pick('encryption', first.encryption, second.encryption)
  const parts: (string | number | undefined)[] = [encryption]
  if (encryption !== undefined && !isCombined(encryption))
    parts.push(pick('integrity', first.integrity, second.integrity))
  if (use === 'ike') parts.push(pick('prf', first.prf, second.prf))
  // Without a group on either side, data is carried under keys of the first exchange; on one side alone, they
  // differ.
  if (use === 'ike' || first.groups.length > 0 || second.groups.length > 0) {
    const group = pick('groups', first.groups, second.groups)
    if (group !== undefined) parts.push(`group ${group}`)
  }
  return { missing, text: parts.filter((p) => p !== undefined).join(', ') }
}

/** True where both ends have subnets, all of them readable, and none that the other has too. */
function apart(ours: readonly string[], theirs: readonly string[]): boolean {
  const [first, second] = [ours, theirs].map((list) => list.map((text) => orNull(parsePrefix4(text)))) as [
    (Prefix4 | null)[],
    (Prefix4 | null)[],
  ]
  return (
    first.length > 0 &&
    second.length > 0 &&
    first.every((x) => x !== null && second.every((y) => y !== null && !overlaps(x, y)))
  )
}
const sorted = (list: readonly string[]): string => [...list].sort().join(', ')

/** What the ends themselves, beside their suites, do not agree on. */
function endDisagreements(ours: IpsecEnd, theirs: IpsecEnd): Disagreement[] {
  const out: Disagreement[] = []
  const add = (kind: Exclude<Disagreement['kind'], 'no-common'>, of: (end: IpsecEnd) => string) =>
    out.push({ kind, ours: of(ours), theirs: of(theirs) })
  if (ours.auth !== theirs.auth) add('auth', (e) => e.auth)
  if (!apart(ours.subnets, theirs.subnets)) add('subnets', (e) => sorted(e.subnets))
  if (!ours.starts && !theirs.starts) add('nobody-starts', () => 'waits')
  else if (!canCall(ours, theirs) && !canCall(theirs, ours)) add('nowhere-to-call', (e) => e.address)
  if (ours.identity !== '' && ours.identity === theirs.identity) add('same-identity', (e) => e.identity)
  return out
}

const canCall = (caller: IpsecEnd, called: IpsecEnd): boolean => caller.starts && called.address !== ''

/**
 * The terms of two ends.
 * Subnets are each end's own, as its administrator says them: what is said here of the other end is checked
 * against it.
 */
export function termsOf(link: Pick<IpsecLink, 'ours' | 'theirs'>): Terms {
  const { ours, theirs } = link
  // Whoever opens offers; where both do, ours is as good as theirs.
  const [offers, answers] = ours.starts || !theirs.starts ? [ours, theirs] : [theirs, ours]
  const [ike, esp] = [suiteTerms('ike', offers.ike, answers.ike), suiteTerms('esp', offers.esp, answers.esp)]
  const turn = (disagreement: Disagreement): Disagreement =>
    offers === ours ? disagreement : { ...disagreement, ours: disagreement.theirs, theirs: disagreement.ours }
  const disagreements = [...[...ike.missing, ...esp.missing].map(turn), ...endDisagreements(ours, theirs)]
  return { disagreements, agreed: disagreements.length === 0 ? { ike: ike.text, esp: esp.text } : null }
}
