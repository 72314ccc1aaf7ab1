// Question: what differs between two versions of a plan, and can one person's change be laid on another's?
// Method: the document is walked with list items matched by id; a change is a path of keys and ids with the
// value before and after.
// A change fits another document only where that still holds the value it started from.
import { ok, problem, refuse, type Result } from '#core/util'

export type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json }

/** One difference. A missing side (added or removed item) is null, told apart by `kind`. */
export interface Change {
  readonly kind: 'set' | 'added' | 'removed'
  readonly path: readonly string[]
  readonly before: Json
  readonly after: Json
}

/** In a path: the order of a list, as ids. */
const ORDER = '#order'

type Fields = { readonly [key: string]: Json }
const isFields = (value: Json | undefined): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const isKeyed = (value: Json): value is readonly (Fields & { id: string })[] =>
  Array.isArray(value) &&
  value.length > 0 &&
  value.every((item) => isFields(item) && typeof (item['id'] ?? item['deviceId']) === 'string')
const keyOf = (item: Fields): string => String(item['id'] ?? item['deviceId'])

function sameKeys(first: Fields, second: Fields): boolean {
  const keys = Object.keys(first)
  return keys.length === Object.keys(second).length && keys.every((key) => key in second)
}

/**
 * Equal as JSON values: the order of an object's keys says nothing (RFC 8259 section 4), and stores change
 * it.
 */
function same(first: Json | undefined, second: Json | undefined): boolean {
  if (first === second) return true
  if (Array.isArray(first) && Array.isArray(second))
    return first.length === second.length && first.every((item, i) => same(item as Json, second[i] as Json))
  if (!isFields(first) || !isFields(second)) return false
  return sameKeys(first, second) && Object.keys(first).every((key) => same(first[key], second[key]))
}

/** True of two lists whose items have ids; an empty one goes with any such. */
const areKeyed = (before: Json, after: Json): boolean =>
  Array.isArray(before) &&
  Array.isArray(after) &&
  (isKeyed(before) || isKeyed(after)) &&
  [before, after].every((list) => list.length === 0 || isKeyed(list))

const byKey = (list: Json): Map<string, Fields> =>
  new Map((list as readonly Fields[]).map((item) => [keyOf(item), item]))

/** Lists whose items are matched by id. */
function walkKeyed(path: readonly string[], before: Json, after: Json, out: Change[]): void {
  const [old, now] = [byKey(before), byKey(after)]
  for (const [id, item] of old)
    if (!now.has(id)) out.push({ kind: 'removed', path: [...path, id], before: item, after: null })
  for (const [id, item] of now) {
    const was = old.get(id)
    if (was === undefined) out.push({ kind: 'added', path: [...path, id], before: null, after: item })
    else walk([...path, id], was, item, out)
  }
  const kept = [...old.keys()].filter((id) => now.has(id))
  // What is added comes last; where it belongs between others, as a rule does, the order is a change of its
  // own.
  const laid = [...kept, ...[...now.keys()].filter((id) => !old.has(id))]
  if (!same(laid, [...now.keys()]))
    out.push({ kind: 'set', path: [...path, ORDER], before: kept, after: [...now.keys()] })
}

function walk(path: readonly string[], before: Json, after: Json, out: Change[]): void {
  if (before === after || same(before, after)) return
  // Where the fields themselves differ, as with a port that becomes a trunk, the whole is another one.
  if (isFields(before) && isFields(after) && sameKeys(before, after))
    for (const key of Object.keys(before)) walk([...path, key], before[key] ?? null, after[key] ?? null, out)
  else if (areKeyed(before, after)) walkKeyed(path, before, after, out)
  else out.push({ kind: 'set', path, before, after })
}

/**
 * All differences, in document order.
 * Two equal documents give an empty list.
 * @param at where in a document both stand
 */
export function changesBetween(before: unknown, after: unknown, at: readonly string[] = []): Change[] {
  const out: Change[] = []
  walk(at, before as Json, after as Json, out)
  return out
}

/** A list in another order; undefined where that does not name all of it. */
function reordered(list: readonly Fields[], change: Change): Json | undefined {
  const items = byKey(list)
  const order = change.after as readonly string[]
  if (order.length !== items.size || !order.every((id) => items.has(id))) return undefined
  return order.map((id) => items.get(id) ?? null)
}

function applyInList(list: readonly Fields[], path: readonly string[], change: Change): Json | undefined {
  const [key, ...rest] = path
  if (key === ORDER) return reordered(list, change)
  const at = list.findIndex((item) => keyOf(item) === key)
  const ofList = rest.length === 0
  if (ofList && change.kind === 'added') return at === -1 ? [...list, change.after] : undefined
  if (at === -1) return undefined
  if (ofList && change.kind === 'removed')
    return same(list[at] ?? null, change.before) ? list.toSpliced(at, 1) : undefined
  const inner = applyAt(list[at] ?? null, rest, change)
  return inner === undefined ? undefined : list.with(at, inner as Fields)
}

function applyAt(node: Json, path: readonly string[], change: Change): Json | undefined {
  const [key, ...rest] = path
  if (key === undefined) return same(node, change.before) ? change.after : undefined
  if (Array.isArray(node)) return applyInList(node as readonly Fields[], path, change)
  if (!isFields(node) || !(key in node)) return undefined
  const inner = applyAt(node[key] ?? null, rest, change)
  return inner === undefined ? undefined : { ...node, [key]: inner }
}

/**
 * Lays changes on another version of the document: all of them, or none.
 * Errors: does-not-fit, one for each change whose place is gone or no longer holds the value it started from.
 */
export function applyChanges<T>(target: T, changes: readonly Change[]): Result<T> {
  let node = target as unknown as Json
  const problems = []
  for (const change of changes) {
    const next = applyAt(node, change.path, change)
    if (next === undefined) problems.push(problem('does-not-fit', change.path.join('.')))
    else node = next
  }
  return problems.length > 0 ? refuse(...problems) : ok(node as unknown as T)
}

/** What lies between a document and mine that another version, made from the same one, does not have as well. */
export function changesNotIn(base: unknown, mine: unknown, theirs: unknown): Change[] {
  const known = new Map(changesBetween(base, theirs).map((change) => [change.path.join('\n'), change]))
  return changesBetween(base, mine).filter((change) => {
    const other = known.get(change.path.join('\n'))
    return !(other && other.kind === change.kind && same(other.after, change.after))
  })
}
