import { useInfiniteQuery } from '@tanstack/react-query';
import { activityQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { MoreButton } from '../../ui/more-button';
import { Empty, Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { ACTIVITY } from '../../texts/activity';

export function ActivityView() {
  const activity = useInfiniteQuery(activityQuery(useSiteKey()));
  const entries = activity.data?.pages.flatMap(({ items }) => items);
  return (
    <div className="max-w-4xl space-y-4">
      <div>
        <h1>{ACTIVITY.activity}</h1>
        <p className="text-sm text-muted">{ACTIVITY.lead}</p>
      </div>
      {activity.isPending && <Loading />}
      {activity.isError && <Failure error={activity.error} onRetry={() => void activity.refetch()} />}
      {entries?.length === 0 && (
        <Empty title={ACTIVITY.nothingHappenedYet}>{ACTIVITY.everyChangeAppears}</Empty>
      )}
      <ol className="divide-y divide-line rounded-xl border border-line bg-surface">
        {entries?.map((entry) => (
          <li key={entry.id} className="flex flex-wrap gap-x-4 gap-y-0.5 px-4 py-2.5 text-sm">
            <Time at={entry.at} className="w-40 shrink-0 text-muted" />
            <span className="w-20 shrink-0 font-medium">{entry.by}</span>
            <span className="min-w-52 flex-1">{entry.message}</span>
          </li>
        ))}
      </ol>
      <MoreButton list={activity}>{ACTIVITY.earlier}</MoreButton>
    </div>
  );
}
