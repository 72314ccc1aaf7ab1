/**
 * Keeps the newest answer about each site under a mark that changes whenever what the answer was made from
 * does.
 * The mark is read before the answer is made, so an answer is never older than its mark.
 */
export function keeper<T>(most = 256): (siteId: number, mark: string, make: () => Promise<T>) => Promise<T> {
  const kept = new Map<number, { readonly mark: string; readonly answer: T }>()
  return async (siteId, mark, make) => {
    const known = kept.get(siteId)
    if (known?.mark === mark) return known.answer
    const answer = await make()
    if (kept.size >= most) kept.clear()
    kept.set(siteId, { mark, answer })
    return answer
  }
}
