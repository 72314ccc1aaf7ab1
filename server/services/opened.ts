import { refused } from '#server/platform/route'
import { openSealed } from '#server/platform/secrets'

/** @throws Refused where it was sealed under a key that is not here */
export function opened(sealed: string): string {
  const text = openSealed(sealed)
  if (text === null) throw refused(409, 'sealed-otherwise')
  return text
}
