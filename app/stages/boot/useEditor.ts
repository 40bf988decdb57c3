import { autocompletion, completionKeymap, type CompletionContext } from '@codemirror/autocomplete'
import { defaultKeymap } from '@codemirror/commands'
import { HighlightStyle, StreamLanguage, syntaxHighlighting, type StringStream } from '@codemirror/language'
import { lintKeymap, setDiagnostics, type Diagnostic } from '@codemirror/lint'
import { Compartment, EditorState, RangeSet, StateEffect, StateField } from '@codemirror/state'
import { drawSelection, EditorView, gutter, GutterMarker, highlightActiveLine, hoverTooltip, keymap,
  lineNumbers } from '@codemirror/view'
import { Tag } from '@lezer/highlight'
import { tokensOf, type Grammar, type LineToken, type BootTokenKind } from '~~/core/boot/dialects/tokens'
import type { Completions } from '~~/core/boot/complete'

/** What an editor is told of its text. Lines are 1-based, columns 0-based. */
export interface EditorHost {
  /** The text as typed, with `\n` for every line ending. */
  onText: (text: string) => void
  onLine: (line: number) => void
  explain: (line: number, column: number) => { from: number, to: number, words: string, note?: string } | null
  complete: (text: string, line: number, column: number) => Completions | null
  undo: () => void
  redo: () => void
}

export interface OwnerMark { line: number, colour: string, title: string, state: 'written' | 'by-hand' | 'off' }

export interface LineFinding {
  line: number
  from: number
  to: number
  severity: 'stop' | 'caution' | 'note'
  message: string
  fixes: { label: string, run: () => void }[]
}

const TAGS = Object.fromEntries(([
  'blank', 'comment', 'section', 'key', 'sign', 'name', 'value', 'number', 'word', 'string', 'junk',
] as BootTokenKind[]).map(kind => [kind, Tag.define()])) as Record<BootTokenKind, Tag>

const STYLE = HighlightStyle.define([
  { tag: TAGS.comment, color: 'var(--ink-2)', fontStyle: 'italic' },
  { tag: TAGS.section, color: 'var(--carmine)', fontWeight: '650' },
  { tag: TAGS.key, color: 'var(--owner-0)' },
  { tag: TAGS.sign, color: 'var(--ink-2)' }, { tag: TAGS.name, color: 'var(--copper)', fontWeight: '650' },
  { tag: TAGS.number, color: 'var(--owner-3)' }, { tag: TAGS.string, color: 'var(--owner-3)' },
  { tag: TAGS.word, color: 'var(--owner-1)' }, { tag: TAGS.value, color: 'var(--ink)' },
  { tag: TAGS.junk, color: 'var(--ochre)', textDecoration: 'underline wavy' },
])

/** Colours from our own grammar, a line at a time. */
function language(grammar: Grammar) {
  return StreamLanguage.define<{ tokens: LineToken[] }>({
    startState: () => ({ tokens: [] }),
    tokenTable: TAGS,
    token(stream: StringStream, state) {
      if (stream.sol()) state.tokens = tokensOf(stream.string, grammar)
      const token = state.tokens.find(entry => entry.from <= stream.pos && stream.pos < entry.to)
      if (!token) {
        stream.skipToEnd()
        return null
      }
      stream.pos = token.to
      return token.kind === 'blank' ? null : token.kind
    },
  })
}

class OwnerDot extends GutterMarker {
  constructor(private readonly mark: OwnerMark) {
    super()
  }

  override eq(other: OwnerDot) {
    return other.mark.colour === this.mark.colour && other.mark.title === this.mark.title
      && other.mark.state === this.mark.state
  }

  override toDOM() {
    const dot = document.createElement('span')
    dot.className = `owner-dot ${this.mark.state}`
    dot.style.setProperty('--owner', this.mark.colour)
    dot.title = this.mark.title
    return dot
  }
}

const setMarks = StateEffect.define<RangeSet<GutterMarker>>()
const marks = StateField.define<RangeSet<GutterMarker>>({
  create: () => RangeSet.empty,
  update(value, transaction) {
    for (const effect of transaction.effects) if (effect.is(setMarks)) return effect.value
    return value.map(transaction.changes)
  },
})

/** Longer texts are not handed on with each letter. */
const LONG_TEXT = 60_000
const REST_MS = 250

const SEVERITY = { stop: 'error', caution: 'warning', note: 'info' } as const

/** A text editor on an element: colours, owners in the gutter, findings with fixes, words on hover, completion. */
export function makeEditor(
  parent: HTMLElement, host: EditorHost, { grammar, label, test }: { grammar: Grammar, label: string, test: string },
) {
  let silent = false
  const tongue = new Compartment()
  const hover = hoverTooltip((view, pos) => {
    const line = view.state.doc.lineAt(pos)
    const said = host.explain(line.number, pos - line.from)
    if (!said) return null
    return {
      pos: line.from + said.from, end: Math.min(line.to, line.from + said.to), above: true,
      create() {
        const dom = document.createElement('div')
        dom.className = 'boot-words'
        dom.textContent = said.words
        if (said.note) {
          const note = dom.appendChild(document.createElement('small'))
          note.textContent = said.note
        }
        return { dom }
      },
    }
  })
  const source = (context: CompletionContext) => {
    const line = context.state.doc.lineAt(context.pos)
    const found = host.complete(context.state.doc.toString(), line.number, context.pos - line.from)
    if (!found || (!context.explicit && context.pos - line.from === found.from
      && !/[=,[]$/.test(line.text.slice(0, found.from)))) {
      return null
    }
    return {
      from: line.from + found.from,
      options: found.options.map(({ label: name, what, insert }) => ({ label: name, detail: what,
        ...(insert && { apply: insert }) })),
      validFor: /^[\w+-]*$/,
    }
  }
  /** A long text is told once the hand rests; whatever ends the typing has it told at once. */
  let waiting: ReturnType<typeof setTimeout> | undefined
  function flush(): void {
    if (waiting === undefined) return
    clearTimeout(waiting)
    waiting = undefined
    host.onText(view.state.doc.toString())
  }
  function tell(): void {
    clearTimeout(waiting)
    waiting = undefined
    if (view.state.doc.length <= LONG_TEXT) return host.onText(view.state.doc.toString())
    waiting = setTimeout(flush, REST_MS)
  }
  const stepped = (step: () => void) => {
    flush()
    step()
    // The key is taken, whether there was something to take back or not.
    return true
  }
  window.addEventListener('pagehide', flush)
  parent.addEventListener('focusout', flush)

  const view: EditorView = new EditorView({
    parent,
    state: EditorState.create({
      doc: '',
      extensions: [
        lineNumbers(), marks, gutter({ class: 'owners', markers: editor => editor.state.field(marks) }),
        drawSelection(),
        highlightActiveLine(),
        tongue.of(language(grammar)), syntaxHighlighting(STYLE), hover,
        autocompletion({ override: [source], icons: false }),
        // Undo is the project's, so that one key takes back edits wherever they were made.
        keymap.of([
          { key: 'Mod-z', run: () => stepped(host.undo) }, { key: 'Mod-Shift-z', run: () => stepped(host.redo) },
          { key: 'Mod-y', run: () => stepped(host.redo) }, ...completionKeymap, ...lintKeymap, ...defaultKeymap,
        ]),
        EditorView.contentAttributes.of({ 'aria-label': label, 'data-test': test, 'spellcheck': 'false' }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged && !silent) tell()
          if (update.selectionSet
            || update.docChanged) host.onLine(update.state.doc.lineAt(update.state.selection.main.head).number)
        }),
      ],
    }),
  })

  // What scrolls can be reached by keyboard.
  view.scrollDOM.tabIndex = 0

  /** Shows a text; what is the same keeps its place. What is being typed and not told yet goes before it. */
  function show(text: string): void {
    if (waiting !== undefined) return
    const next = text.replace(/\r\n|\r/g, '\n')
    const now = view.state.doc.toString()
    if (next === now) return
    let head = 0
    while (head < Math.min(next.length, now.length) && next[head] === now[head]) head++
    let tail = 0
    while (tail < Math.min(next.length, now.length) - head
      && next[next.length - 1 - tail] === now[now.length - 1 - tail]) tail++
    silent = true
    view.dispatch({ changes: { from: head, to: now.length - tail, insert: next.slice(head, next.length - tail) } })
    silent = false
  }

  function setOwners(owners: OwnerMark[]): void {
    const ranges = owners.filter(mark => mark.line >= 1 && mark.line <= view.state.doc.lines)
      .sort((a, b) => a.line - b.line)
      .map(mark => new OwnerDot(mark).range(view.state.doc.line(mark.line).from))
    view.dispatch({ effects: setMarks.of(RangeSet.of(ranges, true)) })
  }

  function setFindings(findings: LineFinding[]): void {
    const diagnostics: Diagnostic[] = findings.filter(finding => finding.line <= view.state.doc.lines)
      .map((finding) => {
        const line = view.state.doc.line(finding.line)
        return {
          from: Math.min(line.to, line.from + finding.from),
          to: Math.max(Math.min(line.to, line.from + finding.to), Math.min(line.to, line.from + finding.from)),
          severity: SEVERITY[finding.severity], message: finding.message,
          actions: finding.fixes.map(fix => ({ name: fix.label, apply: fix.run })),
        }
      })
    view.dispatch(setDiagnostics(view.state, diagnostics))
  }

  function goTo(number: number): void {
    if (number < 1 || number > view.state.doc.lines) return
    const line = view.state.doc.line(number)
    view.dispatch({ selection: { anchor: line.from }, effects: EditorView.scrollIntoView(line.from, { y: 'center' }) })
  }

  function destroy(): void {
    flush()
    window.removeEventListener('pagehide', flush)
    parent.removeEventListener('focusout', flush)
    view.destroy()
  }

  const setGrammar = (next: Grammar) => view.dispatch({ effects: tongue.reconfigure(language(next)) })

  return { show, setOwners, setFindings, goTo, setGrammar, focus: () => view.focus(), destroy }
}
