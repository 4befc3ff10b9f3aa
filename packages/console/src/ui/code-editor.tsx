import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { html } from '@codemirror/lang-html';
import { javascript } from '@codemirror/lang-javascript';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, lintKeymap, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { Compartment, EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers, placeholder as placeholderText } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { getNonce } from 'get-nonce';
import { useEffect, useRef, useState } from 'react';

/** A place in the code that something is said about; offsets in UTF-16 code units. */
export interface CodeMark {
  readonly from: number;
  readonly to: number;
  readonly severity: 'error' | 'warning' | 'info';
  readonly message: string;
}

interface CodeEditorProps {
  value: string;
  onChange: (value: string) => void;
  label: string;
  placeholder?: string;
  /** Shown as markup, or as a script without tags. */
  language?: 'html' | 'javascript';
  /** Underlined, and told when pointed at or with the keyboard (F8 goes to the next). */
  marks?: readonly CodeMark[];
}

const LANGUAGES = { html, javascript };
const NO_MARKS: readonly CodeMark[] = [];

const highlight = HighlightStyle.define([
  { tag: tags.tagName, color: 'var(--head)' },
  { tag: [tags.attributeName, tags.propertyName], color: 'var(--body)' },
  { tag: [tags.string, tags.attributeValue], color: 'var(--good)' },
  { tag: tags.comment, color: 'var(--muted)', fontStyle: 'italic' },
  { tag: [tags.keyword, tags.bool, tags.number], color: 'var(--signal)' },
]);

const look = EditorView.theme({
  '&': { fontSize: '13px', backgroundColor: 'var(--raised)', color: 'var(--ink)' },
  '&.cm-focused': { outline: '2px solid var(--focus)', outlineOffset: '2px' },
  '.cm-content': { fontFamily: 'var(--font-mono)', padding: '10px 0', caretColor: 'var(--ink)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-gutters': { backgroundColor: 'transparent', color: 'var(--muted)', border: 'none' },
  '.cm-scroller': { minHeight: '9rem', maxHeight: '22rem' },
  '.cm-placeholder': { color: 'var(--muted)' },
  '.cm-tooltip': {
    backgroundColor: 'var(--raised)',
    color: 'var(--ink)',
    border: '1px solid var(--line-strong)',
    borderRadius: '6px',
    maxWidth: '26rem',
  },
  '.cm-diagnostic': { padding: '6px 10px', fontFamily: 'var(--font-sans)', fontSize: '13px' },
  '.cm-diagnostic-error': { borderLeft: '3px solid var(--danger)' },
  '.cm-diagnostic-warning': { borderLeft: '3px solid var(--signal)' },
  '.cm-diagnostic-info': { borderLeft: '3px solid var(--primary)' },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: '2px dotted var(--danger)' },
  '.cm-lintRange-warning': { backgroundImage: 'none', borderBottom: '2px dotted var(--signal)' },
  '.cm-lintRange-info': { backgroundImage: 'none', borderBottom: '2px dotted var(--primary)' },
  '.cm-gutter-lint': { width: '1.1em' },
});

/** The pasted code as text to look at and change. It is only ever shown: nothing of it runs here. */
export function CodeEditor({
  value,
  onChange,
  label,
  placeholder = '',
  language = 'html',
  marks = NO_MARKS,
}: CodeEditorProps) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  const latest = useRef(onChange);
  latest.current = onChange;
  const [speech] = useState(() => new Compartment());

  useEffect(() => {
    const nonce = getNonce();
    const editor = new EditorView({
      parent: holder.current!,
      state: EditorState.create({
        doc: value,
        extensions: [
          lineNumbers(),
          history(),
          keymap.of([...defaultKeymap, ...historyKeymap, ...lintKeymap]),
          speech.of(LANGUAGES[language]()),
          lintGutter(),
          syntaxHighlighting(highlight),
          look,
          EditorView.lineWrapping,
          placeholderText(placeholder),
          EditorView.contentAttributes.of({ 'aria-label': label }),
          nonce ? EditorView.cspNonce.of(nonce) : [],
          EditorView.updateListener.of((update) => {
            if (update.docChanged) latest.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = editor;
    return () => editor.destroy();
    // The editor is made once; later values come in below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  useEffect(() => {
    const editor = view.current;
    if (editor && editor.state.doc.toString() !== value) {
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
    }
  }, [value]);

  useEffect(() => {
    view.current?.dispatch({ effects: speech.reconfigure(LANGUAGES[language]()) });
  }, [language, speech]);

  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    // What was worked out for the text of a moment ago may reach beyond the text of now.
    const { length } = editor.state.doc;
    const shown = marks.map((mark): Diagnostic => ({
      ...mark,
      from: Math.min(mark.from, length),
      to: Math.min(mark.to, length),
    }));
    editor.dispatch(setDiagnostics(editor.state, shown));
  }, [marks, value]);

  return <div ref={holder} className="overflow-hidden rounded-md border border-line-strong" />;
}
