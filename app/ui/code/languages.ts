import { json } from '@codemirror/lang-json'
import { foldService, LanguageSupport, StreamLanguage, type StreamParser } from '@codemirror/language'
import type { EditorState, Extension } from '@codemirror/state'

/** How a text is coloured and folded: intents, JSON, or settings as most servers' files have them. */
export type Grammar = 'intents' | 'json' | 'settings'

const ADDRESS = /^(?:\d{1,3}(?:\.\d{1,3}){3}|\[?(?:[0-9a-fA-F]{0,4}:){2,7}[0-9a-fA-F]{0,4}\]?)(?:\/\d{1,3})?/
const NUMBER = /^\d+(?:\.\d+)?\b/
const WORD = /^[A-Za-z_][\w.~-]*/

const KEYWORDS = new Set([
  ...['any', 'inside', 'internet', 'gateway', 'all'],
  ...['network', 'device', 'tunnel', 'peer', 'group'],
  ...['survives', 'during', 'logged'],
])

/** The grammar of intents, as `core/filter/intent-text` reads it. */
const intents: StreamParser<null> = {
  name: 'intents',
  token(stream) {
    if (stream.eatSpace()) return null
    if (stream.peek() === '#') {
      stream.skipToEnd()
      return 'comment'
    }
    if (stream.match(ADDRESS)) return 'number'
    if (stream.match('->')) return 'operator'
    const atStart = stream.string.slice(0, stream.pos).trim() === ''
    const word = stream.match(WORD)
    if (!word) {
      stream.next()
      return null
    }
    if (atStart) return 'labelName'
    return KEYWORDS.has(stream.current()) ? 'keyword' : 'variableName'
  },
}

const isApart = ({ string, pos }: { readonly string: string; readonly pos: number }) =>
  /^$|\s/.test(string.charAt(pos - 1))

/** What the files of servers have in common: comments, sections, quoted text, addresses, words and values. */
const settings: StreamParser<null> = {
  name: 'settings',
  token(stream) {
    const atStart = stream.string.slice(0, stream.pos).trim() === ''
    if (stream.eatSpace()) return null
    // A semicolon begins a comment in zones; behind a word it ends a statement.
    if (stream.match(/^(?:#|\/\/)/) || (isApart(stream) && stream.match(';'))) {
      stream.skipToEnd()
      return 'comment'
    }
    if (atStart && stream.match(/^\[[^\]]*\]/)) return 'heading'
    if (stream.match(/^"(?:[^"\\]|\\.)*"?/) || stream.match(/^'[^']*'?/)) return 'string'
    if (stream.match(ADDRESS) || stream.match(NUMBER)) return 'number'
    if (stream.match(WORD)) return atStart ? 'keyword' : null
    stream.next()
    return null
  },
  languageData: { commentTokens: { line: '#' } },
}

const OPENS = /[{[(]\s*$/
const depthOf = (text: string) => (text.match(/[{[(]/g)?.length ?? 0) - (text.match(/[}\])]/g)?.length ?? 0)

/** A line that ends with an open bracket folds up to the line before the one that closes it. */
function foldBrackets(state: EditorState, start: number): { from: number; to: number } | null {
  const opening = state.doc.lineAt(start)
  if (!OPENS.test(opening.text)) return null
  let depth = depthOf(opening.text)
  for (let number = opening.number + 1; number <= state.doc.lines; number++) {
    const line = state.doc.line(number)
    depth += depthOf(line.text)
    if (depth <= 0) return { from: opening.to, to: state.doc.line(number - 1).to }
  }
  return null
}

export const GRAMMARS: Readonly<Record<Grammar, () => Extension>> = {
  json,
  intents: () => new LanguageSupport(StreamLanguage.define(intents)),
  settings: () => [StreamLanguage.define(settings), foldService.of(foldBrackets)],
}
