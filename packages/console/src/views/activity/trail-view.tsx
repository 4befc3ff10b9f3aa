import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { trailQuery } from '../../api/activity';
import { ACTIVITY } from '../../texts/activity';
import { SearchField } from '../../ui/search-field';
import { useSettled } from '../../ui/use-settled';
import { ActivityList } from './activity-list';
import { EntryLine } from './activity-row';
import { TrailCheck } from './trail-check';

/** What was done at all sites and to the installation, for those who own it. */
export function TrailView() {
  const [typed, setTyped] = useState('');
  const words = useSettled(typed.trim());
  const trail = useInfiniteQuery(trailQuery(words));
  return (
    <main className="mx-auto w-full max-w-5xl space-y-4 px-3 py-6 sm:px-5">
      <div>
        <h1>{ACTIVITY.trail}</h1>
        <p className="max-w-2xl text-sm text-muted">{ACTIVITY.trailLead}</p>
      </div>
      <TrailCheck />
      <SearchField
        label={ACTIVITY.search}
        placeholder={ACTIVITY.searchHint}
        value={typed}
        onChange={setTyped}
      />
      <ActivityList list={trail} isNarrowed={words !== ''}>
        {(entry) => (
          <div className="flex flex-wrap items-start gap-x-4 gap-y-0.5">
            <EntryLine entry={entry}>
              <span className="mr-1.5 text-muted">
                {entry.site === null ? (
                  ACTIVITY.installation
                ) : (
                  <Link to={`/sites/${entry.site}/activity`} className="underline">
                    {entry.siteName}
                  </Link>
                )}
              </span>
            </EntryLine>
          </div>
        )}
      </ActivityList>
    </main>
  );
}
