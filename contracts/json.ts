// Question: is a text JSON, and if not, at which line and column does it stop being so?
// Method: the platform's parser; where it refuses, one that tells the place of its first problem.
// Source: RFC 8259.
import { parse, type ParseError } from 'jsonc-parser'
import { ok, problem, refuse, type Result } from '#core/util'

/** Line and column, from 1, of a place in a text. */
function lineAndColumn(text: string, place: number): { line: number; column: number } {
  const before = text.slice(0, place).split('\n')
  return { line: before.length, column: (before.at(-1)?.length ?? 0) + 1 }
}

/** Where a text stops being JSON. */
function breakOf(text: string): number {
  const errors: ParseError[] = []
  parse(text, errors, { disallowComments: true, allowTrailingComma: false })
  return errors[0]?.offset ?? text.length
}

/** Reads JSON. Problem: not-json, with `line` and `column`. */
export function readJson(text: string): Result<unknown> {
  try {
    return ok(JSON.parse(text))
  } catch {
    return refuse(problem('not-json', '', lineAndColumn(text, breakOf(text))))
  }
}
