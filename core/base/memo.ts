/**
 * A function of one object, whose answer is kept for as long as the object is. Plans are never changed in place, so an
 * answer about an untouched part of a plan stays true from edit to edit.
 */
export function memoOn<T extends object, R>(make: (item: T) => R): (item: T) => R {
  const known = new WeakMap<T, { readonly answer: R }>()
  return (item) => {
    const held = known.get(item)
    if (held) return held.answer
    const answer = make(item)
    known.set(item, { answer })
    return answer
  }
}

/** The same for a function of a text, for at most so many texts at once. */
export function memoOnText<R>(most: number, make: (text: string) => R): (text: string) => R {
  const known = new Map<string, { readonly answer: R }>()
  return (text) => {
    const held = known.get(text)
    if (held) return held.answer
    if (known.size >= most) known.clear()
    const answer = make(text)
    known.set(text, { answer })
    return answer
  }
}

/** True where two lists hold the same things in the same order. */
export function same(a: readonly unknown[], b: readonly unknown[]): boolean {
  if (a.length !== b.length) return false
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false
  return true
}

/**
 * A memory of the last `most` answers by everything they were made from: an answer holds where each part is the same. The first
 * part is an object and is not kept alive by it.
 */
export function memoOnParts<R>(most: number): (first: object, rest: readonly unknown[], make: () => R) => R {
  const lists = memoOn((_first: object): { readonly rest: readonly unknown[]; readonly answer: R }[] => [])
  return (first, rest, make) => {
    const list = lists(first)
    for (const held of list) if (same(held.rest, rest)) return held.answer
    const answer = make()
    if (list.length >= most) list.shift()
    list.push({ rest, answer })
    return answer
  }
}
