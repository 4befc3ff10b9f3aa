import type { SnippetInput, SnippetResource } from '@pragmatica/contract';
import { ApiError } from '@pragmatica/contract';
import { Plus, Trash2 } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { PagesPicker } from './pages-picker';
import { PartEditor } from './part-editor';

export type PartValue = SnippetInput['parts'][number];

/** What the form edits; the server's rules are the only ones. */
export interface SnippetValue {
  name: string;
  provider: string;
  purpose: string;
  note: string;
  pages: { include: string[]; exclude: string[] };
  parts: PartValue[];
}

export const EMPTY_SNIPPET: SnippetValue = {
  name: '',
  provider: '',
  purpose: '',
  note: '',
  pages: { include: [], exclude: [] },
  parts: [{ placement: 'body-end', code: '' }],
};

export function toValue({ name, provider, purpose, note, pages, parts }: SnippetResource): SnippetValue {
  return {
    name,
    provider,
    purpose,
    note,
    pages,
    parts: parts.map(({ placement, code }) => ({ placement, code })),
  };
}

interface SnippetFormProps {
  site: string;
  initial: SnippetValue;
  submitLabel: string;
  isBusy: boolean;
  error: Error | null;
  onSubmit: (value: SnippetValue) => void;
  /** More buttons beside the one that saves. */
  children?: ReactNode;
}

/** Paste, name, place, choose the pages; for a new snippet and for one that is there. */
export function SnippetForm({
  site,
  initial,
  submitLabel,
  isBusy,
  error,
  onSubmit,
  children,
}: SnippetFormProps) {
  const [value, setValue] = useState(initial);
  const set = (change: Partial<SnippetValue>): void => setValue((current) => ({ ...current, ...change }));
  const setPart = (index: number, part: PartValue): void =>
    set({ parts: value.parts.map((old, i) => (i === index ? part : old)) });
  const errors = error instanceof ApiError ? (error.problem.errors ?? []) : [];
  const errorAt = (pointer: string): string | undefined =>
    errors.find((entry) => entry.pointer === pointer)?.detail;
  return (
    <form
      className="max-w-4xl space-y-6"
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit(value);
      }}
    >
      {value.parts.map((part, index) => (
        <section key={index} className="rounded-xl border border-line bg-surface p-4 sm:p-5">
          <div className="mb-3 flex items-center justify-between">
            <h2>{value.parts.length > 1 ? `Part ${index + 1} of ${value.parts.length}` : 'Code'}</h2>
            {value.parts.length > 1 && (
              <Button
                look="quiet"
                size="small"
                onClick={() => set({ parts: value.parts.filter((_, i) => i !== index) })}
              >
                <Trash2 className="size-3.5" aria-hidden /> Take this part out
              </Button>
            )}
          </div>
          <PartEditor
            part={part}
            onChange={(next) => setPart(index, next)}
            onSplit={
              value.parts.length > 1
                ? undefined
                : (parts) => set({ parts: parts.map(({ code, placement }) => ({ code, placement })) })
            }
            error={errorAt(`/parts/${index}/code`) ?? errorAt(`/parts/${index}/placement`)}
          />
        </section>
      ))}
      <Button onClick={() => set({ parts: [...value.parts, { placement: 'body-start', code: '' }] })}>
        <Plus className="size-4" aria-hidden /> The provider gave me a second piece
      </Button>
      <section className="grid gap-4 rounded-xl border border-line bg-surface p-4 sm:grid-cols-2 sm:p-5">
        <Field
          label="Name"
          required
          placeholder="Harbour chat"
          hint="What you would call it in a sentence."
          value={value.name}
          onChange={(event) => set({ name: event.target.value })}
          error={errorAt('/name') ?? errorAt('/key')}
        />
        <Field
          label="Provider"
          placeholder="Who the code is from"
          value={value.provider}
          onChange={(event) => set({ provider: event.target.value })}
        />
        <Field
          label="Purpose"
          placeholder="What it is for"
          value={value.purpose}
          onChange={(event) => set({ purpose: event.target.value })}
        />
        <Field
          label="Note"
          placeholder="Anything worth knowing"
          value={value.note}
          onChange={(event) => set({ note: event.target.value })}
        />
      </section>
      <PagesPicker site={site} pages={value.pages} onChange={(pages) => set({ pages })} />
      {errors.length === 0 && error && (
        <p role="alert" className="text-sm text-danger">
          {error.message}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3 border-t border-line pt-4">
        <Button type="submit" look="primary" isBusy={isBusy}>
          {submitLabel}
        </Button>
        <p className="text-sm text-muted">Visitors get it when you publish.</p>
        <div className="ml-auto flex gap-2">{children}</div>
      </div>
    </form>
  );
}
