import type { ActivityEntry } from '@pragmatica/contract';
import type { ReactNode } from 'react';
import { ACTIVITY } from '../../texts/activity';
import { Empty, Failure, Loading } from '../../ui/states';
import { MoreButton } from '../../ui/more-button';

interface Listed<T> {
  readonly isPending: boolean;
  readonly isError: boolean;
  readonly error: Error | null;
  readonly data: { readonly pages: readonly { readonly items: readonly T[] }[] } | undefined;
  readonly refetch: () => unknown;
  readonly hasNextPage: boolean;
  readonly isFetchingNextPage: boolean;
  readonly fetchNextPage: () => unknown;
}

interface ActivityListProps<T> {
  readonly list: Listed<T>;
  /** Whether only some of the entries were asked for. */
  readonly isNarrowed: boolean;
  readonly children: (entry: T) => ReactNode;
}

/** Entries of the trail, with a state for each that they can be in. */
export function ActivityList<T extends Pick<ActivityEntry, 'id'>>({
  list,
  isNarrowed,
  children,
}: ActivityListProps<T>) {
  const entries = list.data?.pages.flatMap(({ items }) => items);
  if (list.isPending) return <Loading />;
  if (list.isError && !entries) return <Failure error={list.error!} onRetry={() => void list.refetch()} />;
  if (!entries || entries.length === 0)
    return isNarrowed ? (
      <Empty title={ACTIVITY.nothingFound}>{ACTIVITY.searchLess}</Empty>
    ) : (
      <Empty title={ACTIVITY.nothingHappenedYet}>{ACTIVITY.everyChangeAppears}</Empty>
    );
  return (
    <>
      <ol className="divide-y divide-line rounded-xl border border-line bg-surface">
        {entries.map((entry) => (
          <li key={entry.id} className="px-4 py-2.5 text-sm">
            {children(entry)}
          </li>
        ))}
      </ol>
      <MoreButton list={list}>{ACTIVITY.earlier}</MoreButton>
    </>
  );
}
