// Rows of bits: which items of a list something is true of.
// Thirty to a word: such words are small integers, and a plain array of them is made and thrown away many
// times faster than a typed one.

/** Rows of one list have the same number of words. */
export type Bits = number[]
export type BitRow = readonly number[]

const WORD = 30

/** A row for a list of `length` items, true of none. */
export function noBits(length: number): Bits {
  return new Array<number>(Math.ceil(length / WORD)).fill(0)
}

/** The places of a list of `length` items for which a test holds. */
export function bitsWhere(length: number, test: (i: number) => boolean): Bits {
  const words = noBits(length)
  for (let i = 0; i < length; i++) if (test(i)) setBit(words, i)
  return words
}

export function setBit(words: Bits, i: number): void {
  const word = Math.floor(i / WORD)
  words[word] = (words[word] as number) | (1 << (i % WORD))
}

/** The places that both rows hold; null where there are none. */
export function bothBits(first: BitRow, second: BitRow): Bits | null {
  let any = 0
  for (let w = 0; w < first.length; w++) any |= (first[w] as number) & (second[w] as number)
  if (any === 0) return null
  const words = first.slice()
  for (let w = 0; w < first.length; w++) words[w] = (words[w] as number) & (second[w] as number)
  return words
}

/** True where some place is in both rows. */
export function sharesAny(first: BitRow, second: BitRow): boolean {
  for (let w = 0; w < first.length; w++) if (((first[w] as number) & (second[w] as number)) !== 0) return true
  return false
}

/** The places that any of some rows of one list holds. */
export function eitherBits(rows: readonly BitRow[]): Bits {
  const words = (rows[0] ?? []).slice()
  for (let r = 1; r < rows.length; r++) {
    const row = rows[r] as BitRow
    for (let w = 0; w < words.length; w++) words[w] = (words[w] as number) | (row[w] as number)
  }
  return words
}

/** The places that some rows of one list hold and others do not. */
export function differingBits(rows: readonly BitRow[]): Bits {
  const first = rows[0] ?? []
  const words = first.map(() => 0)
  for (const row of rows)
    if (row !== first)
      for (let w = 0; w < words.length; w++)
        words[w] = (words[w] as number) | ((row[w] as number) ^ (first[w] as number))
  return words
}

/** A row's places before `end`. */
export function bitsBefore(row: BitRow, end: number): Bits {
  const last = Math.floor(end / WORD)
  return row.map((word, value) => {
    if (value < last) return word
    if (value > last) return 0
    return word & ((1 << (end % WORD)) - 1)
  })
}

/**
 * Visits the places from `start` up to, without, `end` that both rows hold, in order, until `visit` answers
 * false.
 */
export function eachShared(
  first: BitRow,
  second: BitRow,
  visit: (i: number) => boolean,
  start = 0,
  end = Infinity,
): void {
  const last = Math.min(first.length, Math.ceil(end / WORD))
  for (let w = Math.floor(start / WORD); w < last; w++) {
    for (let both = (first[w] as number) & (second[w] as number); both !== 0; both &= both - 1) {
      const i = w * WORD + 31 - Math.clz32(both & -both)
      if (i >= end) return
      if (i >= start && !visit(i)) return
    }
  }
}

/** Of some rows of one list, each that differs from those before it as far as a mask asks. */
export function distinctRows(rows: readonly BitRow[], mask: BitRow): readonly BitRow[] {
  if (rows.length < 2) return rows
  // Many are one and the same.
  const once = [...new Set(rows)]
  return groupsOf(once.length, [{ mask, rows: once }]).firsts.map((i) => once[i] as BitRow)
}

/** A mask for the rows of one list, and the row that each of some items has there. */
interface Asked {
  readonly mask: BitRow
  readonly rows: readonly BitRow[]
}
/** Items whose rows are alike as far as the masks ask, in order of the first of each. */
export function groupByRows<T>(items: readonly T[], masks: readonly Asked[]): T[][] {
  const { firsts, groupOf } = groupsOf(items.length, masks)
  const groups = firsts.map((): T[] => [])
  items.forEach((item, i) => (groups[groupOf[i] ?? 0] as T[]).push(item))
  return groups
}

/**
 * The group of each item by its place, and the first item of each group.
 * Only numbers are made on the way: rows are many.
 */
function groupsOf(
  length: number,
  masks: readonly Asked[],
): { readonly firsts: readonly number[]; readonly groupOf: readonly number[] } {
  const asked: { readonly bits: number; readonly word: number; readonly rows: readonly BitRow[] }[] = []
  for (const { mask, rows } of masks)
    mask.forEach((bits, word) => bits !== 0 && asked.push({ bits, word, rows }))
  const alike = (i: number, j: number) => {
    for (const { bits, word, rows } of asked)
      if ((((rows[i] as BitRow)[word] as number) ^ ((rows[j] as BitRow)[word] as number)) & bits) return false
    return true
  }
  const [firsts, groupOf]: [number[], number[]] = [[], []]
  // By hash, the group made last; each group knows the one made before it with its hash.
  const [last, before] = [new Map<number, number>(), [] as number[]]
  for (let i = 0; i < length; i++) {
    let hash = 0
    for (const { bits, word, rows } of asked)
      hash = (Math.imul(hash, 31) + (((rows[i] as BitRow)[word] as number) & bits)) | 0
    let group = last.get(hash) ?? -1
    while (group >= 0 && !alike(firsts[group] as number, i)) group = before[group] as number
    if (group < 0) {
      group = firsts.length
      firsts.push(i)
      before.push(last.get(hash) ?? -1)
      last.set(hash, group)
    }
    groupOf.push(group)
  }
  return { firsts, groupOf }
}
