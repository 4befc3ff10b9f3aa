import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { siteQuery } from '../../api/queries';
import { watchQuery } from '../../api/watch';
import { useSiteKey } from '../../layout/site-layout';
import { WATCH } from '../../texts/watch';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { Failure, Loading } from '../../ui/states';
import { HistorySection } from './history-section';
import { NoticeLog } from './notice-log';
import { ToldSection } from './told-section';
import { WatchForm } from './watch-form';

/** Whether what worked still works, who is told when it does not, and what was told. */
export function WatchView() {
  const site = useSiteKey();
  const watch = useQuery(watchQuery(site));
  const hosts = useQuery(siteQuery(site)).data?.data.hosts ?? [];
  const [chosen, setChosen] = useState<string>();
  const host = hosts.find((one) => one.host === chosen) ?? hosts.find((one) => one.environment === 'live');
  return (
    <div className="max-w-5xl space-y-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{WATCH.tab}</h1>
          <p className="max-w-2xl text-sm text-muted">{WATCH.lead}</p>
        </div>
        {hosts.length > 1 && host && (
          <select
            aria-label={WATCH.host}
            className={cn(inputStyle, 'w-full sm:w-72')}
            value={host.host}
            onChange={(event) => setChosen(event.target.value)}
          >
            {hosts.map((one) => (
              <option key={one.host} value={one.host}>
                {one.host}
              </option>
            ))}
          </select>
        )}
      </div>
      {watch.isPending && <Loading />}
      {watch.isError && <Failure error={watch.error} onRetry={() => void watch.refetch()} />}
      {host && <HistorySection site={site} host={host.host} />}
      {watch.data && (
        <>
          <WatchForm key={watch.data.etag} site={site} watch={watch.data.data} etag={watch.data.etag} />
          <ToldSection site={site} watch={watch.data.data} />
          <NoticeLog site={site} />
        </>
      )}
    </div>
  );
}
