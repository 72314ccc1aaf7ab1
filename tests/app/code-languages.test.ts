import { foldable, language } from '@codemirror/language'
import { EditorState } from '@codemirror/state'
import { classHighlighter, highlightCode } from '@lezer/highlight'
import { describe, expect, it } from 'vitest'
import { GRAMMARS, type Grammar } from '~/ui/code/languages'
import { mistakesOf } from '~/ui/code/mistakes'

/** The parts of a text that are coloured, each with how. */
function coloured(grammar: Grammar, text: string): string[] {
  const state = EditorState.create({ doc: text, extensions: [GRAMMARS[grammar]()] })
  const tree = state.facet(language)?.parser.parse(text)
  const parts: string[] = []
  if (tree)
    highlightCode(
      text,
      tree,
      classHighlighter,
      (part, classes) => void (classes !== '' && parts.push(`${classes.replace('tok-', '')} ${part}`)),
      () => undefined,
    )
  return parts
}

const foldedLines = (text: string, line: number): number | null => {
  const state = EditorState.create({ doc: text, extensions: [GRAMMARS.settings()] })
  const { from, to } = state.doc.line(line)
  const range = foldable(state, from, to)
  return range && state.doc.lineAt(range.to).number
}

describe('settings of servers', () => {
  it('have comments of either sign, where a comment can be', () => {
    expect(coloured('settings', '# all')).toEqual(['comment # all'])
    expect(coloured('settings', '@ 3600 IN NS ns ; the server')).toContain('comment ; the server')
    // In nftables a semicolon ends a statement.
    expect(coloured('settings', 'type filter hook input priority filter; policy drop;')).not.toContainEqual(
      expect.stringMatching(/^comment/),
    )
  })
  it('have addresses of both families, with their length', () => {
    expect(coloured('settings', 'AllowedIPs = 10.61.16.0/22')).toContain('number 10.61.16.0/22')
    expect(coloured('settings', 'ip6 saddr 2001:db8::/32 accept')).toContain('number 2001:db8::/32')
  })
  it('have sections and quoted text', () => {
    expect(coloured('settings', '[Peer]')).toEqual(['heading [Peer]'])
    expect(coloured('settings', 'iifname "lan.10" accept')).toContain('string "lan.10"')
  })
  it('fold from an open bracket to the line before the one that closes it', () => {
    const text = ['table inet site {', '  chain forward {', '    accept', '  }', '}'].join('\n')
    expect(foldedLines(text, 1)).toBe(4)
    expect(foldedLines(text, 2)).toBe(3)
    expect(foldedLines(text, 3)).toBeNull()
  })
})

describe('intents', () => {
  it('have a name, ends, services and a note', () => {
    const parts = coloured('intents', 'i-voice: device pbx -> 10.0.0.0/8: sip survives fibre # Calls')
    expect(parts).toEqual([
      'labelName i-voice',
      'keyword device',
      'variableName pbx',
      'operator ->',
      'number 10.0.0.0/8',
      'variableName sip',
      'keyword survives',
      'variableName fibre',
      'comment # Calls',
    ])
  })
})

describe('problems of a text', () => {
  it('stand at their line and column, where they have them', () => {
    const at = (place: string) => mistakesOf([{ code: 'conf-no-key', place, values: {} }])
    expect(at('line 3, column 18')).toMatchObject([{ line: 3, column: 18 }])
    expect(at('line 3')).toMatchObject([{ line: 3, column: 1 }])
    expect(at('networks.staff')).toEqual([])
  })
})
