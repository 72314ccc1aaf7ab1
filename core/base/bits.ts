// Rows of bits: which items of a list something is true of, 32 to a word.

/** The places of a list of `length` items for which a test holds. */
export function bitsWhere(length: number, test: (i: number) => boolean): Uint32Array {
  const words = new Uint32Array((length + 31) >> 5)
  for (let i = 0; i < length; i++) if (test(i)) setBit(words, i)
  return words
}

export function setBit(words: Uint32Array, i: number): void {
  words[i >> 5] = (words[i >> 5] as number) | (1 << (i & 31))
}

export const hasBit = (words: Uint32Array, i: number): boolean => ((words[i >> 5] as number) & (1 << (i & 31))) !== 0

/** Visits the places that both rows hold, in order, until `visit` answers false. */
export function eachShared(a: Uint32Array, b: Uint32Array, visit: (i: number) => boolean): void {
  for (let w = 0; w < a.length; w++) {
    for (let both = (a[w] as number) & (b[w] as number); both !== 0; both &= both - 1) if (!visit((w << 5) + 31 - Math.clz32(both & -both))) return
  }
}
