import { Button } from './button';

interface MoreButtonProps {
  /** What the query of a list's pages gives. */
  readonly list: {
    readonly hasNextPage: boolean;
    readonly isFetchingNextPage: boolean;
    readonly fetchNextPage: () => unknown;
  };
  readonly children: string;
}

/** Fetches the page of a long list that follows; nothing where all of it is there. */
export function MoreButton({ list, children }: MoreButtonProps) {
  if (!list.hasNextPage) return null;
  return (
    <div className="mt-4 flex justify-center">
      <Button isBusy={list.isFetchingNextPage} onClick={() => void list.fetchNextPage()}>
        {children}
      </Button>
    </div>
  );
}
