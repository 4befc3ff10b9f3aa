import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { html } from '@codemirror/lang-html';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers, placeholder as placeholderText } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { getNonce } from 'get-nonce';
import { useEffect, useRef } from 'react';

interface CodeEditorProps {
  value: string;
  onChange: (value: string) => void;
  label: string;
  placeholder?: string;
}

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
});

/** The pasted code as text to look at and change. It is only ever shown: nothing of it runs here. */
export function CodeEditor({ value, onChange, label, placeholder = '' }: CodeEditorProps) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  const latest = useRef(onChange);
  latest.current = onChange;

  useEffect(() => {
    const nonce = getNonce();
    const editor = new EditorView({
      parent: holder.current!,
      state: EditorState.create({
        doc: value,
        extensions: [
          lineNumbers(),
          history(),
          keymap.of([...defaultKeymap, ...historyKeymap]),
          html(),
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

  return <div ref={holder} className="overflow-hidden rounded-md border border-line-strong" />;
}
