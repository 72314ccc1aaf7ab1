// Question: which points were surveyed between the two ends of a radio link?
// Method: distance, ground and what stands on it, by row; a heading may stand over them.
import { ok, problem, refuse, type Problem, type Result } from '#core/util'

export interface ProfileRow {
  readonly atM: number
  readonly groundM: number
  readonly obstacleM: number
}

/** As many as a link of a plan can hold. */
export const MOST_POINTS = 500
const COLUMNS = [
  ['distance', 0],
  ['ground', -500],
  ['obstacle', 0],
] as const
const MOST = { ground: 9000, obstacle: 500 } as const

const isNumber = (text: string): boolean => /^[-−]?\d{1,6}(\.\d{1,6})?$/.test(text)
const numberOf = (text: string): number => Math.round(Number(text.replace('−', '-')) * 1000) / 1000

function parseRow(cells: readonly string[], row: number, lengthM: number): Result<ProfileRow> {
  const problems: Problem[] = []
  const [atM = 0, groundM = 0, obstacleM = 0] = COLUMNS.map(([column, least], i) => {
    const text = cells[i]?.trim() ?? ''
    if (text === '' && column === 'obstacle') return 0
    const most = column === 'distance' ? lengthM : MOST[column]
    const value = numberOf(text)
    if (!isNumber(text) || value < least || value > most)
      problems.push(
        problem('out-of-range', `row ${row}, column "${column}"`, { text: text.slice(0, 40), least, most }),
      )
    return value
  })
  return problems.length > 0 ? refuse(...problems) : ok({ atM, groundM, obstacleM })
}

/**
 * Reads a survey of a link that is so many metres long; distances are from its first end, and grow from row to row.
 * All problems are told, by row and column, and nothing is used while there is one.
 * Problems: out-of-range, not-in-order, too-many-rows.
 */
export function readProfile(
  rows: readonly (readonly string[])[],
  lengthM: number,
): Result<readonly ProfileRow[]> {
  const numbered = rows
    .map((cells, i) => ({ cells, row: i + 1 }))
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  const hasHeading = numbered[0] !== undefined && !/\d/.test(numbered[0].cells.join(''))
  const body = hasHeading ? numbered.slice(1) : numbered
  if (body.length > MOST_POINTS)
    return refuse(problem('too-many-rows', `row ${body[MOST_POINTS]?.row}`, { most: MOST_POINTS }))
  const problems: Problem[] = []
  const points: ProfileRow[] = []
  for (const { cells, row } of body) {
    const read = parseRow(cells, row, lengthM)
    const before = points.at(-1)
    if (!read.ok) problems.push(...read.problems)
    else if (before && read.value.atM <= before.atM)
      problems.push(problem('not-in-order', `row ${row}`, { text: read.value.atM, before: before.atM }))
    else points.push(read.value)
  }
  return problems.length > 0 ? refuse(...problems) : ok(points)
}
