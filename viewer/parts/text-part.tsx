import { autocompletion } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, isolateHistory } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { type Diagnostic as Lint, lintGutter, setDiagnostics } from '@codemirror/lint';
import { highlightSelectionMatches, searchKeymap } from '@codemirror/search';
import { EditorState, StateEffect, StateField, Transaction } from '@codemirror/state';
import {
  Decoration,
  type DecorationSet,
  drawSelection,
  EditorView,
  hoverTooltip,
  keymap,
  lineNumbers,
  WidgetType,
} from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useEffect, useRef } from 'react';
import { type LineNote, notesOf } from '../model/lit.js';
import type { Model } from '../model/model.js';
import { numberAt, numbersIn, stepped } from '../model/numbers.js';
import { completionsAt, docAt } from '../model/reference.js';
import { faultsIn } from '../model/texts.js';
import { useModel, useQuietModel } from './use.js';

/** So many pixels of dragging are one step. */
const STEP = 6;
/** While it plays, lines are lit anew so often a second. */
const LIT_EVERY = 80;

const setNotes = StateEffect.define<readonly LineNote[]>();

/** What stands at the end of a line. */
class NoteWidget extends WidgetType {
  constructor(private readonly note: LineNote) {
    super();
  }
  override eq(other: NoteWidget): boolean {
    return (
      other.note.text === this.note.text && other.note.kind === this.note.kind && other.note.part === this.note.part
    );
  }
  toDOM(): HTMLElement {
    const span = document.createElement('span');
    span.className = `note ${this.note.kind}`;
    span.textContent = this.note.text;
    if (this.note.part !== undefined) span.style.setProperty('--part', `${Math.round(this.note.part * 100)}%`);
    return span;
  }
}

const notesField = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(set, transaction) {
    let next = set.map(transaction.changes);
    for (const effect of transaction.effects) {
      if (!effect.is(setNotes)) continue;
      const { doc } = transaction.state;
      const ranges = effect.value.flatMap((note) => {
        if (note.line > doc.lines) return [];
        const line = doc.line(note.line);
        const lit = Decoration.line({ class: note.kind === 'value' ? '' : `lit ${note.kind}` }).range(line.from);
        return note.text === ''
          ? [lit]
          : [lit, Decoration.widget({ widget: new NoteWidget(note), side: 1 }).range(line.to)];
      });
      next = Decoration.set(ranges, true);
    }
    return next;
  },
  provide: (field) => EditorView.decorations.from(field),
});

/** Numbers look as if they could be dragged. */
const numberMarks = EditorView.decorations.compute(['doc'], (state) => {
  const ranges = [];
  for (let i = 1; i <= state.doc.lines; i++) {
    const line = state.doc.line(i);
    for (const { from, to } of numbersIn(line.text))
      ranges.push(Decoration.mark({ class: 'number' }).range(line.from + from, line.from + to));
  }
  return Decoration.set(ranges);
});

const colors = HighlightStyle.define([
  { tag: tags.comment, class: 'tok-comment' },
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], class: 'tok-key' },
  { tag: tags.string, class: 'tok-text' },
]);

/** A drag of a number: what it was, and where. */
interface Drag {
  readonly line: number;
  readonly from: number;
  readonly before: string;
  readonly x: number;
  now: string;
}

/** The moveset's own text: to be read, lit, and changed. */
export function TextPart() {
  const model = useModel();
  const quiet = useQuietModel();
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const states = useRef(new Map<string, EditorState>());
  const shown = useRef('');
  const { file, files, seek, diagnostics } = model;

  // One editor, and a state for each file, so that each has its own undo.
  useEffect(() => {
    if (!host.current) return;
    const made = new EditorView({ parent: host.current });
    view.current = made;
    shown.current = '';
    return () => made.destroy();
  }, []);

  useEffect(() => {
    const editor = view.current;
    const next = files.find(({ name }) => name === file);
    if (!editor || !next) return;
    if (shown.current !== file) {
      if (shown.current !== '') states.current.set(shown.current, editor.state);
      shown.current = file;
      editor.setState(states.current.get(file) ?? stateFor(quiet, file, next.text));
    }
    if (editor.state.doc.toString() !== next.text)
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: next.text } });
  });

  useEffect(() => {
    const editor = view.current;
    if (!editor || seek === null || shown.current !== quiet.file || seek.line > editor.state.doc.lines) return;
    const { from } = editor.state.doc.line(seek.line);
    editor.dispatch({ effects: EditorView.scrollIntoView(from, { y: 'center' }) });
  }, [seek, quiet]);

  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    const lints = faultsIn(diagnostics, file).map((one): Lint => {
      const line = editor.state.doc.line(Math.min(one.line, editor.state.doc.lines));
      const [from, to] = one.range ?? [line.from, line.to];
      const end = editor.state.doc.length;
      return { from: Math.min(from, end), to: Math.min(to, end), severity: one.severity, message: one.sentence };
    });
    editor.dispatch(setDiagnostics(editor.state, lints));
  }, [diagnostics, file]);

  // Lines are lit apart from React, and not at each tick while it plays.
  useEffect(() => {
    let last = 0;
    let waiting = 0;
    const light = () => {
      waiting = 0;
      last = performance.now();
      const editor = view.current;
      if (!editor) return;
      const notes = notesOf(() => quiet.now, quiet.why, quiet.ability).filter((note) => note.file === quiet.file);
      editor.dispatch({ effects: setNotes.of(notes) });
    };
    const ask = () => {
      if (waiting !== 0) return;
      waiting = window.setTimeout(light, quiet.playing ? Math.max(0, LIT_EVERY - (performance.now() - last)) : 0);
    };
    ask();
    const stop = quiet.subscribe(ask);
    return () => {
      stop();
      window.clearTimeout(waiting);
    };
  }, [quiet]);

  return (
    <section className="text" aria-label="The moveset's text">
      <div className="head">
        <div className="tabs" role="tablist" aria-label="Files">
          {model.shownFiles.map(({ name, text, saved }) => (
            <button
              key={name}
              type="button"
              role="tab"
              aria-selected={name === file}
              title={name}
              onClick={() => model.openFile(name)}
            >
              {name.replace(/^.*\//, '')}
              {text !== saved && <span title="changed"> •</span>}
            </button>
          ))}
        </div>
        {model.save && (
          <button
            type="button"
            className="save"
            disabled={!files.some(({ text, saved }) => text !== saved)}
            onClick={() => model.save?.()}
          >
            Save
          </button>
        )}
      </div>
      {files.length === 0 && (
        <p className="quiet">The moveset of this run is not from a file, so there is no text to show.</p>
      )}
      <div ref={host} className="editor" />
    </section>
  );
}

function stateFor(model: Model, file: string, text: string): EditorState {
  let drag: Drag | null = null;
  const write = (editor: EditorView, at: number, before: string, after: string, history: boolean) => {
    editor.dispatch({
      changes: { from: at, to: at + before.length, insert: after },
      annotations: history ? [isolateHistory.of('full')] : [Transaction.addToHistory.of(false)],
      userEvent: 'input.number',
    });
  };
  const step = (editor: EditorView, steps: number): boolean => {
    const { head } = editor.state.selection.main;
    const line = editor.state.doc.lineAt(head);
    const found = numberAt(line.text, head - line.from);
    if (!found) return false;
    write(editor, line.from + found.from, line.text.slice(found.from, found.to), stepped(found, steps), true);
    return true;
  };
  const leave = (editor: EditorView): boolean => {
    editor.contentDOM.blur();
    return true;
  };
  const save = (): boolean => {
    model.save?.();
    return true;
  };
  const drags = EditorView.domEventHandlers({
    pointerdown(event, editor) {
      if (!(event.target as HTMLElement).closest('.number') || event.button !== 0) return false;
      const at = editor.posAtCoords({ x: event.clientX, y: event.clientY });
      if (at === null) return false;
      const line = editor.state.doc.lineAt(at);
      const found = numberAt(line.text, at - line.from);
      if (!found) return false;
      const before = line.text.slice(found.from, found.to);
      drag = { line: line.number, from: line.from + found.from, before, now: before, x: event.clientX };
      const first = drag;
      const move = (moved: PointerEvent) => {
        const steps = Math.round((moved.clientX - first.x) / STEP) * (moved.shiftKey ? 10 : 1);
        const text = stepped(found, steps);
        if (text === first.now) return;
        write(editor, first.from, first.now, text, false);
        first.now = text;
      };
      const end = (ended: PointerEvent) => {
        if (ended.type === 'pointerup') move(ended);
        window.removeEventListener('pointermove', move);
        window.removeEventListener('pointerup', end);
        window.removeEventListener('pointercancel', end);
        drag = null;
        if (first.now === first.before) {
          // It was a click: it sets the cursor.
          editor.dispatch({ selection: { anchor: at } });
          editor.focus();
          return;
        }
        // What was dragged is one step of undo: back to what it was, unseen, and on to what it is.
        const { now } = first;
        write(editor, first.from, now, first.before, false);
        write(editor, first.from, first.before, now, true);
      };
      window.addEventListener('pointermove', move);
      window.addEventListener('pointerup', end);
      window.addEventListener('pointercancel', end);
      return false;
    },
    // A drag of a number selects nothing.
    mousedown(event) {
      if (drag !== null) event.preventDefault();
      return drag !== null;
    },
  });
  return EditorState.create({
    doc: text,
    extensions: [
      lineNumbers(),
      history(),
      drawSelection(),
      yaml(),
      syntaxHighlighting(colors),
      highlightSelectionMatches(),
      lintGutter(),
      notesField,
      numberMarks,
      drags,
      keymap.of([
        { key: 'Alt-ArrowUp', run: (editor) => step(editor, 1), shift: (editor) => step(editor, 10) },
        { key: 'Alt-ArrowDown', run: (editor) => step(editor, -1), shift: (editor) => step(editor, -10) },
        { key: 'Escape', run: leave },
        { key: 'Mod-s', run: save, preventDefault: true },
      ]),
      keymap.of([...defaultKeymap, ...historyKeymap, ...searchKeymap]),
      autocompletion({ override: [(context) => completionsAt(model, context)] }),
      hoverTooltip((editor, at) => {
        const doc = docAt(model, editor.state, at);
        if (!doc) return null;
        return {
          pos: doc.from,
          end: doc.to,
          create: () => {
            const dom = document.createElement('div');
            dom.className = 'doc';
            dom.textContent = doc.text;
            return { dom };
          },
        };
      }),
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ 'aria-label': `Text of ${file}` }),
      EditorView.updateListener.of((update) => {
        if (update.docChanged) model.edit(file, update.state.doc.toString());
      }),
    ],
  });
}
