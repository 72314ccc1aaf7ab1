/**
 * Numbers that look random and are the same for the same seed: the minimal standard generator.
 * Source:
 * S.
 * K.
 * Park and K.
 * W.
 * Miller, Communications of the ACM 31 (1988), with the multiplier 48271 of their 1993 note.
 * @returns a function that gives the next number, 0 inclusive to 1 exclusive
 */
export function chance(seed: number): () => number {
  let state = Math.abs(Math.trunc(seed)) % 2_147_483_647 || 1
  return () => {
    state = (state * 48_271) % 2_147_483_647
    return (state - 1) / 2_147_483_646
  }
}
