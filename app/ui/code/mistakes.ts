import type { Problem } from '#core/util'
import { reasonOf } from '~/wording/problems'
import type { TextMistake } from './editor'

const PLACE = /^line (\d+)(?:, column (\d+))?/

/** The problems that stand at a line of a text, with what is wrong there. */
export const mistakesOf = (problems: readonly Problem[]): TextMistake[] =>
  problems.flatMap((problem) => {
    const found = PLACE.exec(problem.place)
    if (!found) return []
    return [{ line: Number(found[1]), column: Number(found[2] ?? 1), says: reasonOf(problem) }]
  })
