import {
  partKey,
  readCode,
  suggestNames,
  type Field as SiteField,
  type SnippetState,
} from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Plus, Trash2 } from 'lucide-react';
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { siteQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { Folded } from '../../ui/folded';
import { UnsavedGuard } from '../../ui/unsaved-guard';
import { AboutSummary } from './about-summary';
import { ReachEditor } from '../reach/reach-editor';
import { FindingsPanel } from './findings-panel';
import { NeedsPicker } from './needs-picker';
import { PagesPicker } from './pages-picker';
import { PartEditor } from './part-editor';
import type { PartValue, SnippetValue } from './snippet-value';
import { useSnippetFindings } from './use-snippet-findings';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

interface SnippetFormProps {
  site: string;
  /** The snippet's key; undefined for one that is new. */
  snippet?: string;
  state?: SnippetState;
  initial: SnippetValue;
  submitLabel: string;
  isBusy: boolean;
  error: Error | null;
  /** What was sent waits for something to be decided. */
  isHeld?: boolean;
  onSubmit: (value: SnippetValue) => void;
  /** Told whether there is something typed that is not saved. */
  onUnsaved?: (isUnsaved: boolean) => void;
  /** More buttons beside the one that saves. */
  children?: ReactNode;
}

/** One list, so that what depends on it is not worked out again. */
const NO_FIELDS: readonly SiteField[] = [];

/** No snippet has it: keys begin with a letter or digit. */
const NEW_KEY = '-new';

/** Paste, place, choose the pages, name, look at what is found; for a new snippet and for one that is there. */
export function SnippetForm({
  site,
  snippet,
  state = 'on',
  initial,
  submitLabel,
  isBusy,
  error,
  isHeld = false,
  onSubmit,
  onUnsaved,
  children,
}: SnippetFormProps) {
  const fields = useQuery(siteQuery(site)).data?.data.fields ?? NO_FIELDS;
  const key = snippet ?? NEW_KEY;
  const isNew = snippet === undefined;
  const [typed, setTyped] = useState(initial);
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
  /** From the moment it is sent until it is refused or held. */
  const isSent = useRef(false);
  useEffect(() => {
    if (error || isHeld) isSent.current = false;
  }, [error, isHeld]);
  const isUnsaved = useCallback(
    () => !isSent.current && JSON.stringify(typed) !== JSON.stringify(initial),
    [typed, initial],
  );
  const isTyped = JSON.stringify(typed) !== JSON.stringify(initial);
  useEffect(() => onUnsaved?.(isTyped), [isTyped, onUnsaved]);
  const set = (change: Partial<SnippetValue>): void => setTyped((current) => ({ ...current, ...change }));
  const touch = (what: string): void => setTouched((current) => new Set([...current, what]));
  const suggested = useSuggestedNames(isNew, typed.parts);
  const value: SnippetValue = {
    ...typed,
    ...Object.fromEntries(
      NAMED.filter((field) => suggested && !touched.has(field)).map((field) => [field, suggested![field]]),
    ),
  };
  const found = useSnippetFindings(site, key, state, value);
  const setPart = (index: number, part: PartValue): void =>
    set({ parts: typed.parts.map((old, i) => (i === index ? part : old)) });
  const errors = fieldErrorsOf(error);
  const hasCode = typed.parts.some(({ code }) => code.trim() !== '');
  const named = (field: (typeof NAMED)[number]) => ({
    value: value[field],
    hint: suggested && !touched.has(field) && suggested[field] !== '' ? SNIPPET.suggestedFromCode : undefined,
    onChange: (event: { target: { value: string } }) => {
      touch(field);
      set({ [field]: event.target.value });
    },
  });
  return (
    <form
      className="max-w-4xl space-y-6"
      onSubmit={(event) => {
        event.preventDefault();
        isSent.current = true;
        onSubmit(value);
      }}
    >
      {typed.parts.map((part, index) => (
        <section key={index} className="rounded-xl border border-line bg-surface p-4 sm:p-5">
          <div className="mb-3 flex items-center justify-between">
            <h2>
              {typed.parts.length > 1
                ? say(SNIPPET.partIndexCount, { index: index + 1, count: typed.parts.length })
                : SNIPPET.code}
            </h2>
            {typed.parts.length > 1 && (
              <Button
                look="quiet"
                size="small"
                onClick={() => set({ parts: typed.parts.filter((_, i) => i !== index) })}
              >
                <Trash2 className="size-3.5" aria-hidden /> {SNIPPET.takePartOut}
              </Button>
            )}
          </div>
          <PartEditor
            site={site}
            pages={typed.pages}
            part={part}
            partKey={partKey(key, index)}
            fields={fields}
            environment={typed.limits.environment ?? 'live'}
            recipeSite={isNew ? site : undefined}
            findings={found?.findings ?? []}
            onChange={(next) => setPart(index, next)}
            onPlace={(placement) => {
              // Where somebody has put it, it stays, whatever is suggested later.
              touch(`placement ${index}`);
              setPart(index, { ...part, placement });
            }}
            onSplit={typed.parts.length > 1 ? undefined : (parts) => set({ parts: parts.map(toPart) })}
            followsSuggestion={isNew && typed.parts.length === 1 && !touched.has(`placement ${index}`)}
            error={errors.at(`/parts/${index}/code`, `/parts/${index}/placement`)}
          />
        </section>
      ))}
      <Button
        onClick={() =>
          set({ parts: [...typed.parts, { placement: 'body-start', code: '', statement: '', per: 'load' }] })
        }
      >
        <Plus className="size-4" aria-hidden /> {SNIPPET.providerGaveMe}
      </Button>
      <div className="space-y-3">
        <PagesPicker site={site} pages={typed.pages} onChange={(pages) => set({ pages })} />
        <ReachEditor site={site} limits={typed.limits} onChange={(limits) => set({ limits })} />
        <Folded
          id="about"
          title={SNIPPET.nameAndNotes}
          isForced={hasCode && (value.name.trim() === '' || errors.at('/name', '/key') !== undefined)}
          summary={<AboutSummary site={site} value={value} />}
        >
          <div className="grid gap-4 sm:grid-cols-2">
            <Field
              label={SNIPPET.name}
              required
              placeholder={SNIPPET.harbourChat}
              error={errors.at('/name', '/key')}
              {...named('name')}
            />
            <Field label={SNIPPET.provider} placeholder={SNIPPET.whoCodeFrom} {...named('provider')} />
            <Field label={SNIPPET.purpose} placeholder={SNIPPET.purposeHint} {...named('purpose')} />
            <Field
              label={SNIPPET.note}
              placeholder={SNIPPET.anythingWorthKnowing}
              value={typed.note}
              onChange={(event) => set({ note: event.target.value })}
            />
            <NeedsPicker site={site} self={key} needs={typed.needs} onChange={(needs) => set({ needs })} />
          </div>
        </Folded>
      </div>
      {hasCode && <FindingsPanel found={found} onFix={(parts) => set({ parts })} />}
      <FormError error={errors.isEmpty ? error : undefined} />
      <div className="flex flex-wrap items-center gap-3 border-t border-line pt-4">
        <Button type="submit" look="primary" needs="edit" isBusy={isBusy}>
          {submitLabel}
        </Button>
        <p className="text-sm text-muted">{SNIPPET.visitorsGetWhen}</p>
        <div className="ml-auto flex flex-wrap justify-end gap-2">{children}</div>
      </div>
      <UnsavedGuard isUnsaved={isUnsaved} />
    </form>
  );
}

const NAMED = ['name', 'provider', 'purpose'] as const;

function toPart({ code, placement, statement }: Omit<PartValue, 'per'>): PartValue {
  return { code, placement, statement, per: 'load' };
}

/** What a new snippet could be called; undefined for one that has a name, and while there is no code. */
function useSuggestedNames(isNew: boolean, parts: readonly PartValue[]) {
  const code = useDeferredValue(parts[0]?.code ?? '');
  return useMemo(
    () => (isNew && code.trim() !== '' ? suggestNames(readCode(code)) : undefined),
    [isNew, code],
  );
}
