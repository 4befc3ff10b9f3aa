import { useInfiniteQuery } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { activityQuery } from '../../api/activity';
import { useSiteKey } from '../../layout/site-layout';
import { ACTIVITY } from '../../texts/activity';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { SearchField } from '../../ui/search-field';
import { useSettled } from '../../ui/use-settled';
import { ActivityList } from './activity-list';
import { ActivityRow } from './activity-row';
import { RemovedSnippets } from './removed-snippets';

/** What was done at a site; of one snippet alone with `?snippet=` in the address. */
export function ActivityView() {
  const site = useSiteKey();
  const [params, setParams] = useSearchParams();
  const snippet = params.get('snippet') ?? undefined;
  const [typed, setTyped] = useState('');
  const words = useSettled(typed.trim());
  const [showsRemoved, setShowsRemoved] = useState(false);
  const activity = useInfiniteQuery(activityQuery(site, { words, snippet }));
  return (
    <div className="max-w-5xl space-y-4">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-52 flex-1">
          <h1>{ACTIVITY.activity}</h1>
          <p className="max-w-2xl text-sm text-muted">{ACTIVITY.lead}</p>
        </div>
        <Button onClick={() => setShowsRemoved(true)}>
          <Trash2 className="size-4" aria-hidden /> {ACTIVITY.removedSnippets}
        </Button>
      </div>
      <SearchField
        label={ACTIVITY.search}
        placeholder={ACTIVITY.searchHint}
        value={typed}
        onChange={setTyped}
      />
      {snippet !== undefined && (
        <p className="flex flex-wrap items-center gap-2 text-sm">
          {say(ACTIVITY.ofSnippet, { snippet })}
          <Button size="small" onClick={() => setParams({})}>
            {ACTIVITY.showAll}
          </Button>
        </p>
      )}
      <ActivityList list={activity} isNarrowed={words !== '' || snippet !== undefined}>
        {(entry) => <ActivityRow site={site} entry={entry} />}
      </ActivityList>
      {showsRemoved && <RemovedSnippets site={site} onClose={() => setShowsRemoved(false)} />}
    </div>
  );
}
