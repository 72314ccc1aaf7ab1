// Question: which places does nothing tell apart, and what does tell the others apart?
// Method: places share a way where wires, routes and masks treat them alike; on a way they are of one kind where the rules and
// intents that speak of both ends, as bits, are the same.
import type { Ipv4 } from '#core/address'
import { bothBits, differingBits, eitherBits, groupByRows, memoOn, sharesAny, type BitRow } from '#core/base'
import { tellApart, tellWaysApart, type Marks } from '#core/policy'
import type { Party, Site } from './passage'
import type { WayEnd } from './round-trip'

/** A party with one address for each stretch that the plan tells apart. */
export interface Subject {
  readonly party: Party
  readonly id: string
  readonly addresses: readonly Ipv4[]
}

/** One address of one subject. */
export interface Place {
  readonly subject: Subject
  readonly address: Ipv4
  /** Its turn among all places of its way: of two that stand for the same, the earlier is taken, however finely they are divided. */
  readonly turn: number
}
/** Places that nothing tells apart: the first of them stands for all, the first of another subject where it meets itself. */
export interface Kind extends Place {
  other: Place | null
  /** The kind whose bits hold for it: itself, or the first of those it is made of. */
  readonly bits: Kind | null
}
/** Kinds that take the same way to everywhere; only rules and intents tell them apart. */
export interface Way extends WayEnd {
  readonly kinds: readonly Kind[]
  /** All of them as one. */
  readonly whole: Kind
  readonly alone: readonly [Kind]
}

function merged(kinds: readonly Kind[]): Kind {
  const [first] = kinds as [Kind]
  if (kinds.length === 1) return first
  let other: Place | null = null
  for (const kind of kinds) {
    const place = kind.subject.id === first.subject.id ? kind.other : kind
    if (place && (!other || place.turn < other.turn)) other = place
  }
  return { subject: first.subject, address: first.address, turn: first.turn, bits: first, other }
}

/** The ways of a list of subjects, and on each the kinds. `named`: devices that an intent speaks of by name. */
export function waysOf(site: Site, subjects: readonly Subject[], named: ReadonlySet<string>): Way[] {
  const [placeOf, wayOf] = [tellApart(site.index), tellWaysApart(site.index)]
  // Numbers alone are the key of most: texts are made for the ways, not for each of their addresses.
  const ways = new Map<string, Map<number, { turns: number; readonly kinds: Map<string | number, Kind> }>>()
  const seen = new Map<
    string,
    { readonly addresses: readonly Ipv4[]; readonly id: string; readonly times: number }
  >()
  for (const subject of subjects) {
    const own = wayNameOf(site, subject)
    const { party } = subject
    const name =
      party.kind === 'endpoint' && named.has(party.endpoint.deviceId) ? party.endpoint.deviceId : ''
    let mine = ways.get(own)
    if (!mine) ways.set(own, (mine = new Map()))
    // Of more than two that differ in nothing, only the first two stand for all.
    const like = `${own} ${name}`
    const before = seen.get(like)
    if (before && before.addresses === subject.addresses && before.times > 1) continue
    seen.set(like, {
      addresses: subject.addresses,
      id: subject.id,
      times: before?.addresses !== subject.addresses ? 1 : before.times + (before.id === subject.id ? 0 : 1),
    })
    for (const address of subject.addresses) {
      const way = wayOf(address)
      let pile = mine.get(way)
      if (!pile) mine.set(way, (pile = { turns: 0, kinds: new Map() }))
      const number = placeOf(address)
      const key = name === '' ? number : `${name} ${number}`
      const known = pile.kinds.get(key)
      const turn = ++pile.turns
      if (!known) pile.kinds.set(key, { subject, address, turn, other: null, bits: null })
      else if (known.other === null && known.subject.id !== subject.id)
        known.other = { subject, address, turn }
    }
  }
  return [...ways].flatMap(([own, mine]) =>
    [...mine].map(([way, pile]) => {
      const kinds = [...pile.kinds.values()]
      const whole = merged(kinds)
      return {
        number: numberOn(site, `${own} ${way}`),
        party: whole.subject.party,
        address: whole.address,
        kinds,
        whole,
        alone: [whole],
      }
    }),
  )
}

/** What of a way a cell's answer hangs on, as a text. */
export function signOf({ number, kinds }: Way): string {
  const told = ({ subject, address, turn }: Place) => `${subject.id} ${address} ${turn}`
  return `${number}: ${kinds.map((kind) => (kind.other ? `${told(kind)} & ${told(kind.other)}` : told(kind))).join(', ')}`
}

const numbersOn = memoOn((_roads: object) => new Map<string, number>())
/** The number of all that share a way, by what they share. */
function numberOn({ roads }: Site, name: string): number {
  const known = numbersOn(roads)
  const number = known.get(name) ?? known.size
  known.set(name, number)
  return number
}

function wayNameOf(site: Site, { party, id, addresses }: Subject): string {
  if (party.kind === 'gateway') return `${id} ${party.deviceId} ${addresses.join()}`
  if (party.kind !== 'endpoint') return id
  const { wants, room, prefixLength, gateway, how, isolatedOn } = party.endpoint
  return `${wants} ${room} ${prefixLength} ${gateway} ${how === 'link-local'} ${isolatedOn}`
}

/** Rows of each end, side by side. */
interface Rows {
  readonly from: readonly BitRow[]
  readonly to: readonly BitRow[]
}
const rowsOf = (list: readonly Marks[]): Rows => ({
  from: list.map((b) => b.from),
  to: list.map((b) => b.to),
})
const either = (list: readonly Marks[]): Marks =>
  list.length === 1 ? (list[0] as Marks) : eitherOf(rowsOf(list))
const eitherOf = ({ from, to }: Rows): Marks => ({ from: eitherBits(from), to: eitherBits(to) })

/** Which items of one list (of rules, of intents) speak of each kind, of any kind of a way, and of any way of a row. */
export class Speech {
  private readonly known = new Map<Kind, Marks>()
  private readonly ofKinds = new Map<Way, Rows>()
  private readonly differing = new Map<Way, Marks>()
  private readonly ofWays = new Map<Way, Marks>()
  private readonly ofRows = new Map<readonly Way[], Marks>()
  constructor(private readonly bitsAt: (place: Place) => Marks) {}
  of(kind: Kind): Marks {
    const own = kind.bits ?? kind
    let bits = this.known.get(own)
    if (!bits) this.known.set(own, (bits = this.bitsAt(own)))
    return bits
  }
  /** Those of each kind of a way, in order. */
  rows(way: Way): Rows {
    let rows = this.ofKinds.get(way)
    if (!rows) this.ofKinds.set(way, (rows = rowsOf(way.kinds.map((kind) => this.of(kind)))))
    return rows
  }
  /** Those that speak of some kinds of a way and not of others. */
  telling(way: Way): Marks {
    let bits = this.differing.get(way)
    if (!bits) {
      const { from, to } = this.rows(way)
      this.differing.set(way, (bits = { from: differingBits(from), to: differingBits(to) }))
    }
    return bits
  }
  ofWay(way: Way): Marks {
    let bits = this.ofWays.get(way)
    if (!bits)
      this.ofWays.set(way, (bits = way.kinds.length === 1 ? this.of(way.whole) : eitherOf(this.rows(way))))
    return bits
  }
  ofRow(ways: readonly Way[]): Marks {
    let bits = this.ofRows.get(ways)
    if (!bits) this.ofRows.set(ways, (bits = either(ways.map((way) => this.ofWay(way)))))
    return bits
  }
}

/** A list's items that speak of both ends of a pair of ways; null where there are none. */
export interface Shared {
  readonly a: Speech
  readonly b: Speech
  readonly bits: BitRow
}
export function sharedBits(a: Speech, from: Way, b: Speech, to: Way): Shared | null {
  const bits = bothBits(a.ofWay(from).from, b.ofWay(to).to)
  return bits && { a, b, bits }
}

/** The kinds of a way, as far as what both ends share tells them apart. */
export function partsOf(way: Way, shared: readonly Shared[], end: keyof Marks): readonly Kind[] {
  if (way.kinds.length === 1) return way.alone
  const telling = shared.filter(({ a, b, bits }) =>
    sharesAny((end === 'from' ? a : b).telling(way)[end], bits),
  )
  // Of most that is said on a way it is said of all of it.
  if (telling.length === 0) return way.alone
  return groupByRows(
    way.kinds,
    telling.map(({ a, b, bits }) => ({ mask: bits, rows: (end === 'from' ? a : b).rows(way)[end] })),
  ).map(merged)
}

/** True where somebody of one way has somebody else of another to talk to. */
export const meets = ({ whole: a }: Way, { whole: b }: Way): boolean =>
  a.subject.id !== b.subject.id || a.other !== null || b.other !== null

/** Two places that stand for a pair of kinds, of different subjects; null where there is only one. */
export function meet(a: Kind, b: Kind): readonly [Place, Place] | null {
  if (a.subject.id !== b.subject.id) return [a, b]
  if (b.other) return [a, b.other]
  return a.other ? [a.other, b] : null
}
