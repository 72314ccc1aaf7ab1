const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg(e|A|iOS)?\//, 'Edge'],
  [/Firefox\/|FxiOS\//, 'Firefox'],
  [/OPR\//, 'Opera'],
  [/Chrom(e|ium)\/|CriOS\//, 'Chromium or Chrome'],
  [/Safari\//, 'Safari'],
]
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux|X11/, 'Linux'],
]
const first = (list: typeof BROWSERS, text: string): string | undefined =>
  list.find(([pattern]) => pattern.test(text))?.[1]

/**
 * A browser by what it says of itself.
 * @param userAgent the header of that name, RFC 9110, 10.1.5; empty where it says nothing
 */
export function deviceWords(userAgent: string): string {
  const [browser, system] = [first(BROWSERS, userAgent), first(SYSTEMS, userAgent)]
  if (!browser) return userAgent === '' ? 'says nothing of itself' : userAgent
  return system ? `${browser} on ${system}` : browser
}
