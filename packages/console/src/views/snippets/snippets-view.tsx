import type { SiteResource, SnippetResource } from '@pragmatica/contract';
import {
  placementKey,
  placementWords,
  snippetFits,
  type SiteReach,
  type SnippetState,
} from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { findingsQuery, siteQuery, snippetsQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { SNIPPETS } from '../../texts/snippets';
import { Button } from '../../ui/button';
import { Chip } from '../../ui/chip';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { SearchField } from '../../ui/search-field';
import { Empty, Failure, Loading } from '../../ui/states';
import { useSettled } from '../../ui/use-settled';
import { ChosenBar } from './chosen-bar';
import { countBySnippet, type FindingCounts } from './count-by-snippet';
import { SnippetRow } from './snippet-row';

const STATES: readonly (readonly [state: SnippetState, label: string])[] = [
  ['on', SNIPPETS.on],
  ['off', SNIPPETS.off],
  ['archived', SNIPPETS.archived],
];

/** All snippets of a site: to find one, to see how each stands, and to switch several at once. */
export function SnippetsView() {
  const site = useSiteKey();
  const snippets = useQuery(snippetsQuery(site));
  const findings = useQuery(findingsQuery(site)).data?.items;
  const reach = useQuery(siteQuery(site)).data?.data;
  const counts = useMemo(() => countBySnippet(findings ?? []), [findings]);
  const addButton = (
    <Button asChild look="primary" needs="edit">
      <Link to={`/sites/${site}/snippets/new`}>
        <Plus className="size-4" aria-hidden /> {SNIPPETS.add}
      </Link>
    </Button>
  );
  return (
    <div className="space-y-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{SNIPPETS.snippets}</h1>
          <p className="text-sm text-muted">{SNIPPETS.intro}</p>
        </div>
        {snippets.data && snippets.data.length > 0 && addButton}
      </div>
      {snippets.isPending && <Loading />}
      {snippets.isError && <Failure error={snippets.error} onRetry={() => void snippets.refetch()} />}
      {snippets.data?.length === 0 && (
        <Empty title={SNIPPETS.noneYet} action={addButton}>
          {SNIPPETS.noneYetText}
        </Empty>
      )}
      {snippets.data && snippets.data.length > 0 && (
        <List
          site={site}
          snippets={snippets.data}
          reach={reach ? siteReach(reach) : { timeZone: 'UTC' }}
          counts={counts}
        />
      )}
    </div>
  );
}

function siteReach({
  timeZone,
  pageGroups,
  consent,
}: Pick<SiteResource, 'timeZone' | 'pageGroups' | 'consent'>): SiteReach {
  return { timeZone, pageGroups, ...(consent ? { consent } : {}) };
}

interface ListProps {
  readonly site: string;
  readonly snippets: readonly SnippetResource[];
  readonly reach: SiteReach;
  readonly counts: ReadonlyMap<string, FindingCounts>;
}

function List({ site, snippets, reach, counts }: ListProps) {
  const [address, setAddress] = useSearchParams();
  const [searched, setSearched] = useState('');
  const [placement, setPlacement] = useState('');
  const [hasFindings, setHasFindings] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const state = STATES.find(([one]) => one === address.get('state'))?.[0];
  const words = useSettled(searched.trim());
  const shown = snippets.filter(
    (snippet) =>
      snippetFits(snippet, { words, state, placement: placement === '' ? undefined : placement }) &&
      // What was put away is shown where it is asked for.
      (state !== undefined || snippet.state !== 'archived') &&
      (!hasFindings || counts.has(snippet.key)),
  );
  const toggle = (key: string): void => {
    const next = new Set(chosen);
    if (!next.delete(key)) next.add(key);
    setChosen(next);
  };
  const visible = shown.filter(({ key }) => chosen.has(key));
  const areAllChosen = shown.length > 0 && visible.length === shown.length;
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <SearchField
          label={SNIPPETS.find}
          placeholder={SNIPPETS.find}
          value={searched}
          onChange={setSearched}
        />
        <div role="group" aria-label={SNIPPETS.which} className="flex flex-wrap gap-1.5">
          <Chip isOn={state === undefined} onClick={() => setAddress({}, { replace: true })}>
            {SNIPPETS.all}
          </Chip>
          {STATES.map(([one, label]) => (
            <Chip
              key={one}
              isOn={one === state}
              onClick={() => setAddress({ state: one }, { replace: true })}
              count={snippets.filter((snippet) => snippet.state === one).length}
            >
              {label}
            </Chip>
          ))}
        </div>
        <PlacementSelect snippets={snippets} value={placement} onChange={setPlacement} />
        <label className="flex items-center gap-1.5 text-[13px] text-muted">
          <input
            type="checkbox"
            className="size-3.5 accent-(--primary)"
            checked={hasFindings}
            onChange={() => setHasFindings((is) => !is)}
          />
          {SNIPPETS.onlyWithFindings}
        </label>
      </div>
      {shown.length === 0 ? (
        <p className="rounded-xl border border-line bg-surface p-4 text-sm text-muted">{SNIPPETS.noneFits}</p>
      ) : (
        <div className="rounded-xl border border-line bg-surface">
          <div
            className={cn(
              'flex min-h-11 flex-wrap items-center gap-3 rounded-t-xl border-b border-line bg-surface px-4 py-1.5',
              // What can be done with them stays in sight while one chooses more.
              visible.length > 0 && 'sticky top-13 z-10',
            )}
          >
            <input
              type="checkbox"
              aria-label={SNIPPETS.chooseAll}
              className="size-4 accent-(--primary)"
              checked={areAllChosen}
              onChange={() => setChosen(areAllChosen ? new Set() : new Set(shown.map(({ key }) => key)))}
            />
            <ChosenBar site={site} chosen={visible} onDone={() => setChosen(new Set())} />
          </div>
          <ul className="divide-y divide-line">
            {shown.map((snippet) => (
              <SnippetRow
                key={snippet.key}
                site={site}
                snippet={snippet}
                reach={reach}
                counts={counts.get(snippet.key)}
                isChosen={chosen.has(snippet.key)}
                onChoose={() => toggle(snippet.key)}
              />
            ))}
          </ul>
        </div>
      )}
    </>
  );
}

interface PlacementSelectProps {
  readonly snippets: readonly SnippetResource[];
  readonly value: string;
  readonly onChange: (value: string) => void;
}

/** The placements that there are. */
function PlacementSelect({ snippets, value, onChange }: PlacementSelectProps) {
  const placements = new Map(
    snippets.flatMap(({ parts }) =>
      parts.map((part) => [placementKey(part.placement), placementWords(part.placement)] as const),
    ),
  );
  return (
    <select
      aria-label={SNIPPETS.placement}
      className={cn(inputStyle, 'w-auto max-w-52 py-1 text-[13px]')}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      <option value="">{SNIPPETS.anyPlacement}</option>
      {[...placements].map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}
