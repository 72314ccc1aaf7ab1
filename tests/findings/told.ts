import { readFileSync } from 'node:fs'

// All that the findings of each case say: where, how grave, with which values, and what their mends would change. The
// file was read case by case against what each case means; whoever changes what a finding says changes it there.

const told: ReadonlyMap<string, readonly string[]> = new Map(
  readFileSync(new URL('../fixtures/findings.txt', import.meta.url), 'utf8')
    .split('\n\n')
    .map((block) => {
      const [title = '', ...lines] = block.trim().split('\n')
      return [title, lines] as const
    }),
)

/** What the findings of a case say, a line each, and a line for each change of their mends. */
export const toldOf = (code: string, meaning: string): readonly string[] =>
  told.get(`${code}: ${meaning}`) ?? []
