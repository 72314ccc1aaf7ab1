/** Compares code unit by code unit, so that a list leaves in the same order on every machine and locale. */
export function byText(first: string, second: string): number {
  if (first < second) return -1
  if (first > second) return 1
  return 0
}

/** Builds a comparator from keys, first key first. Numbers compare as numbers, texts by code unit. */
export function by<T>(...keys: readonly ((item: T) => string | number)[]): (a: T, b: T) => number {
  return (first, second) => {
    for (const key of keys) {
      const x = key(first)
      const y = key(second)
      const order = typeof x === 'number' && typeof y === 'number' ? x - y : byText(String(x), String(y))
      if (order !== 0) return order
    }
    return 0
  }
}

/** Groups items by a key, keeping the order in which keys and items were met. */
export function groupBy<T>(items: readonly T[], key: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>()
  for (const item of items) {
    const k = key(item)
    const group = groups.get(k)
    if (group) group.push(item)
    else groups.set(k, [item])
  }
  return groups
}

/** The items by id. A repeated id keeps its first item, as every lookup in a plan does. */
export function byId<T extends { readonly id: string }>(items: readonly T[]): Map<string, T> {
  const map = new Map<string, T>()
  for (const item of items) if (!map.has(item.id)) map.set(item.id, item)
  return map
}

/** How many items of a sorted list are not larger than a value, by halving. */
export function countUpTo(sorted: readonly number[], value: number): number {
  let [low, high] = [0, sorted.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((sorted[middle] as number) <= value) low = middle + 1
    else high = middle
  }
  return low
}

/** Whether two names are one to whoever types them: in any case. */
export const isSameName = (one: string, other: string): boolean => one.toLowerCase() === other.toLowerCase()

/**
 * The least whole number of a range at which something that stays true becomes true, by halving; the range's end where
 * it never does.
 * @param low included
 * @param high not included
 */
export function leastWhere(low: number, high: number, holds: (number: number) => boolean): number {
  let [from, to] = [low, high]
  while (from < to) {
    const middle = Math.floor((from + to) / 2)
    if (holds(middle)) to = middle
    else from = middle + 1
  }
  return from
}
