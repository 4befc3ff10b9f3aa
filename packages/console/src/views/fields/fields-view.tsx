import type { FieldResource, SiteResource, SiteResult } from '@pragmatica/contract';
import { fieldValueProblem, isLeftAtExample } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Braces } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useChangeFields } from '../../api/mutations';
import { sitesQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { Empty, Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';

type Place = 'value' | 'staging';

/** What was typed and not saved yet, by site, field and place. */
type Typed = ReadonlyMap<string, string>;

const keyOf = (site: string, field: string, place: Place): string => `${site} ${field} ${place}`;

/** The fields of all sites in one table: one row for each site, changed together. */
export function FieldsView() {
  const sites = useQuery(sitesQuery);
  const [chosen, setChosen] = useState('');
  const [typed, setTyped] = useState<Typed>(new Map());
  const [results, setResults] = useState<readonly SiteResult[]>([]);
  const change = useChangeFields();
  const toast = useToast();
  const names = namesByUse(sites.data ?? []);
  const name = names.includes(chosen) ? chosen : (names[0] ?? '');
  const rows = (sites.data ?? []).flatMap((site) => {
    const field = site.fields.find((entry) => entry.name === name);
    return field ? [{ site, field }] : [];
  });
  const isWrong = rows.some(({ site, field }) =>
    (['value', 'staging'] as const).some((place) => problemOf(typed, site.key, field, place) !== undefined),
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
        toast({ tone: 'done', title: 'The fields are saved', text: 'Visitors get them when you publish.' });
    });
  };
  return (
    <main className="mx-auto w-full max-w-5xl space-y-4 px-3 py-6 sm:px-5">
      <div>
        <h1>Fields</h1>
        <p className="text-sm text-muted">
          Values in the code of snippets, written <code className="font-mono">@{'{name}'}</code> there, for
          every site that has them.
        </p>
      </div>
      {sites.isPending && <Loading />}
      {sites.isError && <Failure error={sites.error} onRetry={() => void sites.refetch()} />}
      {sites.data && names.length === 0 && (
        <Empty title="No fields yet">
          Define one in a site’s settings, and write it into the code of a snippet. When you copy the snippet
          to other sites, its fields go along.
        </Empty>
      )}
      {names.length > 0 && (
        <>
          <div role="group" aria-label="Field" className="flex flex-wrap gap-1.5">
            {names.map((entry) => (
              <button
                key={entry}
                type="button"
                aria-pressed={entry === name}
                onClick={() => setChosen(entry)}
                className="flex items-center gap-1 rounded-full border border-line-strong px-2.5 py-1 font-mono text-[13px] text-muted hover:border-primary aria-pressed:border-primary aria-pressed:bg-primary-soft aria-pressed:text-primary"
              >
                <Braces className="size-3.5" aria-hidden /> {entry}
              </button>
            ))}
          </div>
          <div className="overflow-x-auto rounded-xl border border-line bg-surface">
            <table className="w-full min-w-150 text-sm">
              <thead className="text-left text-muted">
                <tr>
                  <th className="px-4 py-2 font-medium">Site</th>
                  <th className="px-4 py-2 font-medium">{rows[0]?.field.label ?? 'Value'}</th>
                  <th className="px-4 py-2 font-medium">on staging, where it differs</th>
                </tr>
              </thead>
              <tbody className="divide-y divide-line">
                {rows.map(({ site, field }) => (
                  <tr key={site.key}>
                    <td className="px-4 py-2 align-top">
                      <Link to={`/sites/${site.key}/strip`} className="font-medium hover:underline">
                        {site.name}
                      </Link>
                    </td>
                    {(['value', 'staging'] as const).map((place) => (
                      <td key={place} className="px-4 py-2 align-top">
                        <ValueInput
                          site={site}
                          field={field}
                          place={place}
                          typed={typed}
                          onType={(value) => setTyped(withTyped(typed, site.key, field, place, value))}
                        />
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
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
              {typed.size === 0
                ? 'Nothing changed'
                : `Save ${typed.size === 1 ? '1 value' : `${typed.size} values`}`}
            </Button>
            {typed.size > 0 && (
              <Button look="quiet" onClick={() => setTyped(new Map())}>
                Take them back
              </Button>
            )}
            <p className="text-sm text-muted">Visitors get them when you publish.</p>
          </div>
        </>
      )}
    </main>
  );
}

/** Names of fields, those that most sites have first. */
function namesByUse(sites: readonly SiteResource[]): string[] {
  const counts = new Map<string, number>();
  for (const { fields } of sites)
    for (const { name } of fields) counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0])).map(([name]) => name);
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
  site: SiteResource;
  field: FieldResource;
  place: Place;
  typed: Typed;
  onType: (value: string) => void;
}

function ValueInput({ site, field, place, typed, onType }: ValueInputProps) {
  const pending = typed.get(keyOf(site.key, field.name, place));
  const problem = problemOf(typed, site.key, field, place);
  const isUnset = place === 'value' && pending === undefined && isLeftAtExample(field, 'live');
  return (
    <>
      <input
        aria-label={`${field.label}, ${site.name}${place === 'staging' ? ', staging' : ''}`}
        className={cn(inputStyle, 'h-8 py-1 font-mono', pending !== undefined && 'border-signal')}
        placeholder={place === 'staging' ? 'the same' : (field.example ?? 'not set')}
        aria-invalid={problem !== undefined || undefined}
        value={pending ?? field[place] ?? ''}
        onChange={(event) => onType(event.target.value)}
      />
      {problem !== undefined && <p className="mt-1 text-[13px] text-danger">{problem}</p>}
      {isUnset && <p className="mt-1 text-[13px] text-signal">Still the example: not set yet.</p>}
    </>
  );
}
