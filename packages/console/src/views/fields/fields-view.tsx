import type { FieldResource, FieldRow, SiteResult } from '@pragmatica/contract';
import { fieldValueProblem, isLeftAtExample } from '@pragmatica/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Braces } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useChangeFields } from '../../api/mutations';
import { fieldListQuery } from '../../api/field-lists';
import { Button } from '../../ui/button';
import { Chip } from '../../ui/chip';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { MoreButton } from '../../ui/more-button';
import { Empty, Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';
import { FIELDS } from '../../texts/fields';
import { rich } from '../../texts/rich';
import { say } from '../../texts/say';

type Place = 'value' | 'staging';

/** What was typed and not saved yet, by site, field and place. */
type Typed = ReadonlyMap<string, string>;

const keyOf = (site: string, field: string, place: Place): string => `${site} ${field} ${place}`;

/** The fields of all sites in one table: one row for each site, changed together. */
export function FieldsView() {
  const [chosen, setChosen] = useState<string>();
  const [typed, setTyped] = useState<Typed>(new Map());
  const [results, setResults] = useState<readonly SiteResult[]>([]);
  const change = useChangeFields();
  const toast = useToast();
  const all = useInfiniteQuery(fieldListQuery(undefined));
  const names = all.data?.pages[0]?.names.map((entry) => entry.name) ?? [];
  const name = chosen !== undefined && names.includes(chosen) ? chosen : names[0];
  const list = useInfiniteQuery({ ...fieldListQuery(name), enabled: name !== undefined });
  const rows = name === undefined ? [] : (list.data?.pages.flatMap(({ items }) => items) ?? []);
  const failed = all.error ?? list.error;
  const isWrong = rows.some(({ site, field }) =>
    (['value', 'staging'] as const).some((place) => problemOf(typed, site, field, place) !== undefined),
  );
  const save = (): void => {
    const changes = [...typed].map(([key, value]) => {
      const [site = '', field = '', place] = key.split(' ');
      const where = place === 'staging' ? { environment: 'staging' as const } : {};
      return { site, name: field, ...where, value: value === '' ? null : value };
    });
    change.run(changes, (items) => {
      const failed = items.filter(({ isDone }) => !isDone);
      setResults(failed);
      const failedSites = new Set(failed.map(({ site }) => site));
      setTyped(new Map([...typed].filter(([key]) => failedSites.has(key.split(' ')[0]!))));
      if (failed.length === 0)
        toast({ tone: 'done', title: FIELDS.fieldsSaved, text: FIELDS.visitorsGetThem });
    });
  };
  return (
    <main className="mx-auto w-full max-w-5xl space-y-4 px-3 py-6 sm:px-5">
      <div>
        <h1>{FIELDS.fields}</h1>
        <p className="text-sm text-muted">
          {rich(FIELDS.valuesCodeSnippets, { code: <code className="font-mono">@{'{name}'}</code> })}
        </p>
      </div>
      {(all.isPending || (name !== undefined && list.isPending)) && <Loading />}
      {failed && <Failure error={failed} onRetry={() => void Promise.all([all.refetch(), list.refetch()])} />}
      {all.data && names.length === 0 && <Empty title={FIELDS.noFieldsYet}>{FIELDS.defineOneSite}</Empty>}
      {names.length > 0 && (
        <>
          <div role="group" aria-label={FIELDS.field} className="flex flex-wrap gap-1.5">
            {names.map((entry) => (
              <Chip key={entry} isOn={entry === name} onClick={() => setChosen(entry)} className="font-mono">
                <Braces className="size-3.5" aria-hidden /> {entry}
              </Chip>
            ))}
          </div>
          <div className="overflow-x-auto rounded-xl border border-line bg-surface">
            <table className="w-full min-w-150 text-sm">
              <thead className="text-left text-muted">
                <tr>
                  <th className="px-4 py-2 font-medium">{FIELDS.site}</th>
                  <th className="px-4 py-2 font-medium">{rows[0]?.field.label ?? FIELDS.value}</th>
                  <th className="px-4 py-2 font-medium">{FIELDS.stagingWhereDiffers}</th>
                </tr>
              </thead>
              <tbody className="divide-y divide-line">
                {rows.map(({ site, siteName, field }) => (
                  <tr key={site}>
                    <td className="px-4 py-2 align-top">
                      <Link to={`/sites/${site}/strip`} className="font-medium hover:underline">
                        {siteName}
                      </Link>
                    </td>
                    {(['value', 'staging'] as const).map((place) => (
                      <td key={place} className="px-4 py-2 align-top">
                        <ValueInput
                          row={{ site, siteName, field }}
                          place={place}
                          typed={typed}
                          onType={(value) => setTyped(withTyped(typed, site, field, place, value))}
                        />
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <MoreButton list={list}>{FIELDS.moreSites}</MoreButton>
          {results.map(({ site, message }) => (
            <p key={site} role="alert" className="text-sm text-danger">
              {site}: {message}
            </p>
          ))}
          <div className="flex items-center gap-3">
            <Button
              look="primary"
              isBusy={change.isPending}
              disabled={typed.size === 0 || isWrong}
              onClick={save}
            >
              {typed.size === 0 ? FIELDS.nothingChanged : say(FIELDS.saveValues, { count: typed.size })}
            </Button>
            {typed.size > 0 && (
              <Button look="quiet" onClick={() => setTyped(new Map())}>
                {FIELDS.takeThemBack}
              </Button>
            )}
            <p className="text-sm text-muted">{FIELDS.visitorsGetThem}</p>
          </div>
        </>
      )}
    </main>
  );
}

function withTyped(typed: Typed, site: string, field: FieldResource, place: Place, value: string): Typed {
  const next = new Map(typed);
  if (value === (field[place] ?? '')) next.delete(keyOf(site, field.name, place));
  else next.set(keyOf(site, field.name, place), value);
  return next;
}

function problemOf(typed: Typed, site: string, field: FieldResource, place: Place): string | undefined {
  const value = typed.get(keyOf(site, field.name, place));
  return value === undefined || value === '' ? undefined : fieldValueProblem(field.type, value);
}

interface ValueInputProps {
  row: FieldRow;
  place: Place;
  typed: Typed;
  onType: (value: string) => void;
}

function ValueInput({ row: { site, siteName, field }, place, typed, onType }: ValueInputProps) {
  const pending = typed.get(keyOf(site, field.name, place));
  const problem = problemOf(typed, site, field, place);
  const isUnset = place === 'value' && pending === undefined && isLeftAtExample(field, 'live');
  return (
    <>
      <input
        aria-label={`${field.label}, ${siteName}${place === 'staging' ? ', staging' : ''}`}
        className={cn(inputStyle, 'h-8 py-1 font-mono', pending !== undefined && 'border-signal')}
        placeholder={place === 'staging' ? FIELDS.sameOnStaging : (field.example ?? FIELDS.notSet)}
        aria-invalid={problem !== undefined || undefined}
        value={pending ?? field[place] ?? ''}
        onChange={(event) => onType(event.target.value)}
      />
      {problem !== undefined && <p className="mt-1 text-[13px] text-danger">{problem}</p>}
      {isUnset && <p className="mt-1 text-[13px] text-signal">{FIELDS.stillExampleNot}</p>}
    </>
  );
}
