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
