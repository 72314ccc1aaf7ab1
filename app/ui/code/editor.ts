import { autocompletion, type Completion, type CompletionContext } from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { codeFolding, foldGutter, foldKeymap, HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint'
import { highlightSelectionMatches, search, searchKeymap } from '@codemirror/search'
import { Compartment, EditorState, type Extension } from '@codemirror/state'
import { drawSelection, EditorView, keymap, lineNumbers, placeholder } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { cspNonce } from '../csp-nonce'
import { GRAMMARS, type Grammar } from './languages'

/** What is wrong at a place of a text, counted from 1. */
export interface TextMistake {
  readonly line: number
  readonly column: number
  readonly says: string
}

/** What fits at the end of a line's beginning. */
export type Completer = (before: string) => readonly string[]

export interface EditorOptions {
  readonly parent: HTMLElement
  readonly text: string
  readonly label: string
  readonly grammar: Grammar
  readonly readonly: boolean
  readonly placeholder: string
  readonly complete: Completer | undefined
  readonly typed: (text: string) => void
}

export interface TextEditor {
  setText: (text: string) => void
  setReadonly: (readonly: boolean) => void
  setGrammar: (grammar: Grammar, label: string) => void
  setMistakes: (mistakes: readonly TextMistake[]) => void
  focus: () => void
  close: () => void
}

/** Colours of the paper; what a colour says, a word's place or its slant says as well. */
const COLOURS = HighlightStyle.define([
  { tag: tags.comment, color: 'var(--soft)', fontStyle: 'italic' },
  { tag: [tags.keyword, tags.propertyName], color: 'var(--deep)' },
  { tag: [tags.heading, tags.labelName], fontWeight: '700' },
  { tag: [tags.number, tags.bool, tags.null], color: 'var(--plum)' },
  { tag: tags.string, color: 'var(--kelp)' },
  { tag: tags.operator, color: 'var(--deep)', fontWeight: '700' },
])

const LOOK = EditorView.theme({
  '&': { border: '1px solid var(--line)', background: 'var(--panel)', color: 'var(--ink)' },
  '&.cm-focused': { outline: '2px solid var(--deep)', outlineOffset: '1px' },
  '.cm-scroller': { fontFamily: 'var(--mono)', fontSize: '12px', lineHeight: '18px', maxHeight: '62vh' },
  '.cm-content': { caretColor: 'var(--ink)', padding: '6px 0' },
  '.cm-placeholder': { color: 'var(--soft)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-gutters': { background: 'var(--paper)', color: 'var(--soft)', borderRight: '1px solid var(--line)' },
  '.cm-panels': { background: 'var(--paper)', color: 'var(--ink)', borderColor: 'var(--line)' },
  '.cm-panel.cm-search': { fontSize: '13px' },
  '.cm-panel.cm-search label, .cm-panel .cm-button, .cm-panel .cm-textfield': { fontSize: '13px' },
  '.cm-panel input': { border: '1px solid var(--line)', background: 'var(--panel)', color: 'var(--ink)' },
  '.cm-panel button': { border: '1px solid var(--ink)', background: 'var(--panel)', backgroundImage: 'none' },
  '.cm-tooltip': { background: 'var(--panel)', color: 'var(--ink)', border: '1px solid var(--ink)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { background: 'var(--deep)', color: 'var(--on-deep)' },
  '.cm-foldPlaceholder': {
    background: 'var(--shallow)',
    color: 'var(--ink)',
    border: '1px solid var(--line)',
  },
  '.cm-searchMatch': { background: 'var(--shallow)', outline: '1px solid var(--magenta)' },
  '&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground': {
    background: 'var(--shallow)',
  },
  '.cm-selectionBackground': { background: 'var(--shallow)' },
})

const lookUp = (complete: Completer) => (context: CompletionContext) => {
  const word = context.matchBefore(/[\w.~-]*/)
  if (!word || (word.from === word.to && !context.explicit)) return null
  const { from } = context.state.doc.lineAt(context.pos)
  const before = context.state.sliceDoc(from, word.from)
  const options: Completion[] = complete(before).map((label) => ({ label }))
  return { from: word.from, options, validFor: /^[\w.~-]*$/ }
}

/** Where a mistake stands in a text as it is now: up to the end of its line, or that line's last letter. */
function diagnosticOf(state: EditorState, { line, column, says }: TextMistake): Diagnostic {
  const at = state.doc.line(Math.min(Math.max(line, 1), state.doc.lines))
  const from = Math.min(at.from + column - 1, Math.max(at.to - 1, at.from))
  return { from, to: at.to, severity: 'error', message: says }
}

const isReadonly = (readonly: boolean): Extension => [
  EditorState.readOnly.of(readonly),
  EditorView.contentAttributes.of(readonly ? { 'aria-readonly': 'true' } : {}),
]
const named = (label: string) =>
  EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false', tabindex: '0' })

/** Opens an editor in an element. Tab leaves it, so that nobody who has a keyboard alone is caught in it. */
export function openEditor(options: EditorOptions): TextEditor {
  const [readonly, grammar] = [new Compartment(), new Compartment()]
  const languageOf = (key: Grammar, label: string) => [GRAMMARS[key](), named(label)]
  const { complete } = options
  const view = new EditorView({
    parent: options.parent,
    state: EditorState.create({
      doc: options.text,
      extensions: [
        EditorView.cspNonce.of(cspNonce()),
        lineNumbers(),
        codeFolding(),
        foldGutter(),
        history(),
        drawSelection(),
        search({ top: true }),
        highlightSelectionMatches(),
        syntaxHighlighting(COLOURS),
        LOOK,
        placeholder(options.placeholder),
        complete ? [autocompletion({ override: [lookUp(complete)] }), lintGutter()] : [],
        keymap.of([...searchKeymap, ...foldKeymap, ...historyKeymap, ...defaultKeymap]),
        readonly.of(isReadonly(options.readonly)),
        grammar.of(languageOf(options.grammar, options.label)),
        EditorView.updateListener.of(({ docChanged, state }) => {
          if (docChanged) options.typed(state.doc.toString())
        }),
      ],
    }),
  })
  return {
    setText(text) {
      if (text === view.state.doc.toString()) return
      view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } })
    },
    setReadonly: (now) => view.dispatch({ effects: readonly.reconfigure(isReadonly(now)) }),
    setGrammar: (key, label) => view.dispatch({ effects: grammar.reconfigure(languageOf(key, label)) }),
    setMistakes(mistakes) {
      const { state } = view
      view.dispatch(
        setDiagnostics(
          state,
          mistakes.map((mistake) => diagnosticOf(state, mistake)),
        ),
      )
    },
    focus: () => view.focus(),
    close: () => view.destroy(),
  }
}
